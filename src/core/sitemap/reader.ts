import { SaxesParser, type SaxesTagNS } from 'saxes';
import { folderOf } from '../address/web-address.js';
import { finding } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import type { FileReading, SitemapKind } from './reading.js';

/** Addresses in one file, and bytes of it unpacked, at most: sitemaps.org protocol, "Sitemap file limits". */
export const MAX_ADDRESSES = 50_000;
export const MAX_BYTES = 52_428_800;
export const NAMESPACE = 'http://www.sitemaps.org/schemas/sitemap/0.9';

const LONGEST_TEXT = 4096;
const SNIFFED = 512;
const ROOTS: Readonly<Record<string, SitemapKind>> = { urlset: 'urlset', sitemapindex: 'index' };

/** Thrown into the parser to leave it early; the finding is already noted. */
class Enough extends Error {}

/**
 * Reads one sitemap file piece by piece, at bounded memory: `write` the decoded text as it comes, then `end`.
 * Entities other than XML's own five are an error of form: no document type is ever expanded.
 */
export class SitemapReader {
  private readonly parser = new SaxesParser({ xmlns: true, position: true });
  private readonly folder: string;
  private readonly findings: Finding[] = [];
  private readonly children: string[] = [];
  /** The first characters, by which an HTML page is told. */
  private beginning = '';
  private kind: SitemapKind | null = null;
  private depth = 0;
  private entries = 0;
  private newest: string | null = null;
  private field: 'loc' | 'lastmod' | null = null;
  private text = '';
  private outside = { count: 0, first: '', line: 0 };
  private done = false;
  private rootNamespace = '';

  /** @param url where the file was fetched; addresses are measured against its folder (sitemaps.org, "Sitemap file location") */
  constructor(private readonly url: string) {
    const own = new URL(url);
    this.folder = own.origin + folderOf(own.pathname);
    this.parser.on('opentag', (tag) => {
      this.open(tag);
    });
    this.parser.on('closetag', () => {
      this.close();
    });
    this.parser.on('text', (text) => {
      this.take(text);
    });
    this.parser.on('cdata', (text) => {
      this.take(text);
    });
    this.parser.on('error', (error) => {
      this.malformed(error.message);
    });
  }

  /** True once more input cannot change the result: the rest need not be fetched. */
  get finished(): boolean {
    return this.done;
  }

  write(piece: string): void {
    if (this.beginning.length < SNIFFED) this.beginning += piece.slice(0, SNIFFED);
    this.guarded(() => {
      this.parser.write(piece);
    });
  }

  end(): FileReading {
    this.guarded(() => {
      this.parser.close();
    });
    if (this.kind !== null && this.entries === 0 && !this.stopped())
      this.findings.push(finding('sitemap.empty', { url: this.url }));
    if (this.outside.count > 0) {
      const { count, first, line } = this.outside;
      this.findings.push(
        finding('sitemap.outside', { url: this.url, folder: this.folder, count, first, line }),
      );
    }
    return {
      kind: this.kind,
      entries: this.entries,
      children: this.children,
      newestLastmod: this.newest,
      findings: this.findings,
    };
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

  private stopped(): boolean {
    return this.findings.some((one) => one.grade === 'stops');
  }

  private give(code: Parameters<typeof finding>[0], values: Parameters<typeof finding>[1]): never {
    this.findings.push(finding(code, { url: this.url, ...values }));
    throw new Enough(code);
  }

  private malformed(message: string): never {
    const detail = excerpt(message.replace(/^\d+:\d+: /, ''));
    if (this.kind === null && /^\s*<(!doctype\s+html|html)\b/i.test(this.beginning))
      return this.give('sitemap.page-instead', {});
    return this.give('sitemap.not-well-formed', {
      line: this.parser.line,
      column: this.parser.column,
      detail,
    });
  }

  private open(tag: SaxesTagNS): void {
    this.depth += 1;
    this.field = null;
    if (this.depth === 1) this.openRoot(tag);
    if (
      this.depth === 3 &&
      (tag.local === 'loc' || tag.local === 'lastmod') &&
      tag.uri === this.rootNamespace
    ) {
      this.field = tag.local;
      this.text = '';
    }
  }

  private openRoot(tag: SaxesTagNS): void {
    if (tag.local.toLowerCase() === 'html') this.give('sitemap.page-instead', {});
    this.kind = ROOTS[tag.local] ?? this.give('sitemap.wrong-root', { root: excerpt(tag.name, 40) });
    this.rootNamespace = tag.uri;
    if (tag.uri !== NAMESPACE) {
      this.findings.push(
        finding('sitemap.wrong-namespace', { url: this.url, found: excerpt(tag.uri) || 'none' }),
      );
    }
  }

  private take(text: string): void {
    if (this.field !== null && this.text.length < LONGEST_TEXT) this.text += text;
  }

  private close(): void {
    this.depth -= 1;
    if (this.field === 'loc') this.enter(this.text.trim());
    if (this.field === 'lastmod') this.date(this.text.trim());
    this.field = null;
  }

  private enter(location: string): void {
    this.entries += 1;
    if (this.entries > MAX_ADDRESSES) {
      this.entries = MAX_ADDRESSES;
      this.give('sitemap.too-many', { limit: MAX_ADDRESSES });
    }
    if (this.kind === 'index') this.children.push(location);
    else if (!location.startsWith(this.folder)) {
      this.outside.count += 1;
      if (this.outside.count === 1)
        this.outside = { count: 1, first: excerpt(location), line: this.parser.line };
    }
  }

  private date(text: string): void {
    if (!/^\d{4}/.test(text)) return;
    if (this.newest === null || Date.parse(text) > Date.parse(this.newest)) this.newest = text;
  }
}
