import { hostsForPeople } from '../address/host.js';
import type { Hindrance } from '../badge/sight.js';
import type { Badge } from '../badge/standing.js';
import type { Method } from '../profile/profile.js';
import { DAY, MINUTE } from '../time/duration.js';
import { writtenDay, writtenMinute } from '../time/written.js';
import { CONFIRMED_AFTER } from '../watch/rhythm.js';
import type { Acts } from '../worklist/kinds.js';

/** What people are told of without having asked, the worst first. */
export const CASE_KINDS = [
  'lost',
  'slipping',
  'enrolment-lost',
  'moved',
  'stays-away',
  'out-of-reach',
  'sitemap-unreachable',
  'sitemap-fallen',
  'cut-off',
  'certificate',
  'name-ends',
  'token-ends',
  'reading-overdue',
  'sitemap-still',
  'switched-off',
] as const;
export type CaseKind = (typeof CASE_KINDS)[number];

/** What is told at once; the rest waits for the digest of the day. */
const AT_ONCE: ReadonlySet<CaseKind> = new Set<CaseKind>([
  'lost',
  'slipping',
  'enrolment-lost',
  'moved',
  'stays-away',
  'out-of-reach',
  'sitemap-unreachable',
  'sitemap-fallen',
  'cut-off',
]);

/** What has been so for longer than this when we come to know of it is no news that has to be told at once. */
const OLD_NEWS = 3 * DAY;

/** Whether a case is told at once, or with the digest. @param now when it is opened */
export function isToldAtOnce({ kind, since }: Pick<CaseNow, 'kind' | 'since'>, now: Date): boolean {
  return AT_ONCE.has(kind) && now.getTime() - since.getTime() < OLD_NEWS;
}

/** One cause, with what it touches. */
export interface CaseNow {
  readonly kind: CaseKind;
  /** Tells causes of one kind apart; the same as long as it is the same cause. */
  readonly cause: string;
  readonly since: Date;
  readonly says: string;
  /** What is to be done, as it can be sent on; empty where nothing is. */
  readonly remedy: string;
  readonly acts: Acts;
  /** Names of enrolments, or addresses of sitemaps. */
  readonly touches: readonly string[];
  /** When the engine may act, where that can be told. */
  readonly until: Date | null;
  /** The last good evidence beside the present one, line by line; empty where that tells nothing. */
  readonly difference?: readonly string[];
}

/** An enrolment, as far as it can be told of. */
export interface CaseEnrolment {
  readonly name: string;
  readonly engine: string;
  readonly badge: Badge;
  readonly badgeSince: Date;
  /** By which method the badge is held, or was. */
  readonly method: Method | null;
  /** The newest look at its placement; null where there was none. */
  readonly look: {
    readonly at: Date;
    /** Since when each look has come as far as the place and seen the token; null where the last did not. */
    readonly wellSince: Date | null;
    /** Since when looks have told what they tell of the token. */
    readonly since: Date;
    readonly says: string;
    readonly remedy: string;
    readonly hindered: { readonly by: Hindrance; readonly since: Date } | null;
    /** What has changed since the token was last seen. */
    readonly difference: readonly string[];
  } | null;
  /** How long the engine needs to notice and to act; null where nobody knows. */
  readonly actsWithin: { readonly looksEvery: number; readonly grace: number } | null;
  /** When the engine looked last by what it says; null where it does not say. */
  readonly engineLookedAt: Date | null;
  /** Why the engine withdrew the badge, in its own words. */
  readonly reason: string | null;
  readonly missingSince: Date | null;
  readonly tokenExpiresAt: Date | null;
}

interface Told {
  readonly says: string;
  readonly remedy: string;
  readonly since: Date;
}

export interface CaseSitemap {
  readonly url: string;
  readonly unreachable: (Told & { readonly at: Date }) | null;
  readonly fell: Told | null;
  readonly still: Told | null;
  /** Engines that have not read it in time. */
  readonly overdueAt: readonly { readonly engine: string; readonly since: Date }[];
}

/** Everything on record of a property that cases are made of. */
export interface CaseFacts {
  readonly now: Date;
  readonly handle: string;
  readonly enrolments: readonly CaseEnrolment[];
  readonly move: { readonly at: Date; readonly to: string; readonly says: string } | null;
  readonly away: readonly Told[];
  readonly certificate: readonly Told[];
  /** The registered name, and when it ends as its owner said; null where nobody said. */
  readonly nameEnds: { readonly name: string; readonly at: Date } | null;
  /** Whether the front door was not seen at the last look, so that what it showed before may still be so. */
  readonly doorUnseen: boolean;
  readonly sitemaps: readonly CaseSitemap[];
  /** The newest time in which nothing could be reached from here; `until` is null while it goes on. */
  readonly cutOff: { readonly since: Date; readonly until: Date | null } | null;
}

/** A website that cannot be looked at is told of after so long. */
const OUT_OF_REACH_AFTER = 30 * MINUTE;
/** A move is told of, and is no news after so long. */
const MOVE_IS_NEWS = 7 * DAY;
const TOKEN_ENDS_WITHIN = 3 * DAY;
/** A registered name is renewed by its owner, who may be asked in time. */
const NAME_ENDS_WITHIN = 30 * DAY;

/** What people are to be told of a property as it is now, the worst first. */
export function casesOf(facts: CaseFacts): CaseNow[] {
  return [
    ...lost(facts),
    ...slipping(facts),
    ...enrolmentLost(facts),
    ...moved(facts),
    ...away(facts),
    ...outOfReach(facts),
    ...sitemaps(facts),
    ...nameEnds(facts),
    ...toCome(facts),
  ].map((one) => ({ ...one, says: hostsForPeople(one.says) }));
}

/** Cases of which nobody can tell at present whether they go on, since what would show it cannot be reached. */
export function unclearOf({
  doorUnseen,
  sitemaps: all,
  enrolments,
}: CaseFacts): Pick<CaseNow, 'kind' | 'cause'>[] {
  const at = (kinds: readonly CaseKind[], cause: string) => kinds.map((kind) => ({ kind, cause }));
  return [
    ...(doorUnseen ? at(['stays-away', 'certificate'], 'site') : []),
    ...all.flatMap(({ url, unreachable }) => [
      ...(unreachable ? at(['sitemap-fallen', 'sitemap-still'], url) : []),
      ...(unreachable && !isOfFile(unreachable, enrolments) ? at(['sitemap-unreachable'], url) : []),
    ]),
  ];
}

/** When cases of a property may change by time alone; null where none does. */
export function casesTurnAt(facts: CaseFacts): Date | null {
  const times = [
    facts.move ? facts.move.at.getTime() + MOVE_IS_NEWS : 0,
    facts.nameEnds ? facts.nameEnds.at.getTime() - NAME_ENDS_WITHIN : 0,
    facts.nameEnds ? facts.nameEnds.at.getTime() : 0,
    ...facts.enrolments.map(({ tokenExpiresAt }) =>
      tokenExpiresAt ? tokenExpiresAt.getTime() - TOKEN_ENDS_WITHIN : 0,
    ),
  ].filter((time) => time > facts.now.getTime());
  return times.length === 0 ? null : new Date(Math.min(...times));
}

function lost({ enrolments }: CaseFacts): CaseNow[] {
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

function slipping({ enrolments }: CaseFacts): CaseNow[] {
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
 * The first time at which an engine may act on a loss: at its next look after that, and once its grace is over. Where it does not say
 * when it looked, it may look at any time.
 */
export function actsAt(
  { actsWithin, engineLookedAt }: Pick<CaseEnrolment, 'actsWithin' | 'engineLookedAt'>,
  since: Date,
): Date | null {
  if (!actsWithin) return null;
  const { looksEvery, grace } = actsWithin;
  if (!engineLookedAt) return new Date(since.getTime() + grace);
  const looks = Math.max(1, Math.ceil((since.getTime() - engineLookedAt.getTime()) / looksEvery));
  return new Date(engineLookedAt.getTime() + looks * looksEvery + grace);
}

function enrolmentLost({ enrolments }: CaseFacts): CaseNow[] {
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

function moved({ move, now, enrolments }: CaseFacts): CaseNow[] {
  if (!move || now.getTime() - move.at.getTime() >= MOVE_IS_NEWS) return [];
  return [
    {
      kind: 'moved',
      cause: `${move.to} ${move.at.toISOString()}`,
      since: move.at,
      says: move.says,
      remedy: '',
      acts: 'us',
      touches: enrolments.map(({ name }) => name),
      until: null,
    },
  ];
}

function away({ away: found, enrolments }: CaseFacts): CaseNow[] {
  const [worst] = found;
  if (!worst) return [];
  return [
    {
      kind: 'stays-away',
      cause: 'site',
      since: earliest(found.map(({ since }) => since)),
      says: worst.says,
      remedy: found.map(({ remedy }) => remedy).join(' '),
      acts: 'client',
      touches: enrolments.map(({ name }) => name),
      until: null,
    },
  ];
}

/** Held badges whose placement cannot be looked at; not while it is we who cannot look. */
function outOfReach({ enrolments, sitemaps: all, cutOff }: CaseFacts): CaseNow[] {
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
  }));
}

/** What hides the placement by which a badge is held; null where it can be looked at. */
function hindranceOf({
  badge,
  look,
}: CaseEnrolment): { readonly by: Hindrance; readonly since: Date } | null {
  return badge === 'held' || badge === 'slipping' ? (look?.hindered ?? null) : null;
}

/**
 * Since when something has been out of reach, where that lasted long enough to be told; what was so only while nothing could be reached
 * from here does not count. Null where it did not last.
 */
function confirmedSince(since: Date, at: Date, cutOff: CaseFacts['cutOff']): Date | null {
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

/**
 * Whether it is the file that cannot be reached. Where the whole website cannot, that is told, and not of each of its files; and once it
 * can be again, they are looked at before anything is said of them.
 */
function isOfFile({ at }: { readonly at: Date }, enrolments: readonly CaseEnrolment[]): boolean {
  return enrolments.every(
    (one) => hindranceOf(one) === null && (!one.look?.wellSince || one.look.wellSince <= at),
  );
}

function sitemaps({ sitemaps: all, enrolments, cutOff }: CaseFacts): CaseNow[] {
  return all.flatMap(({ url, unreachable, fell, still, overdueAt }) => {
    const one = (kind: CaseKind, told: Told, acts: Acts = 'client'): CaseNow => ({
      ...{ kind, cause: url, since: told.since, says: told.says, remedy: told.remedy, acts },
      ...{ touches: [url], until: null },
    });
    return [
      ...(unreachable &&
      isOfFile(unreachable, enrolments) &&
      confirmedSince(unreachable.since, unreachable.at, cutOff)
        ? [one('sitemap-unreachable', unreachable)]
        : []),
      ...(fell ? [one('sitemap-fallen', fell)] : []),
      ...(still ? [one('sitemap-still', still)] : []),
      ...(overdueAt.length === 0
        ? []
        : [
            one(
              'reading-overdue',
              {
                says: `${overdueAt.map(({ engine }) => engine).join(' and ')} should have read ${url} by now.`,
                remedy: '',
                since: earliest(overdueAt.map(({ since }) => since)),
              },
              'us',
            ),
          ]),
    ];
  });
}

/** A registered name that is soon not the owner's any more, by the day that he noted. */
function nameEnds({ nameEnds: noted, now, enrolments }: CaseFacts): CaseNow[] {
  if (!noted || noted.at.getTime() - now.getTime() > NAME_ENDS_WITHIN) return [];
  const day = writtenDay(noted.at);
  const isOver = noted.at <= now;
  return [
    {
      kind: 'name-ends',
      cause: `${noted.name} ${day}`,
      since: new Date(noted.at.getTime() - NAME_ENDS_WITHIN),
      says: isOver
        ? `The name ${noted.name} was to end on ${day}, as its owner said: everything that is held under it goes with it.`
        : `The name ${noted.name} ends on ${day}, as its owner said; everything that is held under it goes with it.`,
      remedy: `Please renew the name ${noted.name} before ${day}, or tell us its new date where that has been done.`,
      acts: 'client',
      touches: enrolments.map(({ name }) => name),
      until: noted.at,
    },
  ];
}

/** What will happen unless somebody does something. */
function toCome({ certificate, enrolments, now }: CaseFacts): CaseNow[] {
  const [ends] = certificate;
  return [
    ...(ends
      ? [
          {
            kind: 'certificate' as const,
            cause: 'site',
            ...ends,
            acts: 'client' as const,
            touches: enrolments.map(({ name }) => name),
            until: null,
          },
        ]
      : []),
    ...enrolments.flatMap(({ name, engine, badge, badgeSince, tokenExpiresAt }) => {
      const isOpen = badge === 'issued' || badge === 'in-place';
      if (!tokenExpiresAt || !isOpen || tokenExpiresAt <= now) return [];
      if (tokenExpiresAt.getTime() - now.getTime() > TOKEN_ENDS_WITHIN) return [];
      return [
        {
          kind: 'token-ends' as const,
          cause: name,
          since: badgeSince,
          says: `${engine}’s token for ${name} is void on ${writtenMinute(tokenExpiresAt)} (UTC) unless it is claimed by then.`,
          remedy: '',
          acts: 'us' as const,
          touches: [name],
          until: tokenExpiresAt,
        },
      ];
    }),
  ];
}

function groups<T, Key extends string>(all: readonly T[], keyOf: (one: T) => Key): [Key, T[]][] {
  const found = new Map<Key, T[]>();
  for (const one of all) found.set(keyOf(one), [...(found.get(keyOf(one)) ?? []), one]);
  return [...found];
}

/** An invalid date where there is none. */
function earliest(times: readonly Date[]): Date {
  return new Date(times.length === 0 ? NaN : Math.min(...times.map((time) => time.getTime())));
}
