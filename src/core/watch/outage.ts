import { MINUTE } from '../time/duration.js';

/** A look, as far as it tells whether we can look at all. */
export interface Reached {
  readonly at: Date;
  /** The registrable name of what was looked at: several hosts of one website fail together. */
  readonly domain: string;
  /** Whether it failed in a way that may be ours. */
  readonly failed: boolean;
}

/** Looks of this long are taken into account. */
const SPAN = 20 * MINUTE;
/** So many independent websites have to be out of reach before it is ourselves that we doubt. */
const INDEPENDENT = 3;

/**
 * Whether it is our own network, or our resolver, that fails: several independent websites were out of reach one after the other,
 * and none was reached meanwhile.
 * @param looks newest last
 * @returns since when; null where nothing speaks for it
 */
export function outageSince(looks: readonly Reached[], now: Date): Date | null {
  const failed: Reached[] = [];
  for (const look of [...looks].reverse()) {
    if (!look.failed || now.getTime() - look.at.getTime() > SPAN) break;
    failed.push(look);
  }
  if (new Set(failed.map(({ domain }) => domain)).size < INDEPENDENT) return null;
  return failed.at(-1)?.at ?? null;
}
