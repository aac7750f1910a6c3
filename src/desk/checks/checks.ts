import Joi from 'joi';
import { mayBeOurs } from '../../core/badge/visibility.js';
import type { Check, EvidenceSeen, JobResult, Page } from '../../api/documents.js';
import { enrolmentName, type Nameable } from '../../core/address/enrolment-name.js';
import { hostOf, parseScope } from '../../core/address/reach.js';
import { METHODS, type Method } from '../../core/profile/profile.js';
import { behind, cursorText } from '../context/cursor.js';
import { PropertyRow } from '../../store/models/clients.js';
import { CheckRow, EnrolmentRow, type TokenRow } from '../../store/models/enrolments.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { keptEvidence, viewEvidence } from '../history/evidence.js';
import { recognise } from '../tokens/known-tokens.js';
import { probe, type Around, type Probe } from '../engine-book/probe.js';
import { evidenceOf, recordLook } from '../history/stretches.js';
import {
  SILENT_OUTCOME,
  pageOutcome,
  UNREPORTED,
  type ProbeOutcome,
  type Met,
} from '../context/probe-outcome.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { refreshOwnership } from '../ownership/ownership.js';
import type { Actor, Desk } from '../context/desk.js';
import { NAME_COLUMNS } from '../context/names.js';
import { findEnrolments } from '../context/enrolment-refs.js';
import { renewExpired } from '../tokens/tokens.js';
import { chosenEnrolments } from '../facts/chosen-enrolments.js';
import { leading, propertyIn, viewCheck } from './view.js';
import { placementFor } from '../tokens/placements.js';
import { Problem } from '../../api/problems.js';

/** More name servers than these are not remembered from an earlier look. */
const MOST_FORMER = 6;

/** What is known around a placement: other tokens, other engines' labels, what an earlier look saw. */
function aroundOf(
  desk: Desk,
  facts: EnrolmentFacts,
  token: TokenRow,
  before: CheckRow | undefined,
  earlier: EvidenceSeen | undefined,
): Partial<Around> {
  const labels = [...desk.book.profiles.values()].flatMap(({ id, methods }) =>
    id === facts.row.engine || methods.dns?.label == null ? [] : [methods.dns.label],
  );
  const own = { engine: facts.row.engine, property: propertyIn(facts.name) };
  return {
    shallow: facts.checks.some(({ seen, tokenId }) => seen && tokenId !== token.id),
    own,
    recognise: (words) => recognise(desk, words, own),
    otherLabels: [...new Set(labels)],
    formerServers:
      earlier?.kind === 'dns'
        ? earlier.servers
            .flatMap(({ name, address, role }) =>
              address === null || role === 'self-named' ? [] : [{ name, addresses: [address] }],
            )
            .slice(0, MOST_FORMER)
        : [],
    earlier: before ? { visibleAt: before.visibleAt == null ? null : new Date(before.visibleAt) } : null,
  };
}

/** What a look at a placement tells of whether we can look at all. @param wasSeen whether the token was there at the last look that told */
function metAt({ evidence, judgement: { seen, findings } }: Probe, wasSeen: boolean): ProbeOutcome {
  if (seen) return { kind: 'itself' };
  if (evidence.kind === 'page') return pageOutcome(evidence, wasSeen);
  if (mayBeOurs(findings)) return SILENT_OUTCOME;
  // What the zone’s own servers say is the zone’s; what only a resolver says may be the resolver’s.
  const isZone = evidence.servers.some(({ authoritative }) => authoritative);
  return isZone ? { kind: 'itself' } : { kind: 'unknown', isNews: wasSeen };
}

/** Checks one placement now and records what came of it. */
export async function checkToken(
  desk: Desk,
  actor: Actor,
  facts: EnrolmentFacts,
  token: TokenRow,
): Promise<CheckRow> {
  return recordCheck(desk, actor, facts, token, await lookAtToken(desk, facts, token));
}

async function lookAtToken(desk: Desk, facts: EnrolmentFacts, token: TokenRow): Promise<Probe> {
  const placement = placementFor(facts, token);
  if (!placement) throw new Problem('method-gone', { engine: facts.profile.title, method: token.method });
  const before = facts.checks.find((check) => check.tokenId === token.id);
  const seen = before && (await evidenceOf(desk, [before.id])).get(before.id);
  return probe(
    desk.net,
    desk.clock,
    placement,
    aroundOf(desk, facts, token, before, seen && viewEvidence(seen)),
  );
}

async function recordCheck(
  desk: Desk,
  actor: Actor,
  facts: EnrolmentFacts,
  token: TokenRow,
  { checkedAt, evidence, judgement }: Probe,
): Promise<CheckRow> {
  const before = facts.checks.find((check) => check.tokenId === token.id);
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  const place = placementFor(facts, token)?.place ?? '';
  return desk.store.write(async (transaction) => {
    const row = await recordLook(
      desk,
      before,
      {
        enrolmentId: facts.row.id,
        tokenId: token.id,
        method: token.method,
        place,
        at: checkedAt.toISOString(),
        seen: judgement.seen,
        forecast: judgement.forecast,
        visibleAt: judgement.visibleAt?.toISOString() ?? null,
        findings: judgement.findings,
        evidence: keptEvidence(evidence, judgement.findings),
      },
      transaction,
    );
    // A look that shows nothing new is kept among the checks, but is no news.
    const first = leading(judgement.findings);
    if (first?.code !== leading(before?.findings ?? [])?.code) {
      await note(desk, actor, transaction, {
        kind: 'check',
        says: `${facts.name} by ${token.method}: ${judgement.seen ? 'in place' : 'not in place'}. ${first?.says ?? ''}`.trim(),
        property,
        enrolmentId: facts.row.id,
        details: {
          check: row.id,
          forecast: judgement.forecast,
          findings: judgement.findings.map((one) => one.code),
        },
      });
    }
    return row;
  });
}

export interface CheckInput {
  readonly enrolmentId: string;
  readonly method: Method;
}

/** What a look of the watch came to while it was we who could not look. */
const CUT_OFF = 'It cannot be seen from here at present; nothing was recorded.';

/** One piece of a checking job. */
export async function runCheck(
  desk: Desk,
  piece: Piece<CheckInput>,
  met: Met = UNREPORTED,
): Promise<JobResult> {
  const { enrolmentId, method } = piece.input;
  const row = await EnrolmentRow.findByPk(enrolmentId, { rejectOnEmpty: true });
  const before = await factsOf(desk, row);
  const renewed = await renewExpired(desk, piece.actor, before);
  const facts = renewed === null ? before : await factsOf(desk, row);
  const token = facts.tokens.find((one) => one.method === method);
  if (!token)
    throw new Problem('no-token', { method: `${method} `, enrolment: facts.name, next: 'Get it first.' });
  const looked = await lookAtToken(desk, facts, token);
  const wasSeen = facts.checks.some(({ tokenId, told }) => tokenId === token.id && told === 'seen');
  if (await met(metAt(looked, wasSeen))) return { says: CUT_OFF, stops: false, enrolment: facts.name };
  const check = viewCheck(facts, await recordCheck(desk, piece.actor, facts, token, looked));
  // The engine may have lost sight of the token before we did: ask it where it matters.
  if (facts.ownership?.kind === 'confirmed' && facts.ownership.method === method)
    await refreshOwnership(desk, piece.actor, facts);
  const first = leading(check.findings);
  return {
    says: [renewed, first?.says ?? 'Checked.'].filter(Boolean).join(' '),
    stops: check.forecast !== 'accept',
    enrolment: facts.name,
    check,
    ...(renewed === null ? {} : { warning: renewed }),
  };
}

/** Earlier checks of an enrolment, newest first. */
export async function listChecks(
  desk: Desk,
  ref: string,
  query: { after?: string; limit?: number },
): Promise<Page<Check>> {
  const limit = query.limit ?? 100;
  const found = await enrolmentFacts(desk, await findEnrolments(desk, ref));
  const rows = await CheckRow.findAll({
    where: {
      enrolmentId: found.map(({ row }) => row.id),
      ...behind('checkedAt', query.after),
    },
    order: [
      ['checkedAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit: limit + 1,
  });
  const shown = rows.slice(0, limit);
  const items = shown.flatMap((check) =>
    found.filter(({ row }) => row.id === check.enrolmentId).map((facts) => viewCheck(facts, check)),
  );
  const last = shown.at(-1);
  return {
    items,
    next: last && rows.length > limit ? cursorText({ at: last.checkedAt, id: last.id }) : null,
  };
}

interface Known extends Nameable {
  readonly enrolmentId: string;
  readonly method: Method;
}

/** The tokens in force of enrolments, or of all; as cheap for a hundred thousand as can be. */
async function knownTokens(
  desk: Desk,
  which: { enrolments?: string[]; all?: boolean },
): Promise<readonly Known[]> {
  const isAll = which.enrolments === undefined;
  const ids = isAll ? [] : (await chosenEnrolments(desk, which)).map(({ id }) => id);
  return desk.store.select<Known>(
    `SELECT e.id AS enrolmentId, ${NAME_COLUMNS}, t.method
       FROM tokens t JOIN enrolments e ON e.id = t.enrolmentId JOIN properties p ON p.id = e.propertyId
      WHERE t.replacedAt IS NULL AND ${
        isAll ? 'e.endedAt IS NULL AND p.archivedAt IS NULL' : 'e.id IN (SELECT value FROM json_each($ids))'
      } ORDER BY p.handle, e.engine, e.reach, e.id, t.method`,
    { ids: JSON.stringify(ids) },
  );
}

/** One piece for each placement whose token is known. */
export async function checkPieces(
  desk: Desk,
  which: { enrolments?: string[]; all?: boolean; method?: Method },
): Promise<NewPiece<CheckInput>[]> {
  const pieces = [...(await knownTokens(desk, which))]
    .sort((a, b) =>
      a.enrolmentId === b.enrolmentId ? METHODS.indexOf(a.method) - METHODS.indexOf(b.method) : 0,
    )
    .filter(({ method }) => which.method === undefined || method === which.method)
    .map((one) => ({
      subject: `${enrolmentName(one)} ${one.method}`,
      input: { enrolmentId: one.enrolmentId, method: one.method },
      host: hostOf(parseScope(one.reach, one.target)),
    }));
  if (pieces.length > 0 || which.all === true) return pieces;
  throw new Problem('nothing-to-check');
}

export const checkWork = anyWork<CheckInput>({
  kind: 'check',
  input: Joi.object<CheckInput, true>({
    enrolmentId: Joi.string().required(),
    method: Joi.string()
      .valid(...METHODS)
      .required(),
  }),
  run: (desk, piece) => runCheck(desk, piece),
});
