import { Op } from 'sequelize';
import type { ReadingDifference } from '../../api/documents.js';
import { differenceOf } from '../../core/sitemap/set/difference.js';
import { Problem } from '../../api/problems.js';
import { ReadingRow } from '../../store/models/sitemaps.js';
import { findSitemap } from '../context/references.js';
import { keptSetOf } from './address-keeper.js';
import { viewLine } from './view.js';
import { writtenDay, writtenMinute } from '../../core/time/time-formats.js';

/** How many addresses of each kind are named when nobody says. */
const USUAL = 100;

/**
 * What came and what went between two readings of a sitemap. Throws Problem.
 * @param query readings by identifier or by day, such as `2026-11-12`, by which the last of that day is meant; the newest
 *   one, and the last before that held other addresses, where they are not named
 */
export async function compareReadings(
  ref: string,
  query: { from?: string; to?: string; limit?: number },
): Promise<ReadingDifference> {
  const sitemap = await findSitemap(ref);
  const to = await readingOf(sitemap.id, query.to, null);
  const from = await readingOf(sitemap.id, query.from, to);
  const [before, after] = await Promise.all([keptSetOf(sitemap.id, from.id), keptSetOf(sitemap.id, to.id)]);
  const missing = before === null ? from : after === null ? to : null;
  if (!before || !after)
    throw new Problem('addresses-not-kept', { at: missing ? writtenMinute(missing.at) : '' });
  const same = from.fingerprint != null && from.fingerprint === to.fingerprint;
  const difference = same
    ? { added: 0, removed: 0, addedFirst: [], removedFirst: [] }
    : await differenceOf(before, after, query.limit ?? USUAL);
  return {
    url: sitemap.url,
    from: viewLine(from),
    to: viewLine(to),
    added: difference.added,
    removed: difference.removed,
    addedFirst: [...difference.addedFirst],
    removedFirst: [...difference.removedFirst],
  };
}

/** A reading by name; without one the newest that could be read, or the newest before another. */
async function readingOf(
  sitemapId: string,
  named: string | undefined,
  before: ReadingRow | null,
): Promise<ReadingRow> {
  const readable = { sitemapId, kind: { [Op.ne]: null } };
  const order: [string, string][] = [['at', 'DESC']];
  if (named === undefined) {
    const earlier = before ? { at: { [Op.lt]: before.at } } : {};
    // What it held before it came to hold what it holds now says more than the same once more.
    const others = { fingerprint: { [Op.ne]: before?.fingerprint ?? '' } };
    const row =
      (before && (await ReadingRow.findOne({ where: { ...readable, ...earlier, ...others }, order }))) ??
      (await ReadingRow.findOne({ where: { ...readable, ...earlier }, order }));
    if (row) return row;
    if (before && before.times > 1)
      throw new Problem('always-the-same', {
        times: before.times,
        from: writtenMinute(before.firstAt ?? before.at),
        to: writtenMinute(before.at),
        count: before.addresses,
      });
    throw new Problem(before ? 'one-reading-only' : 'never-read');
  }
  const isDay = /^\d{4}-\d\d-\d\d$/u.test(named);
  const row = isDay
    ? await ReadingRow.findOne({
        where: { ...readable, at: { [Op.gte]: named }, firstAt: { [Op.lt]: `${named}U` } },
        order,
      })
    : await ReadingRow.findOne({ where: { ...readable, id: named } });
  if (row) return row;
  const all = await ReadingRow.findAll({ where: readable, attributes: ['at'], order, limit: 10 });
  throw new Problem('no-such-reading', {
    ref: named,
    known: all.map(({ at }) => writtenDay(at)).join(', ') || 'none yet',
  });
}
