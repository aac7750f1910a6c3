import { clients } from './clients.js';
import { engines } from './engines.js';
import { keptReady } from './projections.js';
import { marking } from './staleness.js';
import { people } from './people.js';
import { sitemaps } from './sitemaps.js';
import { variants } from './variants.js';
import { work } from './work.js';

/** One change of the tables: its name, and its statements, which are carried out in one transaction with it. */
export interface Migration {
  readonly name: string;
  readonly up: readonly string[];
}

/** The tables as they were when all changes up to then were put into one. Times are RFC 3339 text in UTC; JSON is text. */
export const ground: Migration = {
  name: '0035-ground',
  up: [...people, ...clients, ...engines, ...sitemaps, ...variants, ...work, ...keptReady, ...marking],
};

/** The last of the changes that came before it, each of which had a name of its own: records that have it have the ground. */
export const LAST_BEFORE = '0035-pace';
const FIRST_BEFORE = '0001-ground';

/** Whether a change is one of those that are in the ground. */
export function isInGround(name: string): boolean {
  return name >= FIRST_BEFORE && name <= LAST_BEFORE && name !== ground.name;
}
