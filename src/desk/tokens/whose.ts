import type { TokenOwner } from '../../api/documents.js';
import { wordsSought } from '../../core/badge/token/known-token.js';
import type { Method } from '../../core/profile/profile.js';
import type { Desk } from '../context/desk.js';
import { namesOf } from '../context/names.js';

/** More enrolments than these are not told of one token: an account's own is the same for all of its websites. */
const MOST = 50;

interface Row {
  readonly value: string;
  readonly method: Method;
  readonly enrolmentId: string;
  readonly engine: string;
  readonly property: string;
  readonly client: string;
  readonly replacedAt: string | null;
  readonly endedAt: string | null;
}

/** Whose token is in something pasted: a tag, a file's name or content, a record, or the bare value. */
export async function whoseToken(desk: Desk, text: string): Promise<{ items: TokenOwner[] }> {
  const words = wordsSought(text);
  if (words.length === 0) return { items: [] };
  const rows = await desk.store.select<Row>(
    `SELECT t.value, t.method, t.enrolmentId, e.engine, p.handle AS property, k.name AS client, t.replacedAt, e.endedAt
       FROM tokens t JOIN enrolments e ON e.id = t.enrolmentId JOIN properties p ON p.id = e.propertyId AND p.archivedAt IS NULL
       JOIN clients k ON k.id = p.clientId
      WHERE t.value IN (SELECT value FROM json_each($words))
      ORDER BY t.replacedAt IS NOT NULL, e.endedAt IS NOT NULL, length(t.value) DESC, p.handle LIMIT ${String(MOST)}`,
    { words: JSON.stringify(words) },
  );
  const names = await namesOf(
    desk.store,
    rows.map(({ enrolmentId }) => enrolmentId),
  );
  return {
    items: rows.map(({ value, method, enrolmentId, engine, property, client, replacedAt, endedAt }) => ({
      ...{ token: value, method, property, client, replacedAt, endedAt },
      enrolment: names.get(enrolmentId) ?? enrolmentId,
      engine: { id: engine, title: desk.book.titleOf(engine) },
    })),
  };
}

/** Identifiers of properties whose token is in a text that a list is narrowed by; empty where it holds none that is known. */
export async function holdersOf({ store }: Pick<Desk, 'store'>, text: string): Promise<string[]> {
  const words = wordsSought(text).filter((word) => word.length >= LIKE_A_TOKEN);
  if (words.length === 0) return [];
  const rows = await store.select<{ propertyId: string }>(
    `SELECT DISTINCT e.propertyId FROM tokens t JOIN enrolments e ON e.id = t.enrolmentId
      WHERE t.value IN (SELECT value FROM json_each($words)) LIMIT 500`,
    { words: JSON.stringify(words) },
  );
  return rows.map(({ propertyId }) => propertyId);
}

/** What somebody types to find a website by is shorter, most often; where it is not, it is no token that is known. */
const LIKE_A_TOKEN = 12;
