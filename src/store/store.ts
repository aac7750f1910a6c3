import { chmodSync, closeSync, existsSync, mkdirSync, mkdtempSync, openSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { QueryTypes, Sequelize, Transaction } from 'sequelize';
import { defineClients } from './models/clients.js';
import { defineAccounts } from './models/accounts.js';
import { defineEnrolments } from './models/enrolments.js';
import { defineJobs } from './models/jobs.js';
import { defineCarrying } from './models/publishing.js';
import { defineMaking } from './models/making.js';
import { defineContents } from './models/contents.js';
import { definePageAsks } from './models/page-lookups.js';
import { definePeople } from './models/people.js';
import { defineReadingSets } from './models/reading-sets.js';
import { defineSitemaps } from './models/sitemaps.js';
import { defineVariants } from './models/variants.js';
import { ground, isInGround, LAST_BEFORE } from './ground/ground.js';
import { lettersOfProperties } from './migrations/0036-letters-of-properties.js';
import { foundByIndex } from './migrations/0037-found-by-index.js';
import { wordsOfToday } from './migrations/0038-words-of-today.js';
import { bind, type Values } from './bind.js';
import { Connections } from './connections.js';
import { requireGoing } from '../cancellation/cancellation.js';
import { markNow } from './request-mark.js';
import { asRecordsFault, RecordsFault } from './records-fault.js';
import { TableColumns } from './table-columns.js';
import { isBulkWrite } from './bulk-writes.js';

/** `user_version` of records whose free pages hold nothing of what was deleted. */
const WIPED = 1;

/** In their order. One that has landed is never edited. */
const MIGRATIONS = [ground, lettersOfProperties, foundByIndex, wordsOfToday];

/** Proves that this process may write. Throws where another has taken the records over. */
export type Fence = (transaction: Transaction | null) => Promise<void>;

/** The records are their owner's alone; what SQLite lays beside them takes the file's mode. A folder that is made is so too. */
function makePrivate(file: string): void {
  if (file === ':memory:') return;
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  closeSync(openSync(file, 'a', 0o600));
  for (const one of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(one)) chmodSync(one, 0o600);
}

/** The records: one SQLite file, many readers, one writer at a time. */
export class Store {
  private static isOpen = false;
  private lastWrite: Promise<unknown> = Promise.resolve();

  private readonly columns = new TableColumns();
  private readonly connections: Connections;

  private constructor(
    readonly sequelize: Sequelize,
    /** The folder for what lies beside the records, and can be made anew at any time. */
    readonly shelves: string,
  ) {
    this.connections = new Connections(sequelize, this.columns);
  }

  /**
   * Opens the file, makes it if it is not there, and brings its tables up to date.
   * One process has one store open at a time: the models are bound to it.
   * @param file path of the SQLite file
   */
  static async open(file: string): Promise<Store> {
    if (Store.isOpen) throw new Error('This process has its records open already.');
    try {
      makePrivate(file);
    } catch (error) {
      throw asRecordsFault(error, file);
    }
    Store.isOpen = true;
    const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    const shelves = join(
      file === ':memory:' ? mkdtempSync(join(tmpdir(), 'yardbadge-')) : dirname(file),
      'shelves',
    );
    mkdirSync(shelves, { recursive: true, mode: 0o700 });
    const store = new Store(sequelize, shelves);
    definePeople(sequelize);
    defineClients(sequelize);
    defineAccounts(sequelize);
    defineEnrolments(sequelize);
    defineSitemaps(sequelize);
    defineReadingSets(sequelize);
    defineVariants(sequelize);
    defineCarrying(sequelize);
    defineMaking(sequelize);
    defineContents(sequelize);
    definePageAsks(sequelize);
    defineJobs(sequelize);
    try {
      // WAL: readers go on while one writes.
      await sequelize.query('PRAGMA journal_mode = WAL');
      await store.migrate();
    } catch (error) {
      await store.close().catch(() => undefined);
      throw asRecordsFault(error, file);
    }
    store.columns.forget();
    return store;
  }

  /** How often something was written here that is to be seen at once, and what may be seen a moment later; not what is written quietly. */
  writes = 0;
  lateWrites = 0;
  private readonly listeners: ((isLate: boolean) => void)[] = [];

  private fence: Fence | null = null;

  /** Has each transaction proved that it may write, from now on, before it writes anything; with null nothing is asked of it. */
  fenceBy(fence: Fence | null): void {
    this.fence = fence;
  }

  /** Throws where this process may not write any more: what is to be sent belongs to another by then. */
  async requireHeld(): Promise<void> {
    await this.fence?.(null);
  }

  /** Has something done after each time that something was written, but for what is written quietly. */
  onWritten(listener: (isLate: boolean) => void): void {
    this.listeners.push(listener);
  }

  /** Has what was written unhurriedly seen at once, too. */
  hurry(): void {
    this.noteWritten(false);
  }

  /** Runs `work` in a transaction of its own; writers wait for one another, so none meets a locked file. */
  async write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    const result = await this.writeQuietly(work);
    this.noteWritten(isBulkWrite());
    return result;
  }

  private noteWritten(isLate: boolean): void {
    if (isLate) this.lateWrites += 1;
    else this.writes += 1;
    for (const listener of this.listeners) listener(isLate);
  }

  /** As `write`, for what is derived from what was written, so that nobody has to be told of it. */
  writeQuietly<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    const mark = markNow();
    const run = this.lastWrite.then(() =>
      this.sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, async (transaction) => {
        // What was told to stop writes nothing more: it is done another time.
        requireGoing();
        await this.fence?.(transaction);
        const result = await work(transaction);
        await mark?.putDown(transaction);
        return result;
      }),
    );
    this.lastWrite = run.catch(() => this.connections.drop());
    return run;
  }

  /**
   * Has nothing of what was deleted stay in the files: neither in the log that was written before the records, nor in free pages from a
   * time in which they were not overwritten. Those are cleared once, which takes about a second for each hundred megabytes.
   */
  async wipe(): Promise<void> {
    const run = this.lastWrite.then(async () => {
      await this.connections.drop();
      const [kept] = await this.select<{ user_version: number }>('PRAGMA user_version');
      if ((kept?.user_version ?? 0) < WIPED) {
        await this.sequelize.query('VACUUM');
        await this.sequelize.query(`PRAGMA user_version = ${String(WIPED)}`);
      }
      await this.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
    });
    this.lastWrite = run.catch(() => undefined);
    return run;
  }

  /** Rows of a hand-written query, typed by the caller. */
  select<Row extends object>(
    sql: string,
    values: Values = {},
    transaction: Transaction | null = null,
  ): Promise<Row[]> {
    return this.sequelize.query<Row>(sql, {
      type: QueryTypes.SELECT,
      bind: bind(sql, values),
      transaction,
    });
  }

  /** Carries out a hand-written statement within a transaction. */
  async run(sql: string, values: Values, transaction: Transaction): Promise<void> {
    await this.sequelize.query(sql, { type: QueryTypes.RAW, bind: bind(sql, values), transaction });
  }

  /** As `run`. @returns how many rows it changed */
  async change(sql: string, values: Values, transaction: Transaction): Promise<number> {
    await this.run(sql, values, transaction);
    const [row] = await this.select<{ count: number }>('SELECT changes() AS count', {}, transaction);
    return row?.count ?? 0;
  }

  /** Adds rows to a table, any number in one statement. Table and columns are ours, never input. */
  async insert(
    table: string,
    rows: readonly Readonly<Record<string, string | number | null>>[],
    transaction: Transaction,
  ): Promise<void> {
    const columns = Object.keys(rows[0] ?? {});
    if (columns.length === 0) return;
    await this.sequelize.query(
      `INSERT INTO ${table} (${columns.join(', ')})
         SELECT ${columns.map((column) => `value->>'${column}'`).join(', ')} FROM json_each($rows)`,
      { type: QueryTypes.RAW, bind: { rows: JSON.stringify(rows) }, transaction },
    );
  }

  async close(): Promise<void> {
    await this.lastWrite;
    await this.connections.drop();
    await this.sequelize.close();
    Store.isOpen = false;
  }

  /**
   * The migrations that records have, of those that there are.
   * @throws RecordsFault for records of a newer version, and for those that are too old to be brought here
   */
  private async knownMigrations(known: readonly string[]): Promise<readonly string[]> {
    const newer = known.filter((name) => !isInGround(name) && !MIGRATIONS.some((one) => one.name === name));
    if (newer.length > 0)
      throw new RecordsFault(
        `The records were written by a newer Yard Badge, which knows of “${newer.join('”, “')}”. Start that one, or put the copy there that was made before the upgrade. Nothing was changed.`,
      );
    if (!known.some(isInGround)) return known;
    if (!known.includes(LAST_BEFORE))
      throw new RecordsFault(
        `The records are too old for this Yard Badge. Start the one of December 2026 with them once, and then this one. Nothing was changed.`,
      );
    await this.write(async (transaction) => {
      await this.run('DELETE FROM migrations', {}, transaction);
      await this.run('INSERT INTO migrations (name) VALUES ($name)', { name: ground.name }, transaction);
    });
    return [ground.name];
  }

  private async migrate(): Promise<void> {
    const sequelize = this.sequelize;
    await sequelize.query('CREATE TABLE IF NOT EXISTS migrations (name TEXT PRIMARY KEY)');
    const done = async () =>
      (await this.select<{ name: string }>('SELECT name FROM migrations ORDER BY name')).map(
        ({ name }) => name,
      );
    const known = await this.knownMigrations(await done());
    if (MIGRATIONS.every(({ name }) => known.includes(name))) return;
    // Loaded only when it has work: that takes a fifth of a second.
    const { Umzug } = await import('umzug');
    const umzug = new Umzug({
      migrations: MIGRATIONS.map(({ name, up }) => ({
        name,
        up: () =>
          this.write(async (transaction) => {
            for (const statement of up) await sequelize.query(statement, { transaction });
            // With what it did, in one transaction: an end in between would have it done once more.
            await sequelize.query('INSERT INTO migrations (name) VALUES ($name)', {
              bind: { name },
              transaction,
            });
          }),
      })),
      storage: {
        // It has been written down with what it did.
        logMigration: () => Promise.resolve(),
        unlogMigration: async ({ name }) => {
          await sequelize.query('DELETE FROM migrations WHERE name = $name', { bind: { name } });
        },
        executed: done,
      },
      logger: undefined,
    });
    await umzug.up();
  }
}
