import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { SitemapKind, SitemapState } from '../../core/sitemap/reading.js';
import { count, id, optional, text } from './columns.js';

/** The set of addresses of one reading: the names of its chunks, one after the other. */
export class ReadingSetRow extends Model<
  InferAttributes<ReadingSetRow>,
  InferCreationAttributes<ReadingSetRow>
> {
  declare readingId: string;
  declare chunks: Buffer;
}

/** A run of addresses, packed. Readings of one sitemap share those that are alike. */
export class AddressChunkRow extends Model<
  InferAttributes<AddressChunkRow>,
  InferCreationAttributes<AddressChunkRow>
> {
  declare sitemapId: string;
  declare name: string;
  declare packed: Buffer;
}

/** One sitemap of an index, as the newest reading of the index found it. */
export class ReadingChildRow extends Model<
  InferAttributes<ReadingChildRow>,
  InferCreationAttributes<ReadingChildRow>
> {
  declare sitemapId: string;
  declare seq: number;
  declare url: string;
  declare kind: CreationOptional<SitemapKind | null>;
  declare addresses: number;
  /** At the reading before; null where it was not there. */
  declare before: CreationOptional<number | null>;
  declare newestLastmod: CreationOptional<string | null>;
  declare state: SitemapState;
  declare says: CreationOptional<string | null>;
}

export function defineReadingSets(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  ReadingSetRow.init(
    { readingId: id(), chunks: { type: DataTypes.BLOB, allowNull: false } },
    { ...options, tableName: 'reading_sets' },
  );
  AddressChunkRow.init(
    { sitemapId: id(), name: id(), packed: { type: DataTypes.BLOB, allowNull: false } },
    { ...options, tableName: 'address_chunks' },
  );
  ReadingChildRow.init(
    {
      sitemapId: id(),
      seq: { ...count(), primaryKey: true },
      url: text(),
      kind: optional(),
      addresses: count(),
      before: { type: DataTypes.INTEGER },
      newestLastmod: optional(),
      state: text(),
      says: optional(),
    },
    { ...options, tableName: 'reading_children' },
  );
}
