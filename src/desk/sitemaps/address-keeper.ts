import type { Transaction } from 'sequelize';
import type { KeptSet } from '../../core/sitemap/set/difference.js';
import { namesIn, namesTogether, unpackChunk, type CutAddresses } from '../../readers/address-chunks.js';
import type { Store } from '../../store/store.js';
import { AddressChunkRow, ReadingSetRow } from '../../store/models/reading-sets.js';
import type { Keeper } from './read-whole.js';
import { ReadingRow } from '../../store/models/sitemaps.js';

/** Chunks that are written at a time. */
const AT_ONCE = 200;

/**
 * Keeps the addresses of one reading, in chunks that readings of the same sitemap share: what did not change costs
 * nothing but the chunk's name.
 */
export class AddressKeeper implements Keeper {
  private readonly names: string[] = [];
  private count = 0;
  private last = Promise.resolve();

  private constructor(
    private readonly store: Store,
    private readonly sitemapId: string,
    readonly known: readonly string[],
    private readonly most: number,
  ) {}

  /** @param most addresses; of a sitemap with more none are kept */
  static async open(store: Store, sitemapId: string, most: number): Promise<AddressKeeper> {
    const rows = await AddressChunkRow.findAll({ where: { sitemapId }, attributes: ['name'], raw: true });
    return new AddressKeeper(
      store,
      sitemapId,
      rows.map(({ name }) => name),
      most,
    );
  }

  get isFull(): boolean {
    return this.count > this.most;
  }

  /** Takes the addresses of one file after the other. */
  take(addresses: CutAddresses): Promise<void> {
    this.last = this.last.then(() => this.keep(addresses));
    return this.last;
  }

  private async keep({ count, chunks }: CutAddresses): Promise<void> {
    this.count += count;
    if (this.isFull) return;
    const { sitemapId } = this;
    for (const { name } of chunks) this.names.push(name);
    const fresh = chunks.flatMap(({ name, packed }) =>
      packed ? [{ sitemapId, name, packed: Buffer.from(packed.buffer) }] : [],
    );
    for (let from = 0; from < fresh.length; from += AT_ONCE)
      await this.store.write((transaction) =>
        AddressChunkRow.bulkCreate(fresh.slice(from, from + AT_ONCE), {
          transaction,
          ignoreDuplicates: true,
        }),
      );
  }

  /** Writes down what the reading holds. Chunks without a reading, as a crash leaves them, go with the next tidying. */
  async settle(readingId: string, transaction: Transaction): Promise<void> {
    if (this.isFull) return;
    const chunks = namesTogether(new Set(this.names));
    // A reading that holds the same as the one before is the same reading: its set is kept already.
    await ReadingSetRow.upsert({ readingId, chunks }, { transaction });
  }
}

/** Throws away the chunks of a sitemap that none of its readings holds any more. */
export async function tidyChunks(sitemapId: string, transaction: Transaction): Promise<void> {
  const readings = await ReadingRow.findAll({
    where: { sitemapId },
    attributes: ['id'],
    raw: true,
    transaction,
  });
  const sets = await ReadingSetRow.findAll({
    where: { readingId: readings.map(({ id }) => id) },
    raw: true,
    transaction,
  });
  const held = new Set(sets.flatMap(({ chunks }) => namesIn(chunks)));
  const rows = await AddressChunkRow.findAll({
    where: { sitemapId },
    attributes: ['name'],
    raw: true,
    transaction,
  });
  const left = rows.map(({ name }) => name).filter((name) => !held.has(name));
  if (left.length > 0) await AddressChunkRow.destroy({ where: { sitemapId, name: left }, transaction });
}

/** The set of addresses of a reading; null where none was kept. */
export async function keptSetOf(sitemapId: string, readingId: string): Promise<KeptSet | null> {
  const row = await ReadingSetRow.findByPk(readingId);
  if (!row) return null;
  return {
    chunks: namesIn(row.chunks),
    open: async (name) => {
      const chunk = await AddressChunkRow.findOne({ where: { sitemapId, name }, rejectOnEmpty: true });
      return unpackChunk(chunk.packed);
    },
  };
}
