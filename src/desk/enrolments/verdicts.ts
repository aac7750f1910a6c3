import type { Enrolment, Method } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { ClaimRow, OwnershipRow, type TokenRow } from '../../store/models/enrolments.js';
import { leading } from '../checks/view.js';
import { oneEnrolment, requireByHand, timeGiven } from './by-hand.js';
import { showEnrolment } from './view.js';
import type { Actor, Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { recordOwnership } from '../ownership/ownership.js';

export interface VerdictGiven {
  readonly verdict: 'confirmed' | 'refused' | 'withdrawn';
  readonly method?: Method;
  readonly reason?: string;
  readonly at?: string;
  /** Although our check sees nothing stand. */
  readonly anyway?: boolean;
}

/** Records what an engine worked by hand said of ownership: when it said so, and who carried it here. */
export async function recordVerdict(
  desk: Desk,
  actor: Actor,
  ref: string,
  given: VerdictGiven,
): Promise<Enrolment> {
  const facts = await oneEnrolment(desk, ref);
  requireByHand(facts, 'A verdict comes from “claim”.');
  const at = timeGiven(desk, given.at);
  if (given.verdict !== 'confirmed' && given.reason === undefined)
    throw new Problem('reason-wanted', { engine: facts.profile.title });
  if (given.verdict === 'withdrawn') await recordWithdrawal(desk, actor, facts, at, given.reason ?? '');
  else await recordAnswer(desk, actor, facts, at, given);
  return showEnrolment(desk, facts.row.id);
}

async function recordWithdrawal(
  desk: Desk,
  actor: Actor,
  facts: EnrolmentFacts,
  at: string,
  reason: string,
): Promise<void> {
  if (facts.ownership?.kind !== 'confirmed')
    throw new Problem('no-badge', { enrolment: facts.name, badge: facts.standing.badge });
  const says = `${facts.profile.title} withdrew the badge of ${facts.name}: “${reason}”.`;
  await recordOwnership(desk, actor, facts, {
    kind: 'withdrawn',
    at,
    reason,
    says,
    recordedBy: actor.personId,
  });
}

async function recordAnswer(
  desk: Desk,
  actor: Actor,
  facts: EnrolmentFacts,
  at: string,
  { verdict, method, ...more }: VerdictGiven,
): Promise<void> {
  const token = tokenClaimed(facts, method);
  if (verdict === 'confirmed' && more.anyway !== true) requireStanding(facts, token);
  const reason = more.reason ?? null;
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  const { title } = facts.profile;
  const isConfirmed = verdict === 'confirmed';
  await desk.store.write(async (transaction) => {
    await ClaimRow.create(
      {
        id: newId(),
        enrolmentId: facts.row.id,
        method: token.method,
        tokenId: token.id,
        askedAt: at,
        answeredAt: at,
        verdict: isConfirmed ? 'confirmed' : 'refused',
        reason,
        recordedBy: actor.personId,
      },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: isConfirmed ? 'claim.confirmed' : 'claim.refused',
      says: isConfirmed
        ? `${title} confirmed ${facts.name} by ${token.method}, recorded by hand.`
        : `${title} refused ${facts.name}: “${reason ?? ''}”, recorded by hand.`,
      property,
      enrolmentId: facts.row.id,
      details: { at },
    });
  });
  if (isConfirmed)
    await recordOwnership(desk, actor, facts, {
      kind: 'confirmed',
      at,
      method: token.method,
      says: `${facts.name} is held.`,
      recordedBy: actor.personId,
    });
}

/**
 * The token that was claimed with: of the method told, else of the only one that stands. Throws Problem where several do, or none of
 * several: a badge that is noted under the wrong method is told as lost although nothing is.
 */
function tokenClaimed(facts: EnrolmentFacts, method: Method | undefined): TokenRow {
  const { tokens, profile } = facts;
  if (method !== undefined || tokens.length < 2) {
    const chosen = tokens.find((one) => method === undefined || one.method === method);
    if (chosen) return chosen;
    throw new Problem('no-token', {
      method: method === undefined ? '' : `${method} `,
      enrolment: facts.name,
      next: `Paste what ${profile.title} showed first.`,
    });
  }
  const standing = tokens.filter((token) => stands(facts, token));
  const [only, second] = standing;
  if (only && !second) return only;
  const methods = (only ? standing : tokens).map((one) => one.method).join(', ');
  throw new Problem('which-method', {
    ...{ enrolment: facts.name, engine: profile.title, methods },
    standing: only ? 'our check sees more than one stand' : 'our check sees none of them stand',
  });
}

function stands({ checks }: EnrolmentFacts, { id }: TokenRow): boolean {
  return checks.some(({ tokenId, told }) => tokenId === id && told === 'seen');
}

/** Throws Problem, which asks, where our check does not see what is said to have been confirmed. */
function requireStanding(facts: EnrolmentFacts, token: TokenRow): void {
  if (stands(facts, token)) return;
  const check = facts.checks.find(({ tokenId }) => tokenId === token.id);
  const seen = check ? (leading(check.findings)?.says ?? '') : 'it has not been looked at yet.';
  throw new Problem('nothing-stands', {
    ...{ enrolment: facts.name, engine: facts.profile.title, method: token.method, seen },
  });
}

/**
 * Takes back the newest verdict that a person recorded, as if it had never been said: with it goes the badge that it gave or took, and
 * alerts that came of that. The journal keeps both. Throws Problem.
 */
export async function takeBackVerdict(desk: Desk, actor: Actor, ref: string): Promise<Enrolment> {
  const facts = await oneEnrolment(desk, ref);
  const enrolmentId = facts.row.id;
  const [claim, ownership] = await Promise.all([
    ClaimRow.findOne({ where: { enrolmentId }, order: [['askedAt', 'DESC']] }),
    OwnershipRow.findOne({ where: { enrolmentId }, order: [['at', 'DESC']] }),
  ]);
  const byHand = [
    claim?.recordedBy == null ? null : claim.askedAt,
    ownership?.recordedBy == null ? null : ownership.at,
  ]
    .filter((at) => at !== null)
    .sort();
  const at = byHand.at(-1);
  if (at === undefined) throw new Problem('no-verdict-by-hand', { enrolment: facts.name });
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    if (claim?.recordedBy != null && claim.askedAt === at) await claim.destroy({ transaction });
    if (ownership?.recordedBy != null && ownership.at === at) await ownership.destroy({ transaction });
    // Alerts about this enrolment alone that the verdict brought about were never true.
    await desk.store.run(
      `DELETE FROM cases WHERE propertyId = $propertyId AND kind IN ('slipping', 'lost') AND openedAt >= $at
         AND (SELECT COUNT(*) FROM json_each(touches)) = 1 AND $name IN (SELECT value FROM json_each(touches))`,
      { propertyId: property.id, at, name: facts.name },
      transaction,
    );
    await note(desk, actor, transaction, {
      kind: 'verdict.taken-back',
      says: `The verdict of ${facts.profile.title} on ${facts.name} was taken back: it had been recorded by mistake.`,
      property,
      enrolmentId,
      details: { at },
    });
  });
  return showEnrolment(desk, enrolmentId);
}
