import type { KnownToken, OwnSide } from '../../core/badge/token/known-token.js';
import type { Method } from '../../core/profile/profile.js';
import type { Desk } from '../context/desk.js';

interface Row {
  readonly value: string;
  readonly method: Method;
  readonly engine: string;
  readonly property: string;
  readonly replacedAt: string | null;
  readonly isHeld: number;
}

/** Which of some words are tokens that are or were known here, of whatever engine and property; those of one’s own side first. */
export async function recognise(
  desk: Desk,
  words: readonly string[],
  { property }: OwnSide,
): Promise<KnownToken[]> {
  if (words.length === 0) return [];
  const rows = await desk.store.select<Row>(
    `SELECT t.value, t.method, e.engine, p.handle AS property, t.replacedAt,
            COALESCE((SELECT o.kind = 'confirmed' FROM ownerships o WHERE o.enrolmentId = e.id ORDER BY o.at DESC LIMIT 1), 0) AS isHeld
       FROM tokens t JOIN enrolments e ON e.id = t.enrolmentId JOIN properties p ON p.id = e.propertyId
      WHERE t.value IN (SELECT value FROM json_each($words)) ORDER BY p.handle <> $property, t.replacedAt IS NOT NULL, t.replacedAt DESC LIMIT 100`,
    { words: [...words], property },
  );
  return rows.map(({ replacedAt, isHeld, ...row }) => ({
    ...row,
    inUse: replacedAt === null || isHeld === 1,
    engineTitle: desk.book.titleOf(row.engine),
    replacedAt: replacedAt === null ? null : new Date(replacedAt),
  }));
}
