import type { MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { Body } from '../core/badge/probe/evidence.js';
import { builtAt } from './built.js';
import { asOvertaxed, Overtaxed } from './overtaxed.js';
import type { Given, Made, TaskName } from './tasks.js';

/**
 * Milliseconds that one task may take. The parsers have bounds of their own, by which all they are given ends in a second or two; this
 * is for what nobody foresaw, and long enough for a machine that has much else to do.
 */
const LONGEST_MS = 20_000;
const IDLE_MS = 60_000;

/** What a pool of threads runs, how many it may have, and the megabytes that one may take for what lasts and for what does not. */
interface Kind {
  readonly file: string;
  readonly threads: number;
  readonly megabytes: number;
  readonly young: number;
}
const SHORT: Kind = { file: 'worker.js', threads: 2, megabytes: 160, young: 16 };
/** Sitemaps that are read as they come. They need little at a time, however large they are. */
const LONG: Kind = { file: 'sitemap-worker.js', threads: 2, megabytes: 320, young: 4 };

function open({ file, threads, megabytes, young }: Kind): Piscina {
  const pool = new Piscina({
    filename: builtAt(file),
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: IDLE_MS,
    concurrentTasksPerWorker: 1,
    resourceLimits: { maxOldGenerationSizeMb: megabytes, maxYoungGenerationSizeMb: young, stackSizeMb: 4 },
    // What a thread needs of the environment is nothing, and keys are in it; nor of how the process was started.
    env: {},
    execArgv: [],
    // Its tables of how long tasks took are some hundred kilobytes, and nobody asks for them.
    recordTiming: false,
  });
  // A thread that dies fails its task, which is where it is told; that it died is no news to anybody else.
  pool.on('error', () => undefined);
  return pool;
}

/** One pool of threads for the whole process, opened when it is first needed. */
let short: Piscina | null = null;
let long: Piscina | null = null;

/**
 * Has something read in a worker thread.
 * @throws Overtaxed where it takes more time or memory than is allowed
 */
export function read<Name extends TaskName>(name: Name, ...given: Given<Name>): Promise<Made<Name>> {
  return run(name, given, []);
}

/** As `read`. The bytes of a body are not copied but given away: here there are none of it any more. */
export function readAway<Name extends TaskName>(
  { raw: { buffer, byteLength } }: Body,
  name: Name,
  ...given: Given<Name>
): Promise<Made<Name>> {
  // What shares its memory with others stays, and is copied.
  return run(name, given, buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : []);
}

async function run<Name extends TaskName>(
  name: Name,
  given: Given<Name>,
  moved: readonly ArrayBuffer[],
): Promise<Made<Name>> {
  short ??= open(SHORT);
  const patience = new AbortController();
  const timer = setTimeout(
    () => {
      patience.abort();
    },
    LONGEST_MS + waitingMs(short),
  );
  try {
    return (await short.run(
      { name, given },
      { name: 'run', signal: patience.signal, transferList: [...moved] as never },
    )) as Made<Name>;
  } catch (error) {
    throw asOvertaxed(error);
  } finally {
    clearTimeout(timer);
  }
}

/** As `read`, with something in place of what takes too much. */
export async function readOr<Name extends TaskName, Other>(
  name: Name,
  otherwise: Other,
  ...given: Given<Name>
): Promise<Made<Name> | Other> {
  try {
    return await read(name, ...given);
  } catch (error) {
    if (error instanceof Overtaxed) return otherwise;
    throw error;
  }
}

/** What a task may have to wait for those before it. */
function waitingMs({ queueSize }: Piscina): number {
  return Math.ceil((queueSize + SHORT.threads) / SHORT.threads) * LONGEST_MS;
}

/** Begins to read sitemaps in a thread of their own. @returns what ends when the reading does, or when it is overtaxed */
export function readSitemapsIn(
  given: object,
  transfer: readonly MessagePort[],
  signal: AbortSignal,
): Promise<void> {
  long ??= open(LONG);
  return long
    .run(given, { name: 'readSitemaps', signal, transferList: [...transfer] as never })
    .then(() => undefined)
    .catch((error: unknown) => {
      throw asOvertaxed(error);
    });
}

/** Ends all threads. What is read later opens them anew. */
export async function closeReaders(): Promise<void> {
  const open = [short, long];
  short = null;
  long = null;
  await Promise.all(open.map((one) => one?.destroy()));
}
