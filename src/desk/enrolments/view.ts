import { Op } from 'sequelize';
import type { CheckWithEvidence, Enrolment, Placement } from '../../api/documents.js';
import { enrolmentName, type Nameable } from '../../core/address/enrolment-name.js';
import { standing } from '../../core/badge/judge/judge.js';
import { wantedText } from '../../core/badge/token/known-token.js';
import { textDifference } from '../../core/badge/token/text-difference.js';
import type { Placement as CorePlacement } from '../../core/badge/placement.js';
import { methodsFor } from '../../core/profile/profile.js';
import { PropertyRow } from '../../store/models/clients.js';
import { AccountRow } from '../../store/models/accounts.js';
import { EnrolmentRow, TokenRow, type CheckRow } from '../../store/models/enrolments.js';
import { viewSuspended } from '../engines/accounts.js';
import { viewCheck } from '../checks/view.js';
import { viewEvidence } from '../history/evidence.js';
import { evidenceOf } from '../history/stretches.js';
import { viewClaim } from '../claims/view.js';
import { enrolmentFacts, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { personNames } from '../context/journal.js';
import { nowText, type Desk } from '../context/desk.js';
import { placementFor, whatToPut } from '../tokens/placements.js';
import { viewLine, withSteps, type SteppedFacts } from '../facts/steps.js';
import { NAME_COLUMNS } from '../context/names.js';
import { findEnrolments } from '../context/enrolment-refs.js';
import { findProperty } from '../context/references.js';

/** What the page of an enrolment shows beside its facts. */
interface Beside {
  /** The newest evidence of checks, by their identifiers. */
  readonly evidence: ReadonlyMap<string, object>;
  readonly property: Pick<PropertyRow, 'id' | 'handle'>;
  readonly account: AccountRow;
  readonly names: ReadonlyMap<string, string>;
  /** Tokens that were replaced, the newest first. */
  readonly replaced: readonly TokenRow[];
  /** Where the account's token stands for other enrolments. */
  readonly standing: readonly StandingElsewhere[];
}

function viewPlacement(facts: EnrolmentFacts, token: TokenRow, beside: Beside): Placement[] {
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
      check: check ? viewWhole(facts, check, placement, beside.evidence.get(check.id)) : null,
      recordedBy: token.recordedBy == null ? null : (beside.names.get(token.recordedBy) ?? null),
      before: viewBefore(facts, token, beside.replaced),
      standsAt: beside.standing
        .filter((one) => one.method === token.method && one.value === token.value)
        .map((one) => ({ enrolment: enrolmentName(one), place: one.place, checkedAt: one.checkedAt })),
      ofAccount: facts.profile.token.per === 'account',
    },
  ];
}

/** A check with its evidence, and what should stand beside what stands. */
function viewWhole(
  facts: EnrolmentFacts,
  row: CheckRow,
  placement: CorePlacement,
  seen: object | undefined,
): CheckWithEvidence {
  const check = viewCheck(facts, row);
  const stands = standing(check.findings);
  const marked = stands === null ? null : textDifference(wantedText(placement), stands);
  return {
    ...check,
    seenThere: seen ? viewEvidence(seen) : null,
    marked: marked && { should: [...marked.should], stands: [...marked.stands] },
  };
}

function viewBefore(
  facts: EnrolmentFacts,
  token: TokenRow,
  replaced: readonly TokenRow[],
): Placement['before'] {
  const before = replaced.find(({ method }) => method === token.method);
  const old = before && placementFor(facts, before);
  if (!before || !old || before.replacedAt == null) return null;
  return {
    token: before.value,
    replacedAt: before.replacedAt,
    why: before.replacedWhy ?? 'changed',
    put: whatToPut(old),
  };
}

interface StandingElsewhere extends Nameable {
  readonly method: string;
  readonly value: string;
  readonly place: string;
  readonly checkedAt: string;
}

/** No more places than these are told: it is enough to know that it stands, and an example of where. */
const MOST_PLACES = 5;

/**
 * Where our newest checks see an account's token for other enrolments of the same account and client: what is told may be sent to the
 * client's people, and other clients are no business of theirs. It goes from the client's properties on (the sign before the account keeps
 * SQLite to it): a token of an account stands for thousands of others.
 */
function standingElsewhere(desk: Desk, facts: EnrolmentFacts): Promise<StandingElsewhere[]> {
  if (facts.profile.token.per !== 'account' || facts.tokens.length === 0) return Promise.resolve([]);
  return desk.store.select<StandingElsewhere>(
    `SELECT ${NAME_COLUMNS}, t.method, t.value, c.place, c.checkedAt
       FROM properties own
       CROSS JOIN properties p ON p.clientId = own.clientId AND p.archivedAt IS NULL
       CROSS JOIN enrolments e ON e.propertyId = p.id AND +e.accountId = $account AND e.endedAt IS NULL AND e.id <> $own
       CROSS JOIN tokens t ON t.enrolmentId = e.id AND t.replacedAt IS NULL AND t.value IN (SELECT value FROM json_each($values))
       CROSS JOIN checks c ON c.id = (SELECT n.id FROM checks n WHERE n.tokenId = t.id ORDER BY n.checkedAt DESC LIMIT 1)
      WHERE own.id = $property AND c.seen = 1 LIMIT $limit`,
    {
      account: facts.row.accountId,
      property: facts.row.propertyId,
      own: facts.row.id,
      values: facts.tokens.map(({ value }) => value),
      limit: MOST_PLACES,
    },
  );
}

/** Enrolments with everything that their pages show: a few queries, however many they are. */
async function viewAll(desk: Desk, all: readonly SteppedFacts[]): Promise<Enrolment[]> {
  const ids = all.map(({ row }) => row.id);
  const [evidence, properties, accounts, names, replaced, standing] = await Promise.all([
    evidenceOf(
      desk,
      all.flatMap(({ checks }) => checks.map(({ id }) => id)),
    ),
    PropertyRow.findAll({
      where: { id: all.map(({ row }) => row.propertyId) },
      attributes: ['id', 'handle'],
    }),
    AccountRow.findAll({ where: { id: all.map(({ row }) => row.accountId) } }),
    personNames(
      all.flatMap(({ tokens, claim, ownership }) => [
        ...tokens.map(({ recordedBy }) => recordedBy),
        claim?.recordedBy,
        ownership?.recordedBy,
      ]),
    ),
    TokenRow.findAll({
      where: { enrolmentId: ids, replacedAt: { [Op.ne]: null } },
      order: [['replacedAt', 'DESC']],
    }),
    Promise.all(all.map((facts) => standingElsewhere(desk, facts))),
  ]);
  const propertyOf = new Map(properties.map((one) => [one.id, one]));
  const accountOf = new Map(accounts.map((one) => [one.id, one]));
  return all.flatMap((facts, at) => {
    const property = propertyOf.get(facts.row.propertyId);
    const account = accountOf.get(facts.row.accountId);
    const own = replaced.filter(({ enrolmentId }) => enrolmentId === facts.row.id);
    return property && account
      ? [
          view(desk, facts, {
            evidence,
            property,
            account,
            names,
            replaced: own,
            standing: standing[at] ?? [],
          }),
        ]
      : [];
  });
}

function view(desk: Desk, facts: SteppedFacts, beside: Beside): Enrolment {
  const { row } = facts;
  const { property, account } = beside;
  const methods = methodsFor(facts.profile, row.reach);
  return {
    ...viewLine(facts),
    property: { id: property.id, handle: property.handle },
    account: { id: account.id, handle: account.name },
    ref: row.ref,
    createdAt: row.createdAt,
    methods,
    placements: methods.flatMap((method) =>
      facts.tokens
        .filter((token) => token.method === method)
        .flatMap((token) => viewPlacement(facts, token, beside)),
    ),
    claim: facts.claim && viewClaim(facts.claim, beside.names),
    ownership: facts.ownership && {
      kind: facts.ownership.kind,
      at: facts.ownership.at,
      method: facts.ownership.method ?? null,
      reason: facts.ownership.reason ?? null,
      recordedBy:
        facts.ownership.recordedBy == null ? null : (beside.names.get(facts.ownership.recordedBy) ?? null),
    },
    missingSince: row.missingSince ?? null,
    suspended: viewSuspended(desk, row.accountId),
    asOf: nowText(desk),
  };
}

/** All enrolments of a property, with everything that its page shows of them. */
export async function listEnrolments(desk: Desk, propertyRef: string): Promise<{ items: Enrolment[] }> {
  const property = await findProperty(propertyRef);
  const rows = await EnrolmentRow.findAll({
    where: { propertyId: property.id, endedAt: null },
    order: ['engine', 'reach', 'createdAt'],
  });
  return {
    items: await viewAll(desk, await withSteps(desk, await enrolmentFacts(desk, rows))),
  };
}

/** One enrolment. Where the reference fits several (two reaches at one engine), the first by reach is shown. */
export async function showEnrolment(desk: Desk, ref: string): Promise<Enrolment> {
  const facts = await withSteps(
    desk,
    await enrolmentFacts(desk, (await findEnrolments(desk, ref)).slice(0, 1)),
  );
  const [shown] = await viewAll(desk, facts);
  if (!shown) throw new Error('an enrolment that was found is shown');
  return shown;
}
