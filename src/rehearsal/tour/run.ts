import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fit, byHand, misbehaving } from './engines.js';
import { published } from './publishing.js';
import { letters } from './letters.js';
import { mishaps } from './mishaps.js';
import { follow, prove, takeOn } from './one-site.js';
import { sitemaps } from './sitemaps.js';
import { thirtyDays } from './thirty-days.js';
import { PROGRAM, Tour } from './tour.js';
import { variants } from './variants.js';

async function startDemo(folder: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, [PROGRAM, 'demo', '--empty', '--any-ports'], {
    cwd: folder,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((done, fail) => {
    child.stdout.on('data', (piece: Buffer) => {
      if (piece.includes('Ctrl-C')) done();
    });
    child.once('exit', (status) => {
      fail(new Error(`the demo ended with status ${String(status)}`));
    });
  });
  return child;
}

/** Runs a part of the tour in a demo of its own. */
async function inDemo(
  part: (tour: Tour, folder: string) => Promise<void>,
  write: (text: string) => void,
): Promise<Tour> {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-tour-'));
  const tour = new Tour(folder, write);
  const demo = await startDemo(folder);
  try {
    await part(tour, folder);
  } finally {
    const gone = new Promise((done) => demo.once('exit', done));
    demo.kill('SIGTERM');
    await gone;
    // Programs of the demo may still be at their last writing.
    await rm(folder, { recursive: true, force: true, maxRetries: 10, retryDelay: 100 });
  }
  return tour;
}

/** The days are lived through meanwhile, and told after the day. */
const said: string[] = [];
const living = inDemo(thirtyDays, (text) => said.push(text));
const show = (text: string): void => {
  process.stdout.write(text);
};
const day = await inDemo(async (tour, folder) => {
  await tour.step(
    'the day is gone through by hand: nothing is looked at by itself meanwhile',
    ['watch', 'pause', '--all', '--why', 'gone through by hand'],
    0,
  );
  await takeOn(tour);
  await prove(tour);
  await follow(tour);
  await sitemaps(tour);
  await fit(tour);
  await byHand(tour);
  await misbehaving(tour);
  await mishaps(tour);
  await variants(tour);
  await published(tour, folder);
  await letters(tour);
}, show);
const days = await living.finally(() => {
  show(said.join(''));
});
process.exitCode = Tour.end(day, days);
