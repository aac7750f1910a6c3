import { spawn } from 'node:child_process';
import { mkdtempSync, openSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { freePort } from '../real/programs.js';
import { PROGRAM } from '../support/built.js';
import { removed } from '../support/removed.js';
import { until } from '../support/until.js';

it('a log that cannot be written is lost, and no fault of the service', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-log-'));
  const port = await freePort();
  const config = join(folder, 'yardbadge.yaml');
  writeFileSync(config, `listen: { port: ${String(port)} }\nlog: info\nwatch: { on: false }\n`);
  const service = spawn(process.execPath, [PROGRAM, 'serve', '--config', config], {
    cwd: folder,
    stdio: ['ignore', openSync('/dev/full', 'w'), 'pipe'],
  });
  let said = '';
  service.stderr?.on('data', (piece: Buffer) => (said += piece.toString()));
  const ended = new Promise((done) => service.once('exit', done));
  const health = async () => {
    const answer = await fetch(`http://127.0.0.1:${String(port)}/api/v1/health`).catch(() => null);
    return answer === null ? null : ((await answer.json()) as { faults: number });
  };
  await until(health, (one) => one !== null);
  for (let nth = 0; nth < 50; nth += 1) expect(await health()).toMatchObject({ faults: 0 });
  expect(said.split('\n').filter((line) => line !== '')).toHaveLength(1);
  expect(said).toContain('could not be written');
  service.kill();
  await ended;
  await removed(folder);
});
