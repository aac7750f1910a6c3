import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Role } from '../../core/people/roles.js';
import { id, jsonColumn, time } from './columns.js';

export class PersonRow extends Model<InferAttributes<PersonRow>, InferCreationAttributes<PersonRow>> {
  declare id: string;
  /** What she signs in with; compared without regard to case. */
  declare name: string;
  declare role: Role;
  /** scrypt, with its salt and cost in front. */
  declare password: string;
  declare createdAt: string;
  declare endedAt: CreationOptional<string | null>;
}

export class KeyRow extends Model<InferAttributes<KeyRow>, InferCreationAttributes<KeyRow>> {
  declare id: string;
  declare personId: string;
  declare kind: 'key' | 'session';
  declare label: string;
  /** SHA-256 of the bearer's secret: the secret has 256 random bits, so a slow hash would add nothing. */
  declare hash: string;
  declare createdAt: string;
  declare expiresAt: CreationOptional<string | null>;
  declare endedAt: CreationOptional<string | null>;
  /** The program that it was given to, as it called itself. */
  declare agent: CreationOptional<string | null>;
  /** When it was used last, to the hour. */
  declare usedAt: CreationOptional<string | null>;
}

/** What was answered to a request that carried an Idempotency-Key. */
export class ReplayRow extends Model<InferAttributes<ReplayRow>, InferCreationAttributes<ReplayRow>> {
  declare personId: string;
  declare key: string;
  declare request: string;
  /** Null while the first request is still being worked on, or where its process died before it had an answer. */
  declare status: CreationOptional<number | null>;
  /** The job that the request began. */
  declare jobId: CreationOptional<string | null>;
  declare body: CreationOptional<object | null>;
  declare createdAt: string;
}

export function definePeople(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  PersonRow.init(
    {
      id: id(),
      name: { type: DataTypes.STRING, allowNull: false },
      role: { type: DataTypes.STRING, allowNull: false },
      password: { type: DataTypes.STRING, allowNull: false },
      createdAt: time(),
      endedAt: time(true),
    },
    { ...options, tableName: 'persons' },
  );
  KeyRow.init(
    {
      id: id(),
      personId: { type: DataTypes.STRING, allowNull: false },
      kind: { type: DataTypes.STRING, allowNull: false },
      label: { type: DataTypes.STRING, allowNull: false },
      hash: { type: DataTypes.STRING, allowNull: false },
      createdAt: time(),
      expiresAt: time(true),
      endedAt: time(true),
      agent: { type: DataTypes.STRING },
      usedAt: time(true),
    },
    { ...options, tableName: 'keys' },
  );
  ReplayRow.init(
    {
      personId: { type: DataTypes.STRING, primaryKey: true },
      key: { type: DataTypes.STRING, primaryKey: true },
      request: { type: DataTypes.STRING, allowNull: false },
      status: { type: DataTypes.INTEGER },
      jobId: { type: DataTypes.STRING },
      body: jsonColumn('body'),
      createdAt: time(),
    },
    { ...options, tableName: 'replays' },
  );
}
