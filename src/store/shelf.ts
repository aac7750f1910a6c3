import { rmSync } from 'node:fs';
import { QueryTypes, Sequelize } from 'sequelize';

import { bind } from './bind.js';

type Value = string | number | null;

/**
 * A file of its own beside the records, for what is too much for them and can be made anew at any time. It is written once, in one go,
 * and only read from then on; what a crash has left half-written is thrown away.
 */
export class Shelf {
  /** What is being read: it is closed only after that. */
  private readonly reading = new Set<Promise<unknown>>();

  private constructor(private readonly sequelize: Sequelize) {}

  /** Begins a new one. @param tables the statements that make its tables */
  static async make(file: string, tables: readonly string[]): Promise<Shelf> {
    rmSync(file, { force: true });
    const shelf = new Shelf(new Sequelize({ dialect: 'sqlite', storage: file, logging: false }));
    // Nobody reads it before it is whole, so that nothing of it has to outlive a crash.
    await shelf.run('PRAGMA journal_mode = OFF');
    await shelf.run('PRAGMA synchronous = OFF');
    for (const table of tables) await shelf.run(table);
    return shelf;
  }

  /** Opens one that is whole. */
  static open(file: string): Shelf {
    return new Shelf(new Sequelize({ dialect: 'sqlite', storage: file, logging: false }));
  }

  async run(sql: string): Promise<void> {
    await this.sequelize.query(sql, { type: QueryTypes.RAW });
  }

  /** Adds rows, each a list of values in the order of the columns. Table and columns are ours, never input. */
  async add(table: string, columns: readonly string[], rows: readonly (readonly Value[])[]): Promise<void> {
    if (rows.length === 0) return;
    await this.sequelize.query(
      `INSERT INTO ${table} (${columns.join(', ')}) SELECT ${columns.map((_, at) => `value->>${String(at)}`).join(', ')} FROM json_each($rows)`,
      { type: QueryTypes.RAW, bind: { rows: JSON.stringify(rows) } },
    );
  }

  select<Row extends object>(
    sql: string,
    values: Readonly<Record<string, Value | readonly Value[]>> = {},
  ): Promise<Row[]> {
    const found = this.sequelize.query<Row>(sql, { type: QueryTypes.SELECT, bind: bind(sql, values) });
    const over = found.then(
      () => undefined,
      () => undefined,
    );
    this.reading.add(over);
    void over.then(() => this.reading.delete(over));
    return found;
  }

  async close(): Promise<void> {
    await Promise.all(this.reading);
    await this.sequelize.close();
  }
}
