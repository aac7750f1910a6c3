import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { deflateRaw, inflateRaw } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { addressesIn } from '../../core/sitemap/set/chunks.js';
import type { KeptSet } from '../../core/sitemap/set/difference.js';
import type { Store } from '../../store/store.js';
import { AddressChunkRow, ReadingSetRow } from '../../store/models/reading-sets.js';
import type { Keeper } from './read-whole.js';
import { ReadingRow } from '../../store/models/sitemaps.js';

const pack = promisify(deflateRaw);
const unpack = promisify(inflateRaw);
/** A chunk's name: so many bytes of the SHA-256 of what is in it. */
const NAME_BYTES = 16;
/** Chunks that are written at a time. */
const AT_ONCE = 200;

type Cut = Parameters<Keeper['take']>[0];

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
    private readonly known: Set<string>,
    private readonly most: number,
  ) {}

  /** @param most addresses; of a sitemap with more none are kept */
  static async open(store: Store, sitemapId: string, most: number): Promise<AddressKeeper> {
    const rows = await AddressChunkRow.findAll({ where: { sitemapId }, attributes: ['name'], raw: true });
    return new AddressKeeper(store, sitemapId, new Set(rows.map(({ name }) => name)), most);
  }

  get isFull(): boolean {
    return this.count > this.most;
  }

  /** Takes the addresses of one file; of one at a time, since each costs a few megabytes while it is packed. */
  take(addresses: Cut): Promise<void> {
    this.last = this.last.then(() => this.keep(addresses));
    return this.last;
  }

  private async keep({ count, texts }: Cut): Promise<void> {
    this.count += count;
    if (this.isFull) return;
    let fresh: { sitemapId: string; name: string; packed: Buffer }[] = [];
    for (const text of texts) {
      const name = createHash('sha256')
        .update(text)
        .digest('hex')
        .slice(0, NAME_BYTES * 2);
      this.names.push(name);
      if (this.known.has(name)) continue;
      this.known.add(name);
      fresh.push({ sitemapId: this.sitemapId, name, packed: await pack(text) });
      if (fresh.length >= AT_ONCE) fresh = await this.write(fresh);
    }
    await this.write(fresh);
  }

  /** Writes down what the reading holds. Chunks without a reading, as a crash leaves them, go with the next tidying. */
  async settle(readingId: string, transaction: Transaction): Promise<void> {
    if (this.isFull) return;
    const chunks = Buffer.from([...new Set(this.names)].join(''), 'hex');
    // A reading that holds the same as the one before is the same reading: its set is kept already.
    await ReadingSetRow.upsert({ readingId, chunks }, { transaction });
  }

  private async write(rows: { sitemapId: string; name: string; packed: Buffer }[]): Promise<never[]> {
    if (rows.length > 0)
      await this.store.write((transaction) =>
        AddressChunkRow.bulkCreate(rows, { transaction, ignoreDuplicates: true }),
      );
    return [];
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
      return addressesIn((await unpack(chunk.packed)).toString());
    },
  };
}

function namesIn(chunks: Buffer): string[] {
  const text = chunks.toString('hex');
  return Array.from({ length: chunks.length / NAME_BYTES }, (_, at) =>
    text.slice(at * NAME_BYTES * 2, (at + 1) * NAME_BYTES * 2),
  );
}
