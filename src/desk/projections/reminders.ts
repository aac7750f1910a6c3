import { DAY } from '../../core/time/duration.js';
import { writtenDay } from '../../core/time/time-formats.js';
import { cannotStep, writeAgainStep, type FoundStep } from '../../core/worklist/step-groups.js';
import type { Desk } from '../context/desk.js';

/** A letter that nobody has answered, or to which somebody said that it cannot be done. */
export interface Unanswered {
  readonly propertyId: string;
  /** Why it cannot be done, as they said it; null where nothing was answered. */
  readonly cannot: string | null;
  readonly name: string;
  readonly subject: string;
  readonly at: string;
}

/** So long somebody has for an answer before it is a step of ours to write again. */
const ANSWERED_WITHIN = 5 * DAY;

/** The letters of properties that nobody has answered, or of which it was said that it cannot be done: of each contact the newest, oldest first. */
export async function unanswered(
  { store }: Desk,
  propertyIds: readonly string[],
): Promise<(propertyId: string) => readonly Unanswered[]> {
  const rows = await store.select<Unanswered>(
    `SELECT lp.propertyId, c.name, l.subject, MAX(l.at) AS at, CASE l.answerKind WHEN 'cannot' THEN l.answer END AS cannot
       FROM letter_properties lp JOIN letters l ON l.id = lp.letterId AND (l.answeredAt IS NULL OR l.answerKind = 'cannot') JOIN contacts c ON c.id = l.contactId AND c.endedAt IS NULL
      WHERE lp.propertyId IN (SELECT value FROM json_each($ids)) GROUP BY lp.propertyId, c.id ORDER BY at, c.name`,
    { ids: JSON.stringify(propertyIds) },
  );
  return (id) => rows.filter(({ propertyId }) => propertyId === id);
}

/**
 * To write again where nobody has answered for some days, as long as anything waits for the client's people: whoever does it without a
 * word is not written to again.
 */
export function reminders(
  letters: readonly Unanswered[],
  steps: readonly FoundStep[],
  now: Date,
): FoundStep[] {
  if (!steps.some(({ step }) => step.acts === 'client')) return [];
  const refused = letters.findLast(({ cannot }) => cannot !== null);
  if (refused) return [cannotStep(refused.name, refused.cannot ?? '', new Date(refused.at))];
  const [oldest] = letters;
  const due = oldest && dueAt(oldest);
  return !due || due > now ? [] : [writeAgainStep(oldest.name, oldest.subject, writtenDay(oldest.at), due)];
}

/** When somebody is to be written to again; null where that is so already, or nobody is waited for. */
export function remindsAt([oldest]: readonly Unanswered[], now: Date): Date | null {
  const due = oldest && dueAt(oldest);
  return due && due > now ? due : null;
}

function dueAt({ at }: Unanswered): Date {
  return new Date(Date.parse(at) + ANSWERED_WITHIN);
}
