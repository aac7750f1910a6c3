import { attribute, type Element } from '../../html/tree.js';
import { resolved } from '../../html/client-redirect.js';

/** A video as the video extension wants it: without any of these it is none. */
export interface PageVideo {
  readonly thumbnail: string;
  readonly title: string;
  readonly description: string;
  readonly content: string | null;
  readonly player: string | null;
}

/** What a page says of itself in the forms that machines read: JSON-LD, OpenGraph, `time`. */
export interface PageData {
  /** When it was changed and published, by its own word; RFC 3339 or a plain day. */
  readonly modified: string | null;
  readonly published: string | null;
  readonly isArticle: boolean;
  readonly isProduct: boolean;
  readonly videos: readonly PageVideo[];
}

/** Letters of JSON-LD, values in it and levels of it that are looked through. */
const LONGEST_JSON = 200_000;
const MOST_VALUES = 2_000;
const MOST_VIDEOS = 50;
const W3C_DATE = /^\d{4}-\d\d-\d\d(T\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:?\d\d))?$/u;
const ARTICLES = /^(\w*Article|\w*Posting|Report)$/u;

/**
 * @param metas elements of the kinds `meta` and `link`
 * @param others of the kinds `time`, `video`, `source`
 * @param texts JSON-LD as it is written
 */
export function readData(given: {
  readonly metas: readonly Element[];
  readonly others: readonly Element[];
  readonly texts: readonly string[];
  readonly base: string;
}): PageData {
  const things = given.texts.flatMap(thingsIn);
  const typed = (pattern: RegExp) => things.filter((one) => typesOf(one).some((type) => pattern.test(type)));
  const articles = typed(ARTICLES);
  const property = (name: string) =>
    given.metas.find(
      (one) =>
        attribute(one, 'property')?.toLowerCase() === name || attribute(one, 'name')?.toLowerCase() === name,
    );
  const meta = (name: string) => {
    const found = property(name);
    return found ? attribute(found, 'content') : null;
  };
  const own = [...articles, ...typed(/Page$/u), ...typed(/^Product$/u)];
  const times = given.others
    .filter((one) => one.tagName === 'time')
    .map((one) => ({
      date: dateIn(attribute(one, 'datetime')),
      use: attribute(one, 'itemprop') ?? attribute(one, 'class') ?? '',
    }));
  const timeFor = (use: RegExp) => times.find((one) => use.test(one.use) && one.date !== null)?.date ?? null;
  const published =
    first(own, 'datePublished') ??
    dateIn(meta('article:published_time')) ??
    timeFor(/datePublished|published/u);
  return {
    modified:
      first(own, 'dateModified') ??
      dateIn(meta('article:modified_time')) ??
      dateIn(meta('og:updated_time')) ??
      timeFor(/dateModified|updated/u) ??
      published,
    published,
    isArticle: articles.length > 0 || meta('og:type')?.toLowerCase() === 'article',
    isProduct: typed(/^Product$/u).length > 0 || meta('og:type')?.toLowerCase() === 'product',
    videos: typed(/^VideoObject$/u)
      .flatMap((one) => videoOf(one, given.base))
      .slice(0, MOST_VIDEOS),
  };
}

type Thing = Readonly<Record<string, unknown>>;

/** The things that a text of JSON-LD describes, wherever they stand in it; none of one that cannot be read. */
function thingsIn(text: string): Thing[] {
  if (text.length > LONGEST_JSON) return [];
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return [];
  }
  const found: Thing[] = [];
  const open: unknown[] = [parsed];
  for (let count = 0; open.length > 0 && count < MOST_VALUES; count += 1) {
    const value = open.shift();
    if (Array.isArray(value)) open.push(...value.slice(0, MOST_VALUES));
    else if (typeof value === 'object' && value !== null) {
      if ('@type' in value) found.push(value as Thing);
      open.push(
        ...Object.values(value)
          .filter((one) => typeof one === 'object')
          .slice(0, MOST_VALUES),
      );
    }
  }
  return found;
}

function typesOf(thing: Thing): string[] {
  const type = thing['@type'];
  const all: unknown[] = Array.isArray(type) ? type : [type];
  return all
    .filter((one) => typeof one === 'string')
    .map((one) => one.replace(/^https?:\/\/schema\.org\//u, ''));
}

function first(things: readonly Thing[], key: string): string | null {
  for (const thing of things) {
    const value = thing[key];
    const date = typeof value === 'string' ? dateIn(value) : null;
    if (date !== null) return date;
  }
  return null;
}

/** A date as the protocol takes it (W3C Date and Time Formats): RFC 3339 with a zone, or a day. A time without a zone is known to the day. */
export function dateIn(text: string | null): string | null {
  const trimmed = text?.trim() ?? '';
  const date = W3C_DATE.test(trimmed)
    ? trimmed.replace(/([+-]\d\d)(\d\d)$/u, '$1:$2')
    : /^\d{4}-\d\d-\d\d(?=[T ])/u.exec(trimmed)?.[0];
  return date === undefined || Number.isNaN(Date.parse(date)) ? null : date;
}

function videoOf(thing: Thing, base: string): PageVideo[] {
  const text = (key: string): string | null => {
    const value: unknown = Array.isArray(thing[key]) ? (thing[key] as unknown[])[0] : thing[key];
    return typeof value === 'string' && value.trim() !== '' ? value.trim() : null;
  };
  const thumbnail = resolved(text('thumbnailUrl'), base);
  const title = text('name');
  const description = text('description');
  const content = resolved(text('contentUrl'), base);
  const player = resolved(text('embedUrl'), base);
  if (thumbnail === null || title === null || description === null || (content === null && player === null))
    return [];
  return [
    { thumbnail, title: title.slice(0, 100), description: description.slice(0, 2_048), content, player },
  ];
}
