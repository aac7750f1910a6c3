import { Hash } from './hash.js';

/** One in so many addresses ends a chunk, so that chunks have as many on average. */
const USUAL = 1_024;
const LARGEST = 4_096;

/** A run of addresses in order, written so that each says only what is unlike the one before. */
export interface Chunk {
  readonly count: number;
  readonly text: string;
}

/**
 * Cuts addresses into chunks to keep. Where a chunk ends, the address there decides, not how many came before: so a new or
 * a missing address changes the chunk in which it stands and leaves the others as they were, and what did not change
 * between two readings need not be kept twice.
 * @param addresses sorted, each once
 */
export function* chunksOf(addresses: readonly string[]): Generator<Chunk> {
  const hash = new Hash();
  let lines: string[] = [];
  let before = '';
  for (const address of addresses) {
    const shared = sharedLength(before, address);
    lines.push(`${shared.toString(36)} ${address.slice(shared)}`);
    before = address;
    hash.of(address);
    const isEnd = hash.low % USUAL === 0;
    if (!isEnd && lines.length < LARGEST) continue;
    yield { count: lines.length, text: lines.join('\n') };
    lines = [];
    before = '';
  }
  if (lines.length > 0) yield { count: lines.length, text: lines.join('\n') };
}

/** The addresses of a chunk, in order. */
export function addressesIn(text: string): string[] {
  let before = '';
  return text.split('\n').map((line) => {
    const space = line.indexOf(' ');
    before = before.slice(0, parseInt(line.slice(0, space), 36)) + line.slice(space + 1);
    return before;
  });
}

/** An address as it is kept: in one line. */
export function inOneLine(address: string): string {
  return /[\r\n]/u.test(address) ? address.replace(/[\r\n]+/gu, ' ') : address;
}

function sharedLength(a: string, b: string): number {
  const most = Math.min(a.length, b.length);
  let at = 0;
  while (at < most && a.charCodeAt(at) === b.charCodeAt(at)) at += 1;
  return at;
}
