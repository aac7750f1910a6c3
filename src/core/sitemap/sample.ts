import { textOf } from '../html/body-text.js';
import { judgeStatus } from '../badge/judge/reach.js';
import type { PageSeen } from '../badge/probe/evidence.js';
import { finding, type FindingCode } from '../findings/catalogue.js';
import type { EvidenceValue, Finding } from '../findings/finding.js';
import { judgeKeepingOutOf, type EngineAgent } from '../variants/keeping-out.js';
import { readFace } from '../variants/page-face.js';

/** How many addresses of a sitemap are tried. */
export const SAMPLE = 50;

/** What was seen of one page that a sitemap lists. */
export interface SampledPage {
  readonly address: string;
  /** The first thing that is wrong with it. */
  readonly fault: {
    readonly code: FindingCode;
    readonly values: Readonly<Record<string, EvidenceValue>>;
  } | null;
}

/** Judges one page of a sitemap: it should answer by itself, want to be listed, and name itself as canonical. */
export function judgePageOf(address: string, seen: PageSeen, agents: readonly EngineAgent[]): SampledPage {
  const fault = (code: FindingCode, values: Record<string, EvidenceValue>): SampledPage => ({
    address,
    fault: { code, values },
  });
  const last = seen.hops.at(-1);
  if (!last || seen.end !== 'answered')
    return fault('sitemap.pages-fail', { reason: last?.failure ?? seen.end });
  if (last.url !== seen.hops[0]?.url) return fault('sitemap.pages-lead', { to: last.url });
  if (judgeStatus(last)) return fault('sitemap.pages-fail', { reason: `status ${String(last.status)}` });
  const page = seen.body ? readFace(textOf(seen.body), last.url, last.headers['link']) : null;
  const [away] = judgeKeepingOutOf(address, page, last.headers['x-robots-tag'] ?? null, null, agents);
  if (away) return fault('sitemap.pages-stay-away', { found: `“${String(away.evidence['found'])}”` });
  if (page?.canonical != null && page.canonical !== new URL(address).href)
    return fault('sitemap.pages-canonical', { to: page.canonical });
  return { address, fault: null };
}

/** One finding for each kind of fault that the sample shows. @param url the sitemap */
export function judgeSample(url: string, pages: readonly SampledPage[]): Finding[] {
  const kinds = new Map<FindingCode, SampledPage[]>();
  for (const page of pages)
    if (page.fault) kinds.set(page.fault.code, [...(kinds.get(page.fault.code) ?? []), page]);
  return [...kinds].map(([code, some]) =>
    finding(code, {
      url,
      asked: pages.length,
      count: some.length,
      first: some[0]?.address ?? '',
      examples: some
        .slice(0, 3)
        .map(({ address }) => address)
        .join(' · '),
      ...some[0]?.fault?.values,
    }),
  );
}
