import { parse } from 'parse5';
import type { EngineEnrolment } from '../state.js';
import { fetchFrom, textRecords, type Grounds } from './fetching.js';
import type { EngineRules } from './rules.js';

/** An engine's own verdict, in an engine's few words. Nothing here is shared with the product's own judgement. */
export interface EngineVerdict {
  readonly ok: boolean;
  readonly reason: string;
}

const NO: (reason: string) => EngineVerdict = (reason) => ({ ok: false, reason });
const YES: EngineVerdict = { ok: true, reason: '' };

function domain(host: string): string {
  return host.split('.').slice(-2).join('.');
}

function mayFollow(follows: EngineRules['follows'], from: URL, to: URL): boolean {
  if (follows === 'nothing') return false;
  return follows === 'domain' ? domain(from.hostname) === domain(to.hostname) : from.hostname === to.hostname;
}

function trimmed(rules: EngineRules, text: string): string {
  return rules.everyByteCounts ? text : text.trim();
}

async function byMeta(
  rules: EngineRules,
  grounds: Grounds,
  address: string,
  token: string,
): Promise<EngineVerdict> {
  const { meta } = rules;
  if (!meta) return NO('method not taken');
  const page = await fetchFrom(
    grounds,
    address,
    (from, to) => mayFollow(rules.follows, from, to),
    rules.followsAtMost,
  );
  if (page?.status !== 200) return NO('site not reachable');
  if (!page.type.includes('html')) return NO('not a page');
  const contents = namedInHead(page.text, meta.name);
  if (contents.length === 0) return NO('tag not found');
  if (meta.takes === 'alone' && contents.length > 1) return NO('more than one tag');
  const counting = { any: contents, alone: contents, first: contents.slice(0, 1), last: contents.slice(-1) };
  return counting[meta.takes].some((content) => trimmed(rules, content) === token)
    ? YES
    : NO('tag does not match');
}

/** What the tags of a name say that a browser would build into the head; frames, scripts and comments it does not read. */
function namedInHead(text: string, name: string): string[] {
  const html = parse(text.replace(/^\ufeff/, '')).childNodes.find((node) => node.nodeName === 'html');
  const head =
    html && 'childNodes' in html ? html.childNodes.find((node) => node.nodeName === 'head') : undefined;
  const inside = head && 'childNodes' in head ? head.childNodes : [];
  return inside.flatMap((node) => {
    if (!('attrs' in node) || node.nodeName !== 'meta') return [];
    const said = Object.fromEntries(node.attrs.map((one) => [one.name, one.value]));
    return said['name']?.trim().toLowerCase() === name ? [said['content'] ?? ''] : [];
  });
}

async function byFile(
  rules: EngineRules,
  grounds: Grounds,
  address: string,
  token: string,
): Promise<EngineVerdict> {
  const { file, follows } = rules;
  if (!file) return NO('method not taken');
  const url = new URL(file.path(token), address);
  const found = await fetchFrom(
    grounds,
    url.href,
    (from, to) => follows !== 'nothing' && from.hostname === to.hostname,
    rules.followsAtMost,
  );
  if (found?.status !== 200) return NO('file not found');
  return trimmed(rules, found.text) === file.content(token) ? YES : NO('file does not match');
}

async function byDns(
  rules: EngineRules,
  grounds: Grounds,
  name: string,
  token: string,
): Promise<EngineVerdict> {
  const { dns } = rules;
  if (!dns) return NO('method not taken');
  const records = await textRecords(grounds, dns.owner(name));
  return records.some((record) => trimmed(rules, record) === dns.value(token)) ? YES : NO('record not found');
}

/** Looks for a token, now and for real. */
export async function judgeOwnership(
  rules: EngineRules,
  grounds: Grounds,
  enrolment: Pick<EngineEnrolment, 'reach' | 'target'>,
  method: string,
  token: string | undefined,
): Promise<EngineVerdict> {
  if (token === undefined) return NO('no token was issued for this method');
  if (method === 'dns') {
    const name = enrolment.reach === 'name' ? enrolment.target : new URL(enrolment.target).hostname;
    return byDns(rules, grounds, name, token);
  }
  if (enrolment.reach === 'name') return NO('a name is proven by dns only');
  return method === 'meta'
    ? byMeta(rules, grounds, enrolment.target, token)
    : byFile(rules, grounds, enrolment.target, token);
}

/** How many addresses an engine finds in a sitemap, counted its own simple way; null when it cannot read it. */
export async function countAddresses(
  grounds: Grounds,
  url: string,
  reads: EngineRules['reads'],
  depth = 0,
): Promise<number | null> {
  const file = await fetchFrom(grounds, url, (from, to) => from.hostname === to.hostname);
  if (file?.status !== 200) return null;
  if (reads.includes('feed') && /<(rss|feed)[\s>]/.test(file.text))
    return [...file.text.matchAll(/<(item|entry)[\s>]/g)].length;
  if (reads.includes('text') && /^https?:/.test(file.text)) return file.text.trim().split(/\s+/).length;
  if (!/<(urlset|sitemapindex)[\s>]/.test(file.text)) return null;
  const locations = [...file.text.matchAll(/<loc>\s*([^<\s]+)\s*<\/loc>/g)].map((match) => match[1] ?? '');
  if (!/<sitemapindex[\s>]/.test(file.text)) return locations.length;
  if (depth > 0) return 0;
  const counts = await Promise.all(
    locations.map((child) => countAddresses(grounds, child, reads, depth + 1)),
  );
  return counts.reduce<number>((sum, count) => sum + (count ?? 0), 0);
}
