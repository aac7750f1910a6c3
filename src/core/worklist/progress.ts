import type { Badge } from '../badge/standing.js';
import { AT_ENGINE } from './step.js';

/** How far the taking on of a property is at an engine that matters to its audience. */
export interface EngineProgress {
  readonly title: string;
  /** The best badge there; null where it is not enrolled. */
  readonly badge: Badge | null;
  /** Whether what is held for another property covers it. */
  readonly isAbove: boolean;
  readonly takesSitemaps: boolean;
  readonly isSubmitted: boolean;
  /** Whether the engine has read what was submitted. */
  readonly isRead: boolean;
  /** Whether it is the agency itself, whose proof is a stage of its own. */
  readonly isHouse: boolean;
}

export interface ProgressFacts {
  /** Whether the variants were looked at, and nothing keeps visitors out. */
  readonly areVariantsJudged: boolean;
  readonly engines: readonly EngineProgress[];
}

/** How far something is: “5 of 9 done”, and what of it comes next. */
export interface Progress {
  readonly done: number;
  readonly total: number;
  /** The first that is not done; null where all is. */
  readonly next: string | null;
}

interface Stage {
  readonly says: string;
  readonly isDone: boolean;
}

/** Badges with which a token stood at its place when it was last seen there. */
const PLACED: readonly (Badge | null)[] = ['in-place', 'held'];
const HELD: readonly (Badge | null)[] = ['held', 'slipping'];

/**
 * The taking on of a property as stages, in the order in which they are worked: taken on, variants judged, then at each engine enrolled,
 * placed, held, and where it takes sitemaps, submitted and read. At the house nothing but the proof counts.
 */
export function progressOf({ areVariantsJudged, engines }: ProgressFacts): Progress {
  const stages: Stage[] = [
    { says: 'taken on', isDone: true },
    { says: 'variants judged', isDone: areVariantsJudged },
    ...[...engines].sort((a, b) => Number(b.isHouse) - Number(a.isHouse)).flatMap(stagesAt),
  ];
  return {
    done: stages.filter(({ isDone }) => isDone).length,
    total: stages.length,
    next: stages.find(({ isDone }) => !isDone)?.says ?? null,
  };
}

function stagesAt(engine: EngineProgress): Stage[] {
  const { badge, isAbove, isHouse, takesSitemaps, title } = engine;
  const held = { says: `held at ${AT_ENGINE}`, isDone: isAbove || HELD.includes(badge) };
  const stages: Stage[] = isHouse
    ? [held]
    : [
        { says: `enrolled at ${AT_ENGINE}`, isDone: isAbove || badge !== null },
        { says: `placed for ${AT_ENGINE}`, isDone: isAbove || PLACED.includes(badge) },
        held,
        ...(takesSitemaps
          ? [
              { says: `a sitemap submitted to ${AT_ENGINE}`, isDone: engine.isSubmitted },
              { says: `a sitemap read by ${AT_ENGINE}`, isDone: engine.isRead },
            ]
          : []),
      ];
  return stages.map(({ says, isDone }) => ({ says: says.replace(AT_ENGINE, title), isDone }));
}
