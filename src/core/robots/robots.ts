import { Ruleset, type RobotsRule } from './ruleset.js';

/** What answered for the robots.txt of a host. */
export interface RobotsSeen {
  readonly url: string;
  /** Null where nothing answered. */
  readonly status: number | null;
  readonly text: string;
}

/** What a robots.txt says: rules by agent, and the sitemaps that it names. */
export interface Robots {
  /** By product token, lower case; `*` for everyone else. Groups for the same agent are one (RFC 9309 §2.2.1). */
  readonly groups: ReadonlyMap<string, readonly RobotsRule[]>;
  /** Seconds between two requests that a group asks for (`Crawl-delay`), by agent: no standard has it, and many files do. */
  readonly delays: ReadonlyMap<string, number>;
  /** In order, as written. The line belongs to the sitemaps.org protocol, not to RFC 9309. */
  readonly sitemaps: readonly { readonly url: string; readonly line: number }[];
}

/** More than this of a robots.txt need not be read (RFC 9309 §2.5), in characters. */
export const MOST_ROBOTS = 512_000;
const DELAY = /^\d{1,6}(?:\.\d{1,3})?$/u;
/** Longer than this nobody means; in seconds. */
const LONGEST_DELAY = 60;
/** Groups that one line of rules may belong to: a hundred agents in a row share theirs, ten thousand are somebody's trick. */
const MOST_SHARING = 100;

/** The product token of an agent's name, by which groups are found (RFC 9309 §2.2.1). */
function productToken(agent: string): string {
  return (/^[a-z_-]+/iu.exec(agent.trim())?.[0] ?? '').toLowerCase();
}

/**
 * Reads a robots.txt. Never throws: lines that are no rule are passed over (RFC 9309 §2.2).
 * @param text the file as text, a byte order mark and all
 */
export function readRobots(text: string): Robots {
  const groups = new Map<string, RobotsRule[]>();
  const delays = new Map<string, number>();
  const sitemaps: { url: string; line: number }[] = [];
  let agents: string[] = [];
  let inRules = true;
  const lines = text
    .slice(0, MOST_ROBOTS)
    .replace(/^\ufeff/u, '')
    .split(/\r\n|\r|\n/u);
  lines.forEach((raw, at) => {
    const line = at + 1;
    const [, key = '', rest = ''] = /^([a-z-]+)\s*:(.*)$/isu.exec(withoutComment(raw).trim()) ?? [];
    const value = rest.trim();
    switch (key.toLowerCase()) {
      case 'user-agent': {
        if (inRules) agents = [];
        inRules = false;
        const agent = value.startsWith('*') ? '*' : productToken(value);
        if (agent !== '' && agents.length < MOST_SHARING && !agents.includes(agent)) agents.push(agent);
        for (const one of agents) groups.set(one, groups.get(one) ?? []);
        break;
      }
      case 'allow':
      case 'disallow': {
        inRules = true;
        if (value === '') break;
        const rule = {
          allows: key.toLowerCase() === 'allow',
          pattern: alike(value),
          line,
        };
        for (const agent of agents) groups.get(agent)?.push(rule);
        break;
      }
      case 'crawl-delay':
        // It ends no list of agents: what is not in the standard may not change how that is read (RFC 9309 §2.2.4).
        if (DELAY.test(value)) for (const agent of agents) delays.set(agent, Number(value));
        break;
      case 'sitemap':
        if (value !== '') sitemaps.push({ url: value, line });
    }
  });
  return { groups, delays, sitemaps };
}

function withoutComment(line: string): string {
  const from = line.indexOf('#');
  return from < 0 ? line : line.slice(0, from);
}

/**
 * Whether an agent may fetch a path, and the rule that decides.
 * @param agent the engine's name for its own fetcher; null for one that is not known, which goes by the rules for everyone
 * @param path path and query, as in a request
 * @returns the deciding rule; null where none matches, so that it may (RFC 9309 §2.2.2)
 */
export function decidingRule(
  robots: Robots,
  agent: string | null,
  path: string,
): { readonly rule: RobotsRule | null; readonly group: string } {
  const own = agent === null ? '' : productToken(agent);
  const group = robots.groups.has(own) ? own : '*';
  // The robots.txt itself may always be fetched.
  if (path === '/robots.txt') return { rule: null, group };
  return { rule: rulesetOf(robots, group)?.deciding(alike(path)) ?? null, group };
}

/** Seconds that an agent is asked to wait between two requests, by its own group or else by that for everyone; null where nothing is said. */
export function crawlDelay({ groups, delays }: Robots, agent: string): number | null {
  const own = productToken(agent);
  const delay = delays.get(groups.has(own) ? own : '*') ?? null;
  return delay === null ? null : Math.min(delay, LONGEST_DELAY);
}

/** Rulesets that were made ready, for as long as the robots.txt they belong to is of use. */
const ready = new WeakMap<readonly RobotsRule[], Ruleset>();

function rulesetOf(robots: Robots, group: string): Ruleset | null {
  const rules = robots.groups.get(group);
  if (!rules) return null;
  const known = ready.get(rules) ?? new Ruleset(rules);
  ready.set(rules, known);
  return known;
}

/** Robots.txt files that were read, for as long as what was seen of them is of use. */
const read = new WeakMap<RobotsSeen, Robots>();

/** Reads what was seen of a robots.txt, once however often it is asked for. */
export function robotsIn(seen: RobotsSeen): Robots {
  const known = read.get(seen) ?? readRobots(seen.text);
  read.set(seen, known);
  return known;
}

/** The sitemaps that were named, whole, each once; worked out once. */
const named = new WeakMap<RobotsSeen, ReadonlySet<string>>();

export function sitemapsNamedIn(seen: RobotsSeen): ReadonlySet<string> {
  const known =
    named.get(seen) ??
    new Set(
      robotsIn(seen).sitemaps.flatMap(({ url }) =>
        URL.canParse(url, seen.url) ? [new URL(url, seen.url).href] : [],
      ),
    );
  named.set(seen, known);
  return known;
}

/** Escapes in one form, so that `%7E` and `~`, `é` and `%C3%A9` compare as the same (RFC 9309 §2.2.2). */
function alike(path: string): string {
  return path
    .replace(/[^\x21-\x7e]+/gu, (some) => encodeURIComponent(some.replace(/\p{Cs}/gu, '\ufffd')))
    .replace(/%([0-9a-f]{2})/giu, (escape, hex: string) => {
      const sign = String.fromCharCode(parseInt(hex, 16));
      return /[\w.~-]/u.test(sign) ? sign : escape.toUpperCase();
    });
}
