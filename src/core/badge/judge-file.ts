import { finding } from '../findings/catalogue.js';
import { excerpt } from '../findings/excerpt.js';
import type { Finding } from '../findings/finding.js';
import type { PageEvidence } from './evidence.js';
import { judgeReach, judgeStatus } from './judge-reach.js';
import type { FilePlacement } from './placement.js';
import { same } from './same.js';

/** What an answer says about a file placement. */
export function judgeFile(placement: FilePlacement, evidence: PageEvidence): Finding[] {
  const findings = judgeReach(evidence, placement.redirects);
  const last = evidence.hops.at(-1);
  if (evidence.end !== 'answered' || !last) return findings;
  const base = {
    url: placement.place,
    fileName: placement.fileName,
    content: placement.content,
    bytes: placement.bytes,
  };
  if (last.status === 404 || last.status === 410) {
    return [...findings, finding('file.missing', { ...base, status: last.status })];
  }
  const status = judgeStatus(last);
  if (status) return [...findings, status];
  const body = evidence.body;
  if (!body || body.bytes === 0) return [...findings, finding('reach.empty', { url: last.url })];
  if (same(placement.compare, body.text, placement.content))
    return [...findings, finding('file.stands', base)];
  if (isPage(body.text)) return [...findings, finding('file.page-instead', base)];
  if (same('trimmed', body.text, placement.content)) {
    return [...findings, finding('file.not-exact', { ...base, found: body.bytes })];
  }
  return [...findings, finding('file.other-content', { ...base, found: excerpt(body.text) })];
}

function isPage(text: string): boolean {
  return /<(!doctype\s+html|html|head|body)\b/i.test(text.slice(0, 4096));
}
