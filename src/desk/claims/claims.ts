import Joi from 'joi';
import type { Transaction } from 'sequelize';
import { METHODS } from '../../core/profile/profile.js';
import type { JobResult, Method } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { ClaimRequest, Outcome, Verdict } from '../../engines/engine.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import {
  ClaimRow,
  EnrolmentRow,
  OwnershipRow,
  TokenRow,
  type CheckRow,
} from '../../store/models/enrolments.js';
import { checkToken } from '../checks/checks.js';
import { leading, viewCheck } from '../checks/view.js';
import { claimResult } from './view.js';
import { chooseToken, standingMethod, withToken } from './token.js';
import { waitSays } from '../engines/answers.js';
import { chosenEnrolments } from '../facts/chosen-enrolments.js';
import { placementFor } from '../tokens/placements.js';
import { enrolmentFacts, factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { failed } from '../jobs/endings.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { engineOf, nowText, type Desk } from '../context/desk.js';
import { withSteps } from '../facts/steps.js';
import { EXACT } from '../context/references.js';

interface ClaimInput {
  readonly enrolmentId: string;
  readonly method: Method | null;
  readonly anyway: boolean;
  /** Only where nothing speaks against it at all: it is made without a person. */
  readonly isSure?: boolean;
}

/** One piece for each enrolment that is to be claimed; with `ready`, those whose token our check sees. */
export async function claimPieces(
  desk: Desk,
  which: {
    enrolments?: string[];
    all?: boolean;
    client?: string;
    ready?: boolean;
    method?: Method;
    anyway?: boolean;
  },
): Promise<NewPiece<ClaimInput>[]> {
  const facts = await enrolmentFacts(desk, await chosenEnrolments(desk, which, EXACT));
  const chosen =
    which.ready === true ? (await withSteps(desk, facts)).filter((one) => one.step.kind === 'claim') : facts;
  return chosen.map(({ row, name }) => {
    const input: ClaimInput = {
      enrolmentId: row.id,
      method: which.method ?? null,
      anyway: which.anyway === true,
    };
    return { subject: name, input, engine: row.engine };
  });
}

/**
 * One piece of a claiming job. A claim is written down before it is sent, and stays open until the engine has given its verdict:
 * nothing else closes it. Whoever comes upon an open one first asks whether the engine knows it, and sends it, under the same
 * identifier, only where it never arrived. So an engine meets one claim, however many pieces, crashes and waits lie between.
 */
export function runClaim(desk: Desk, piece: Piece<ClaimInput>): Promise<JobResult> {
  return oneClaim.run(piece.input.enrolmentId, () => claim(desk, piece, piece.input));
}

/** Claims of one enrolment take turns: whoever comes second finds what the first one came to. */
const oneClaim = new OneAtATime();

async function claim(desk: Desk, piece: Piece, input: ClaimInput): Promise<JobResult> {
  const row = await EnrolmentRow.findByPk(input.enrolmentId, { rejectOnEmpty: true });
  const before = await factsOf(desk, row);
  const open = before.claim && before.claim.answeredAt == null ? before.claim : null;
  if (open) {
    const known = await askAbout(desk, piece, before, open.id);
    if (known) return known;
  }
  const own = await ClaimRow.findByPk(piece.itemId);
  if (own?.answeredAt != null) return claimResult(before, own);
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
  const isWorthIt = input.isSure === true ? check.forecast === 'accept' : check.forecast !== 'refuse';
  if (!isWorthIt && !input.anyway) return spared(facts, check, warning);
  if (facts.profile.worked.how === 'hand') return byHand(facts, check, token.method);
  const written = await writeDown(desk, piece, facts, token);
  if (written.answeredAt != null) return claimResult(facts, written);
  const request = await requestFor(facts, written.id);
  const settled = await settle(
    desk,
    piece,
    facts,
    written.id,
    await (await engineOf(desk, row)).claim(request),
  );
  const doubt = check.forecast === 'unsure' ? leading(check.findings) : undefined;
  return doubt && settled.stops ? { ...settled, says: `${settled.says} ${doubt.says}` } : settled;
}

/**
 * Writes down the claim that is about to be sent: the one that is open, if there is one by now, with the token that it is to
 * be decided by; else a new one under the piece's own identifier.
 */
function writeDown(desk: Desk, piece: Piece, facts: EnrolmentFacts, token: TokenRow): Promise<ClaimRow> {
  const enrolmentId = facts.row.id;
  return desk.store.write(async (transaction) => {
    const own = await ClaimRow.findByPk(piece.itemId, { transaction });
    if (own?.answeredAt != null) return own;
    const open = await ClaimRow.findOne({ where: { enrolmentId, answeredAt: null }, transaction });
    const what = { method: token.method, tokenId: token.id };
    if (open?.tokenId === token.id) return open;
    const claim = open
      ? await open.update(what, { transaction })
      : await ClaimRow.create(
          { id: piece.itemId, enrolmentId, ...what, askedAt: nowText(desk) },
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
    return claim;
  });
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
      new Problem('forecast-refuses', {
        says: [`Not claimed: ${facts.profile.title} would refuse.`, warning, why].filter(Boolean).join(' '),
      }),
    ),
    enrolment: facts.name,
    check: viewCheck(facts, check),
  };
}

async function requestFor(facts: EnrolmentFacts, claimId: string): Promise<ClaimRequest> {
  const claim = await ClaimRow.findByPk(claimId, { rejectOnEmpty: true });
  const token = await TokenRow.findByPk(claim.tokenId, { rejectOnEmpty: true });
  const placement = placementFor(facts, token);
  if (!placement) throw new Problem('method-gone', { engine: facts.profile.title, method: token.method });
  return { claimId, ref: facts.row.ref, placement };
}

/** Asks after a claim whose verdict is not known. @returns null where the engine never got it */
async function askAbout(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  claimId: string,
): Promise<JobResult | null> {
  const engine = await engineOf(desk, facts.row);
  const known = await engine.claimed(await requestFor(facts, claimId));
  if (known.kind === 'done')
    return known.value === null
      ? null
      : settle(desk, piece, facts, claimId, { kind: 'done', value: known.value });
  return settle(desk, piece, facts, claimId, known);
}

/** Records what became of a claim. Without a verdict it stays open, so that it is asked about and not sent twice. */
async function settle(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  claimId: string,
  outcome: Outcome<Verdict>,
): Promise<JobResult> {
  if (outcome.kind !== 'done') return withoutVerdict(desk, piece, facts, claimId, outcome);
  const { title } = facts.profile;
  const verdict = outcome.value;
  const row = await desk.store.write(async (transaction) => {
    const claim = await ClaimRow.findByPk(claimId, { transaction, rejectOnEmpty: true });
    // Another piece that asked about the same claim has written its verdict down already.
    if (claim.answeredAt != null) return claim;
    const reason = verdict.kind === 'refused' ? verdict.reason : null;
    await claim.update({ answeredAt: nowText(desk), verdict: verdict.kind, reason }, { transaction });
    if (verdict.kind === 'confirmed')
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
      `claim.${verdict.kind}`,
      reason === null
        ? `${title} confirmed ${facts.name}: held.`
        : `${title} refused ${facts.name}: “${reason}”.`,
    );
    return claim;
  });
  return claimResult(facts, row);
}

type NoVerdict = Exclude<Outcome<Verdict>, { kind: 'done' }>;

/** What is told of a claim that is still open; the engine's words are kept with it, and told in the journal when they are new. */
async function withoutVerdict(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  claimId: string,
  outcome: NoVerdict,
): Promise<JobResult> {
  const { title, worked } = facts.profile;
  if (outcome.kind === 'unreached' && worked.how === 'link')
    return failed(
      new Problem('engine-unreached', {
        says: outcome.says,
        then: 'Whether the claim arrived is not known; claim again to ask.',
      }),
    );
  const reason = outcome.kind === 'wait' ? waitSays(outcome) : outcome.says;
  const claim = await desk.store.write(async (transaction) => {
    const row = await ClaimRow.findByPk(claimId, { transaction, rejectOnEmpty: true });
    if (row.answeredAt != null || row.reason === reason) return row;
    await row.update({ reason }, { transaction });
    await tell(
      desk,
      piece,
      facts,
      transaction,
      'claim.not-taken',
      `${title} did not take the claim for ${facts.name}: ${reason}`,
    );
    return row;
  });
  return claimResult(facts, claim);
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

export const claimWork = anyWork<ClaimInput>({
  kind: 'claim',
  input: Joi.object<ClaimInput, true>({
    enrolmentId: Joi.string().required(),
    method: Joi.string()
      .valid(...METHODS)
      .allow(null)
      .required(),
    anyway: Joi.boolean().required(),
    isSure: Joi.boolean(),
  }),
  run: runClaim,
});
