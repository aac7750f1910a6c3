import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { cpus } from 'node:os';
import sqlite3 from 'sqlite3';
import { brindle, house, ostrime, sundrel, veldrane } from '../test/support/profiles.js';
import { makeAgency } from './agency-records.js';
import { at, took, withService, type Served } from './agency.js';
import { placementEvery, placeOf } from '../src/core/watch/rhythm.js';
import { machineClock } from '../src/net/time/machine-clock.js';
import { startQuay } from './start-quay.js';

/** So many properties have some ten thousand placements of held badges. */
const PROPERTIES = 3_180;
const DAY_MS = 86_400_000;
const HOUR_MS = DAY_MS / 24;
/**
 * How many times as fast as the machine's the clock of the day is: a day takes a quarter of an hour. Faster, the looks of a day are more
 * than a machine of two cores can do in so short a time, and are late for that alone.
 */
const RATE = 100;
const REST_MS = 20_000;
/** Clock ticks a second, as Linux counts a process's time. */
const TICKS = 100;
/** When the day begins: each placement was looked at in the day before. */
const BEGIN = Date.UTC(2026, 10, 23);

export interface WatchedMeasured {
  readonly placements: number;
  readonly looks: number;
  /** Of one core, over the day: the looks, and what the service takes at rest. */
  readonly core: number;
  readonly atRest: number;
  /** Looks in the busiest hour over the mean of all. */
  readonly busiest: number;
  /** Seconds of the day: 99 in a hundred looks were no later. */
  readonly late: number;
  /** Looks that are due when the day is over. */
  readonly left: number;
}

/** Seconds of processor that a process has taken, with all its threads. */
function processorSeconds(pid: number): number {
  const fields = readFileSync(`/proc/${String(pid)}/stat`, 'utf8')
    .replace(/^.*\) /u, '')
    .split(' ');
  return (Number(fields[11]) + Number(fields[12])) / TICKS;
}

interface Look {
  readonly dueAt: string;
  readonly finishedAt: string;
}

function looksIn(file: string): Promise<Look[]> {
  return new Promise((done, fail) => {
    const records = new sqlite3.Database(file, sqlite3.OPEN_READONLY);
    records.all<Look>(
      `SELECT i.input->>'dueAt' AS dueAt, i.finishedAt FROM jobs j JOIN job_items i ON i.jobId = j.id
        WHERE j.kind = 'watch' AND i.finishedAt IS NOT NULL`,
      (error, rows) => {
        records.close();
        if (error) fail(error);
        else done(rows);
      },
    );
  });
}

/** Sets the clock of a service. @param shown milliseconds since 1970 */
function setClock(folder: string, shown: number, rate: number): void {
  const now = { from: machineClock.now().toISOString(), shown: new Date(shown).toISOString(), rate };
  writeFileSync(join(folder, 'clock.new'), JSON.stringify(now));
  renameSync(join(folder, 'clock.new'), join(folder, 'clock.json'));
}

/** Hours of ten thousand watched placements at their usual rhythm, on a clock that is faster than the machine's. */
export async function measureWatched(hours = 24): Promise<WatchedMeasured> {
  const { quay, end } = await startQuay(PROPERTIES);
  const net = {
    resolver: `127.0.0.1:${String(quay.dns)}`,
    allow: ['192.0.2.0/24'],
    connect: ['*:80', '*:443'].map((from) => ({ from, to: `127.0.0.1:${String(quay.http)}` })),
  };
  // As it is when the watch has gone on for days: each was looked at in its place of the day before.
  const lookedAt = (watched: string) => {
    const profile = [house, veldrane, ostrime, brindle, sundrel].find(({ id }) => watched.endsWith(id));
    const every = profile ? placementEvery(profile.keeps, DAY_MS) : DAY_MS;
    const phase = placeOf(watched) * every;
    return new Date(Math.floor((BEGIN - phase) / every) * every + phase).toISOString();
  };
  try {
    return await withService(
      async (file) => {
        setClock(join(file, '..'), BEGIN, 0);
        await makeAgency(file, PROPERTIES, { scheme: 'http', held: lookedAt });
      },
      (served) => someHours(served, hours),
      net,
      { clock: './clock.json', watch: { on: true } },
    );
  } finally {
    end();
  }
}

async function someHours(served: Served, hours: number): Promise<WatchedMeasured> {
  const time = hours * HOUR_MS;
  const { folder, url, key, pid } = served;
  const counts = async () => {
    const { body } = await took(`${url}/watch?limit=1`, key);
    return (JSON.parse(body) as { counts: Record<string, number> }).counts;
  };
  await took(`${url}/worklist?limit=1`, key);
  // At rest, with nothing due: the clock stands.
  await sleep(2_000);
  const before = processorSeconds(pid);
  await sleep(REST_MS);
  const atRest = (processorSeconds(pid) - before) / (REST_MS / 1000);
  const { placement = 0 } = await counts();
  const begun = processorSeconds(pid);
  setClock(folder, BEGIN, RATE);
  await sleep(time / RATE);
  const taken = processorSeconds(pid) - begun - atRest * (time / RATE / 1000);
  const looks = await looksIn(join(folder, 'y.sqlite'));
  // What was due before the day is its beginning's, since some engines' rhythms are others than a day.
  const late = looks
    .filter(({ dueAt }) => Date.parse(dueAt) >= BEGIN)
    .map((one) => (Date.parse(one.finishedAt) - Date.parse(one.dueAt)) / 1000);
  const { due = 0 } = await counts();
  const byHour = Array.from({ length: hours }, (_, hour) => {
    const from = BEGIN + hour * HOUR_MS;
    return looks.filter(({ finishedAt }) => {
      const since = Date.parse(finishedAt) - from;
      return since >= 0 && since < HOUR_MS;
    }).length;
  });
  return {
    placements: placement,
    looks: looks.length,
    core: taken / (time / 1000) + atRest,
    atRest,
    busiest: Math.max(...byHour) / (looks.length / hours),
    late: at(late, 0.99),
    left: due,
  };
}

if (process.argv[1]?.endsWith('watched.ts') === true)
  process.stdout.write(
    `${JSON.stringify({ ...(await measureWatched(Number(process.argv[2] ?? '24'))), cores: cpus().length })}\n`,
  );
