import { Problem } from '../../api/problems.js';

/** The versions that an edit may have been made against; null for any. */
export type Expected = readonly number[] | null;

/**
 * Refuses an edit that was made against an older version (RFC 9110 §13.1.1).
 * @param expected the versions of the If-Match header; null when the caller did not say
 */
export function requireVersion(current: number, expected: Expected): void {
  if (expected === null || expected.includes(current)) return;
  throw new Problem('changed-meanwhile');
}

/** Turns a unique-constraint refusal of the store into a problem that names what is taken. */
export async function unlessTaken<T>(work: () => Promise<T>, says: string): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Error && error.name === 'SequelizeUniqueConstraintError')
      throw new Problem('already-there', { says });
    throw error;
  }
}
