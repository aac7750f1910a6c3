import type { PageRead } from '../core/sitemap/make/page-read.js';
import { Overtaxed } from './overtaxed.js';
import { read, readAway } from './readers.js';
import type { Given } from './tasks.js';

/** Bytes of a page that is copied to be read together with others; a larger one is given away, and read alone. */
const LARGEST_COPIED = 131_072;
/** Pages in one batch, which all wait for its end. */
const MOST_TOGETHER = 8;
/** Batches at once: one for each thread. */
const AT_ONCE = 2;

interface Waiting {
  readonly given: Given<'linksOf'>;
  readonly done: (made: PageRead) => void;
  readonly failed: (error: unknown) => void;
}

let waiting: Waiting[] = [];
let underWay = 0;

/**
 * Reads a page in a thread for the sitemap that may hold it, together with those that come while all threads are busy. The bytes of a
 * large one are given away: there are none of it any more.
 * @throws Overtaxed where it takes more time or memory than is allowed
 */
export function readPage(...given: Given<'linksOf'>): Promise<PageRead> {
  const [body] = given;
  if (body.raw.byteLength > LARGEST_COPIED) return readAway(body, 'linksOf', ...given);
  return new Promise((done, failed) => {
    waiting.push({ given, done, failed });
    sendOn();
  });
}

function sendOn(): void {
  while (underWay < AT_ONCE && waiting.length > 0) {
    const batch = waiting.slice(0, MOST_TOGETHER);
    waiting = waiting.slice(MOST_TOGETHER);
    underWay += 1;
    void readTogether(batch).finally(() => {
      underWay -= 1;
      sendOn();
    });
  }
}

/** Settles each page of a batch, and never throws. */
async function readTogether(batch: readonly Waiting[]): Promise<void> {
  try {
    const made = await read(
      'linksOfAll',
      batch.map(({ given }) => given),
    );
    for (const [at, { done, failed }] of batch.entries()) {
      const one = made[at];
      if (one && 'page' in one) done(one.page);
      else failed(one?.error);
    }
  } catch (error) {
    // One of them took too much: which, each by itself tells.
    if (error instanceof Overtaxed && batch.length > 1) for (const one of batch) await readTogether([one]);
    else for (const one of batch) one.failed(error);
  }
}
