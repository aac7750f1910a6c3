import type { Sequelize } from 'sequelize';
import type { TableColumns } from './table-columns.js';

interface Connection {
  uuid?: string;
  all(sql: string, ...rest: unknown[]): unknown;
  serialize(work: () => unknown): unknown;
  exec(sql: string, done: (error: Error | null) => void): void;
  close(done?: (error: Error | null) => void): void;
}

interface ConnectionManager {
  connections: Record<string, Connection>;
  getConnection(options?: { uuid?: string }): Promise<Connection>;
  releaseConnection(connection: Connection, force?: boolean): void;
}

/**
 * NORMAL is safe with WAL: a crash of the machine may lose the last commits, never the file; one of the process loses nothing. What is
 * deleted is overwritten in the file, too.
 */
const PRAGMAS = 'PRAGMA synchronous = NORMAL; PRAGMA secure_delete = ON';

/**
 * The connections to the records, each made ready when it is opened: Sequelize runs no hook for those of SQLite. That of one
 * transaction is kept for the next. Sequelize opens the file anew for each, which costs more than most of our transactions
 * do (measured: 3.5 ms against 1 ms); there is one writer at a time, so one is enough.
 */
export class Connections {
  private spare: Connection | null = null;
  private readonly ready = new WeakMap<Connection, Promise<void>>();

  constructor(
    sequelize: Sequelize,
    private readonly columns: TableColumns,
  ) {
    const manager = (sequelize as unknown as { connectionManager: ConnectionManager }).connectionManager;
    const open = manager.getConnection.bind(manager);
    const release = manager.releaseConnection.bind(manager);
    manager.getConnection = async (options) => {
      const uuid = options?.uuid;
      const kept = this.spare;
      if (uuid === undefined || uuid === 'default' || kept === null)
        return this.prepared(await open(options));
      this.spare = null;
      kept.uuid = uuid;
      manager.connections[uuid] = kept;
      return kept;
    };
    manager.releaseConnection = (connection, force) => {
      const { uuid } = connection;
      if (uuid === undefined || uuid === 'default' || this.spare !== null) {
        release(connection, force);
        return;
      }
      delete manager.connections[uuid];
      this.spare = connection;
    };
  }

  /** Closes the kept connection: at the end, and after a transaction that failed, whose state nobody knows. */
  async drop(): Promise<void> {
    const kept = this.spare;
    this.spare = null;
    if (kept) await new Promise<void>((done) => kept.close(() => done()));
  }

  private async prepared(connection: Connection): Promise<Connection> {
    let ready = this.ready.get(connection);
    if (!ready) {
      this.columns.rememberFor(connection);
      withoutTraces(connection);
      ready = new Promise<void>((done, fail) => {
        connection.exec(PRAGMAS, (error) => {
          if (error) fail(error);
          else done();
        });
      });
      this.ready.set(connection, ready);
    }
    await ready;
    return connection;
  }
}

/**
 * Sequelize writes down for each query where it was asked for, in case that it fails, which costs a tenth of it. A query that fails
 * tells itself.
 */
function withoutTraces(connection: Connection): void {
  const serialize = connection.serialize.bind(connection);
  connection.serialize = (work) => {
    const limit = Error.stackTraceLimit;
    Error.stackTraceLimit = 0;
    try {
      return serialize(work);
    } finally {
      Error.stackTraceLimit = limit;
    }
  };
}
