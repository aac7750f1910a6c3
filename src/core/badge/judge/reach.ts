import { registrableOf } from '../../address/host.js';
import { finding, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { Finding } from '../../findings/finding.js';
import type { RedirectRule } from '../../profile/profile.js';
import type { Hop, PageEvidence } from '../probe/evidence.js';
import { writtenDay } from '../../time/time-formats.js';

/** How many redirects we follow; more than any engine's, so that its own bound shows as a rule and not as ours. */
export const MAX_HOPS = 10;
/** Milliseconds after which an answer is told to be slow: engines give up after a few seconds. */
const SLOW_MS = 4_000;
/** Characters of a list of name servers. */
const MOST_NAMED = 240;

/** What an engine does with redirects while it looks for a token. */
export interface Following {
  readonly redirects: RedirectRule;
  /** How many it follows. */
  readonly mostRedirects: number;
}

/** What the way to a page says, and the answer at its end; null when there is none that could be read. */
export interface WayJudged {
  readonly way: Finding[];
  readonly last: Hop | null;
}

/** Judges the way to a page and the status at its end. 404 and 410 are left to the caller where `gone` is told. */
export function judgePage(evidence: PageEvidence, following: Following, isGoneMine = false): WayJudged {
  const way = judgeReach(evidence, following);
  const last = evidence.hops.at(-1);
  if (evidence.end !== 'answered' || !last) return { way, last: null };
  if (isGoneMine && isGone(last)) return { way, last };
  const status = judgeStatus(last, evidence.asBrowser);
  return status ? { way: [...way, status], last: null } : { way, last };
}

/** Whether the answer says that there is nothing at this address (RFC 9110 §15.5.5, §15.5.11). */
export function isGone({ status }: Hop): boolean {
  return status === 404 || status === 410;
}

/** What the way to a page says, apart from what is on the page; the finding that decides comes first. */
export function judgeReach(evidence: PageEvidence, following: Following): Finding[] {
  const { hops } = evidence;
  const findings = [
    ...forbiddenRedirect(hops, following.redirects),
    ...tooMany(evidence, following),
    ...downgrades(hops),
  ];
  const first = hops[0];
  const last = hops.at(-1);
  if (!first || !last) return findings;
  if (evidence.end === 'loop') findings.push(finding('reach.loop', { start: first.url, url: last.url }));
  if (evidence.end === 'failed') findings.push(failed(last, evidence));
  const slow = hops.find((hop) => hop.failure === null && hop.ms > SLOW_MS);
  if (slow) findings.push(finding('reach.slow', { url: slow.url, ms: Math.round(slow.ms) }));
  return findings;
}

function tooMany(evidence: PageEvidence, { redirects, mostRedirects }: Following): Finding[] {
  const start = evidence.hops[0]?.url ?? '';
  if (evidence.end === 'too-many-hops') return [finding('reach.too-many-hops', { start, limit: MAX_HOPS })];
  const count = evidence.hops.filter(({ location }) => location !== null).length;
  if (evidence.end === 'loop' || redirects === 'none' || count <= mostRedirects) return [];
  return [finding('reach.redirect-limit', { start, count, limit: mostRedirects })];
}

function failed(hop: Hop, { again, delegated = [] }: PageEvidence): Finding {
  const code: FindingCode = `reach.${hop.failure ?? 'cut'}`;
  const { certificate } = hop;
  return finding(code, {
    url: hop.url,
    host: new URL(hop.url).hostname,
    address: hop.address ?? 'no address',
    detail: excerpt(hop.detail ?? 'no more is known'),
    ms: Math.round(hop.ms),
    names: certificate ? excerpt(certificate.names.join(', ')) : 'nobody',
    issuer: certificate ? excerpt(certificate.issuer) : 'nobody',
    until: certificate ? writtenDay(certificate.validUntil) : 'an unknown day',
    again,
    delegated: delegated.length === 0 ? 'nobody knows which' : excerpt(delegated.join(', '), MOST_NAMED),
  });
}

/** What a final status means, other than 200; null for a page that can be read. Engines want 200 and nothing else. */
export function judgeStatus(hop: Hop, asBrowser: PageEvidence['asBrowser'] = null): Finding | null {
  const { status, url } = hop;
  if (status === null || status === 200) return null;
  const opens = asBrowser?.status === 200;
  if (opens && [401, 403, 406, 429, 503].includes(status)) return finding('reach.bot-wall', { url, status });
  if (status === 401 || status === 403) return finding('reach.denied', { url, status });
  if (isGone(hop)) return finding('reach.gone', { url, status });
  if (status === 429) return finding('reach.rate-limited', { url, status });
  if (status >= 500) return finding('reach.server-error', { url, status });
  return finding('reach.odd-status', { url, status });
}

/** Whether an engine with this rule goes from one address to the next. */
export function follows(rule: RedirectRule, from: URL, to: URL): boolean {
  switch (rule) {
    case 'none':
      return false;
    case 'host':
      return from.hostname === to.hostname;
    case 'registrable':
      return registrableOf(from.hostname) === registrableOf(to.hostname);
  }
}

function forbiddenRedirect(hops: readonly Hop[], rule: RedirectRule): Finding[] {
  const first = hops[0];
  const at = hops.find(
    (hop) => hop.location !== null && first && !follows(rule, new URL(first.url), new URL(hop.location)),
  );
  if (!at || !first || at.location === null) return [];
  const values = { url: at.url, location: at.location };
  if (rule === 'none') return [finding('reach.redirected', values)];
  const sameDomain = follows('registrable', new URL(first.url), new URL(at.location));
  return [finding(sameDomain ? 'reach.off-host' : 'reach.off-domain', values)];
}

function downgrades(hops: readonly Hop[]): Finding[] {
  const at = hops.find((hop) => hop.url.startsWith('https:') && hop.location?.startsWith('http:') === true);
  return at?.location ? [finding('reach.downgrade', { url: at.url, location: at.location })] : [];
}
