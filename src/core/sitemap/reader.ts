import { NO_EXTENSIONS, type FileReading } from './reading.js';
import type { Beside } from './read/beside.js';
import { Entries } from './read/entries.js';
import { Faults } from './read/faults.js';
import { MAX_ADDRESSES } from './read/limits.js';
import { Lines } from './read/lines.js';
import { Markup } from './read/markup.js';

/** Characters by which markup, a page and plain text are told apart. */
const SNIFFED = 512;

/**
 * Reads one sitemap file piece by piece, at bounded memory: `write` the decoded text as it comes, then `end`.
 * What the file is, its beginning tells, never its name or type: markup, or plain text with an address a line.
 */
export class SitemapReader {
  private readonly faults: Faults;
  private readonly entries: Entries;
  private beginning = '';
  /** White space before anything else: whether there was some, and how many lines it took. */
  private isIndented = false;
  private linesBefore = 0;
  private form: Markup | Lines | null = null;
  private isOver = false;

  /**
   * @param url where the file was fetched; addresses are measured against its folder
   * @param now dates after that lie in the future
   * @param beside what the file is held against, as far as it is known
   * @param parserAlone whether nothing is read the quick way: so that the two can be held against each other
   */
  constructor(
    private readonly url: string,
    now: Date,
    beside: Beside = {},
    private readonly parserAlone = false,
  ) {
    this.faults = new Faults(url);
    this.entries = new Entries(url, this.faults, now, beside);
  }

  /** True once more input cannot change the result: the rest need not be fetched. */
  get finished(): boolean {
    return this.isOver || (this.form instanceof Markup && this.form.done);
  }

  write(piece: string): void {
    if (this.finished) return;
    if (this.form) this.form.write(piece);
    else {
      this.beginning += this.beginning === '' ? this.pastBlanks(piece) : piece;
      if (this.beginning.length >= SNIFFED) this.begin();
    }
  }

  end(): FileReading {
    if (!this.form && !this.isOver) this.begin();
    this.form?.end();
    this.entries.end();
    const markup = this.form instanceof Markup ? this.form : null;
    const kind = this.form instanceof Lines ? 'text' : (markup?.kind ?? null);
    if (kind !== null && this.entries.count === 0 && !this.faults.stopped) this.faults.give('sitemap.empty');
    return {
      kind,
      entries: this.entries.count,
      children: markup?.children ?? [],
      newestLastmod: this.entries.newestLastmod,
      extensions: markup?.extensions ?? NO_EXTENSIONS,
      onOtherHosts: this.entries.onOtherHosts,
      findings: this.faults.findings(),
    };
  }

  /** What is left of a piece without the white space before anything else: that is counted, and never held. */
  private pastBlanks(piece: string): string {
    const text = piece.replace(/^\ufeff/u, '');
    const rest = text.trimStart();
    const blanks = text.length - rest.length;
    if (blanks > 0) this.isIndented = true;
    for (let at = text.indexOf('\n'); at !== -1 && at < blanks; at = text.indexOf('\n', at + 1))
      this.linesBefore += 1;
    return rest;
  }

  /** Decides by the beginning what the file is, and hands it on. */
  private begin(): void {
    const seen = this.beginning;
    if (/^<(!doctype\s+html|html)\b/iu.test(pastComments(seen))) {
      this.faults.give('sitemap.page-instead');
      this.isOver = true;
      return;
    }
    const isMarkup = seen === '' || seen.startsWith('<');
    this.form = isMarkup ? new Markup(this.entries, this.faults, this.parserAlone) : this.lines(seen);
    // XML allows nothing before its declaration; most readers pass over white space there, and so do we.
    if (this.isIndented && seen.startsWith('<?xml')) this.faults.give('sitemap.space-before');
    this.form?.write(seen);
    this.beginning = '';
  }

  private lines(seen: string): Lines | null {
    if (/^(https?:\/\/|\/\S|[\w-]+(\.[\w-]+)+(\/|\s|$))/iu.test(seen))
      return new Lines(this.entries, this.linesBefore, () => {
        if (this.entries.count < MAX_ADDRESSES) return false;
        if (!this.isOver) this.faults.give('sitemap.too-many', { limit: MAX_ADDRESSES });
        this.isOver = true;
        return true;
      });
    this.faults.give('sitemap.not-a-sitemap', { url: this.url });
    this.isOver = true;
    return null;
  }
}

/** What stands behind the comments at the beginning; each is passed once, however many there are. */
function pastComments(text: string): string {
  let rest = text;
  while (rest.startsWith('<!--')) {
    const end = rest.indexOf('-->', 4);
    if (end < 0) return '';
    rest = rest.slice(end + 3).trimStart();
  }
  return rest;
}
