import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Reach } from '../../core/address/reach.js';
import type { ToldOfToken } from '../../core/badge/standing.js';
import type { Forecast } from '../../core/badge/judge/judge.js';
import type { Finding } from '../../core/findings/finding.js';
import type { Method } from '../../core/profile/profile.js';
import { count, id, jsonColumn, optional, text, time } from './columns.js';
import type { ReplacedWhy, VerdictKind } from '../../core/record/states.js';

export class EnrolmentRow extends Model<
  InferAttributes<EnrolmentRow>,
  InferCreationAttributes<EnrolmentRow>
> {
  declare id: string;
  declare propertyId: string;
  declare engine: string;
  declare accountId: string;
  declare reach: Reach;
  /** As `targetText` writes it. */
  declare target: string;
  /** The engine's own identifier. */
  declare ref: string;
  declare createdAt: string;
  /** Since when the engine does not know it any more; null while it does. */
  declare missingSince: CreationOptional<string | null>;
  /** When the engine looked at what it holds, by what it says. */
  declare engineLookedAt: CreationOptional<string | null>;
  /** By which method, and when, the client's people were asked to prove it: that stays until a person changes it. */
  declare askedMethod: CreationOptional<Method | null>;
  declare askedAt: CreationOptional<string | null>;
  /** When somebody wanted it ended at an engine that is worked by hand; it has ended once a person says so. */
  declare endAskedAt: CreationOptional<string | null>;
  declare endedAt: CreationOptional<string | null>;
}

export class TokenRow extends Model<InferAttributes<TokenRow>, InferCreationAttributes<TokenRow>> {
  declare id: string;
  declare enrolmentId: string;
  declare method: Method;
  declare value: string;
  declare issuedAt: string;
  declare expiresAt: CreationOptional<string | null>;
  /** When another token took its place; null for the one in force. */
  declare replacedAt: CreationOptional<string | null>;
  /** Because it had expired, because the engine handed out another all the same, or because a person took it back. */
  declare replacedWhy: CreationOptional<ReplacedWhy | null>;
  /** Who pasted it; null when the engine handed it out over the link. */
  declare recordedBy: CreationOptional<string | null>;
}

export class CheckRow extends Model<InferAttributes<CheckRow>, InferCreationAttributes<CheckRow>> {
  declare id: string;
  declare enrolmentId: string;
  declare tokenId: string;
  declare method: Method;
  declare place: string;
  declare checkedAt: string;
  declare seen: boolean;
  /** Since when checks of this placement have had this answer. */
  declare seenSince: string;
  /** What the newest look told of the token that came as far as its place, and since when; null where none did. */
  declare told: CreationOptional<ToldOfToken | null>;
  declare toldSince: CreationOptional<string | null>;
  declare forecast: Forecast;
  declare visibleAt: CreationOptional<string | null>;
  declare findings: Finding[];
  /** What was kept before it had a table of its own; empty since then. */
  /** When it was first seen so, and how often since then; `checkedAt` is the last time. */
  declare firstAt: CreationOptional<string | null>;
  declare times: CreationOptional<number>;
}

export class ClaimRow extends Model<InferAttributes<ClaimRow>, InferCreationAttributes<ClaimRow>> {
  declare id: string;
  declare enrolmentId: string;
  declare method: Method;
  declare tokenId: string;
  declare askedAt: string;
  /** Null while the engine's answer is not known. */
  declare answeredAt: CreationOptional<string | null>;
  declare verdict: CreationOptional<VerdictKind | null>;
  declare reason: CreationOptional<string | null>;
  /** Who recorded the verdict by hand. */
  declare recordedBy: CreationOptional<string | null>;
}

/** The engine's word about ownership, whenever it changed. */
export class OwnershipRow extends Model<
  InferAttributes<OwnershipRow>,
  InferCreationAttributes<OwnershipRow>
> {
  declare id: string;
  declare enrolmentId: string;
  declare at: string;
  declare kind: 'confirmed' | 'withdrawn';
  declare method: CreationOptional<Method | null>;
  declare reason: CreationOptional<string | null>;
  /** Who recorded it by hand. */
  declare recordedBy: CreationOptional<string | null>;
}

export function defineEnrolments(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  EnrolmentRow.init(
    {
      id: id(),
      propertyId: text(),
      engine: text(),
      accountId: text(),
      reach: text(),
      target: text(),
      ref: text(),
      createdAt: time(),
      missingSince: time(true),
      engineLookedAt: time(true),
      askedMethod: optional(),
      askedAt: time(true),
      endAskedAt: time(true),
      endedAt: time(true),
    },
    { ...options, tableName: 'enrolments' },
  );
  TokenRow.init(
    {
      id: id(),
      enrolmentId: text(),
      method: text(),
      value: text(),
      issuedAt: time(),
      expiresAt: time(true),
      replacedAt: time(true),
      replacedWhy: optional(),
      recordedBy: optional(),
    },
    { ...options, tableName: 'tokens' },
  );
  CheckRow.init(
    {
      id: id(),
      enrolmentId: text(),
      tokenId: text(),
      method: text(),
      place: text(),
      checkedAt: time(),
      seen: { type: DataTypes.BOOLEAN, allowNull: false },
      seenSince: time(),
      told: optional(),
      toldSince: time(true),
      forecast: text(),
      visibleAt: time(true),
      findings: jsonColumn('findings'),
      firstAt: time(true),
      times: { ...count(), defaultValue: 1 },
    },
    { ...options, tableName: 'checks' },
  );
  ClaimRow.init(
    {
      id: id(),
      enrolmentId: text(),
      method: text(),
      tokenId: text(),
      askedAt: time(),
      answeredAt: time(true),
      verdict: optional(),
      reason: optional(),
      recordedBy: optional(),
    },
    { ...options, tableName: 'claims' },
  );
  OwnershipRow.init(
    {
      id: id(),
      enrolmentId: text(),
      at: time(),
      kind: text(),
      method: optional(),
      reason: optional(),
      recordedBy: optional(),
    },
    { ...options, tableName: 'ownerships' },
  );
}
