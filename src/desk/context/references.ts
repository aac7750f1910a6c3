import { Op } from 'sequelize';
import { addressText } from '../../core/address/web-address.js';
import { readPaste } from '../../core/address/paste.js';
import { Problem } from '../../api/problems.js';
import { ClientRow, PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { SitemapRow } from '../../store/models/sitemaps.js';

/** A part of a text for LIKE, with LIKE's own signs taken as they are. */
export function part(text: string): string {
  return `%${text.replace(/[\\%_]/g, '\\$&')}%`;
}

/** A client by identifier or handle. Throws Problem. */
export async function findClient(ref: string): Promise<ClientRow> {
  const client = await ClientRow.findOne({
    where: { [Op.or]: [{ id: ref }, { handle: ref }], archivedAt: null },
  });
  if (client) return client;
  throw new Problem('no-such-client', { ref });
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
  if (how.exact === true)
    throw new Problem(
      'no-such-property',
      {
        ref,
        near: only
          ? `. Did you mean ${handles.join(', ')}? What changes something takes the whole handle or address.`
          : '.',
      },
      only ? { handles } : {},
    );
  if (only && near.length === 1) return only;
  if (!only) throw new Problem('no-such-property', { ref, near: ', nor a part of it.' });
  throw new Problem(
    'ambiguous',
    { ref, what: `${handles.join(', ')}${near.length > 5 ? ' and more' : ''}`, one: 'one of them' },
    { handles },
  );
}

/**
 * Enrolments by `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, identifier, or a property's reference for all of its enrolments.
 * Throws Problem when nothing fits.
 */
export async function findEnrolments(ref: string, how: HowToFind = {}): Promise<EnrolmentRow[]> {
  return findAllEnrolments([ref], how);
}

interface EnrolmentRef {
  readonly property: string;
  readonly engine: string | null;
  readonly reach: 'name' | 'address' | null;
}

function readEnrolmentRef(ref: string): EnrolmentRef {
  const at = ref.lastIndexOf('@');
  if (at === -1) return { property: ref, engine: null, reach: null };
  const [engine = '', reach] = ref.slice(at + 1).split(':');
  if (reach !== undefined && reach !== 'name' && reach !== 'address')
    throw new Problem('bad-reach', { reach });
  return { property: ref.slice(0, at), engine, reach: reach ?? null };
}

/** As `findEnrolments` for many, each once: a few queries, however many they are. Throws Problem for the first that fits nothing. */
export async function findAllEnrolments(
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
  const named = wanted.filter((ref) => !byId.has(ref)).map((ref) => ({ ref, ...readEnrolmentRef(ref) }));
  const properties = await propertiesByRef(
    named.map(({ property }) => property),
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
  const namedBy = new Map(named.map((one) => [one.ref, one]));
  for (const ref of wanted) {
    const own = byId.get(ref);
    const one = namedBy.get(ref);
    const rows = own ? [own] : one ? fitting(one, properties.get(one.property), rowsOf) : [];
    for (const row of rows) chosen.set(row.id, row);
  }
  return [...chosen.values()];
}

function fitting(
  { engine, reach }: EnrolmentRef,
  property: PropertyRow | undefined,
  rowsOf: ReadonlyMap<string, readonly EnrolmentRow[]>,
): readonly EnrolmentRow[] {
  const rows = (rowsOf.get(property?.id ?? '') ?? []).filter(
    (row) => (engine === null || row.engine === engine) && (reach === null || row.reach === reach),
  );
  if (rows.length > 0) return rows;
  const handle = property?.handle ?? '';
  const where = engine === null ? 'with any engine' : `with ${engine}${reach === null ? '' : ` by ${reach}`}`;
  throw new Problem('no-such-enrolment', { property: handle, where });
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
