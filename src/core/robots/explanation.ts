import { decidingRule, MOST_ROBOTS, readRobots, type RobotsSeen } from './robots.js';

/** Who is asked for: an engine by the name of its fetcher, or nobody in particular. */
export interface RobotsAgent {
  readonly title: string;
  readonly agent: string | null;
}

/** Whether one agent may fetch one address, and by which line. */
export interface RobotsVerdict {
  readonly title: string;
  readonly allowed: boolean;
  /** The group of rules that counts for it: its own name, or `*`. */
  readonly group: string;
  /** The rule that decides, as it is written; null where none does, so that it may. */
  readonly rule: string | null;
  readonly line: number | null;
}

export interface RobotsExplanation {
  readonly verdicts: readonly { readonly address: string; readonly agents: readonly RobotsVerdict[] }[];
  /** Lines that nobody reads as they were meant, the first few. */
  readonly faults: readonly { readonly line: number; readonly text: string; readonly says: string }[];
  /** What would be better; null where nothing would. */
  readonly proposal: string | null;
}

/** Lines with faults that are told, and letters of each. */
const MOST_FAULTS = 20;
const LONGEST = 200;
const KNOWN = new Set(['user-agent', 'allow', 'disallow', 'sitemap']);
/** Directives that some engines have invented: passed over by others (RFC 9309 §2.2.4), and no fault. */
const EXTENSIONS = new Set(['crawl-delay', 'host', 'clean-param', 'request-rate', 'visit-time', 'noindex']);

/**
 * Says of a robots.txt which line decides for each address and agent, which lines nobody understands, and what it should say beside.
 * @param seen status 404 and the like allow everything (RFC 9309 §2.3.1.3), 5xx nothing (§2.3.1.4)
 * @param addresses whole addresses of the website
 * @param sitemaps those that it should name
 */
export function explainRobots(
  seen: RobotsSeen,
  agents: readonly RobotsAgent[],
  addresses: readonly string[],
  sitemaps: readonly string[],
): RobotsExplanation {
  const isThere = seen.status === 200;
  const robots = readRobots(isThere ? seen.text : '');
  const lines = seen.text.split(/\r\n|\r|\n/u);
  const isClosed = seen.status === null || seen.status >= 500;
  return {
    verdicts: addresses.map((address) => ({
      address,
      agents: agents.map(({ title, agent }): RobotsVerdict => {
        if (isClosed) return { title, allowed: false, group: '–', rule: null, line: null };
        const { pathname, search } = new URL(address);
        const { rule, group } = decidingRule(robots, agent, pathname + search);
        return {
          title,
          allowed: rule?.allows !== false,
          group,
          rule: rule ? (lines[rule.line - 1] ?? '').trim().slice(0, LONGEST) : null,
          line: rule?.line ?? null,
        };
      }),
    })),
    faults: isThere ? faultsIn(seen.text) : [],
    proposal: proposalFor(
      seen,
      robots.sitemaps.map(({ url }) => url),
      sitemaps,
    ),
  };
}

function faultsIn(text: string): RobotsExplanation['faults'] {
  const faults: { line: number; text: string; says: string }[] = [];
  let hasAgent = false;
  const fault = (at: number, raw: string, says: string): void => {
    if (faults.length < MOST_FAULTS) faults.push({ line: at + 1, text: raw.trim().slice(0, LONGEST), says });
  };
  if (text.length > MOST_ROBOTS)
    fault(
      0,
      '',
      'It is longer than 500 kibibytes: what comes behind need not be read by anybody (RFC 9309 §2.5).',
    );
  const lines = text
    .slice(0, MOST_ROBOTS)
    .replace(/^\ufeff/u, '')
    .split(/\r\n|\r|\n/u);
  lines.forEach((raw, at) => {
    const line = raw.split('#')[0]?.trim() ?? '';
    if (line === '' || faults.length >= MOST_FAULTS) return;
    const [, key, rest = ''] = /^([A-Za-z-]+)\s*:(.*)$/su.exec(line) ?? [];
    const name = key?.toLowerCase() ?? '';
    if (key === undefined) fault(at, raw, 'This is no directive, and is passed over.');
    else if (name === 'user-agent') hasAgent = true;
    else if (!KNOWN.has(name)) {
      if (!EXTENSIONS.has(name)) fault(at, raw, `Nobody knows the directive “${key}”; it is passed over.`);
    } else if (name !== 'sitemap' && !hasAgent)
      fault(at, raw, 'It stands before any “User-agent”, so that it is for nobody.');
    else if (name === 'sitemap' && !/^https?:\/\//iu.test(rest.trim()))
      fault(at, raw, 'A sitemap is named by its whole address.');
    else if (name !== 'sitemap' && rest.trim() !== '' && !/^[/*$]/u.test(rest.trim()))
      fault(at, raw, 'A path begins with “/”; this fits nothing.');
  });
  return faults;
}

function proposalFor(seen: RobotsSeen, named: readonly string[], sitemaps: readonly string[]): string | null {
  const missing = sitemaps.filter((url) => !named.includes(url)).map((url) => `Sitemap: ${url}\n`);
  if (seen.status === 200)
    return missing.length === 0 ? null : `${seen.text.trimEnd()}\n\n${missing.join('')}`;
  if (seen.status === null || seen.status >= 500) return null;
  return `User-agent: *\nDisallow:\n${missing.length === 0 ? '' : `\n${missing.join('')}`}`;
}
