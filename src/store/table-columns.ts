type Done = (error: Error | null, rows: unknown) => void;

interface Connection {
  all(sql: string, ...rest: unknown[]): unknown;
}

const QUESTION = 'PRAGMA table_info(';

/**
 * Keeps what the columns of each table are. Sequelize asks for them before every SELECT, which makes two calls of each;
 * they change only while the tables are brought up to date.
 */
export class TableColumns {
  private readonly known = new Map<string, unknown>();

  /** Answers for a connection what is known already, and notes what it is told. */
  rememberFor(connection: Connection): void {
    const ask = connection.all.bind(connection);
    connection.all = (sql, ...rest) => {
      const [done] = rest;
      if (!sql.startsWith(QUESTION) || typeof done !== 'function') return ask(sql, ...rest);
      const answer = done as Done;
      const rows = this.known.get(sql);
      if (rows !== undefined) {
        answer(null, rows);
        return connection;
      }
      return ask(sql, (error: Error | null, told: unknown) => {
        if (!error) this.known.set(sql, told);
        answer(error, told);
      });
    };
  }

  forget(): void {
    this.known.clear();
  }
}
