import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Finding, Grade } from '../../core/findings/finding.js';
import type { StepKind, VariantSeen } from '../../core/variants/follow.js';
import type { Role } from '../../core/variants/roles.js';
import type { ExtraHost, VariantWhy } from '../../core/variants/to-try.js';
import { id, jsonColumn, optional, text, time } from './columns.js';

/** A host beside the usual ones that belongs to a property. */
export class HostRow extends Model<InferAttributes<HostRow>, InferCreationAttributes<HostRow>> {
  declare id: string;
  declare propertyId: string;
  declare host: string;
  declare why: ExtraHost['why'];
  /** Who told of it; null where it was met. */
  declare addedBy: CreationOptional<string | null>;
  declare addedAt: string;
  declare endedAt: CreationOptional<string | null>;
}

/** A variant for as long as it had one role: when that changes, the row ends and another begins. */
export class VariantRow extends Model<InferAttributes<VariantRow>, InferCreationAttributes<VariantRow>> {
  declare id: string;
  declare propertyId: string;
  declare address: string;
  declare why: VariantWhy;
  declare role: Role;
  declare via: CreationOptional<StepKind | null>;
  declare endsAt: CreationOptional<string | null>;
  declare says: string;
  /** The newest look at it. */
  declare seen: VariantSeen;
  declare since: string;
  declare seenAt: string;
  declare endedAt: CreationOptional<string | null>;
}

/** A finding for as long as it held. */
export class VariantFindingRow extends Model<
  InferAttributes<VariantFindingRow>,
  InferCreationAttributes<VariantFindingRow>
> {
  declare id: string;
  declare propertyId: string;
  declare code: string;
  /** The address that it is about. */
  declare subject: string;
  declare grade: Grade;
  declare finding: Finding;
  declare since: string;
  declare endedAt: CreationOptional<string | null>;
}

export class MoveRow extends Model<InferAttributes<MoveRow>, InferCreationAttributes<MoveRow>> {
  declare id: string;
  declare propertyId: string;
  declare fromAddress: string;
  declare toAddress: string;
  declare at: string;
}

export function defineVariants(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  HostRow.init(
    {
      id: id(),
      propertyId: text(),
      host: text(),
      why: text(),
      addedBy: optional(),
      addedAt: time(),
      endedAt: time(true),
    },
    { ...options, tableName: 'hosts' },
  );
  VariantRow.init(
    {
      id: id(),
      propertyId: text(),
      address: text(),
      why: text(),
      role: text(),
      via: optional(),
      endsAt: optional(),
      says: text(),
      seen: jsonColumn('seen'),
      since: time(),
      seenAt: time(),
      endedAt: time(true),
    },
    { ...options, tableName: 'variants' },
  );
  VariantFindingRow.init(
    {
      id: id(),
      propertyId: text(),
      code: text(),
      subject: text(),
      grade: text(),
      finding: jsonColumn('finding'),
      since: time(),
      endedAt: time(true),
    },
    { ...options, tableName: 'variant_findings' },
  );
  MoveRow.init(
    { id: id(), propertyId: text(), fromAddress: text(), toAddress: text(), at: time() },
    { ...options, tableName: 'moves' },
  );
}
