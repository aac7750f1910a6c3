import { finding } from '../findings/catalogue.js';
import type { Finding } from '../findings/finding.js';
import { decidingRule, robotsIn, sitemapsNamedIn } from '../robots/robots.js';
import type { EngineAgent, RobotsSeen } from '../variants/keeping-out.js';
import type { WholeReading } from './reading.js';
import { writtenMinute } from '../time/time-formats.js';

const DAY_MS = 86_400_000;
/** A count that falls by this part or more since the reading before is a fault until somebody says otherwise. */
const FALL = 1 / 3;
/** Fewer addresses than this come and go. */
const FEW = 6;
/** After so many days without a new date a sitemap is likely written by nobody any more. */
const LONG_DAYS = 180;
const STEP_DAYS = 30;

/** What a reading is held against. */
export interface Surroundings {
  /** The robots.txt beside the sitemap; null where it was not asked for. */
  readonly robots: RobotsSeen | null;
  readonly agents: readonly EngineAgent[];
  /** The reading before that could be read; null for the first. */
  readonly before: { readonly addresses: number; readonly at: Date } | null;
  readonly now: Date;
}

/** What shows only beside other things: the robots.txt, the reading before, the calendar. */
export function judgeSurroundings(url: string, reading: WholeReading, around: Surroundings): Finding[] {
  if (reading.kind === null) return [];
  return [
    ...judgeFall(url, reading, around),
    ...judgeAge(url, reading, around.now),
    ...judgeRobots(url, around),
  ];
}

function judgeFall(url: string, { addresses }: WholeReading, { before }: Surroundings): Finding[] {
  if (!before || before.addresses < FEW || before.addresses - addresses < before.addresses * FALL) return [];
  return [
    finding('sitemap.fell', {
      url,
      before: before.addresses,
      after: addresses,
      since: writtenMinute(before.at),
    }),
  ];
}

function judgeAge(url: string, { newestLastmod }: WholeReading, now: Date): Finding[] {
  const time = newestLastmod === null ? NaN : Date.parse(newestLastmod);
  // In steps: a finding in new words each day would be a reading of its own each day.
  const days = Math.floor((now.getTime() - time) / DAY_MS / STEP_DAYS) * STEP_DAYS;
  return Number.isNaN(time) || days < LONG_DAYS
    ? []
    : [finding('sitemap.stands-still', { url, newest: newestLastmod ?? '', days })];
}

function judgeRobots(url: string, { robots, agents }: Surroundings): Finding[] {
  if (robots?.status !== 200) return [];
  const read = robotsIn(robots);
  const { pathname, search } = new URL(url);
  const kept = agents.flatMap((one) => {
    const { rule } = decidingRule(read, one.agent, pathname + search);
    return rule && !rule.allows ? [{ one, rule }] : [];
  });
  const [first] = kept;
  return [
    ...(first
      ? [
          finding('sitemap.robots-forbids', {
            url,
            robots: robots.url,
            line: first.rule.line,
            found: `Disallow: ${first.rule.pattern}`,
            whom: kept.length === agents.length ? 'engines' : kept.map(({ one }) => one.title).join(', '),
          }),
        ]
      : []),
    ...(sitemapsNamedIn(robots).has(url) ? [] : [finding('sitemap.not-named', { url, robots: robots.url })]),
  ];
}
