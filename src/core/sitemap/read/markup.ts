import { SaxesParser, type SaxesTagNS } from 'saxes';
import { excerpt } from '../../findings/excerpt.js';
import type { Extensions, SitemapKind } from '../reading.js';
import type { Entries } from './entries.js';
import type { Faults } from './faults.js';
import { Enough, Fields, stop } from './fields.js';
import { ATOM, NAMESPACE, XHTML } from './limits.js';
import { PositionTracker } from './parser-position.js';
import { QuickWay } from './quick-way.js';

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
  ['RDF', 'rss'],
]);
/** RSS 1.0 (https://web.resource.org/rss/1.0/spec): its items stand beside the channel, in a root of RDF. */
const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const RSS_1 = 'http://purl.org/rss/1.0/';
/** Entities of its own that a file may have: of more the names are unknown. */
const MOST_ENTITIES = 200;
/** Entities that XML itself has (XML 1.0 §4.6), and names that are none. */
const OWN_ENTITIES = new Set(['amp', 'lt', 'gt', 'quot', 'apos', '__proto__']);
/** How deep the fields of an entry stand. */
const DEPTH: Readonly<Record<SitemapKind, number>> = { urlset: 3, index: 3, rss: 4, atom: 3, text: 0 };
const ENTRY: Readonly<Record<SitemapKind, string>> = {
  urlset: 'url',
  index: 'sitemap',
  rss: 'item',
  atom: 'entry',
  text: '',
};

/** Kinds whose entries have a common form. */
const COMMON: readonly SitemapKind[] = ['urlset', 'index'];
/** A root behind more tags, comments and the like than this is none of the common form. */
const MOST_BEFORE_ROOT = 32;
/** Nor is an entry of more letters. */
const LONGEST_ENTRY = 16_384;
/** After so many entries in a row that take a parser, it reads on as far as there is something to read. */
const ODD_IN_A_ROW = 4;

/**
 * A sitemap in XML: urlset, index, RSS 2.0 or 1.0, or Atom (RFC 4287). Of entities only XML's own five are expanded.
 *
 * The parser reads as far as the root. Entries of the common form behind it are read without the parser; whatever else there is, it
 * reads from the very place where that stands, and what follows is read the quick way again. What is found, and where, is the same.
 */
export class Markup {
  private readonly parser = new SaxesParser({ xmlns: true, position: true });
  private readonly place = new PositionTracker(this.parser);
  /** How entries are read without the parser; null where there is no such way, and the parser reads all of it. */
  private quick: QuickWay | null = null;
  private isQuick = false;
  /** What has come of the next entry while they are read the quick way. */
  private rest = '';
  private beforeRoot = 0;
  private oddInARow = 0;
  /** How far the parser reads of a text before the quick way is tried again. */
  private parseTo = 0;
  /** Letters that the parser was given, and how many it had read when it stood between two entries. */
  private fed = 0;
  private betweenAt = -1;
  private depth = 0;
  private attributes = 0;
  private run = 0;
  private rootNamespace = '';
  private field: string | null = null;
  private text = '';
  private readonly fields: Fields;
  /** What is looked for, by the kind of the root. */
  private fieldDepth = 0;
  private entryName = '';
  /** Whether the parser stands within an entry. */
  private isInEntry = false;
  /** Where the newest element begins. */
  private openedLine = 1;
  private openedColumn = 1;
  private counts = { images: 0, videos: 0, news: 0, alternates: 0 };
  done = false;

  constructor(
    private readonly entries: Entries,
    private readonly faults: Faults,
    /** Whether nothing is read the quick way. */
    private readonly parserAlone = false,
  ) {
    this.fields = new Fields(entries, faults);
    this.parser.on('opentagstart', () => {
      this.attributes = 0;
      this.run = 0;
      if (this.depth >= DEEPEST) this.stop('sitemap.too-deep', { line: this.place.line, limit: DEEPEST });
    });
    this.parser.on('attribute', () => {
      this.attributes += 1;
      if (this.attributes > MOST_ATTRIBUTES)
        this.stop('sitemap.too-deep', { line: this.place.line, limit: DEEPEST });
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
      this.leaveEntities(text);
    });
    this.parser.on('error', (error) => {
      this.malformed(error.message.replace(/^\d+:\d+: /, ''));
    });
  }

  /** Entities of the file's own stay as they are written: none is ever expanded, and what they stand for is not looked at. */
  private leaveEntities(doctype: string): void {
    const names = [...doctype.matchAll(/<!ENTITY\s+([A-Za-z_][\w.-]{0,100})\s/gu)]
      .slice(0, MOST_ENTITIES)
      .flatMap(([, name = '']) => (OWN_ENTITIES.has(name) ? [] : [name]));
    if (/<!ENTITY/iu.test(doctype)) this.faults.give('sitemap.entities');
    for (const name of names) this.parser.ENTITIES[name] = `&${name};`;
  }

  get extensions(): Extensions {
    return { ...this.counts };
  }

  get kind(): SitemapKind | null {
    return this.fields.kind;
  }

  get children(): string[] {
    return this.fields.children;
  }

  write(piece: string): void {
    this.guarded(() => {
      const text = this.rest + piece;
      this.rest = '';
      this.quick?.anew();
      if (this.isQuick) this.place.quick(text, 0, this.fed);
      for (let at = 0; at < text.length;) at = this.isQuick ? this.quickly(text, at) : this.parse(text, at);
    });
  }

  end(): void {
    this.guarded(() => {
      if (this.isQuick) {
        this.place.quick(this.rest, 0, this.fed);
        this.takeOver(0);
      }
      this.feed(this.rest);
      this.parser.close();
    });
  }

  /** Has the parser read a part of a text. @returns how far it is read */
  private parse(text: string, at: number): number {
    const to = this.nextStop(text, at);
    this.feed(text.slice(at, to));
    if (this.quick && this.depth === 1 && this.betweenAt === this.fed) {
      this.isQuick = true;
      this.place.quick(text, to, this.fed);
    }
    return to;
  }

  /** Where the parser may stand between two entries for the first time, or behind the root. */
  private nextStop(text: string, at: number): number {
    if (this.parseTo > at) return this.parseTo;
    if (this.quick) return behind(text, this.quick.close, at);
    if (this.kind !== null || this.beforeRoot >= MOST_BEFORE_ROOT) return text.length;
    this.beforeRoot += 1;
    return behind(text, '>', at);
  }

  private feed(text: string): void {
    this.fed += text.length;
    this.run += text.length;
    this.parser.write(text);
    if (this.run > LONGEST_RUN) this.stop('sitemap.too-heavy', { what: 'text without any element' });
  }

  /** Reads entries without the parser, as far as that goes. @returns how far the text is read, or waits for more */
  private quickly(text: string, from: number): number {
    const { quick, place } = this;
    if (!quick) throw new Error('without the parser only entries are read that have another way');
    const { at, whole, opened } = quick.read(text, from);
    if (opened >= 0) {
      this.run = 0;
      this.oddInARow = 0;
      this.openedAt(place.at(opened));
    }
    place.at(at);
    const isOdd = at < whole;
    if (!isOdd && text.length - at <= LONGEST_ENTRY) {
      this.rest = text.slice(at);
      return text.length;
    }
    this.takeOver(at);
    this.oddInARow += 1;
    const isMany = this.oddInARow > ODD_IN_A_ROW;
    this.parseTo = isMany ? Math.max(whole, at) : 0;
    if (isMany) this.oddInARow = 0;
    return at;
  }

  /** From a place of the text that was read the quick way on the parser reads. */
  private takeOver(at: number): void {
    this.place.at(at).parsed(this.fed);
    this.isQuick = false;
    this.parseTo = 0;
  }

  private openedAt({ line, columnIndex }: PositionTracker): void {
    this.openedLine = line;
    this.openedColumn = columnIndex;
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

  private stop(...given: [Parameters<Faults['give']>[0], Parameters<Faults['give']>[1]?]): never {
    return stop(this.faults, ...given);
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
        line: this.place.line,
        column: this.place.column,
        detail: excerpt(message),
      });
    const detail = `${isEntity ? '' : `<${this.field ?? ''}> does not end; most often there is `}an “&” that is not written as &amp;`;
    return this.stop('sitemap.not-well-formed', { line: this.openedLine, column: this.openedColumn, detail });
  }

  private open(tag: SaxesTagNS): void {
    this.openedAt(this.place);
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
      // Of a feed the channel, its image and its field for text have links of their own.
      if (this.kind === 'rss' && !this.isInEntry) return;
      if (this.kind === 'atom' && local === 'link') this.atomLink(tag);
      else if (this.fields.has(local)) {
        this.field = local;
        this.text = '';
      }
    } else if (depth === fieldDepth - 1 && local === this.entryName) {
      this.isInEntry = true;
      this.fields.begins();
    }
  }

  private openRoot(tag: SaxesTagNS): void {
    if (tag.local.toLowerCase() === 'html') this.stop('sitemap.page-instead');
    const isRdf = tag.uri === RDF;
    const kind = (tag.local === 'RDF') === isRdf ? ROOTS.get(tag.local) : undefined;
    if (kind === undefined) this.stop('sitemap.wrong-root', { root: excerpt(tag.name, 40) });
    this.fields.of(kind);
    this.rootNamespace = isRdf ? RSS_1 : tag.uri;
    this.fieldDepth = isRdf ? DEPTH.rss - 1 : DEPTH[kind];
    this.entryName = ENTRY[kind];
    this.betweenAt = this.parser.position;
    if (!this.parserAlone && COMMON.includes(kind) && tag.prefix === '') {
      const folder = kind === 'urlset' ? this.entries.folder : null;
      this.quick = new QuickWay(this.entryName, folder, this.fields, this.place);
    }
    const wanted = isRdf ? RDF : kind === 'atom' ? ATOM : kind === 'rss' ? '' : NAMESPACE;
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
    if (this.fields.hasLocation || (value('rel') ?? 'alternate') !== 'alternate') return;
    this.fields.enter((value('href') ?? '').trim(), this.place);
  }

  private take(text: string): void {
    if (this.field !== null && this.text.length < LONGEST_TEXT) this.text += text;
  }

  private close(local: string): void {
    const { field } = this;
    if (field !== null) this.fields.settle(field, this.text.trim(), this.place);
    else if (
      !this.fields.hasLocation &&
      this.depth === this.fieldDepth - 1 &&
      local === this.entryName &&
      (this.kind !== 'rss' || this.isInEntry)
    )
      this.faults.fold('sitemap.no-location', `<${local}>`, this.place);
    if (this.depth < this.fieldDepth) this.isInEntry = false;
    this.depth -= 1;
    this.run = 0;
    this.field = null;
    this.betweenAt = this.parser.position;
  }
}

/** Behind the next of some letters, or behind all of a text. */
function behind(text: string, letters: string, at: number): number {
  const found = text.indexOf(letters, at);
  return found === -1 ? text.length : found + letters.length;
}
