import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { id, optional, text, time } from './columns.js';
import type { LinkStateKind } from '../../core/record/states.js';

/** A login at an engine. Its key is never here in the clear. */
export class AccountRow extends Model<InferAttributes<AccountRow>, InferCreationAttributes<AccountRow>> {
  declare id: string;
  declare engine: string;
  declare name: string;
  /** The environment variable that holds its key. */
  declare keyFrom: CreationOptional<string | null>;
  /** Its key, as the vault sealed it. */
  declare keySealed: CreationOptional<string | null>;
  /** When it was handed to a client, and to which. */
  declare passedOnAt: CreationOptional<string | null>;
  declare passedOnTo: CreationOptional<string | null>;
  declare version: CreationOptional<number>;
  declare createdAt: string;
}

/** How the link of an account stands for one kind of work. */
export class LinkStateRow extends Model<
  InferAttributes<LinkStateRow>,
  InferCreationAttributes<LinkStateRow>
> {
  declare accountId: string;
  declare work: string;
  declare kind: LinkStateKind;
  declare says: CreationOptional<string | null>;
  declare until: CreationOptional<string | null>;
  /** Since when it has been of this kind. */
  declare since: string;
  declare at: string;
}

export function defineAccounts(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  AccountRow.init(
    {
      id: id(),
      engine: text(),
      name: text(),
      keyFrom: optional(),
      keySealed: optional(),
      passedOnAt: time(true),
      passedOnTo: optional(),
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      createdAt: time(),
    },
    { ...options, tableName: 'accounts' },
  );
  LinkStateRow.init(
    {
      accountId: { type: DataTypes.STRING, primaryKey: true },
      work: { type: DataTypes.STRING, primaryKey: true },
      kind: text(),
      says: optional(),
      until: time(true),
      since: time(),
      at: time(),
    },
    { ...options, tableName: 'link_states' },
  );
}
