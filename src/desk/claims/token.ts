import { Problem } from '../../api/problems.js';
import type { Method } from '../../core/profile/profile.js';
import type { CheckRow, TokenRow } from '../../store/models/enrolments.js';
import { checkToken } from '../checks/checks.js';
import { noteMissing } from '../engines/answers.js';
import { factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import type { Piece } from '../jobs/work.js';
import type { Desk } from '../context/desk.js';
import { tellingCheck } from '../../core/worklist/decisive-check.js';
import { askToken } from '../tokens/tokens.js';

/** Asks the engine whether the token is still the one that we know: a claim with another would be spent for nothing. */
export async function withToken(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
  method: Method,
): Promise<{ facts: EnrolmentFacts; warning: string | null }> {
  const outcome = await askToken(desk, piece.actor, facts, method);
  if (outcome.kind === 'refused' && outcome.code === 'no-such-enrolment') {
    await noteMissing(desk, piece.actor, facts);
    throw new Problem('enrolment-missing', {
      engine: facts.profile.title,
      enrolment: facts.name,
      meanwhile: '; no claim was spent.',
    });
  }
  if (outcome.kind !== 'done' || outcome.value === 'same') return { facts, warning: null };
  const warning =
    outcome.value === 'renewed'
      ? 'The token expired unclaimed and was renewed: what was placed is out of date.'
      : `${facts.profile.title} handed out a different token: what was placed is out of date.`;
  return { facts: await factsOf(desk, facts.row), warning };
}

/**
 * The method to claim by where nobody said: the one that a check has seen; else every known placement is looked at,
 * and the one that stands is taken, or the one where somebody tried.
 */
export async function standingMethod(
  desk: Desk,
  piece: Piece,
  facts: EnrolmentFacts,
): Promise<Method | null> {
  const seen = facts.checks.find((check) => check.seen);
  if (seen || facts.tokens.length < 2) return seen?.method ?? null;
  const checks: CheckRow[] = [];
  for (const token of facts.tokens) checks.push(await checkToken(desk, piece.actor, facts, token));
  return tellingCheck(checks, null)?.method ?? null;
}

/** The token to claim with: of the method asked for, else the only one. */
export function chooseToken(facts: EnrolmentFacts, method: Method | null): TokenRow {
  const token = facts.tokens.find((one) => one.method === (method ?? facts.tokens[0]?.method));
  if (token) return token;

  throw new Problem('no-token', {
    method: method === null ? '' : `${method} `,
    enrolment: facts.name,
    next: 'Get it first, have it placed, then claim.',
  });
}
