import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import { Store } from '../../src/store/store.js';
import { removed } from '../support/removed.js';
import { selected } from '../support/statements.js';

/** Moments at which an upgrade is killed; by night two hundred (`npm run hostile`). */
const KILLS = Math.min(200, Number(process.env['KILLS'] ?? '4') * 6);
const DIST = fileURLToPath(new URL('../../dist', import.meta.url));

/** Opens records, and kills itself before a statement of it. Ends with 0 where there are fewer. */
const OPENER = `
  import { Sequelize } from 'sequelize';
  import { Store } from '${DIST}/store/store.js';
  const [file, last] = process.argv.slice(1);
  const query = Sequelize.prototype.query;
  let done = 0;
  Sequelize.prototype.query = function (...asked) {
    if (++done === Number(last)) process.kill(process.pid, 'SIGKILL');
    return query.apply(this, asked);
  };
  await Store.open(file);
  console.log(done);
  process.exit(0);
`;

function open(file: string, last: number): Promise<{ signal: NodeJS.Signals | null; said: string }> {
  const child = spawn(process.execPath, ['--input-type=module', '-e', OPENER, file, String(last)], {
    cwd: fileURLToPath(new URL('../..', import.meta.url)),
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  let said = '';
  child.stdout.on('data', (piece: Buffer) => (said += piece.toString()));
  return new Promise((done) => {
    child.once('exit', (_, signal) => {
      done({ signal, said });
    });
  });
}

it(
  `an upgrade that is killed is finished by the next start, ${String(KILLS)} times`,
  async () => {
    const folder = mkdtempSync(join(tmpdir(), 'yardbadge-upgrade-'));
    const whole = join(folder, 'whole.sqlite');
    const { said } = await open(whole, 0);
    const statements = Number(said);
    expect(statements).toBeGreaterThan(200);
    const schemaOf = (file: string) =>
      selected<{ sql: string | null }>(file, 'SELECT sql FROM sqlite_master ORDER BY type, name');
    const expected = await schemaOf(whole);
    for (let kill = 0; kill < KILLS; kill += 1) {
      const file = join(folder, `${String(kill)}.sqlite`);
      const { signal } = await open(file, 1 + Math.floor((kill * statements) / KILLS));
      expect(signal).toBe('SIGKILL');
      const store = await Store.open(file);
      await store.close();
      expect(await schemaOf(file)).toEqual(expected);
      expect(await selected(file, 'PRAGMA integrity_check')).toEqual([{ integrity_check: 'ok' }]);
    }
    await removed(folder);
  },
  1_800_000 + KILLS * 60_000,
);
