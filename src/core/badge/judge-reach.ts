import { registrableOf } from '../address/host.js';
import { finding, type FindingCode } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import type { RedirectRule } from '../profile/profile.js';
import type { Hop, PageEvidence } from './evidence.js';

/** How many redirects we follow; more than any engine's, so that its own bound shows as a rule and not as ours. */
export const MAX_HOPS = 10;

/**
 * What the way to a page says, apart from what is on the page.
 * @param rule which redirects the engine follows
 * @returns findings, the one that decides first; empty when the page was reached as the engine would reach it
 */
export function judgeReach(evidence: PageEvidence, rule: RedirectRule): Finding[] {
  const findings = [...forbiddenRedirect(evidence.hops, rule), ...downgrades(evidence.hops)];
  const first = evidence.hops[0];
  const last = evidence.hops.at(-1);
  if (!first || !last) return findings;
  if (evidence.end === 'loop') findings.push(finding('reach.loop', { start: first.url, url: last.url }));
  if (evidence.end === 'too-many-hops')
    findings.push(finding('reach.too-many-hops', { start: first.url, limit: MAX_HOPS }));
  if (evidence.end === 'failed') findings.push(failed(last));
  return findings;
}

function failed(hop: Hop): Finding {
  const code: FindingCode = `reach.${hop.failure ?? 'cut'}`;
  return finding(code, {
    url: hop.url,
    host: new URL(hop.url).hostname,
    address: hop.address ?? 'no address',
    detail: excerpt(hop.detail ?? 'no more is known'),
    ms: Math.round(hop.ms),
  });
}

/**
 * What a final status means, other than 200; null for a page that can be read.
 * 404 and 410 are left to the caller: for a file they mean that it is missing.
 */
export function judgeStatus(hop: Hop): Finding | null {
  const { status, url } = hop;
  if (status === null || (status >= 200 && status < 300)) return null;
  if (status === 401 || status === 403) return finding('reach.denied', { url, status });
  if (status === 404 || status === 410) return finding('reach.gone', { url, status });
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
