import { MAX_ADDRESSES, MAX_BYTES, NAMESPACE, XHTML } from '../read/limits.js';
import { Hash } from '../set/hash.js';
import type { PageVideo } from './page-data.js';
import type { Frequency } from './recipe.js';

/** One entry as it is written. */
export interface Entry {
  readonly url: string;
  readonly lastmod: string | null;
  readonly priority?: number;
  readonly frequency?: Frequency;
  readonly images?: readonly string[];
  readonly videos?: readonly PageVideo[];
  readonly news?: NewsItem | null;
  readonly alternates?: readonly { readonly language: string; readonly url: string }[];
}

/** What the news extension wants of an article. */
export interface NewsItem {
  readonly name: string;
  readonly language: string;
  readonly published: string;
  readonly title: string;
}

/** The namespaces of the extensions, which are not the protocol's but of those who invented them. */
export interface Namespaces {
  readonly images: string;
  readonly videos: string;
  readonly news: string;
}

/** A file that is written. */
export interface WrittenFile {
  readonly name: string;
  readonly text: string;
  readonly entries: number;
}

/** The list of addresses of a version, as a text file by the protocol; kept to compare versions, and never carried. */
export const ADDRESSES = 'addresses.txt';

/**
 * How many entries a file has before it may end, and after how many it ends in any case. Between the two it ends where the hash of
 * an address says so, so that a page more or less touches one file and leaves the others as they are.
 */
const FEWEST = 10_000;
const MOST = MAX_ADDRESSES - 2_000;
/** One address in so many ends a file. */
const ENDS_AT = 8_192;
const FULLEST = MAX_BYTES - 1_000_000;

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';

/**
 * Writes a sitemap of entries that come in the order of their addresses, in files within the protocol's limits ("Sitemap file
 * limits", sitemaps.org protocol).
 */
export class SitemapWriter {
  private readonly hash = new Hash();
  private pieces: string[] = [];
  private bytes = 0;
  private entries = 0;
  private last = '';
  private first = '';
  private files = 0;
  private readonly open: string;

  /** @param most entries of a file, for tests */
  constructor(
    namespaces: Namespaces,
    private readonly give: (file: WrittenFile) => void,
    private readonly bounds = { fewest: FEWEST, most: MOST, endsAt: ENDS_AT, bytes: FULLEST },
  ) {
    const { images, videos, news } = namespaces;
    this.open = `${HEAD}<urlset xmlns="${NAMESPACE}" xmlns:xhtml="${XHTML}" xmlns:image="${escaped(images)}" xmlns:video="${escaped(videos)}" xmlns:news="${escaped(news)}">\n`;
  }

  add(entry: Entry): void {
    const text = entryText(entry);
    const bytes = Buffer.byteLength(text);
    if (this.entries > 0 && (this.endsBefore() || this.bytes + bytes > this.bounds.bytes)) this.finish();
    if (this.entries === 0) this.first = entry.url;
    this.pieces.push(text);
    this.bytes += bytes;
    this.entries += 1;
    this.last = entry.url;
  }

  /** @returns how many files there are */
  end(): number {
    if (this.entries > 0) this.finish();
    return this.files;
  }

  private endsBefore(): boolean {
    const { fewest, most, endsAt } = this.bounds;
    if (this.entries >= most) return true;
    return this.entries >= fewest && this.hash.of(this.last).low % endsAt === 0;
  }

  private finish(): void {
    const { high, low } = this.hash.of(this.first);
    const name = `${high.toString(16).padStart(8, '0')}${low.toString(16).padStart(8, '0')}`.slice(0, 10);
    const pieces = this.pieces.join('');
    const isPlain =
      !pieces.includes('<image:') &&
      !pieces.includes('<video:') &&
      !pieces.includes('<news:') &&
      !pieces.includes('<xhtml:');
    const open = isPlain ? `${HEAD}<urlset xmlns="${NAMESPACE}">\n` : this.open;
    this.give({ name: `sitemap-${name}.xml`, text: `${open}${pieces}</urlset>\n`, entries: this.entries });
    this.files += 1;
    this.pieces = [];
    this.bytes = 0;
    this.entries = 0;
  }
}

/** The index of several files. @param files by their whole addresses, with the day of the newest entry where it is known */
export function indexText(
  files: readonly { readonly url: string; readonly lastmod: string | null }[],
): string {
  const lines = files.map(
    ({ url, lastmod }) => `<sitemap><loc>${escaped(url)}</loc>${element('lastmod', lastmod)}</sitemap>\n`,
  );
  return `${HEAD}<sitemapindex xmlns="${NAMESPACE}">\n${lines.join('')}</sitemapindex>\n`;
}

function entryText(entry: Entry): string {
  const { url, lastmod, priority, frequency, images = [], videos = [], news = null, alternates = [] } = entry;
  return [
    `<url><loc>${escaped(url)}</loc>`,
    element('lastmod', lastmod),
    element('changefreq', frequency ?? null),
    element('priority', priority === undefined ? null : priority.toFixed(1)),
    ...alternates.map(
      (one) => `<xhtml:link rel="alternate" hreflang="${escaped(one.language)}" href="${escaped(one.url)}"/>`,
    ),
    ...images.map((one) => `<image:image><image:loc>${escaped(one)}</image:loc></image:image>`),
    ...videos.map(videoText),
    news === null ? '' : newsText(news),
    '</url>\n',
  ].join('');
}

function videoText({ thumbnail, title, description, content, player }: PageVideo): string {
  return [
    '<video:video>',
    element('video:thumbnail_loc', thumbnail),
    element('video:title', title),
    element('video:description', description),
    element('video:content_loc', content),
    element('video:player_loc', player),
    '</video:video>',
  ].join('');
}

function newsText({ name, language, published, title }: NewsItem): string {
  const publication = `<news:publication>${element('news:name', name)}${element('news:language', language)}</news:publication>`;
  return `<news:news>${publication}${element('news:publication_date', published)}${element('news:title', title)}</news:news>`;
}

function element(name: string, text: string | null): string {
  return text === null ? '' : `<${name}>${escaped(text)}</${name}>`;
}

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&apos;',
};

/** A text as XML 1.0 takes it (§2.4), without the signs that it knows none of (§2.2). */
export function escaped(text: string): string {
  return text
    .replace(/[^\t\n\r\x20-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/[&<>"']/gu, (sign) => ESCAPES[sign] ?? sign);
}
