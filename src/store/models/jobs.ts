import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Sequelize,
} from 'sequelize';
import { count, id, jsonColumn, text, time } from './columns.js';

export type JobState = 'waiting' | 'running' | 'done';
export type ItemState = 'waiting' | 'running' | 'done' | 'failed';

export class JobRow extends Model<InferAttributes<JobRow>, InferCreationAttributes<JobRow>> {
  declare id: string;
  declare kind: string;
  declare state: JobState;
  declare personId: CreationOptional<string | null>;
  declare createdAt: string;
  declare finishedAt: CreationOptional<string | null>;
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
    },
    { ...options, tableName: 'job_items' },
  );
}
