import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { SitemapKind } from '../../core/sitemap/reading.js';
import { count, id, optional, text, time } from './columns.js';

/** A sitemap whose addresses lie on a shelf of their own, as they stood when somebody last looked inside. */
export class ContentsRow extends Model<InferAttributes<ContentsRow>, InferCreationAttributes<ContentsRow>> {
  declare sitemapId: string;
  /** By which the shelf is named. */
  declare id: string;
  declare at: string;
  /** When somebody last looked at it: what nobody looks at goes first. */
  declare usedAt: string;
  declare kind: CreationOptional<SitemapKind | null>;
  declare entries: number;
  declare files: number;
  /** Whether there were more than are kept. */
  declare isCut: boolean;
}

export function defineContents(sequelize: Sequelize): void {
  ContentsRow.init(
    {
      sitemapId: id(),
      id: text(),
      at: time(),
      usedAt: time(),
      kind: optional(),
      entries: count(),
      files: count(),
      isCut: { type: DataTypes.BOOLEAN, allowNull: false },
    },
    { sequelize, timestamps: false, tableName: 'insides' },
  );
}
