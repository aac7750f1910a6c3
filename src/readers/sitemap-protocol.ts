import type { ListedColumns } from '../core/sitemap/read/listing.js';
import type { PrintSums } from '../core/sitemap/set/fingerprint.js';
import type { Candidate } from '../core/sitemap/set/sampler.js';
import type { FileReading } from '../core/sitemap/reading.js';
import type { RobotsSeen } from '../core/robots/robots.js';
import type { EngineAgent } from '../core/variants/keeping-out.js';
import type { Beside } from '../core/sitemap/read/beside.js';
import type { CutAddresses } from './address-chunks.js';

/** So many addresses of an index are held against one another, in some thirty megabytes; later ones against these. */
export const MOST_COMPARED = 5_000_000;

/** What a sitemap with all that is in it is read for. */
export interface SitemapOrder {
  readonly now: Date;
  readonly agents: readonly EngineAgent[];
  readonly door?: Beside['door'];
  /** Pages to pick for a sample, and by which seed. */
  readonly sample: number;
  readonly seed: number;
  /** Of how many addresses at most the chunks are handed out, to be kept. */
  readonly keeps: number;
  /** Names of chunks that are kept already. */
  readonly known?: readonly string[];
  /** Whether the entries are handed out one by one, to be looked at. */
  readonly lists?: boolean;
}

/** What the main thread says to the one that reads. Each is answered by one `Answer` with the same number. */
export type Say = { readonly nth: number } & (
  | { readonly kind: 'begin' }
  | { readonly kind: 'robots'; readonly origin: string; readonly robots: RobotsSeen }
  | {
      readonly kind: 'open';
      readonly file: number;
      readonly url: string;
      readonly type: string | null;
      /** Its place in an index, from 1; 0 for the sitemap itself. */
      readonly place: number;
    }
  | { readonly kind: 'piece'; readonly file: number; readonly bytes: Uint8Array<ArrayBuffer> }
  | { readonly kind: 'end'; readonly file: number }
  /** Files that are held against one another come, with so many addresses at most. */
  | { readonly kind: 'many'; readonly addresses: number }
  | { readonly kind: 'sum' }
  | { readonly kind: 'close' }
);

/** One file as it was read, with its addresses cut into chunks to keep; null where none are to be kept. */
export interface FileRead {
  readonly reading: FileReading;
  readonly kept: CutAddresses | null;
  /** The entries, where they were asked for. */
  readonly listed?: ListedColumns;
}

/** What all files together come to. */
export interface Sum {
  readonly print: PrintSums;
  /** Pages of which some are picked for a sample. */
  readonly candidates: readonly Candidate[];
  /** Addresses that were held against one another. */
  readonly compared: number;
}

export interface Answer {
  readonly nth: number;
  /** For a piece: whether more cannot change the reading. */
  readonly finished?: boolean;
  /** The memory in which the piece came, to be used again. */
  readonly room?: ArrayBuffer;
  readonly file?: FileRead;
  readonly sum?: Sum;
  /** A fault of ours, told and not thrown: the thread goes on. */
  readonly fault?: string;
}
