import type { Hindrance } from '../badge/visibility.js';
import type { Method } from '../profile/profile.js';
import { DAY, MINUTE } from '../time/duration.js';
import { writtenDay, writtenMinute } from '../time/time-formats.js';
import { CONFIRMED_AFTER } from '../watch/rhythm.js';
import { earliest, groups, type AlertEnrolment, type AlertFacts, type AlertNow } from './alert.js';

/** A website that cannot be looked at is told of after so long. */
const OUT_OF_REACH_AFTER = 30 * MINUTE;
export const TOKEN_ENDS_WITHIN = 3 * DAY;

/** Badges that an engine withdrew: one case for each engine. */
export function lost({ enrolments }: AlertFacts): AlertNow[] {
  return groups(
    enrolments.filter(({ badge }) => badge === 'lost'),
    ({ engine }) => engine,
  ).map(([engine, some]) => ({
    kind: 'lost',
    cause: engine,
    since: earliest(some.map(({ badgeSince }) => badgeSince)),
    says: `${engine} withdrew the badge: “${some[0]?.reason ?? 'no reason given'}”.`,
    remedy: some[0]?.look?.remedy ?? '',
    acts: 'client',
    touches: some.map(({ name }) => name),
    until: null,
    difference: some[0]?.look?.difference ?? [],
  }));
}

/** Tokens that are gone, as a second look has confirmed: one case for each method, whatever the engines. */
export function slipping({ enrolments, now }: AlertFacts): AlertNow[] {
  // A second look has confirmed it.
  const gone = enrolments.filter(
    ({ badge, look }) =>
      badge === 'slipping' && look && look.at.getTime() - look.since.getTime() >= CONFIRMED_AFTER,
  );
  return groups(gone, ({ method }) => method ?? 'meta').map(([method, some]) => {
    const since = earliest(some.map(({ badgeSince }) => badgeSince));
    const first = earliest(some.flatMap((one) => actsAt(one, since) ?? []));
    const [one] = some;
    const when = Number.isNaN(first.getTime())
      ? ''
      : first <= now
        ? ' An engine may withdraw its badge at any time.'
        : ` The first engine may withdraw its badge from ${writtenDay(first)} on.`;
    return {
      kind: 'slipping',
      cause: method,
      since,
      says: `${THE[method]} is gone: ${one?.look?.says ?? ''}${when}`,
      remedy: one?.look?.remedy ?? '',
      acts: 'client',
      touches: some.map(({ name }) => name),
      until: Number.isNaN(first.getTime()) ? null : first,
      difference: one?.look?.difference ?? [],
    };
  });
}

const THE: Readonly<Record<Method, string>> = {
  meta: 'The meta tag',
  file: 'The file',
  dns: 'The TXT record',
};

/**
 * The first time at which an engine may act on a loss: once its grace is over after its first look at which the token may have been
 * gone. It may have gone right after it was seen last, which is before we saw that it has. An engine that has looked since, or does not
 * say when it looks, may have missed it from then on.
 * @param since when we saw that it was gone, which counts where nobody knows when it was seen last
 */
export function actsAt(
  { actsWithin, engineLookedAt, look }: Pick<AlertEnrolment, 'actsWithin' | 'engineLookedAt' | 'look'>,
  since: Date,
): Date | null {
  if (!actsWithin) return null;
  const { looksEvery, grace } = actsWithin;
  const gone = look?.lastSeenAt ?? since;
  if (!engineLookedAt || engineLookedAt > gone) return new Date(gone.getTime() + grace);
  const looks = Math.max(1, Math.ceil((gone.getTime() - engineLookedAt.getTime()) / looksEvery));
  return new Date(engineLookedAt.getTime() + looks * looksEvery + grace);
}

/** Enrolments that an engine does not know any more. */
export function enrolmentLost({ enrolments }: AlertFacts): AlertNow[] {
  return enrolments.flatMap(({ name, engine, missingSince }) =>
    missingSince
      ? [
          {
            kind: 'enrolment-lost' as const,
            cause: name,
            since: missingSince,
            says: `${engine} does not know ${name} any more; nothing is wrong with the site.`,
            remedy: '',
            acts: 'us' as const,
            touches: [name],
            until: null,
          },
        ]
      : [],
  );
}

/** Held badges whose placement cannot be looked at; not while it is we who cannot look. */
export function outOfReach({ enrolments, sitemaps: all, cutOff }: AlertFacts): AlertNow[] {
  const hiddenToo = all.flatMap(({ url, unreachable }) => (unreachable ? [url] : []));
  const hidden = enrolments.flatMap((one) => {
    const hindered = hindranceOf(one);
    if (!one.look || !hindered) return [];
    const since = confirmedSince(hindered.since, one.look.at, cutOff);
    return since ? [{ one, by: hindered.by, since, look: one.look }] : [];
  });
  return groups(hidden, ({ by }) => by).map(([by, some]) => ({
    kind: 'out-of-reach',
    cause: by,
    since: earliest(some.map(({ since }) => since)),
    says: `${OUT_OF_REACH[by]}: ${some[0]?.look.says ?? ''} The token cannot be seen; nothing is lost yet.`,
    remedy: some[0]?.look.remedy ?? '',
    acts: 'client',
    touches: [...some.map(({ one }) => one.name), ...hiddenToo],
    until: null,
    ...placeOf(some.map(({ look }) => look.hindered?.place ?? null)),
  }));
}

/** The one place at which something is out of reach. */
function placeOf(places: readonly (string | null)[]): { place?: string } {
  const [place, ...others] = new Set(places);
  return place == null || others.length > 0 ? {} : { place };
}

/** What hides the placement by which a badge is held; null where it can be looked at. */
export function hindranceOf({
  badge,
  look,
}: AlertEnrolment): { readonly by: Hindrance; readonly since: Date } | null {
  return badge === 'held' || badge === 'slipping' ? (look?.hindered ?? null) : null;
}

/**
 * Since when something has been out of reach, where that lasted long enough to be told; what was so only while nothing could be reached
 * from here does not count. Null where it did not last.
 */
export function confirmedSince(since: Date, at: Date, cutOff: AlertFacts['cutOff']): Date | null {
  const isWithin = cutOff !== null && since.getTime() >= cutOff.since.getTime() - OUT_OF_REACH_AFTER;
  const from = isWithin ? (cutOff.until ?? null) : since;
  const until = cutOff && cutOff.until === null ? earliest([at, cutOff.since]) : at;
  return from && until.getTime() - from.getTime() >= OUT_OF_REACH_AFTER ? from : null;
}

const OUT_OF_REACH: Readonly<Record<Hindrance, string>> = {
  site: 'The website is down',
  names: 'The name does not resolve',
  certificate: 'The certificate is broken',
  wall: 'A wall keeps us out',
  means: 'It takes too much to look at it',
};

/** Tokens that are soon void unless somebody claims with them. */
export function tokenEnds({ enrolments, now }: AlertFacts): AlertNow[] {
  return enrolments.flatMap(({ name, engine, badge, badgeSince, tokenExpiresAt }) => {
    const isOpen = badge === 'issued' || badge === 'in-place';
    if (!tokenExpiresAt || !isOpen || tokenExpiresAt <= now) return [];
    if (tokenExpiresAt.getTime() - now.getTime() > TOKEN_ENDS_WITHIN) return [];
    return [
      {
        kind: 'token-ends' as const,
        cause: name,
        since: badgeSince,
        says: `${engine}’s token for ${name} expires on ${writtenMinute(tokenExpiresAt)} (UTC) unless it is claimed by then.`,
        remedy: '',
        acts: 'us' as const,
        touches: [name],
        until: tokenExpiresAt,
      },
    ];
  });
}
