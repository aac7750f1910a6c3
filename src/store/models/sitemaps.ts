import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { Finding } from '../../core/findings/finding.js';
import type { Extensions, SitemapKind } from '../../core/sitemap/reading.js';
import { count, id, jsonColumn, optional, text, time } from './columns.js';

export class SitemapRow extends Model<InferAttributes<SitemapRow>, InferCreationAttributes<SitemapRow>> {
  declare id: string;
  declare propertyId: string;
  declare url: string;
  /** When a person said that its lower count is right; null where nobody did. */
  declare fallAcceptedAt: CreationOptional<string | null>;
  declare createdAt: string;
}

export class ReadingRow extends Model<InferAttributes<ReadingRow>, InferCreationAttributes<ReadingRow>> {
  declare id: string;
  declare sitemapId: string;
  /** When it was last read so; readings that say the same are one row. */
  declare at: string;
  /** When it was first read so. */
  declare firstAt: CreationOptional<string | null>;
  /** How often. */
  declare times: CreationOptional<number>;
  declare kind: CreationOptional<SitemapKind | null>;
  declare addresses: number;
  /** Addresses at the reading before that could be read. */
  declare before: CreationOptional<number | null>;
  declare children: number;
  declare newestLastmod: CreationOptional<string | null>;
  declare extensions: CreationOptional<Extensions | null>;
  /** The same for the same set of addresses. */
  declare fingerprint: CreationOptional<string | null>;
  /** How many pages of it were tried. */
  declare tried: CreationOptional<number>;
  declare findings: Finding[];
}

export class SubmissionRow extends Model<
  InferAttributes<SubmissionRow>,
  InferCreationAttributes<SubmissionRow>
> {
  declare id: string;
  declare sitemapId: string;
  declare enrolmentId: string;
  /** What was sent: a path or a whole address, as the engine wants it. */
  declare sentAs: string;
  declare ref: string;
  declare submittedAt: string;
  declare withdrawnAt: CreationOptional<string | null>;
  /** When the engine was asked of it last; null where it was not since it was submitted. */
  declare askedAt: CreationOptional<string | null>;
  /** Since when our count and the engine's have been apart without a pause. */
  declare apartSince: CreationOptional<string | null>;
}

/** What an engine said of a submission, for as long as it said the same. */
export class EngineReadingRow extends Model<
  InferAttributes<EngineReadingRow>,
  InferCreationAttributes<EngineReadingRow>
> {
  declare id: string;
  declare submissionId: string;
  /** When it was last said so; readings that say the same are one row. */
  declare at: string;
  declare firstAt: CreationOptional<string | null>;
  declare times: CreationOptional<number>;
  declare readAt: CreationOptional<string | null>;
  declare found: CreationOptional<number | null>;
  declare listed: CreationOptional<number | null>;
  declare trouble: CreationOptional<string | null>;
  /** Our own count when the engine read; null where we had not read it by then. */
  declare ours: CreationOptional<number | null>;
  /** Who recorded it by hand. */
  declare recordedBy: CreationOptional<string | null>;
}

export function defineSitemaps(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  SitemapRow.init(
    { id: id(), propertyId: text(), url: text(), fallAcceptedAt: time(true), createdAt: time() },
    { ...options, tableName: 'sitemaps' },
  );
  ReadingRow.init(
    {
      id: id(),
      sitemapId: text(),
      at: time(),
      firstAt: time(true),
      times: { ...count(), defaultValue: 1 },
      kind: optional(),
      addresses: count(),
      before: { type: DataTypes.INTEGER },
      children: count(),
      newestLastmod: optional(),
      extensions: jsonColumn('extensions'),
      fingerprint: optional(),
      tried: { ...count(), defaultValue: 0 },
      findings: jsonColumn('findings'),
    },
    { ...options, tableName: 'readings' },
  );
  SubmissionRow.init(
    {
      id: id(),
      sitemapId: text(),
      enrolmentId: text(),
      sentAs: text(),
      ref: text(),
      submittedAt: time(),
      withdrawnAt: time(true),
      askedAt: time(true),
      apartSince: time(true),
    },
    { ...options, tableName: 'submissions' },
  );
  EngineReadingRow.init(
    {
      id: id(),
      submissionId: text(),
      at: time(),
      firstAt: time(true),
      times: { ...count(), defaultValue: 1 },
      readAt: time(true),
      found: { type: DataTypes.INTEGER },
      listed: { type: DataTypes.INTEGER },
      trouble: optional(),
      ours: { type: DataTypes.INTEGER },
      recordedBy: optional(),
    },
    { ...options, tableName: 'engine_readings' },
  );
}
