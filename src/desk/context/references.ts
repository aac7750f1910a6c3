import { Op } from 'sequelize';
import { nearest } from '../../core/address/nearest.js';
import { addressText } from '../../core/address/web-address.js';
import { readPaste } from '../../core/address/paste.js';
import { Problem } from '../../api/problems.js';
import { PropertyRow } from '../../store/models/clients.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { has } from './matching.js';

export interface HowToFind {
  readonly archivedToo?: boolean;
  /**
   * Whether only a whole identifier, handle or address will do. What changes something takes no other: a part that names one
   * property today names another once that is gone.
   */
  readonly exact?: boolean;
}

export const EXACT: HowToFind = { exact: true };

/** Names that are gone through for the nearest to a slip; nobody has more of them. */
export const MOST_NAMES = 20_000;

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
export const AT_ONCE = 400;
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
export async function propertiesByRef(
  refs: readonly string[],
  how: HowToFind,
): Promise<Map<string, PropertyRow>> {
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
  const near = await PropertyRow.findAll({
    where: { [Op.or]: [has('handle', ref), has('address', ref)], ...alive(how) },
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
