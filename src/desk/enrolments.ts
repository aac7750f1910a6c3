import type { Enrolment, Placement, WhatToPut } from '../api/documents.js';
import { parseTarget } from '../core/address/reach.js';
import { placementOf, type Placement as CorePlacement } from '../core/badge/placement.js';
import { methodsFor } from '../core/profile/profile.js';
import { PropertyRow } from '../store/models/clients.js';
import { AccountRow, EnrolmentRow, type TokenRow } from '../store/models/enrolments.js';
import { viewCheck, viewEvidence } from './checks.js';
import { viewClaim } from './claims.js';
import { enrolmentFacts, viewLine, type EnrolmentFacts } from './facts.js';
import type { Desk } from './parts.js';
import { findEnrolments, findProperty } from './refs.js';

/** Where a token of an enrolment has to stand; null when the profile no longer takes the method. */
export function placementFor(facts: EnrolmentFacts, token: TokenRow): CorePlacement | null {
  return placementOf(
    facts.profile,
    parseTarget(facts.row.reach, facts.row.target),
    token.method,
    token.value,
  );
}

function whatToPut(placement: CorePlacement): WhatToPut {
  switch (placement.method) {
    case 'meta':
      return {
        kind: 'meta',
        page: placement.place,
        name: placement.name,
        content: placement.content,
        tag: placement.tag,
      };
    case 'file': {
      const { place, path, fileName, content, bytes } = placement;
      return { kind: 'file', url: place, path, fileName, content, bytes };
    }
    case 'dns': {
      const { zone, recordName, value, zoneLine } = placement;
      return { kind: 'dns', zone, recordName, type: 'TXT', value, zoneLine };
    }
  }
}

function viewPlacement(facts: EnrolmentFacts, token: TokenRow): Placement[] {
  const placement = placementFor(facts, token);
  if (!placement) return [];
  const check = facts.checks.find((one) => one.tokenId === token.id);
  return [
    {
      method: token.method,
      token: token.value,
      issuedAt: token.issuedAt,
      expiresAt: token.expiresAt ?? null,
      place: placement.place,
      put: whatToPut(placement),
      check: check ? { ...viewCheck(facts, check), seenThere: viewEvidence(check.evidence) } : null,
    },
  ];
}

async function view(facts: EnrolmentFacts): Promise<Enrolment> {
  const { row } = facts;
  const [property, account] = await Promise.all([
    PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true }),
    AccountRow.findByPk(row.accountId, { rejectOnEmpty: true }),
  ]);
  const methods = methodsFor(facts.profile, row.reach);
  return {
    ...viewLine(facts),
    property: { id: property.id, handle: property.handle },
    account: { id: account.id, handle: account.name },
    ref: row.ref,
    createdAt: row.createdAt,
    methods,
    placements: methods.flatMap((method) =>
      facts.tokens.filter((token) => token.method === method).flatMap((token) => viewPlacement(facts, token)),
    ),
    claim: facts.claim && viewClaim(facts.claim),
    ownership: facts.ownership && {
      kind: facts.ownership.kind,
      at: facts.ownership.at,
      reason: facts.ownership.reason ?? null,
    },
  };
}

/** All enrolments of a property, with everything that its page shows of them. */
export async function listEnrolments(desk: Desk, propertyRef: string): Promise<{ items: Enrolment[] }> {
  const property = await findProperty(propertyRef);
  const rows = await EnrolmentRow.findAll({
    where: { propertyId: property.id, endedAt: null },
    order: ['engine', 'reach', 'createdAt'],
  });
  return { items: await Promise.all((await enrolmentFacts(desk, rows)).map(view)) };
}

/** One enrolment. Where the reference fits several (two reaches at one engine), the first by reach is shown. */
export async function showEnrolment(desk: Desk, ref: string): Promise<Enrolment> {
  const [facts] = await enrolmentFacts(desk, (await findEnrolments(ref)).slice(0, 1));
  if (!facts) throw new Error('an enrolment that was found has facts');
  return view(facts);
}

/** The enrolments that a request names, each once. */
export async function chosenEnrolments(which: {
  enrolments?: string[];
  all?: boolean;
}): Promise<EnrolmentRow[]> {
  if (which.all === true || which.enrolments === undefined) {
    const alive = await PropertyRow.findAll({ where: { archivedAt: null }, attributes: ['id'] });
    return EnrolmentRow.findAll({
      where: { propertyId: alive.map(({ id }) => id), endedAt: null },
      order: ['propertyId', 'engine', 'reach'],
    });
  }
  const found = (await Promise.all(which.enrolments.map(findEnrolments))).flat();
  return [...new Map(found.map((row) => [row.id, row])).values()];
}
