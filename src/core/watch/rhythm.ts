import { fnv1a } from '../text/fnv.js';
import { DAY, durationMs, HOUR, MINUTE } from '../time/duration.js';
import type { EngineProfile } from '../profile/profile.js';

/** What is watched: placements of held badges, variants of properties, sitemaps. */
export const WATCHED = ['placement', 'variants', 'sitemap'] as const;
export type Watched = (typeof WATCHED)[number];

/** How often each is looked at, as ISO 8601 durations. */
export type Rhythms = Readonly<Record<Watched, string>>;

export const USUAL_RHYTHMS: Rhythms = { placement: 'P1D', variants: 'P1D', sitemap: 'P1D' };

/** No rhythm is quicker: looks cost the client's server. */
const QUICKEST = HOUR;
/**
 * Looks in the time that an engine needs at the least to notice a loss and to act on it. A look may be late by half a rhythm (see
 * `dueAfter`), so that four in it are two for sure.
 */
const LOOKS_BEFORE_LOSS = 4;

/**
 * How often a placement is looked at: as the settings say, and more often where an engine would act before two of our looks.
 * @param usual milliseconds
 * @returns milliseconds
 */
export function placementEvery(keeps: EngineProfile['keeps'], usual: number): number {
  if (!keeps) return usual;
  const untilLoss = durationMs(keeps.looksEvery) + durationMs(keeps.grace);
  return Math.min(usual, Math.max(QUICKEST, Math.floor(untilLoss / LOOKS_BEFORE_LOSS)));
}

/**
 * When something is due next. Each has a place of its own in its rhythm, the same for ever, so that looks stay spread however many
 * began at once; the next is that place after half a rhythm at the least.
 * @param last when it was looked at last
 * @param every the rhythm, in milliseconds
 * @param place where in the rhythm, from 0 to 1
 */
export function dueAfter(last: Date, every: number, place: number): Date {
  const earliest = last.getTime() + every / 2;
  const phase = place * every;
  return new Date(Math.round(Math.ceil((earliest - phase) / every) * every + phase));
}

/** The shortest and the longest that what did not come out well waits for its next look. */
const SOON = 5 * MINUTE;
const LATEST = 6 * HOUR;

/**
 * How long after a look that did not come out well the next is due: minutes at first, and then about as long as it has been so.
 * @param been how long it has been so, in milliseconds
 * @param every the usual rhythm: it is never slower than that
 */
export function againAfter(been: number, every: number): number {
  return Math.min(Math.max(been, SOON), LATEST, every);
}

/** When something was looked at, and since when that has not come out well; null where it has. */
export interface LastLook {
  readonly at: Date;
  readonly badSince: Date | null;
  /** Since when it has come out well, where that says that its website can be reached; else null. */
  readonly wellSince: Date | null;
}

/**
 * Why something is due: by its rhythm; since the last look did not come out well; or since another look at the same property did not,
 * and what happened there may have touched this too, or does again, and what was mended there may be mended here.
 */
export const DUE_WHYS = ['rhythm', 'again', 'alarm'] as const;
export type DueWhy = (typeof DUE_WHYS)[number];

/**
 * When something is looked at next, and why then.
 * @param one.others what was looked at of the same property
 * @param one.place where in its rhythm, from 0 to 1
 */
export function dueOf(one: {
  readonly what: Watched;
  readonly every: number;
  readonly last: LastLook;
  readonly others: readonly LastLook[];
  readonly place: number;
}): { readonly why: DueWhy; readonly dueAt: Date } {
  const { what, every, last, others, place } = one;
  const byRhythm = dueAfter(last.at, every, place);
  const usual = again(last, every) ?? { why: 'rhythm' as const, dueAt: byRhythm };
  // A sitemap costs the website much to read, and says little of what else is lost.
  const isAlarmed = what !== 'sitemap' || last.badSince !== null;
  const turns = others.flatMap(({ badSince, wellSince }) => (last.badSince ? wellSince : badSince) ?? []);
  const [first] = turns
    .filter((since) => isAlarmed && since > last.at && since < usual.dueAt)
    .sort((a, b) => a.getTime() - b.getTime());
  return first ? { why: 'alarm', dueAt: first } : usual;
}

function again({ at, badSince }: LastLook, every: number): { why: DueWhy; dueAt: Date } | null {
  if (!badSince) return null;
  return {
    why: 'again',
    dueAt: new Date(at.getTime() + againAfter(at.getTime() - badSince.getTime(), every)),
  };
}

/** A token that waits is looked at first so long after it was handed out, or somebody said that it was placed. */
const FIRST_LOOK = 15 * MINUTE;
/** It is looked at daily at the least, and weekly once nothing was heard of it for so long. */
const WAITED_LONG = 30 * DAY;

/**
 * When a token that waits to be placed is looked at next: soon after it was handed out, by and by more seldom, and when a record can be
 * seen that others only remember otherwise.
 * @param heardAt when it was handed out, or something was heard of it last: a link was opened, or somebody said that it is done
 * @param last when it was looked at last; null where never
 * @param visibleAt when looking again makes sense, by what the last look saw
 */
export function waitingDue(heardAt: Date, last: Date | null, visibleAt: Date | null): Date {
  const first = heardAt.getTime() + FIRST_LOOK;
  if (last === null || last < heardAt) return new Date(first);
  const waited = last.getTime() - heardAt.getTime();
  const every = waited >= WAITED_LONG ? 7 * DAY : Math.min(Math.max(waited / 4, FIRST_LOOK), DAY);
  const next = Math.max(last.getTime() + every, first);
  return new Date(
    visibleAt !== null && visibleAt > last ? Math.min(next, visibleAt.getTime() + MINUTE) : next,
  );
}

/** A gone token is confirmed by a second look that is so much later. */
export const CONFIRMED_AFTER = 2 * MINUTE;

/** A number from 0 to 1 that is always the same for a name, and spread evenly over names (FNV-1a, 32 bits, mixed). */
export function placeOf(name: string): number {
  let hash = fnv1a(name);
  hash ^= hash >>> 16;
  hash = Math.imul(hash, 0x85ebca6b);
  hash ^= hash >>> 13;
  hash = Math.imul(hash, 0xc2b2ae35);
  hash ^= hash >>> 16;
  return (hash >>> 0) / 2 ** 32;
}
