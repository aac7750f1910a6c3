import type { Reach } from '../address/reach.js';
import { METHODS, type EngineProfile, type Method } from '../profile/profile.js';

/** What the client's people can get at, as far as somebody said. */
export interface Access {
  readonly zone?: 'yes' | 'no';
  readonly files?: 'yes' | 'no';
  readonly pages?: 'yes' | 'no';
}

/** What was seen of the website that matters to the choice; null where nobody has looked yet. */
export interface SiteTraits {
  /** What the page says it was made with, as such systems write it; null where it says nothing. */
  readonly generator: string | null;
  /** Whether a cache stands before it. */
  readonly cached: boolean;
  /** Whether it answers 200 for files that do not exist. */
  readonly answersAnything: boolean;
}

export const ADVICE_RANKS = ['best', 'works', 'cannot'] as const;
export type AdviceRank = (typeof ADVICE_RANKS)[number];

export interface MethodAdvice {
  readonly method: Method;
  /** `best` for the one to take, `works` for another that would do, `cannot` where something stands against it. */
  readonly rank: AdviceRank;
  /** Why, in words: what speaks for it here, or what stands against it. */
  readonly why: readonly string[];
  /** What it costs later. */
  readonly later: string;
}

const ACCESS: Readonly<Record<Method, keyof Access>> = { meta: 'pages', file: 'files', dns: 'zone' };
const HANDS: Readonly<Record<keyof Access, string>> = {
  zone: 'the DNS zone',
  files: 'the web root',
  pages: 'the page templates',
};
const LATER: Readonly<Record<Method, string>> = {
  dns: 'Outlives redesigns and covers every variant; takes a while to be seen, and goes when the zone is moved carelessly.',
  file: 'Outlives themes; goes when the site moves to another host, and content systems like to wrap or hide it.',
  meta: 'Quick in most content systems; goes when the theme is changed or updated, and page caches hide it.',
};

interface Weighed extends Omit<MethodAdvice, 'rank'> {
  readonly points: number;
  readonly possible: boolean;
}

/**
 * Which method to have placed, before anything is: by what the engine takes for the reach, what the client's people
 * can get at, and what the site is like.
 */
export function adviseMethods(
  profile: EngineProfile,
  reach: Reach,
  access: Access,
  seen: SiteTraits | null,
): MethodAdvice[] {
  const weighed = METHODS.map((method) => weigh(profile, reach, method, access, seen));
  const sorted = [...weighed].sort((a, b) => Number(b.possible) - Number(a.possible) || b.points - a.points);
  return sorted.map(({ method, why, later, possible }, at) => ({
    method,
    rank: !possible ? 'cannot' : at === 0 ? 'best' : 'works',
    why,
    later,
  }));
}

function weigh(
  profile: EngineProfile,
  reach: Reach,
  method: Method,
  access: Access,
  seen: SiteTraits | null,
): Weighed {
  const rule = profile.methods[method];
  const base = { method, later: LATER[method] };
  if (!rule)
    return { ...base, points: 0, possible: false, why: [`${profile.title} takes no proof by ${method}.`] };
  if (!rule.reaches.includes(reach))
    return {
      ...base,
      points: 0,
      possible: false,
      why: [`${profile.title} does not take it for a ${reach}.`],
    };
  const hand = ACCESS[method];
  if (access[hand] === 'no')
    return { ...base, points: 0, possible: false, why: [`Nobody at the client can get at ${HANDS[hand]}.`] };
  const reasons = [
    ...(access[hand] === 'yes'
      ? [{ points: 3, says: `The client’s people can get at ${HANDS[hand]}.` }]
      : []),
    ...(method === 'dns' ? [{ points: 2, says: 'It stays through redesigns and changes of host.' }] : []),
    ...(method === 'file' ? [{ points: 1, says: 'It stays through changes of theme.' }] : []),
    ...siteReasons(method, seen),
  ];
  return {
    ...base,
    possible: true,
    points: reasons.reduce((sum, one) => sum + one.points, 0),
    why: reasons.map(({ says }) => says),
  };
}

function siteReasons(method: Method, seen: SiteTraits | null): { points: number; says: string }[] {
  if (seen === null) return [];
  const { generator, cached, answersAnything } = seen;
  if (method === 'meta')
    return [
      ...(cached
        ? [{ points: -2, says: 'A cache stands before the site: it has to be emptied after placing.' }]
        : []),
      ...(generator === null
        ? []
        : [{ points: -1, says: 'A content system makes the pages: its theme’s updates take the tag away.' }]),
    ];
  if (method === 'file')
    return [
      ...(answersAnything
        ? [{ points: -2, says: 'The site answers 200 for any file: check that it is really uploaded.' }]
        : []),
      ...(generator === null
        ? []
        : [{ points: -1, says: 'A content system makes the pages: it may wrap or hide files.' }]),
    ];
  return [];
}

/** Access in words, for the one who has to ask: what nobody has said yet. */
export function unknownAccess(profile: EngineProfile, reach: Reach, access: Access): (keyof Access)[] {
  return METHODS.filter((method) => profile.methods[method]?.reaches.includes(reach) === true)
    .map((method) => ACCESS[method])
    .filter((hand) => access[hand] === undefined);
}
