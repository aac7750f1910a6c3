import { textOf } from '../../html/body-text.js';
import { finding, graded, type FindingCode } from '../../findings/catalogue.js';
import { excerpt } from '../../findings/excerpt.js';
import type { EvidenceValue, Finding } from '../../findings/finding.js';
import { judgeCopy } from './copy.js';
import { judgeKeepingOut } from './keeping-out.js';
import { isOursToChange, judgeTaken, judgeValue, type JudgeContext, type Judging } from './value.js';
import type { Body, ElsewhereKind, ElsewhereSeen, Hop, PageEvidence, PageSeen } from '../probe/evidence.js';
import { isGone, judgePage } from './reach.js';
import { isPage } from '../probe/is-page.js';
import type { FilePlacement } from '../placement.js';
import { sameBytes } from '../probe/comparison.js';
import { byteOrderMark, readAsUtf8, readOtherwise } from '../probe/text-bytes.js';

type Values = Readonly<Record<string, EvidenceValue>>;

/** What a file found at a likely wrong place says. */
const ELSEWHERE: Readonly<Partial<Record<ElsewhereKind, FindingCode>>> = {
  'property-folder': 'file.at-folder',
  root: 'file.at-root',
  'folder-above': 'file.wrong-folder',
  'well-known': 'file.wrong-folder',
  'other-case': 'file.wrong-name',
  'other-ending': 'file.double-ending',
};

const SIGN_IN = /(^|[/._-])(log-?in|sign-?in|anmelden|auth|account|session)([/._?-]|$)/iu;

/** What an answer says about a file placement. Engines read a file as UTF-8, whatever its headers say. */
export function judgeFile(placement: FilePlacement, evidence: PageEvidence, context: Judging): Finding[] {
  const { way, last } = judgePage(evidence, placement, true);
  if (last === null) return way;
  const { place: url, fileName, content, bytes } = placement;
  const base: Values = { url, fileName, content, bytes };
  const here = fileStands(placement, evidence);
  const copy = judgeCopy(
    'file',
    evidence,
    here,
    evidence.fresh && fileStands(placement, evidence.fresh),
    base,
    context.at,
  );
  const findings = [...way, ...copy];
  if (here) return [...findings, ...standing(evidence, last, base)];
  const elsewhere = found(placement, evidence.elsewhere, base);
  if (isGone(last))
    return [...findings, ...elsewhere, finding('file.missing', { ...base, status: last.status })];
  const body = evidence.body;
  if (!body || body.bytes === 0) return [...findings, ...elsewhere, finding('file.empty', base)];
  return [...findings, ...elsewhere, ...contents(placement, evidence, body, last, base, context)];
}

/** Whether an answer is the file, as the engine compares. */
export function fileStands(placement: FilePlacement, { end, hops, body }: PageSeen): boolean {
  if (end !== 'answered' || hops.at(-1)?.status !== 200 || body === null) return false;
  return sameBytes(placement.compare, body.raw, placement.content);
}

function standing(evidence: PageEvidence, last: Hop, base: Values): Finding[] {
  const raw = evidence.body?.raw ?? new Uint8Array();
  const type = last.headers['content-disposition'] ?? '';
  return [
    finding('file.stands', base),
    ...(byteOrderMark(raw) === null ? [] : [graded('note', finding('file.byte-order-mark', base))]),
    ...(last.headers['content-encoding'] === undefined ? [] : [finding('file.compressed', base)]),
    ...(/attachment/iu.test(type) ? [finding('file.download', base)] : []),
    ...judgeKeepingOut(last, []),
  ];
}

function found(placement: FilePlacement, elsewhere: readonly ElsewhereSeen[], base: Values): Finding[] {
  const at = elsewhere.find((seen) => fileStands({ ...placement, compare: 'trimmed' }, seen));
  const code = at && ELSEWHERE[at.kind];
  return at && code ? [finding(code, { ...base, other: at.url })] : [];
}

function contents(
  placement: FilePlacement,
  evidence: PageEvidence,
  body: Body,
  last: Hop,
  base: Values,
  context: JudgeContext,
): Finding[] {
  const { content, token } = placement;
  const text = readAsUtf8(body.raw);
  const values = { ...base, found: excerpt(text), got: body.bytes };
  if (isPage(text)) return [page(placement, evidence, last, text, values)];
  if (text.trim() === content.trim()) return [strictly(placement, body.raw, text, values)];
  const other = readOtherwise(body.raw);
  if (other !== null && (other.text.includes(token) || other.text.trim() === content.trim()))
    return [finding('file.encoding', { ...values, found: excerpt(other.text), encoding: other.encoding })];
  const found = text.slice(0, 2048);
  // At a path that all who prove by this engine share, what is not ours may be another’s proof.
  if (!placement.isOwnPath && !isOursToChange(placement, found, context))
    return [judgeTaken('file', placement, found, values, context)];
  return [judgeValue('file', placement, found, values, context)];
}

/** The right words, but not the very bytes that the engine wants. */
function strictly(placement: FilePlacement, raw: Uint8Array, text: string, values: Values): Finding {
  if (byteOrderMark(raw) !== null) return finding('file.byte-order-mark', values);
  return finding(text.trimEnd() === placement.content ? 'file.line-end' : 'file.not-exact', values);
}

/** A page of the website in place of the file: why it came is told where it can be. */
function page(
  placement: FilePlacement,
  evidence: PageEvidence,
  last: Hop,
  text: string,
  values: Values,
): Finding {
  const end = new URL(last.url);
  const isMoved = evidence.hops.length > 1;
  if (isMoved && (SIGN_IN.test(end.pathname) || /type\s*=\s*["']?password/iu.test(text)))
    return finding('file.to-sign-in', { ...values, other: last.url });
  if (isMoved && end.pathname === '/') return finding('file.to-home', { ...values, other: last.url });
  if (text.includes(placement.content) || text.includes(placement.token))
    return finding('file.wrapped', values);
  const madeUp = evidence.madeUp;
  const isThemed = madeUp?.hops.at(-1)?.status === 200 && madeUp.body !== null && isPage(textOf(madeUp.body));
  return finding(isThemed ? 'file.themed-missing' : 'file.page-instead', values);
}
