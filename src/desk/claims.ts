import type { Transaction } from 'sequelize';
import type { Claim, JobResult, Method } from '../api/documents.js';
import { Problem } from '../api/problems.js';
import type { ClaimRequest, Outcome, Verdict } from '../engines/engine.js';
import { newId } from '../store/ids.js';
import { PropertyRow } from '../store/models/clients.js';
import { ClaimRow, EnrolmentRow, OwnershipRow, TokenRow, type CheckRow } from '../store/models/enrolments.js';
import { checkToken, viewCheck } from './checks.js';
import { chooseToken, standingMethod, withToken } from './claim-token.js';
import { waitSays } from './engine-answers.js';
import { chosenEnrolments, placementFor } from './enrolments.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from './facts.js';
import { note } from './journal.js';
import { failed, type NewPiece, type Piece } from './jobs/runner.js';
import { engineOf, nowText, type Desk } from './parts.js';
import { withSteps } from './steps.js';

interface ClaimInput {
  readonly enrolmentId: string;
  readonly method: Method | null;
  readonly anyway: boolean;
}

/** @param names of people who recorded verdicts by hand */
export function viewClaim(row: ClaimRow, names: ReadonlyMap<string, string> = new Map()): Claim {
  const { id, enrolmentId, method, askedAt } = row;
  return {
    id,
    enrolment: enrolmentId,
    method,
    askedAt,
    answeredAt: row.answeredAt ?? null,
    verdict: row.verdict ?? null,
    reason: row.reason ?? null,
    recordedBy: row.recordedBy == null ? null : (names.get(row.recordedBy) ?? null),
  };
}

/** One piece for each enrolment that is to be claimed; with `ready`, those whose token our check sees. */
export async function claimPieces(
  desk: Desk,
  which: { enrolments?: string[]; all?: boolean; ready?: boolean; method?: Method; anyway?: boolean },
): Promise<NewPiece[]> {
  const facts = await enrolmentFacts(desk, await chosenEnrolments(which));
  const chosen =
    which.ready === true ? (await withSteps(desk, facts)).filter((one) => one.step.kind === 'claim') : facts;
  return chosen.map(({ row, name }) => {
    const input: ClaimInput = {
      enrolmentId: row.id,
      method: which.method ?? null,
      anyway: which.anyway === true,
    };
    return { subject: name, input };
  });
}

/**
 * One piece of a claiming job. A claim is written down before it is sent, under the piece's own identifier; after a
 * crash the engine is first asked whether it got that claim, and only one that never arrived is sent.
 */
export async function runClaim(desk: Desk, piece: Piece): Promise<JobResult> {
  const input = piece.input as ClaimInput;
  const row = await EnrolmentRow.findByPk(input.enrolmentId, { rejectOnEmpty: true });
  const before = await factsOf(desk, row);
  const open = before.claim && before.claim.answeredAt == null ? before.claim : null;
  if (open) return takeUp(desk, piece, before, open.id);
  const own = await ClaimRow.findByPk(piece.itemId);
  if (own) return result(before, own);
  if (before.standing.badge === 'held')
    return {
      says: `${before.name} is held already; no claim was spent.`,
      stops: false,
      enrolment: before.name,
    };
  const method = input.method ?? (await standingMethod(desk, piece, before));
  const { facts, warning } = await withToken(desk, piece, before, chooseToken(before, method).method);
  const token = chooseToken(facts, method);
  const check = await checkToken(desk, piece.actor, facts, token);
  if (check.forecast === 'refuse' && !input.anyway) return spared(facts, check, warning);
  if (facts.profile.worked.how === 'hand') return byHand(facts, check, token.method);
  await desk.store.write(async (transaction) => {
    await ClaimRow.create(
      {
        id: piece.itemId,
        enrolmentId: row.id,
        method: token.method,
        tokenId: token.id,
        askedAt: nowText(desk),
      },
      { transaction },
    );
    await tell(
      desk,
      piece,
      facts,
      transaction,
      'claim.sent',
      `Claimed ${facts.name} at ${facts.profile.title} by ${token.method}.`,
    );
  });
  const request = await requestFor(facts, piece.itemId);
  return settle(desk, piece, facts, piece.itemId, await (await engineOf(desk, row)).claim(request));
}

/** Nobody but a person can claim at an engine without a link; she is told that it is worth it, and what to do after. */
function byHand(facts: EnrolmentFacts, check: CheckRow, method: Method): JobResult {
  return {
    says: `The ${method} token stands. Claim ${facts.name} on ${facts.profile.title}’s own pages now, then record what it said: “record verdict ${facts.name} confirmed”, or “refused --reason …”.`,
    stops: false,
    enrolment: facts.name,
    check: viewCheck(facts, check),
  };
}

function spared(facts: EnrolmentFacts, check: CheckRow, warning: string | null): JobResult {
  const why = check.findings.find((one) => one.grade === 'stops')?.says ?? 'the token is not in place';
  return {
    ...failed(
      'forecast-refuses',
      [`Not claimed: ${facts.profile.title} would refuse.`, warning, why].filter(Boolean).join(' '),
    ),
    enrolment: facts.name,
    check: viewCheck(facts, check),
  };
}

async function requestFor(facts: EnrolmentFacts, claimId: string): Promise<ClaimRequest> {
  const claim = await ClaimRow.findByPk(claimId, { rejectOnEmpty: true });
  const token = await TokenRow.findByPk(claim.tokenId, { rejectOnEmpty: true });
  const placement = placementFor(facts, token);
  if (!placement)
    throw new Problem('cannot-be', `${facts.profile.title} no longer takes the method ${token.method} here.`);
  return { claimId, ref: facts.row.ref, placement };
}

/** Takes up a claim whose answer is not known: asks for it, and sends it only if it never arrived. */
async function takeUp(desk: Desk, piece: Piece, facts: EnrolmentFacts, claimId: string): Promise<JobResult> {
  const engine = await engineOf(desk, facts.row);
  const request = await requestFor(facts, claimId);
  const known = await engine.claimed(request);
  if (known.kind === 'done' && known.value === null)
    return settle(desk, piece, facts, claimId, await engine.claim(request));
  return settle(desk, piece, facts, claimId, known as Outcome<Verdict>);
}

/** Records what became of a claim. Without an answer it stays open, so that it is asked about and not sent twice. */
async function settle(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  claimId: string,
  outcome: Outcome<Verdict>,
): Promise<JobResult> {
  const { title } = facts.profile;
  if (outcome.kind === 'unreached' && facts.profile.worked.how === 'link') {
    return failed(
      'engine-unreached',
      `${outcome.says} Whether the claim arrived is not known; claim again to ask.`,
    );
  }
  const answer = readOutcome(outcome);
  const row = await desk.store.write(async (transaction) => {
    const claim = await ClaimRow.findByPk(claimId, { transaction, rejectOnEmpty: true });
    await claim.update(
      { answeredAt: nowText(desk), verdict: answer.verdict, reason: answer.reason },
      { transaction },
    );
    if (answer.verdict === 'confirmed') {
      await OwnershipRow.create(
        {
          id: newId(),
          enrolmentId: facts.row.id,
          at: nowText(desk),
          kind: 'confirmed',
          method: claim.method,
        },
        { transaction },
      );
      await tell(
        desk,
        piece,
        facts,
        transaction,
        'claim.confirmed',
        `${title} confirmed ${facts.name}: held.`,
      );
    } else if (answer.verdict === 'refused') {
      await tell(
        desk,
        piece,
        facts,
        transaction,
        'claim.refused',
        `${title} refused ${facts.name}: “${answer.reason ?? ''}”.`,
      );
    } else {
      await tell(
        desk,
        piece,
        facts,
        transaction,
        'claim.not-taken',
        `${title} did not take the claim for ${facts.name}: ${answer.reason ?? ''}`,
      );
    }
    return claim;
  });
  return result(facts, row);
}

function readOutcome(outcome: Outcome<Verdict>): {
  verdict: 'confirmed' | 'refused' | null;
  reason: string | null;
} {
  switch (outcome.kind) {
    case 'done':
      return outcome.value.kind === 'confirmed'
        ? { verdict: 'confirmed', reason: null }
        : { verdict: 'refused', reason: outcome.value.reason };
    case 'wait':
      return { verdict: null, reason: waitSays(outcome) };
    case 'refused':
    case 'unreached':
    case 'by-hand':
      return { verdict: null, reason: outcome.says };
  }
}

function result(facts: EnrolmentFacts, row: ClaimRow): JobResult {
  const claim = viewClaim(row);
  const base = { enrolment: facts.name, claim };
  const { title } = facts.profile;
  if (row.verdict === 'confirmed')
    return { ...base, says: `${title} confirmed ${facts.name}: held.`, stops: false };
  if (row.verdict === 'refused') {
    const check = facts.checks.find((one) => one.method === row.method);
    const says = `${title} refused: “${row.reason ?? ''}”.`;
    return {
      ...base,
      says,
      stops: true,
      problem: { code: 'engine-refused', detail: says },
      ...(check ? { check: viewCheck(facts, check) } : {}),
    };
  }
  const says = `${title} did not take the claim: ${row.reason ?? ''}`;
  return { ...base, says, stops: true, problem: { code: 'engine-waits', detail: says } };
}

async function tell(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  transaction: Transaction,
  kind: string,
  says: string,
): Promise<void> {
  const property = await PropertyRow.findByPk(facts.row.propertyId, { transaction, rejectOnEmpty: true });
  await note(desk, piece.actor, transaction, { kind, says, property, enrolmentId: facts.row.id });
}
