import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { id, optional, text, time } from './columns.js';

/** One address that an engine was asked about, or asked to visit. */
export class PageAskRow extends Model<InferAttributes<PageAskRow>, InferCreationAttributes<PageAskRow>> {
  declare id: string;
  declare enrolmentId: string;
  declare accountId: string;
  declare kind: 'lookup' | 'visit';
  declare address: string;
  declare at: string;
  declare listed: CreationOptional<boolean | null>;
  declare visitedAt: CreationOptional<string | null>;
  declare says: CreationOptional<string | null>;
  /** When the engine had answered; null while it has not: what is asked counts against the ration from before it is sent. */
  declare answeredAt: CreationOptional<string | null>;
}

export function definePageAsks(sequelize: Sequelize): void {
  PageAskRow.init(
    {
      id: id(),
      enrolmentId: text(),
      accountId: text(),
      kind: text(),
      address: text(),
      at: time(),
      listed: { type: DataTypes.BOOLEAN },
      visitedAt: time(true),
      says: optional(),
      answeredAt: time(true),
    },
    { sequelize, timestamps: false, tableName: 'page_asks' },
  );
}
