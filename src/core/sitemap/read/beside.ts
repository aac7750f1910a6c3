import type { Hash } from '../set/hash.js';
import type { Listing } from './listing.js';
import type { HashSet56 } from '../set/hash-set.js';
import type { Said } from './usual-form.js';

/** What a file is held against while it is read, and who takes its addresses. All of it may be missing. */
export interface Beside {
  /** The property's front door, and its other variants, as origins. */
  readonly door?: { readonly origin: string; readonly others: ReadonlySet<string> };
  /** What keeps engines from an address of the file's own host; null where nothing does. */
  readonly forbids?: (path: string) => Forbidding | null;
  /** An empty table for the addresses of this file, to be used again for the next; one of its own where there is none. */
  readonly seen?: HashSet56;
  /** Whether another file of the same sitemap has the address; it is asked once for each address of the file. */
  readonly isElsewhere?: (hash: Hash) => boolean;
  /** Lists the entries one by one, where somebody wants to look at them. */
  readonly listing?: Listing;
  /** Takes each address of the file once, and whether no other file had it before. */
  readonly take?: (hash: Hash, address: Said, nth: number, isFirst: boolean) => void;
}

/** The line of a robots.txt that keeps engines from an address. */
export interface Forbidding {
  readonly rule: string;
  readonly line: number;
  readonly whom: string;
  readonly robots: string;
}
