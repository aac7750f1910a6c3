import { textOf } from '../core/html/body-text.js';
import { judge, type EarlierLook, type Judgement } from '../core/badge/judge/judge.js';
import type { JudgeContext } from '../core/badge/judge/value.js';
import { fileStands } from '../core/badge/judge/file.js';
import { furtherPages, type FurtherPages } from '../core/badge/probe/further-probes.js';
import type { Body, Evidence, PageEvidence } from '../core/badge/probe/evidence.js';
import { examine, readFirst } from '../core/badge/probe/examine.js';
import type { PageTags } from '../core/badge/probe/page-tags.js';
import { tagStands } from '../core/badge/probe/right-tag.js';
import { siteTraits } from '../core/badge/probe/site-traits.js';
import type { FilePlacement, MetaPlacement, Placement } from '../core/badge/placement.js';
import { readPastedPage } from '../core/badge/token/pasted.js';
import { readProfileText } from '../core/profile/profile-text.js';
import { crawlDelay, robotsIn, sitemapsNamedIn, type RobotsSeen } from '../core/robots/robots.js';
import { explainRobots } from '../core/robots/explanation.js';
import { keptFromUs } from '../core/sitemap/forbidding.js';
import { judgePageOf } from '../core/sitemap/sample.js';
import { readForMaking, type PageRead } from '../core/sitemap/make/page-read.js';
import { judgeSurroundings } from '../core/sitemap/surroundings.js';
import { judgeVariants } from '../core/variants/judge.js';
import { readFace, type PageFace } from '../core/variants/page-face.js';

/**
 * Everything that reads what a stranger wrote, by name: core's own functions, with plain data going in and coming out. What is
 * new here runs in a worker thread, under its bounds of time and memory, with nothing more to be done.
 */
export const TASKS = {
  firstOf,
  judgementOf,
  faceOf,
  siteTraits,
  judgeVariants,
  judgeSurroundings,
  judgePageOf,
  readPastedPage,
  sitemapsIn,
  namedIn,
  keptFrom,
  crawlDelayIn,
  linksOf,
  linksOfAll,
  explainRobots,
  readProfileText,
} as const;

export type TaskName = keyof typeof TASKS;
export type Given<Name extends TaskName> = Parameters<(typeof TASKS)[Name]>;
export type Made<Name extends TaskName> = ReturnType<(typeof TASKS)[Name]>;

/** What evidence is judged by besides itself. */
export interface ToJudge {
  readonly checkedAt: Date;
  readonly context: JudgeContext;
  readonly earlier: EarlierLook | null;
}

export interface Judged {
  readonly judgement: Judgement;
  /** The words in the evidence that may be somebody's token. */
  readonly words: readonly string[];
}

/** What the first look at a page or file shows, and what it makes worth looking at besides. */
export interface FirstRead {
  readonly page: PageTags | null;
  readonly plan: FurtherPages;
  /** Where there is nothing more to look at, what it amounts to. */
  readonly judged: Judged | null;
}

/**
 * Reads the first look at a page or file, and judges it at once where it is all that there will be.
 * @param seen the look as evidence, without anything besides
 * @param word for the made-up neighbour of a file
 * @param shallow whether likely wrong places are left out
 */
function firstOf(
  placement: MetaPlacement | FilePlacement,
  seen: PageEvidence,
  word: string,
  shallow: boolean,
  toJudge: ToJudge,
): FirstRead {
  const page = readFirst(placement, seen);
  const stands =
    placement.method === 'meta' ? page !== null && tagStands(placement, page) : fileStands(placement, seen);
  const whole = furtherPages(placement, seen, stands, word, page?.sentOn?.url ?? null);
  const plan = shallow ? { ...whole, elsewhere: [] } : whole;
  const isAll = !plan.fresh && !plan.asBrowser && plan.madeUp === null && plan.elsewhere.length === 0;
  return { page, plan, judged: isAll ? judgementOf(placement, seen, page, toJudge) : null };
}

/** What a page says of itself. */
function faceOf(body: Body, url: string, link?: string): PageFace {
  return readFace(textOf(body), url, link);
}

/** What evidence amounts to, and the words in it that may be somebody's token. */
function judgementOf(
  placement: Placement,
  evidence: Evidence,
  page: PageTags | null,
  { checkedAt, context, earlier }: ToJudge,
): Judged {
  const examined = examine(placement, evidence, page);
  return {
    judgement: judge(placement, evidence, checkedAt, examined, context, earlier),
    words: examined.words,
  };
}

/** The sitemaps that a robots.txt names, as they are written. @param most of which no more are of use */
function sitemapsIn(robots: RobotsSeen, most: number): string[] {
  if (robots.status !== 200) return [];
  return robotsIn(robots)
    .sitemaps.slice(0, most)
    .map(({ url }) => url.slice(0, 2048));
}

/** The sitemaps that a robots.txt names, whole. */
function namedIn(robots: RobotsSeen): string[] {
  return robots.status === 200 ? [...sitemapsNamedIn(robots)] : [];
}

/** Which of some paths of a host its robots.txt keeps everyone from. */
function keptFrom(robots: RobotsSeen, paths: readonly string[]): boolean[] {
  const kept = keptFromUs(robots);
  return paths.map((path) => kept?.(path) === true);
}

/** Seconds that a robots.txt asks an agent to wait between two requests; null where it asks for none. */
function crawlDelayIn(robots: RobotsSeen, agent: string): number | null {
  return crawlDelay(robotsIn(robots), agent);
}

/** What a page says to the one who makes a sitemap of it. @param origins those of the website */
function linksOf(
  body: Body,
  url: string,
  headers: Readonly<Record<string, string>>,
  origins: readonly string[],
): PageRead {
  return readForMaking(textOf(body), url, headers, origins, body.charset);
}

/**
 * Several at once: to hand one page to a thread, and what it says back, costs a tenth of the reading. One that cannot be read does not
 * keep the others.
 */
function linksOfAll(
  pages: readonly Parameters<typeof linksOf>[],
): ({ readonly page: PageRead } | { readonly error: unknown })[] {
  return pages.map((given) => {
    try {
      return { page: linksOf(...given) };
    } catch (error) {
      return { error };
    }
  });
}
