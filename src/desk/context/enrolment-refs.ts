import { Problem } from '../../api/problems.js';
import {
  canBeMeant,
  isMeant,
  readEnrolmentRef,
  type EnrolmentRef,
} from '../../core/address/enrolment-name.js';
import { AccountRow } from '../../store/models/accounts.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import type { EngineBook } from '../engine-book/book.js';
import { engineIdOf } from './engine-ref.js';
import { AT_ONCE, propertiesByRef, type HowToFind } from './references.js';

/**
 * Enrolments by `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, `HANDLE@ENGINE:ADDRESS`, identifier, or a property's reference for all of its enrolments.
 * Throws Problem when nothing fits.
 */
export async function findEnrolments(
  desk: WithBook,
  ref: string,
  how: HowToFind = {},
): Promise<EnrolmentRow[]> {
  return findAllEnrolments(desk, [ref], how);
}

/** The part of the desk that knows the engines. */
interface WithBook {
  readonly book: EngineBook;
}

interface Named {
  readonly ref: string;
  readonly property: string;
  readonly at: (EnrolmentRef & { readonly accountId: string | null }) | null;
}

/** Takes a reference apart, and finds its engine and account. Throws Problem. */
async function takeApart(desk: WithBook, ref: string): Promise<Named> {
  const at = ref.lastIndexOf('@');
  if (at === -1) return { ref, property: ref, at: null };
  if (at === 0)
    throw new Problem('no-such-property', { ref, near: ': name it before the “@”, as in ferries@veldrane.' });
  const read = readEnrolmentRef(ref.slice(at + 1));
  const engine = engineIdOf(desk, read.engine);
  const { account, which } = read;
  if (which !== null && !canBeMeant(which)) throw new Problem('bad-reach', { reach: which });
  const row = account === null ? null : await AccountRow.findOne({ where: { engine, name: account } });
  if (account !== null && !row) throw new Problem('no-such-account', { ref: `${engine}/${account}` });
  return { ref, property: ref.slice(0, at), at: { ...read, engine, accountId: row?.id ?? null } };
}

/** As `findEnrolments` for many, each once: a few queries, however many they are. Throws Problem for the first that fits nothing. */
export async function findAllEnrolments(
  desk: WithBook,
  refs: readonly string[],
  how: HowToFind = {},
): Promise<EnrolmentRow[]> {
  const wanted = [...new Set(refs)];
  const byId = new Map<string, EnrolmentRow>();
  for (let from = 0; from < wanted.length; from += AT_ONCE)
    for (const row of await EnrolmentRow.findAll({
      where: { id: wanted.slice(from, from + AT_ONCE), endedAt: null },
    }))
      byId.set(row.id, row);
  const namedBy = new Map<string, Named>();
  for (const ref of wanted) if (!byId.has(ref)) namedBy.set(ref, await takeApart(desk, ref));
  const properties = await propertiesByRef(
    [...namedBy.values()].map(({ property }) => property),
    how,
  );
  const rowsOf = new Map<string, EnrolmentRow[]>();
  const ids = [...new Set([...properties.values()].map(({ id }) => id))];
  for (let from = 0; from < ids.length; from += AT_ONCE)
    for (const row of await EnrolmentRow.findAll({
      where: { propertyId: ids.slice(from, from + AT_ONCE), endedAt: null },
      order: ['engine', 'reach', 'createdAt'],
    }))
      rowsOf.set(row.propertyId, [...(rowsOf.get(row.propertyId) ?? []), row]);
  const chosen = new Map<string, EnrolmentRow>();
  for (const ref of wanted) {
    const own = byId.get(ref);
    const one = namedBy.get(ref);
    const rows = own ? [own] : one ? fitting(desk, one, properties.get(one.property), rowsOf) : [];
    for (const row of rows) chosen.set(row.id, row);
  }
  return [...chosen.values()];
}

function fitting(
  { book }: WithBook,
  { at }: Named,
  property: PropertyRow | undefined,
  rowsOf: ReadonlyMap<string, readonly EnrolmentRow[]>,
): readonly EnrolmentRow[] {
  const rows = (rowsOf.get(property?.id ?? '') ?? []).filter(
    (row) =>
      at === null ||
      (row.engine === at.engine &&
        (at.which === null || isMeant(at.which, row.reach, row.target)) &&
        (at.accountId === null || row.accountId === at.accountId)),
  );
  if (rows.length > 0) return rows;
  const by = at?.which == null ? '' : ` by ${at.which}`;
  const where = at === null ? 'with any engine' : `with ${book.titleOf(at.engine)}${by}`;
  throw new Problem('no-such-enrolment', { property: property?.handle ?? '', where });
}
