import type { Sequelize } from 'sequelize';

interface Connection {
  uuid?: string;
  close(done?: (error: Error | null) => void): void;
}

interface ConnectionManager {
  connections: Record<string, Connection>;
  getConnection(options?: { uuid?: string }): Promise<Connection>;
  releaseConnection(connection: Connection, force?: boolean): void;
}

/**
 * Keeps the connection of one transaction for the next. Sequelize opens the file anew for each, which costs more than
 * most of our transactions do (measured: 3.5 ms against 1 ms); there is one writer at a time, so one is enough.
 */
export class WriterConnection {
  private spare: Connection | null = null;

  constructor(sequelize: Sequelize) {
    const manager = (sequelize as unknown as { connectionManager: ConnectionManager }).connectionManager;
    const open = manager.getConnection.bind(manager);
    const release = manager.releaseConnection.bind(manager);
    manager.getConnection = async (options) => {
      const uuid = options?.uuid;
      const kept = this.spare;
      if (uuid === undefined || uuid === 'default' || kept === null) return open(options);
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
}
