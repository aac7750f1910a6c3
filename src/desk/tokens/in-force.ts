import { TokenRow } from '../../store/models/enrolments.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';

/** Of some values those that are tokens in force, of whatever enrolment: an account’s is that of many. */
export async function valuesInForce(values: readonly string[]): Promise<ReadonlySet<string>> {
  if (values.length === 0) return new Set();
  const rows = await TokenRow.findAll({
    attributes: ['value'],
    where: { value: [...new Set(values)], replacedAt: null },
  });
  return new Set(rows.map(({ value }) => value));
}

/**
 * Whether the engine confirmed the ownership by the very token that is in force now, and not by one that it took the place of: only
 * then nothing hangs on the old one any more. Where nobody knows by which method it was confirmed, it may have been any.
 */
export function holdsByNewest(
  { standing, ownership, tokens }: EnrolmentFacts,
  method: TokenRow['method'],
): boolean {
  const token = tokens.find((one) => one.method === method);
  return (
    standing.badge === 'held' &&
    ownership !== null &&
    token !== undefined &&
    ownership.method === method &&
    ownership.at >= token.issuedAt
  );
}
