import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROGRAM } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

/** What goes on without the one who pressed Ctrl-C, and how it is stopped. */
describe('Ctrl-C while the service works', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-ctrl-'));

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    await stage.order({ do: 'engine', engine: 'veldrane', slowMs: 8_000 });
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  /** Begins a long piece of work, and presses Ctrl-C so many times once it is under way. */
  async function pressed(times: number): Promise<{ status: number | null; err: string; job: string }> {
    const child = spawn(process.execPath, [PROGRAM, 'token', 'ferries@veldrane'], {
      env: { ...process.env, YARDBADGE_URL: stage.url, YARDBADGE_KEY: stage.key, XDG_CONFIG_HOME: home },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let err = '';
    child.stderr.on('data', (piece: Buffer) => (err += piece.toString()));
    const ended = new Promise<number | null>((done) => child.once('exit', done));
    const before = new Set((await stage.marit.listJobs({})).items.map(({ id }) => id));
    let job: string | undefined;
    await expect
      .poll(async () => {
        job = (await stage.marit.listJobs({})).items.find(
          ({ id, kind, state }) => !before.has(id) && kind === 'token' && state !== 'done',
        )?.id;
        return job;
      })
      .toBeDefined();
    // The command hears of the job as soon as its first request is answered.
    await sleep(2_500);
    child.kill('SIGINT');
    if (times > 1) {
      await expect.poll(() => err).toContain('Ctrl-C once more');
      child.kill('SIGINT');
    }
    return { status: await ended, err, job: job ?? '' };
  }

  it('leaves it to the service at first, and says how to see and to stop it', async () => {
    const { status, err, job } = await pressed(1);
    expect(err).toContain(
      `The work goes on without you: “job ${job}” shows how far it is, “job ${job} --stop” stops it.`,
    );
    expect(status).toBe(1);
    expect((await stage.marit.showJob({ params: { id: job } })).state).not.toBe('stopped');
    await stage.marit.stopJob({ params: { id: job } });
  });

  it('stops it the second time', async () => {
    const { status, err, job } = await pressed(2);
    expect(err).toContain(`Stopped; “job ${job} --resume” goes on with it.`);
    expect(status).toBe(1);
    expect((await stage.marit.showJob({ params: { id: job } })).state).toBe('stopped');
  });
});
