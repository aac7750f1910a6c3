import Joi from 'joi';
import { durationMs, HOUR, DAY } from '../../core/time/duration.js';
import { DUE_WHYS, WATCHED } from '../../core/watch/rhythm.js';
import type { Property } from '../properties/document.js';
import { count, counts, flag, id, list, maybe, maybeTime, named, oneOf, time } from '../parts/schema.js';
import type { Pause, Watch, WatchedThing } from './document.js';

/** A rhythm of the watch: from an hour to a month. */
const rhythm = Joi.string()
  .custom((value: string) => {
    const ms = durationMs(value);
    if (ms < HOUR || ms > 31 * DAY) throw new RangeError('too quick or too slow');
    return value;
  })
  .messages({ 'any.custom': '{#label} must be an ISO 8601 duration from PT1H to P31D, such as PT12H' });

export const rhythms = Joi.object<Property['rhythms'], true>({
  placement: rhythm,
  variants: rhythm,
  sitemap: rhythm,
});

/** Null puts one back to what is usual. */
type RhythmChanges = { [What in keyof Property['rhythms']]: string | null };

export const rhythmChanges = Joi.object<RhythmChanges, true>({
  placement: rhythm.allow(null).label('the rhythm of placements'),
  variants: rhythm.allow(null).label('the rhythm of variants'),
  sitemap: rhythm.allow(null).label('the rhythm of sitemaps'),
}).min(1);

const watchedThing = Joi.object<WatchedThing, true>({
  id,
  what: oneOf(WATCHED).required(),
  subject: id,
  property: Joi.object<WatchedThing['property'], true>(named).required(),
  every: count,
  lookedAt: maybeTime,
  dueAt: time,
  why: oneOf(DUE_WHYS).required(),
  paused: maybe,
}).id('WatchedThing');

export const pause = Joi.object<Pause, true>({
  id,
  property: maybe,
  client: maybe,
  why: id,
  who: maybe,
  since: time,
  until: maybeTime,
}).id('Pause');

export const watch = Joi.object<Watch, true>({
  items: list(watchedThing),
  next: Joi.string().allow(null).required(),
  asOf: time,
  on: flag,
  counts,
  nextAt: maybeTime,
  pauses: list(pause),
  cutOff: Joi.object<NonNullable<Watch['cutOff']>, true>({ since: time, says: id }).allow(null).required(),
  pastDay: Joi.object<Watch['pastDay'], true>({
    looks: count,
    failed: count,
    lateMedian: count,
    lateMost: count,
  }).required(),
}).id('Watch');
