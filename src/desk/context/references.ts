import { col, fn, Op, where } from 'sequelize';
import {
  canBeMeant,
  isMeant,
  readEnrolmentRef,
  type EnrolmentRef,
} from '../../core/address/enrolment-name.js';
import { nearest } from '../../core/address/nearest.js';
import { addressText } from '../../core/address/web-address.js';
import { readPaste } from '../../core/address/paste.js';
import { Problem } from '../../api/problems.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { AccountRow } from '../../store/models/accounts.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import type { EngineBook } from '../engines/book.js';
import { engineIdOf } from './engine-ref.js';

/** A part of a text for LIKE, with LIKE's own signs taken as they are. */
export function part(text: string): string {
  return `%${text.replace(/[\\%_]/g, '\\$&')}%`;
}

export interface HowToFind {
  readonly archivedToo?: boolean;
  /**
   * Whether only a whole identifier, handle or address will do. What changes something takes no other: a part that names one
   * property today names another once that is gone.
   */
  readonly exact?: boolean;
}

export const EXACT: HowToFind = { exact: true };

/**
 * A client by identifier, handle or full name, in whatever case; where reading, also by a part of either that fits only one.
 * Throws Problem `no-such-client` with the nearest, or `ambiguous` with the handles that fit.
 */
export async function findClient(ref: string, how: HowToFind = {}): Promise<ClientRow> {
  const wanted = ref.trim();
  const alive = { archivedAt: how.archivedToo === true ? { [Op.or]: [null, { [Op.ne]: null }] } : null };
  const isWanted = (column: string) => where(fn('lower', col(column)), wanted.toLowerCase());
  const whole = await ClientRow.findAll({
    where: { [Op.or]: [{ id: wanted }, isWanted('handle'), isWanted('name')], ...alive },
    order: [['archivedAt', 'ASC'], 'handle'],
    limit: 6,
  });
  const exact = whole.find(({ id, handle }) => id === wanted || handle === wanted.toLowerCase()) ?? whole[0];
  if (exact && (exact.name.toLowerCase() !== wanted.toLowerCase() || whole.length === 1)) return exact;
  if (whole.length > 1) throw manyClients(ref, whole);
  const text = part(wanted.toLowerCase());
  const near = await ClientRow.findAll({
    where: { [Op.or]: [{ handle: { [Op.like]: text } }, { name: { [Op.like]: text } }], ...alive },
    order: ['handle'],
    limit: 6,
  });
  const [only, second] = near;
  if (only && !second && how.exact !== true) return only;
  if (second && how.exact !== true) throw manyClients(ref, near);
  throw new Problem('no-such-client', {
    ref,
    near: didYouMean(near.map(({ handle }) => handle)) ?? (await nearestClient(ref)),
  });
}

function manyClients(ref: string, some: readonly ClientRow[]): Problem {
  return new Problem(
    'ambiguous',
    {
      ref,
      what: `${some.map(({ handle, name }) => `${handle} (${name})`).join(', ')}${some.length > 5 ? ' and more' : ''}`,
      one: 'one of them',
    },
    { handles: some.map(({ handle }) => handle) },
  );
}

/** The end of a sentence that proposes what may have been meant; null where nothing is to be proposed. */
function didYouMean(names: readonly string[]): string | null {
  return names.length === 0 ? null : `. Did you mean ${names.join(', ')}?`;
}

/** Names that are gone through for the nearest to a slip; nobody has more of them. */
const MOST_NAMES = 20_000;

async function nearestClient(ref: string): Promise<string> {
  const rows = await ClientRow.findAll({
    where: { archivedAt: null },
    attributes: ['handle', 'name'],
    limit: MOST_NAMES,
    raw: true,
  });
  const near = nearest(
    ref,
    rows.flatMap(({ handle, name }) => [handle, name]),
  );
  return didYouMean(near === null ? [] : [near]) ?? '.';
}

async function nearestProperty(ref: string): Promise<string | null> {
  const rows = await PropertyRow.findAll({
    where: { archivedAt: null },
    attributes: ['handle', 'host'],
    limit: MOST_NAMES,
    raw: true,
  });
  return nearest(
    ref,
    rows.flatMap(({ handle, host }) => [handle, host]),
  );
}

/** References that are looked up in one query. */
const AT_ONCE = 400;
/** Parts of handles are searched for one by one; a list of more than these is none that a person wrote. */
const MOST_PARTS = 50;

/**
 * A property by identifier, handle, address, or a part of either that fits only one.
 * Throws Problem `no-such-property`, or `ambiguous` with the handles that fit.
 */
export async function findProperty(ref: string, how: HowToFind = {}): Promise<PropertyRow> {
  const [property] = await findProperties([ref], how);
  if (!property) throw new Error('a reference finds a property, or throws');
  return property;
}

/** As `findProperty` for many, in their order and each once: a few queries, however many they are. Throws Problem for the first that is not there. */
export async function findProperties(refs: readonly string[], how: HowToFind = {}): Promise<PropertyRow[]> {
  const found = await propertiesByRef(refs, how);
  return [...new Map([...found.values()].map((row) => [row.id, row])).values()];
}

/** The property of each reference, in their order. Throws Problem for the first that is not there. */
async function propertiesByRef(refs: readonly string[], how: HowToFind): Promise<Map<string, PropertyRow>> {
  const wanted = [...new Set(refs)];
  const found = new Map<string, PropertyRow>();
  await lookUp(wanted, ['id', 'handle'], how, found);
  const addresses = new Map<string, string>();
  for (const ref of wanted) {
    const paste = found.has(ref) ? null : readPaste(ref);
    if (paste?.kind === 'address') addresses.set(addressText(paste.address), ref);
  }
  const byAddress = new Map<string, PropertyRow>();
  await lookUp([...addresses.keys()], ['address'], how, byAddress);
  for (const [address, property] of byAddress) found.set(addresses.get(address) ?? address, property);
  const left = wanted.filter((ref) => !found.has(ref));
  if (left.length > MOST_PARTS && how.exact !== true)
    throw new Problem('no-such-properties', { count: left.length, first: left[0] ?? '' });
  for (const ref of left) found.set(ref, await findByPart(ref, how));
  return new Map(
    wanted.flatMap((ref) => {
      const row = found.get(ref);
      return row ? [[ref, row] as const] : [];
    }),
  );
}

/** Finds rows by the whole of one of their columns, and notes each under the reference that found it. */
async function lookUp(
  refs: readonly string[],
  columns: readonly ('id' | 'handle' | 'address')[],
  how: HowToFind,
  found: Map<string, PropertyRow>,
): Promise<void> {
  for (let from = 0; from < refs.length; from += AT_ONCE) {
    const some = refs.slice(from, from + AT_ONCE);
    const rows = await PropertyRow.findAll({
      where: { [Op.or]: columns.map((column) => ({ [column]: some })), ...alive(how) },
      // Of several under one address the one that is not archived counts, else the newest.
      order: [
        ['archivedAt', 'DESC'],
        ['createdAt', 'ASC'],
      ],
    });
    const asked = new Set(some);
    const isBetter = (one: PropertyRow, known: PropertyRow | undefined) =>
      !known || known.archivedAt != null || one.archivedAt == null;
    for (const row of rows)
      for (const column of columns)
        if (asked.has(row[column]) && isBetter(row, found.get(row[column]))) found.set(row[column], row);
  }
}

function alive(how: HowToFind): { archivedAt?: null } {
  return how.archivedToo === true ? {} : { archivedAt: null };
}

/** The one property whose handle or address a text is a part of. Throws Problem; always, where only the whole will do. */
async function findByPart(ref: string, how: HowToFind): Promise<PropertyRow> {
  const text = part(ref.toLowerCase());
  const near = await PropertyRow.findAll({
    where: { [Op.or]: [{ handle: { [Op.like]: text } }, { address: { [Op.like]: text } }], ...alive(how) },
    order: ['handle'],
    limit: 6,
  });
  const only = near[0];
  const handles = near.map(({ handle }) => handle);
  if (how.exact === true) {
    const meant = only ? handles : [await nearestProperty(ref)].flatMap((one) => one ?? []);
    const whole = only ? ' What changes something takes the whole handle or address.' : '';
    throw new Problem(
      'no-such-property',
      { ref, near: meant.length === 0 ? '.' : `. Did you mean ${meant.join(', ')}?${whole}` },
      meant.length === 0 ? {} : { handles: meant },
    );
  }
  if (only && near.length === 1) return only;
  if (!only) {
    const meant = await nearestProperty(ref);
    const near = meant === null ? ', nor a part of it.' : `, nor a part of it. Did you mean ${meant}?`;
    throw new Problem('no-such-property', { ref, near }, meant === null ? {} : { handles: [meant] });
  }
  throw new Problem(
    'ambiguous',
    { ref, what: `${handles.join(', ')}${near.length > 5 ? ' and more' : ''}`, one: 'one of them' },
    { handles },
  );
}

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

/** A sitemap by identifier or whole address. Throws Problem. */
export async function findSitemap(ref: string): Promise<SitemapRow> {
  const rows = await SitemapRow.findAll({ where: { [Op.or]: [{ id: ref }, { url: ref }] }, limit: 2 });
  const [only, second] = rows;
  if (only && !second) return only;
  if (!only) throw new Problem('no-such-sitemap', { ref });
  throw new Problem('ambiguous', {
    ref,
    what: 'sitemaps of more than one property',
    one: 'it by its identifier',
  });
}
