import { finding, graded } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import { stayAwayHeader } from '../robots/directives.js';
import { decidingRule, robotsIn, type RobotsSeen } from '../robots/robots.js';
import type { PageFace } from './page-face.js';

/** An engine's name for its own fetcher, by which websites speak to it alone. */
export interface EngineAgent {
  readonly title: string;
  readonly agent: string | null;
}

export type { RobotsSeen } from '../robots/robots.js';

/**
 * Whether engines are asked to stay away from a page, each by its own name: by a robots meta tag, by the header of the
 * same meaning, or by the robots.txt. It makes all other work void, so it stops.
 * @param url where the page is
 * @param robots null where it was not asked for
 */
export function judgeKeepingOutOf(
  url: string,
  page: Pick<PageFace, 'stayAway'> | null,
  header: string | null,
  robots: RobotsSeen | null,
  agents: readonly EngineAgent[],
): Finding[] {
  return [
    ...byTag(url, page?.stayAway ?? [], agents),
    ...byHeader(url, header, agents),
    ...(robots ? byRobots(url, robots, agents) : []),
  ];
}

/** The engines that are meant, in words: engines as such, or those that are named. */
function whom(kept: readonly EngineAgent[], all: readonly EngineAgent[]): string {
  return kept.length === all.length ? 'engines' : kept.map(({ title }) => title).join(', ');
}

function byTag(url: string, tags: PageFace['stayAway'], agents: readonly EngineAgent[]): Finding[] {
  const forAll = tags.find(({ name }) => name === 'robots');
  const kept = agents.filter(
    ({ agent }) => forAll !== undefined || tags.some(({ name }) => name === agent?.toLowerCase()),
  );
  const tag = forAll ?? tags.find(({ name }) => kept.some(({ agent }) => agent?.toLowerCase() === name));
  if (!tag || kept.length === 0) return [];
  const found = excerpt(tag.content);
  return [
    graded('stops', finding('reach.keeps-out-tag', { url, line: tag.line, found, whom: whom(kept, agents) })),
  ];
}

function byHeader(url: string, header: string | null, agents: readonly EngineAgent[]): Finding[] {
  if (header === null) return [];
  const found = agents.flatMap((one) => {
    const said = stayAwayHeader(header, one.agent);
    return said === null ? [] : [{ one, said }];
  });
  const [first] = found;
  if (!first) return [];
  const kept = found.map(({ one }) => one);
  return [
    graded(
      'stops',
      finding('reach.keeps-out-header', { url, found: excerpt(first.said), whom: whom(kept, agents) }),
    ),
  ];
}

/** A robots.txt that is not there allows everything; one that answers with an error of the server forbids it (RFC 9309 §2.3.1). */
function byRobots(url: string, seen: RobotsSeen, agents: readonly EngineAgent[]): Finding[] {
  if (seen.status === null || seen.status >= 500)
    return [
      finding('reach.robots-fails', {
        url: seen.url,
        answer: seen.status === null ? 'does not answer' : `answers ${String(seen.status)}`,
      }),
    ];
  if (seen.status !== 200) return [];
  const robots = robotsIn(seen);
  const { pathname, search } = new URL(url);
  const found = agents.flatMap((one) => {
    const { rule, group } = decidingRule(robots, one.agent, pathname + search);
    return rule && !rule.allows ? [{ one, rule, group }] : [];
  });
  const [first] = found;
  if (!first) return [];
  const kept = found.map(({ one }) => one);
  return [
    finding('reach.keeps-out-robots', {
      url,
      robots: seen.url,
      line: first.rule.line,
      found: excerpt(`Disallow: ${first.rule.pattern}`),
      whom: whom(kept, agents),
    }),
  ];
}
