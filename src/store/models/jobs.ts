import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { ItemState, JobState } from '../../core/record/states.js';
import { count, id, jsonColumn, text, time } from './columns.js';

/** Where pieces wait: what a person waits for, work in bulk, long readings. */
export type Lane = 'person' | 'bulk' | 'long';

export class JobRow extends Model<InferAttributes<JobRow>, InferCreationAttributes<JobRow>> {
  declare id: string;
  declare kind: string;
  declare state: JobState;
  declare personId: CreationOptional<string | null>;
  declare createdAt: string;
  declare finishedAt: CreationOptional<string | null>;
  declare lane: CreationOptional<Lane>;
  /** How many pieces it has, how many are finished, and how many wait for a time. */
  declare total: CreationOptional<number>;
  declare finished: CreationOptional<number>;
  declare resting: CreationOptional<number>;
  /** Since when a person has it stopped. */
  declare stoppedAt: CreationOptional<string | null>;
}

/** One piece of a job: done once, or resumed by its id. */
export class JobItemRow extends Model<InferAttributes<JobItemRow>, InferCreationAttributes<JobItemRow>> {
  declare id: string;
  declare jobId: string;
  declare seq: number;
  declare subject: string;
  declare input: object;
  declare state: ItemState;
  /** How often it was begun: more than 1 after a crash. */
  declare begun: number;
  declare result: CreationOptional<object | null>;
  declare finishedAt: CreationOptional<string | null>;
  /** Before this it need not be tried again. */
  declare dueAt: CreationOptional<string | null>;
  /** Where it goes, so that not too many go there at once. */
  declare host: CreationOptional<string | null>;
  declare engine: CreationOptional<string | null>;
}

export function defineJobs(sequelize: Sequelize): void {
  const options = { sequelize, timestamps: false };
  JobRow.init(
    {
      id: id(),
      kind: text(),
      state: text(),
      personId: { type: DataTypes.STRING },
      createdAt: time(),
      finishedAt: time(true),
      lane: { ...text(), defaultValue: 'person' },
      total: { ...count(), defaultValue: 0 },
      finished: { ...count(), defaultValue: 0 },
      resting: { ...count(), defaultValue: 0 },
      stoppedAt: time(true),
    },
    { ...options, tableName: 'jobs' },
  );
  JobItemRow.init(
    {
      id: id(),
      jobId: text(),
      seq: count(),
      subject: text(),
      input: jsonColumn('input'),
      state: text(),
      begun: count(),
      result: jsonColumn('result'),
      finishedAt: time(true),
      dueAt: time(true),
      host: { type: DataTypes.STRING },
      engine: { type: DataTypes.STRING },
    },
    { ...options, tableName: 'job_items' },
  );
}
