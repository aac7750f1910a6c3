import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Finding } from '../../core/findings/finding.js';
import type { NamedKind } from '../../core/sitemap/make/frontier.js';
import type { Recipe } from '../../core/sitemap/make/recipe.js';
import { count, id, jsonColumn, optional, text, time } from './columns.js';

/** How the sitemap of a property is made, and when by itself. */
export class RecipeRow extends Model<InferAttributes<RecipeRow>, InferCreationAttributes<RecipeRow>> {
  declare propertyId: string;
  declare recipe: Recipe;
  /** ISO 8601: how often it is made by itself. */
  declare every: CreationOptional<string | null>;
  /** ISO 8601: made anew once something of the website has changed, so long after the last making; null where it is not. */
  declare afterChange: CreationOptional<string | null>;
  /** By how many parts of a hundred it may fall without somebody's yes. */
  declare mostFall: number;
  declare nextAt: CreationOptional<string | null>;
  /** Under which word the service hands it out; null where it does not. */
  declare handle: CreationOptional<string | null>;
  declare updatedAt: string;
}

/** Why a gathering ended: there was no more, a bound was met. */
export const MAKING_ENDS = ['all', 'pages', 'minutes', 'megabytes'] as const;
export type MakingEnd = (typeof MAKING_ENDS)[number];

/** What was taken off addresses, or left out of them, by what it is. */
export interface NamedWay {
  readonly what: string;
  readonly kind: NamedKind;
  readonly count: number;
  readonly first: string;
}

/** One gathering of the addresses of a property. */
export class MakingRow extends Model<InferAttributes<MakingRow>, InferCreationAttributes<MakingRow>> {
  declare id: string;
  declare propertyId: string;
  declare recipe: Recipe;
  declare startedAt: string;
  declare endedAt: CreationOptional<string | null>;
  declare ended: CreationOptional<MakingEnd | null>;
  /** How many of its sources are done. */
  declare phase: number;
  /** Milliseconds that it took so far, and bytes that were fetched. */
  declare ms: number;
  declare bytes: number;
  /** Requests that were made at once at the last, and seconds between them where the robots.txt asks for a wait. */
  declare atOnce: CreationOptional<number>;
  declare delay: CreationOptional<number | null>;
  declare named: NamedWay[];
  declare personId: CreationOptional<string | null>;
}

/** One file of a version. */
export interface MadeFile {
  readonly name: string;
  readonly sum: string;
  /** As it is handed out, packed where the recipe wants it so. */
  readonly bytes: number;
  readonly entries: number;
}

/** A sitemap as it was written. */
export class MadeVersionRow extends Model<
  InferAttributes<MadeVersionRow>,
  InferCreationAttributes<MadeVersionRow>
> {
  declare id: string;
  declare propertyId: string;
  declare makingId: string;
  declare at: string;
  declare addresses: number;
  /** Addresses that came and went since the version before; null for the first. */
  declare came: CreationOptional<number | null>;
  declare went: CreationOptional<number | null>;
  /** Why it is not handed out before somebody says yes. */
  declare heldBack: CreationOptional<string | null>;
  /** What our own reader finds in it. */
  declare findings: Finding[];
  declare files: MadeFile[];
  declare personId: CreationOptional<string | null>;
}

/** What a file holds, once for all versions that have it. */
export class MadeFileRow extends Model<InferAttributes<MadeFileRow>, InferCreationAttributes<MadeFileRow>> {
  /** The SHA-256 of the text. */
  declare sum: string;
  /** Packed by gzip (RFC 1952). */
  declare packed: Buffer;
}

export function defineMaking(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  RecipeRow.init(
    {
      propertyId: id(),
      recipe: jsonColumn('recipe'),
      every: optional(),
      afterChange: optional(),
      mostFall: count(),
      nextAt: time(true),
      handle: optional(),
      updatedAt: time(),
    },
    { ...options, tableName: 'recipes' },
  );
  MakingRow.init(
    {
      id: id(),
      propertyId: text(),
      recipe: jsonColumn('recipe'),
      startedAt: time(),
      endedAt: time(true),
      ended: optional(),
      phase: count(),
      ms: count(),
      bytes: count(),
      atOnce: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 2 },
      delay: { type: DataTypes.REAL },
      named: jsonColumn('named'),
      personId: optional(),
    },
    { ...options, tableName: 'makings' },
  );
  MadeVersionRow.init(
    {
      id: id(),
      propertyId: text(),
      makingId: text(),
      at: time(),
      addresses: count(),
      came: { type: DataTypes.INTEGER },
      went: { type: DataTypes.INTEGER },
      heldBack: optional(),
      findings: jsonColumn('findings'),
      files: jsonColumn('files'),
      personId: optional(),
    },
    { ...options, tableName: 'made_versions' },
  );
  MadeFileRow.init(
    { sum: id(), packed: { type: DataTypes.BLOB, allowNull: false } },
    { ...options, tableName: 'made_files' },
  );
}
