import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { TargetProtocol } from '../../core/publish/plan.js';
import type { Role } from '../../core/people/roles.js';
import { id, jsonColumn, optional, text, time } from './columns.js';

/** Where a place is, as far as its way needs it. */
export interface TargetAddress {
  /** The folder that is the web root. */
  readonly root?: string;
  readonly host?: string;
  readonly port?: number;
  readonly user?: string;
  readonly zone?: string;
  readonly keyName?: string;
  readonly algorithm?: 'hmac-sha256' | 'hmac-sha384' | 'hmac-sha512';
}

/** A place of a property to which things are carried. */
export class TargetRow extends Model<InferAttributes<TargetRow>, InferCreationAttributes<TargetRow>> {
  declare id: string;
  declare propertyId: string;
  declare way: TargetProtocol;
  declare at: TargetAddress;
  /** Sealed for this place alone. */
  declare secret: CreationOptional<string | null>;
  /** The host key that it showed at first use. */
  declare pin: CreationOptional<string | null>;
  declare pinnedAt: CreationOptional<string | null>;
  /** Who may publish there at least. */
  declare role: Role;
  /** Whether the watch may put back what has gone. */
  declare watchMay: boolean;
  declare createdAt: string;
  declare personId: CreationOptional<string | null>;
  declare endedAt: CreationOptional<string | null>;
}

/** One thing that was published at a target, for as long as it is held to be there. */
export class CarriedRow extends Model<InferAttributes<CarriedRow>, InferCreationAttributes<CarriedRow>> {
  declare id: string;
  declare placeId: string;
  declare name: string;
  declare sum: string;
  declare at: string;
  declare personId: CreationOptional<string | null>;
  declare removedAt: CreationOptional<string | null>;
}

/** A robots.txt that was written here, and what stood there when it was. */
export class RobotsKeptRow extends Model<
  InferAttributes<RobotsKeptRow>,
  InferCreationAttributes<RobotsKeptRow>
> {
  declare propertyId: string;
  declare text: string;
  /** The SHA-256 of its bytes. */
  declare sum: string;
  /** The SHA-256 of the one that it was made from, which it may replace; null where none stood there. */
  declare over: CreationOptional<string | null>;
  declare at: string;
  declare personId: CreationOptional<string | null>;
}

export function defineCarrying(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  TargetRow.init(
    {
      id: id(),
      propertyId: text(),
      way: text(),
      at: jsonColumn('at'),
      secret: optional(),
      pin: optional(),
      pinnedAt: time(true),
      role: text(),
      watchMay: { type: DataTypes.BOOLEAN, allowNull: false },
      createdAt: time(),
      personId: optional(),
      endedAt: time(true),
    },
    { ...options, tableName: 'carry_places' },
  );
  CarriedRow.init(
    {
      id: id(),
      placeId: text(),
      name: text(),
      sum: text(),
      at: time(),
      personId: optional(),
      removedAt: time(true),
    },
    { ...options, tableName: 'carried' },
  );
  RobotsKeptRow.init(
    {
      propertyId: id(),
      text: text(),
      sum: text(),
      over: optional(),
      at: time(),
      personId: optional(),
    },
    { ...options, tableName: 'robots_kept' },
  );
}
