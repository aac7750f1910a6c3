import { setImmediate as breathe } from 'node:timers/promises';
import { Chooser, type Choice } from '../../core/sitemap/make/choose.js';
import type { DateSource, PageKind, Selection } from '../../core/sitemap/make/recipe.js';
import type { Store } from '../../store/store.js';
import type { Desk } from '../context/desk.js';

/** One page that was gathered, as it is on record. */
export interface GatheredRow {
  readonly url: string;
  readonly depth: number;
  readonly foundBy: string;
  readonly kind: PageKind;
  readonly folder: string;
  readonly title: string | null;
  readonly modified: string | null;
  readonly header: string | null;
  readonly seenAt: string | null;
  readonly more: string | null;
}

/** The pages that may go in, in the order of their addresses, so many at a time: none of a hundred thousand is held. */
const AT_ONCE = 2_000;

/** @param withMore whether what a page has for the extensions is wanted too: of most pages it is the larger part */
export async function* gathered(
  store: Store,
  makingId: string,
  withMore = false,
): AsyncGenerator<GatheredRow> {
  let from = '';
  for (;;) {
    const rows = await store.select<GatheredRow>(
      `SELECT url, depth, foundBy, kind, folder, title, modified, header, seenAt, ${withMore ? 'more' : 'NULL AS more'} FROM made_pages INDEXED BY made_pages_url
         WHERE makingId = $makingId AND url > $from AND state = 'in' ORDER BY url LIMIT ${String(AT_ONCE)}`,
      { makingId, from },
    );
    yield* rows;
    await breathe();
    const last = rows.at(-1);
    if (!last || rows.length < AT_ONCE) return;
    from = last.url;
  }
}

export function datesOf(
  row: Pick<GatheredRow, 'modified' | 'header' | 'seenAt'>,
): Partial<Record<DateSource, string>> {
  return {
    ...(row.modified === null ? {} : { page: row.modified }),
    ...(row.header === null ? {} : { header: row.header }),
    ...(row.seenAt === null ? {} : { seen: row.seenAt }),
  };
}

/** Of a first pass over all: what a single page cannot tell. */
export interface Overall {
  readonly chosen: number;
  readonly dated: number;
  /** The date that all of them have, where there are many and it is one: it says nothing, and is not written. */
  readonly alike: string | null;
  /** How many have it; 0 where there is no such date. */
  readonly manyAlike: number;
  /** Those that are left out since newer ones are enough; null where all are wanted. */
  readonly tooOld: ReadonlySet<string> | null;
}

/** Dates that are all the same say nothing; of fewer nobody would wonder. */
const MANY_DATES = 10;

/** Goes over all pages once. @param each is told of each page, and why it is left out */
export async function survey(
  desk: Desk,
  makingId: string,
  selection: Selection,
  each: (row: GatheredRow, against: Choice | null) => void = () => undefined,
): Promise<Overall> {
  const chooser = new Chooser(selection, desk.clock.now());
  const dates: { url: string; time: number }[] = [];
  let chosen = 0;
  let dated = 0;
  let first: string | null = null;
  let isVaried = false;
  for await (const row of gathered(desk.store, makingId)) {
    const against = chooser.against(row);
    each(row, against);
    if (against !== null) continue;
    chosen += 1;
    const date = chooser.changedAt({ dates: datesOf(row) });
    if (date !== null) {
      dated += 1;
      first ??= date;
      if (date !== first) isVaried = true;
    }
    if (selection.most !== null)
      dates.push({ url: row.url, time: date === null ? -Infinity : Date.parse(date) });
  }
  const alike = dated >= MANY_DATES && !isVaried ? first : null;
  const tooOld =
    selection.most === null || dates.length <= selection.most
      ? null
      : new Set(
          dates
            .sort((a, b) => b.time - a.time || (a.url < b.url ? -1 : 1))
            .slice(selection.most)
            .map(({ url }) => url),
        );
  return {
    chosen: chosen - (tooOld?.size ?? 0),
    dated: alike === null ? dated : 0,
    alike,
    manyAlike: alike === null ? 0 : dated,
    tooOld,
  };
}
