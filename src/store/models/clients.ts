import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Access, SiteTraits } from '../../core/badge/advice.js';
import type { Rhythms } from '../../core/watch/rhythm.js';
import type { ClaimsBy } from '../../core/record/states.js';
import type { SpellingSeen } from '../../core/variants/spelling.js';
import { id, jsonColumn, optional, text, time } from './columns.js';

export class ClientRow extends Model<InferAttributes<ClientRow>, InferCreationAttributes<ClientRow>> {
  declare id: string;
  declare handle: string;
  declare name: string;
  declare contact: CreationOptional<string | null>;
  /** Countries of its audience, ISO 3166-1 alpha-2; empty for everyone. */
  declare audience: string[];
  /** Whether its claims are made by a person or by themselves; null where it is as for the whole agency. */
  declare claims: CreationOptional<ClaimsBy | null>;
  declare version: CreationOptional<number>;
  declare createdAt: string;
  declare archivedAt: CreationOptional<string | null>;
}

export class PropertyRow extends Model<InferAttributes<PropertyRow>, InferCreationAttributes<PropertyRow>> {
  declare id: string;
  declare clientId: string;
  declare handle: string;
  /** The address as it was taken on, normalised. */
  declare address: string;
  declare host: string;
  /** Where visitors end up; null until looked at, or when nothing answered. */
  declare frontDoor: CreationOptional<string | null>;
  declare frontDoorSays: CreationOptional<string | null>;
  declare frontDoorAt: CreationOptional<string | null>;
  /** What engines asked about it at registration, by the fact's id. */
  declare facts: CreationOptional<Record<string, string>>;
  /** What the client's people can get at: zone, files, pages; `yes` or `no`, absent where nobody said. */
  declare access: CreationOptional<Access>;
  /** What the last look at its front page told that matters to the choice of a method. */
  declare siteSeen: CreationOptional<SiteTraits | null>;
  /** How often what of it is looked at, where it is not as usual. */
  declare rhythms: CreationOptional<Partial<Rhythms>>;
  /** The day on which its registered name ends, as its owner said; null where nobody did. */
  declare nameEnds: CreationOptional<string | null>;
  /** When its variants were looked at last; null while they were not. */
  declare variantsAt: CreationOptional<string | null>;
  /** Other ways of writing its front door, and what they turned out to be. */
  declare spellings: CreationOptional<readonly SpellingSeen[] | null>;
  declare version: CreationOptional<number>;
  declare createdAt: string;
  declare archivedAt: CreationOptional<string | null>;
}

/** One line of what happened. Rows are never changed nor removed; the database refuses both. */
export class JournalRow extends Model<InferAttributes<JournalRow>, InferCreationAttributes<JournalRow>> {
  declare seq: CreationOptional<number>;
  declare at: string;
  /** Who did it; null for the service itself. */
  declare personId: CreationOptional<string | null>;
  declare kind: string;
  declare clientId: CreationOptional<string | null>;
  declare propertyId: CreationOptional<string | null>;
  declare enrolmentId: CreationOptional<string | null>;
  declare says: string;
  declare details: CreationOptional<object | null>;
}

export function defineClients(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  ClientRow.init(
    {
      id: id(),
      handle: text(),
      name: text(),
      contact: optional(),
      audience: jsonColumn('audience'),
      claims: optional(),
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      createdAt: time(),
      archivedAt: time(true),
    },
    { ...options, tableName: 'clients' },
  );
  PropertyRow.init(
    {
      id: id(),
      clientId: text(),
      handle: text(),
      address: text(),
      host: text(),
      frontDoor: optional(),
      frontDoorSays: optional(),
      frontDoorAt: time(true),
      facts: { ...jsonColumn('facts'), allowNull: false, defaultValue: '{}' },
      access: { ...jsonColumn('access'), allowNull: false, defaultValue: '{}' },
      siteSeen: { ...jsonColumn('siteSeen'), allowNull: true },
      rhythms: { ...jsonColumn('rhythms'), allowNull: false, defaultValue: '{}' },
      nameEnds: optional(),
      variantsAt: time(true),
      spellings: jsonColumn('spellings'),
      version: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      createdAt: time(),
      archivedAt: time(true),
    },
    { ...options, tableName: 'properties' },
  );
  JournalRow.init(
    {
      seq: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      at: time(),
      personId: optional(),
      kind: text(),
      clientId: optional(),
      propertyId: optional(),
      enrolmentId: optional(),
      says: text(),
      details: jsonColumn('details'),
    },
    { ...options, tableName: 'journal' },
  );
}
