import type { LeftOut, FoundBy } from '../../core/sitemap/make/frontier.js';
import type { PageKind } from '../../core/sitemap/make/recipe.js';
import type { PageVideo } from '../../core/sitemap/make/page-data.js';
import type { Store } from '../../store/store.js';

/** One address that a gathering is to look at. */
export interface Waiting {
  readonly seq: number;
  readonly url: string;
  readonly depth: number;
  readonly run: number;
  readonly foundBy: FoundBy;
}

/** One address as it is first written down. */
export interface NewPage extends Waiting {
  readonly state: 'waiting' | 'out';
  readonly why: LeftOut | null;
  readonly detail: string | null;
  readonly fromUrl: string | null;
}

/** What came of looking at it. */
export interface Looked extends Waiting {
  readonly state: 'in' | 'out';
  readonly why: LeftOut | null;
  readonly detail: string | null;
  readonly kind: PageKind | null;
  readonly folder: string;
  readonly title: string | null;
  readonly modified: string | null;
  readonly header: string | null;
  readonly seenAt: string | null;
  readonly face: string | null;
  /** JSON of `PageMore`. */
  readonly more: string | null;
}

/** What a page has for the extensions, and for the report. */
export interface PageMore {
  readonly images?: readonly string[];
  readonly videos?: readonly PageVideo[];
  readonly siblings?: readonly { readonly language: string; readonly url: string }[];
  readonly published?: string;
  readonly language?: string;
}

const SETTLED = [
  'state',
  'why',
  'detail',
  'kind',
  'folder',
  'title',
  'modified',
  'header',
  'seenAt',
  'face',
  'more',
] as const satisfies readonly (keyof Looked)[];
const COLUMNS = [
  'seq',
  'url',
  'depth',
  'run',
  'foundBy',
  ...SETTLED,
] as const satisfies readonly (keyof Looked)[];

/** Pages that are written down in one go, and how long they wait for that in milliseconds. */
const AT_ONCE = 250;
const LONGEST_MS = 1_500;

/** The addresses of one gathering, as they are on record: written in batches, so that a crash costs no more than a second or two. */
export class PageBook {
  private fresh: NewPage[] = [];
  private looked: Looked[] = [];
  private writing: Promise<void> = Promise.resolve();
  private writtenAt = performance.now();

  private constructor(
    private readonly store: Store,
    private readonly makingId: string,
    /** The number of the next address. */
    private next: number,
    /** Told of what has been used so far, with each batch. */
    private readonly alongside: () => {
      readonly ms: number;
      readonly bytes: number;
      readonly atOnce: number;
      readonly named: string;
    },
  ) {}

  static async open(store: Store, makingId: string, alongside: PageBook['alongside']): Promise<PageBook> {
    const [row] = await store.select<{ next: number | null }>(
      'SELECT max(seq) + 1 AS next FROM made_pages WHERE makingId = $makingId',
      { makingId },
    );
    return new PageBook(store, makingId, row?.next ?? 0, alongside);
  }

  /** Every address that is known, piece by piece. */
  async *known(): AsyncGenerator<string> {
    for (let from = -1; ;) {
      const rows = await this.store.select<{ seq: number; url: string }>(
        'SELECT seq, url FROM made_pages WHERE makingId = $makingId AND seq > $from ORDER BY seq LIMIT 5000',
        { makingId: this.makingId, from },
      );
      for (const { url } of rows) yield url;
      const last = rows.at(-1);
      if (!last) return;
      from = last.seq;
    }
  }

  async counts(): Promise<Record<string, number>> {
    const rows = await this.store.select<{ state: string; count: number }>(
      'SELECT state, count(*) AS count FROM made_pages WHERE makingId = $makingId GROUP BY state',
      { makingId: this.makingId },
    );
    return Object.fromEntries(rows.map(({ state, count }) => [state, count]));
  }

  add(page: Omit<NewPage, 'seq'>): void {
    this.fresh.push({ seq: this.next, ...page });
    this.next += 1;
  }

  end(page: Looked): void {
    this.looked.push(page);
  }

  /** Writes what waits to be written, where that is enough or has waited long enough. */
  async keepUp(): Promise<void> {
    const count = this.fresh.length + this.looked.length;
    if (count >= AT_ONCE || (count > 0 && performance.now() - this.writtenAt > LONGEST_MS))
      await this.flush();
  }

  /** Writes all that waits to be written. */
  flush(): Promise<void> {
    this.writing = this.writing.then(() => this.write());
    return this.writing;
  }

  private async write(): Promise<void> {
    const { fresh, looked, makingId } = this;
    this.fresh = [];
    this.looked = [];
    this.writtenAt = performance.now();
    if (fresh.length + looked.length === 0) return;
    await this.store.writeQuietly(async (transaction) => {
      await this.store.insert(
        'made_pages',
        fresh.map((page) => ({ makingId, ...page })),
        transaction,
      );
      // Written over what is there: an update from a list of rows is looked up row by row only this way.
      if (looked.length > 0)
        await this.store.run(
          `INSERT INTO made_pages (makingId, ${COLUMNS.join(', ')})
             SELECT $makingId, ${COLUMNS.map((column) => `value->>'${column}'`).join(', ')} FROM json_each($rows) WHERE true
             ON CONFLICT (makingId, seq) DO UPDATE SET ${SETTLED.map((column) => `${column} = excluded.${column}`).join(', ')}`,
          { makingId, rows: JSON.stringify(looked) },
          transaction,
        );
      await this.store.run(
        'UPDATE makings SET ms = $ms, bytes = $bytes, atOnce = $atOnce, named = $named WHERE id = $makingId',
        { makingId, ...this.alongside() },
        transaction,
      );
    });
  }

  /** The next addresses to look at, those nearest to the front door first. */
  async waiting(most: number): Promise<Waiting[]> {
    await this.flush();
    return this.store.select<Waiting>(
      `SELECT seq, url, depth, run, foundBy FROM made_pages INDEXED BY made_pages_next
         WHERE makingId = $makingId AND state = 'waiting' ORDER BY depth, seq LIMIT $most`,
      { makingId: this.makingId, most },
    );
  }
}
