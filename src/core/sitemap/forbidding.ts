import { excerpt } from '../findings/excerpt.js';
import { decidingRule, robotsIn, sitemapsNamedIn } from '../robots/robots.js';
import type { EngineAgent, RobotsSeen } from '../variants/keeping-out.js';
import type { Beside } from './read/beside.js';

/**
 * What a robots.txt keeps engines from, ready to be asked for one address after the other.
 * @returns undefined where it forbids nothing to any of them, so that nobody need be asked
 */
export function forbiddingOf(seen: RobotsSeen | null, agents: readonly EngineAgent[]): Beside['forbids'] {
  if (seen?.status !== 200) return undefined;
  const robots = robotsIn(seen);
  const forbidsAnything = [...robots.groups.values()].some((rules) => rules.some(({ allows }) => !allows));
  if (!forbidsAnything) return undefined;
  // Engines without rules of their own go by those for everyone: each set of rules is asked once.
  const groups = new Map<string, EngineAgent[]>();
  for (const one of agents) {
    const { group } = decidingRule(robots, one.agent, '/');
    groups.set(group, [...(groups.get(group) ?? []), one]);
  }
  return (path) => {
    let first: { pattern: string; line: number } | null = null;
    const kept: EngineAgent[] = [];
    for (const own of groups.values()) {
      const { rule } = decidingRule(robots, own[0]?.agent ?? null, path);
      if (!rule || rule.allows) continue;
      first ??= rule;
      kept.push(...own);
    }
    if (!first) return null;
    const whom = kept.length === agents.length ? 'engines' : kept.map(({ title }) => title).join(', ');
    return { rule: excerpt(`Disallow: ${first.pattern}`), line: first.line, whom, robots: seen.url };
  };
}

/**
 * Whether a robots.txt was asked for and cannot be reached, so that everything counts as forbidden (RFC 9309 §2.3.1.4): nothing answers, or
 * the server fails. One that is refused or is not there forbids nothing (§2.3.1.3).
 */
export function isUnreachable({ status }: Pick<RobotsSeen, 'status'>): boolean {
  return status === null || status >= 500 || status === 429;
}

/**
 * What a robots.txt keeps us ourselves from.
 * @param agent the name by which we fetch; null where nobody says, which goes by the rules for everyone
 * @returns undefined where it keeps us from nothing
 */
export function keptFromUs(
  seen: RobotsSeen | null,
  agent: string | null = null,
): ((path: string) => boolean) | undefined {
  const forbids = forbiddingOf(seen, [{ title: 'we', agent }]);
  return forbids && ((path) => forbids(path) !== null);
}

/** Whether a robots.txt names a sitemap (sitemaps.org protocol, "Specifying the Sitemap location in your robots.txt file"). */
export function namesSitemap(seen: RobotsSeen | null, urls: readonly string[]): boolean {
  if (seen?.status !== 200) return false;
  const named = sitemapsNamedIn(seen);
  return urls.some((url) => named.has(url));
}
