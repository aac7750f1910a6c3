import { createHash } from 'node:crypto';
import sqlite3 from 'sqlite3';

/** Runs statements on the records from outside of the service. @param patienceMs how long another who writes is waited for */
export function statements(file: string, some: readonly string[], patienceMs = 5_000): Promise<void> {
  return new Promise((done, fail) => {
    const records = new sqlite3.Database(file);
    records.configure('busyTimeout', patienceMs);
    records.exec(some.join(';'), (error) => {
      records.close();
      if (error) fail(error);
      else done();
    });
  });
}

/** What a query finds in the records, asked from outside of the service. */
export function selected<Row>(file: string, sql: string): Promise<Row[]> {
  return new Promise((done, fail) => {
    const records = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (missing) => {
      if (missing) {
        fail(missing);
        return;
      }
      records.configure('busyTimeout', 5_000);
      records.all(sql, (error: Error | null, rows: Row[]) => {
        records.close();
        if (error) fail(error);
        else done(rows);
      });
    });
  });
}

/** What all tables hold, in a few letters: any change of a row shows. */
export async function fingerprint(file: string): Promise<string> {
  const tables = await selected<{ name: string }>(
    file,
    "SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name",
  );
  const hash = createHash('sha256');
  for (const { name } of tables)
    hash.update(JSON.stringify([name, await selected(file, `SELECT * FROM "${name}"`)]));
  return hash.digest('hex');
}
