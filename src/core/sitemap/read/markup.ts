import { SaxesParser, type SaxesTagNS } from 'saxes';
import { excerpt } from '../../findings/excerpt.js';
import type { Extensions, SitemapKind } from '../reading.js';
import type { Entries } from './entries.js';
import type { Faults, Position } from './faults.js';
import { ATOM, MAX_ADDRESSES, NAMESPACE, XHTML } from './limits.js';

const LONGEST_TEXT = 4_096;
/** No sitemap nests as deep, nor has an element as many attributes: the parser looks through all of them for each name. */
const DEEPEST = 64;
const MOST_ATTRIBUTES = 256;
/** Letters without any element between them: the parser holds them all. */
const LONGEST_RUN = 2_000_000;
const ROOTS: ReadonlyMap<string, SitemapKind> = new Map([
  ['urlset', 'urlset'],
  ['sitemapindex', 'index'],
  ['rss', 'rss'],
  ['feed', 'atom'],
]);
/** How deep the fields of an entry stand. */
const DEPTH: Readonly<Record<SitemapKind, number>> = { urlset: 3, index: 3, rss: 4, atom: 3, text: 0 };
const FIELDS: Readonly<Record<SitemapKind, ReadonlySet<string>>> = {
  urlset: new Set(['loc', 'lastmod', 'priority', 'changefreq']),
  index: new Set(['loc', 'lastmod']),
  rss: new Set(['link', 'pubDate']),
  atom: new Set(['updated']),
  text: new Set(),
};
const ENTRY: Readonly<Record<SitemapKind, string>> = {
  urlset: 'url',
  index: 'sitemap',
  rss: 'item',
  atom: 'entry',
  text: '',
};

/** Thrown into the parser to leave it early; the finding is already noted. */
class Enough extends Error {}

/**
 * A sitemap in XML: urlset, index, RSS 2.0 or Atom (RFC 4287). Entities other than XML's own five are an error of form:
 * no document type is ever expanded.
 */
export class Markup {
  private readonly parser = new SaxesParser({ xmlns: true, position: true });
  private depth = 0;
  private attributes = 0;
  private run = 0;
  private rootNamespace = '';
  private field: string | null = null;
  private text = '';
  private hasLocation = false;
  /** What is looked for, by the kind of the root. */
  private fieldDepth = 0;
  private fields = FIELDS.text;
  private entryName = '';
  /** Where the newest element begins. */
  private openedLine = 1;
  private openedColumn = 1;
  private counts = { images: 0, videos: 0, news: 0, alternates: 0 };
  kind: SitemapKind | null = null;
  readonly children: string[] = [];
  done = false;

  constructor(
    private readonly entries: Entries,
    private readonly faults: Faults,
  ) {
    this.parser.on('opentagstart', () => {
      this.attributes = 0;
      this.run = 0;
      if (this.depth >= DEEPEST) this.stop('sitemap.too-deep', { line: this.parser.line, limit: DEEPEST });
    });
    this.parser.on('attribute', () => {
      this.attributes += 1;
      if (this.attributes > MOST_ATTRIBUTES)
        this.stop('sitemap.too-deep', { line: this.parser.line, limit: DEEPEST });
    });
    this.parser.on('opentag', (tag) => {
      this.open(tag);
    });
    this.parser.on('closetag', (tag) => {
      this.close(tag.local);
    });
    this.parser.on('text', (text) => {
      this.take(text);
    });
    this.parser.on('cdata', (text) => {
      this.take(text);
    });
    this.parser.on('doctype', (text) => {
      if (/<!ENTITY/iu.test(text)) this.stop('sitemap.entities');
    });
    this.parser.on('error', (error) => {
      this.malformed(error.message.replace(/^\d+:\d+: /, ''));
    });
  }

  get extensions(): Extensions {
    return { ...this.counts };
  }

  write(piece: string): void {
    this.guarded(() => {
      this.run += piece.length;
      this.parser.write(piece);
      if (this.run > LONGEST_RUN) this.stop('sitemap.too-heavy', { what: 'text without any element' });
    });
  }

  end(): void {
    this.guarded(() => {
      this.parser.close();
    });
  }

  private guarded(step: () => void): void {
    if (this.done) return;
    try {
      step();
    } catch (error) {
      this.done = true;
      if (!(error instanceof Enough)) throw error;
    }
  }

  /** Where the parser is: read when it is needed, which is seldom. */
  private get position(): Position {
    return this.parser;
  }

  private stop(code: Parameters<Faults['give']>[0], values: Parameters<Faults['give']>[1] = {}): never {
    this.faults.give(code, values);
    throw new Enough(code);
  }

  /**
   * An error of form, with the place to look at. A bare “&” makes the parser read on to the next “;” or the end: the element
   * that was opened last is where it stands.
   */
  private malformed(message: string): never {
    const isEntity = /entity|character reference/iu.test(message);
    const isOpenField = message.startsWith('unclosed tag') && this.field !== null;
    if (!isEntity && !isOpenField)
      return this.stop('sitemap.not-well-formed', {
        line: this.parser.line,
        column: this.parser.column,
        detail: excerpt(message),
      });
    const detail = `${isEntity ? '' : `<${this.field ?? ''}> does not end; most often there is `}an “&” that is not written as &amp;`;
    return this.stop('sitemap.not-well-formed', { line: this.openedLine, column: this.openedColumn, detail });
  }

  private open(tag: SaxesTagNS): void {
    this.openedLine = this.parser.line;
    this.openedColumn = this.parser.columnIndex;
    this.depth += 1;
    this.field = null;
    if (this.depth === 1) {
      this.openRoot(tag);
      return;
    }
    const { fieldDepth, depth } = this;
    if (depth < fieldDepth - 1) return;
    const { local, uri } = tag;
    if (uri !== this.rootNamespace) {
      if (depth >= fieldDepth) this.extension(local, uri);
    } else if (depth === fieldDepth) {
      if (this.kind === 'atom' && local === 'link') this.atomLink(tag);
      else if (this.fields.has(local)) {
        this.field = local;
        this.text = '';
      }
    } else if (depth === fieldDepth - 1 && local === this.entryName) this.hasLocation = false;
  }

  private openRoot(tag: SaxesTagNS): void {
    if (tag.local.toLowerCase() === 'html') this.stop('sitemap.page-instead');
    this.kind = ROOTS.get(tag.local) ?? this.stop('sitemap.wrong-root', { root: excerpt(tag.name, 40) });
    this.rootNamespace = tag.uri;
    this.fieldDepth = DEPTH[this.kind];
    this.fields = FIELDS[this.kind];
    this.entryName = ENTRY[this.kind];
    const wanted = this.kind === 'atom' ? ATOM : this.kind === 'rss' ? '' : NAMESPACE;
    if (tag.uri !== wanted)
      this.faults.give('sitemap.wrong-namespace', {
        found: excerpt(tag.uri) || 'none',
        wanted: wanted || 'none',
      });
  }

  /** Elements of other namespaces inside an entry: what they are is told by their names, whose owners are many. */
  private extension(local: string, uri: string): void {
    if (uri === XHTML && local === 'link') this.counts.alternates += 1;
    else if (this.depth === 3) {
      if (local === 'image') this.counts.images += 1;
      else if (local === 'video') this.counts.videos += 1;
      else if (local === 'news') this.counts.news += 1;
    }
  }

  /** The address of an Atom entry is that of its alternate link (RFC 4287 §4.2.7). */
  private atomLink({ attributes }: SaxesTagNS): void {
    const value = (name: string) => attributes[name]?.value;
    if (this.hasLocation || (value('rel') ?? 'alternate') !== 'alternate') return;
    this.enter((value('href') ?? '').trim());
  }

  private take(text: string): void {
    if (this.field !== null && this.text.length < LONGEST_TEXT) this.text += text;
  }

  private close(local: string): void {
    const { field } = this;
    if (field !== null) this.settle(field, this.text.trim());
    else if (!this.hasLocation && this.depth === this.fieldDepth - 1 && local === this.entryName)
      this.faults.fold('sitemap.no-location', `<${local}>`, this.position);
    this.depth -= 1;
    this.field = null;
  }

  private settle(field: string, text: string): void {
    const at = this.position;
    switch (field) {
      case 'loc':
      case 'link':
        this.enter(text);
        return;
      case 'lastmod':
      case 'updated':
        this.entries.lastmod(text, at);
        return;
      case 'pubDate': {
        // RFC 822 as RSS 2.0 has it, which the language's own reading of dates takes.
        const time = /^(\w{3}, )?\d{1,2} \w{3} \d{2,4} /u.test(text) ? Date.parse(text) : NaN;
        if (Number.isNaN(time)) this.faults.fold('sitemap.bad-date', text, at);
        else this.entries.date(text, time, at);
        return;
      }
      case 'priority':
        this.entries.priority(text, at);
        return;
      case 'changefreq':
        this.entries.frequency(text, at);
    }
  }

  private enter(location: string): void {
    if (this.entries.count >= MAX_ADDRESSES) this.stop('sitemap.too-many', { limit: MAX_ADDRESSES });
    this.hasLocation = true;
    const at = this.position;
    if (this.kind === 'index') {
      this.entries.child(location, at);
      this.children.push(location);
    } else this.entries.address(location, at);
  }
}
