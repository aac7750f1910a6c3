import { randomBytes } from 'node:crypto';
import { furtherNames, NO_MORE } from '../../core/badge/probe/further-probes.js';
import type { DnsEvidence, Evidence, PageEvidence, PageSeen } from '../../core/badge/probe/evidence.js';
import type { EarlierLook, Judgement } from '../../core/badge/judge/judge.js';
import { holds } from '../../core/badge/judge/dns.js';
import { finding } from '../../core/findings/catalogue.js';
import { NOTHING_KNOWN } from '../../core/badge/judge/value.js';
import type { OwnSide, KnownToken } from '../../core/badge/token/known-token.js';
import type { DnsPlacement, FilePlacement, MetaPlacement, Placement } from '../../core/badge/placement.js';
import { NO_TAGS, type PageTags } from '../../core/badge/probe/page-tags.js';
import type { Clock } from '../../core/time/clock.js';
import type { Net } from '../../net/net.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import { read, readOr } from '../../readers/readers.js';
import type { FirstRead, Judged, ToJudge } from '../../readers/tasks.js';

export interface Probe {
  readonly checkedAt: Date;
  readonly evidence: Evidence;
  readonly judgement: Judgement;
}

/** What is known around a placement and helps to say what is wrong with it. All of it may be left out. */
export interface Around {
  readonly own: OwnSide;
  /** Which of these words are tokens that are known here. */
  readonly recognise: (words: readonly string[]) => Promise<readonly KnownToken[]>;
  /** Labels under which other engines want their records. */
  readonly otherLabels: readonly string[];
  /** Name servers that were delegated to at an earlier look. */
  readonly formerServers: readonly { readonly name: string; readonly addresses: readonly string[] }[];
  readonly earlier: EarlierLook | null;
  /** Whether to leave out likely wrong places: another method stands, so nobody is expected to have tried this one. */
  readonly shallow: boolean;
}

/** Looks at a placement and judges what was seen: the one place where net and core meet for a check. */
export async function probe(
  net: Net,
  clock: Clock,
  placement: Placement,
  around: Partial<Around> = {},
): Promise<Probe> {
  const looked =
    placement.method === 'dns'
      ? { evidence: await dnsEvidence(net, placement, around), page: null, first: null }
      : await pageEvidence(net, clock, placement, around);
  const { checkedAt, judgement } = await judged(clock, placement, looked, around);
  return { checkedAt, evidence: looked.evidence, judgement };
}

/** What was seen, and what was made of it on the way. */
interface Seen {
  readonly evidence: Evidence;
  readonly page: PageTags | null;
  /** What the first look amounts to, where there was nothing more to look at. */
  readonly first: (Judged & Pick<ToJudge, 'checkedAt'>) | null;
}

/** Has the evidence judged; once more where words in it are tokens that are known here. */
async function judged(
  clock: Clock,
  placement: Placement,
  { evidence, page, first }: Seen,
  around: Partial<Around>,
): Promise<{ readonly checkedAt: Date; readonly judgement: Judgement }> {
  const checkedAt = first?.checkedAt ?? clock.now();
  try {
    const { judgement, words } =
      first ?? (await read('judgementOf', placement, evidence, page, toJudge(checkedAt, around)));
    const known = words.length === 0 ? [] : ((await around.recognise?.(words)) ?? []);
    if (known.length === 0) return { checkedAt, judgement };
    const again = await read('judgementOf', placement, evidence, page, toJudge(checkedAt, around, known));
    return { checkedAt, judgement: again.judgement };
  } catch (error) {
    if (error instanceof Overtaxed) return { checkedAt, judgement: tooHeavy(placement, error) };
    throw error;
  }
}

function toJudge(checkedAt: Date, around: Partial<Around>, known: readonly KnownToken[] = []): ToJudge {
  return {
    checkedAt,
    context: { own: around.own ?? NOTHING_KNOWN.own, known },
    earlier: around.earlier ?? null,
  };
}

/** What is said of evidence that took too much to be judged: nobody knows what an engine makes of it. */
function tooHeavy({ place }: Placement, { tax }: Overtaxed): Judgement {
  const findings = [finding('reach.too-heavy', { url: place, what: tax })];
  return { seen: false, forecast: 'unsure', visibleAt: null, findings, stands: null };
}

const UNREAD: PageTags = { ...NO_TAGS, beyond: 'work' };

/** Failures that may be over a moment later. */
const PASSING = new Set<string | null>(['timed-out', 'cut', 'unreachable', 'resolver-fails']);

/** A look that failed is taken once more, so that a passing trouble is not told as a lasting one, nor the reverse. */
async function firstLook(net: Net, url: string): Promise<{ first: PageSeen; again: boolean }> {
  const first = await net.page(url);
  const failure = first.hops.at(-1)?.failure ?? null;
  if (first.end !== 'failed' || !PASSING.has(failure)) return { first, again: false };
  const second = await net.page(url);
  return { first: second, again: second.hops.at(-1)?.failure === failure };
}

/** Who looks after the name of a host that could not be looked up. */
async function namesLost(net: Net, { hops }: PageSeen): Promise<Pick<PageEvidence, 'delegated'>> {
  const last = hops.at(-1);
  if (last?.failure !== 'resolver-fails') return {};
  return { delegated: await net.delegatedTo(new URL(last.url).hostname) };
}

/** The first look, and what it makes worth looking at besides. The page is read once. */
async function pageEvidence(
  net: Net,
  clock: Clock,
  placement: MetaPlacement | FilePlacement,
  around: Partial<Around>,
): Promise<Seen> {
  const { first, again } = await firstLook(net, placement.place);
  const alone: PageEvidence = {
    kind: 'page',
    ...first,
    ...(await namesLost(net, first)),
    again,
    fresh: null,
    asBrowser: null,
    madeUp: null,
    elsewhere: [],
  };
  const word = `yb${randomBytes(4).toString('hex')}`;
  const shallow = around.shallow === true;
  const checkedAt = clock.now();
  const unread: FirstRead = { page: UNREAD, plan: NO_MORE, judged: null };
  const { page, plan, judged } = await readOr(
    'firstOf',
    unread,
    placement,
    alone,
    word,
    shallow,
    toJudge(checkedAt, around),
  );
  if (judged) return { evidence: alone, page, first: { ...judged, checkedAt } };
  const [fresh, browser, madeUp, elsewhere] = await Promise.all([
    plan.fresh ? net.page(placement.place, 'past-caches') : null,
    plan.asBrowser ? net.page(placement.place, 'as-browser') : null,
    plan.madeUp === null ? null : net.page(plan.madeUp),
    Promise.all(plan.elsewhere.map(async ({ url, kind }) => ({ url, kind, ...(await net.page(url)) }))),
  ]);
  const asBrowser = browser && { status: browser.hops.at(-1)?.status ?? null };
  return { evidence: { ...alone, fresh, asBrowser, madeUp, elsewhere }, page, first: null };
}

async function dnsEvidence(net: Net, placement: DnsPlacement, around: Partial<Around>): Promise<DnsEvidence> {
  // The zone's own servers first: asking a resolver too early makes it remember that there is nothing.
  const { zone, servers } = await net.zone(placement.place, around.formerServers);
  const answer = await net.txt(placement.place);
  const whole: DnsEvidence = { ...answer, zone, servers, nearby: [], wildcard: false, wildAddresses: [] };
  if (holds(placement, answer.records) || answer.rcode === null) return whole;
  const made = `yb${randomBytes(4).toString('hex')}.${placement.owner}`;
  const [nearby, wild, wildAddresses] = await Promise.all([
    around.shallow === true ? [] : net.names(furtherNames(placement, around.otherLabels ?? []), servers),
    answer.records.length === 0 ? [] : net.names([{ name: made, kind: 'no-label' }], servers),
    answer.records.length > 0 || answer.aliases.length > 0
      ? []
      : net.wildAddresses(placement.owner, placement.zone),
  ]);
  return { ...whole, nearby, wildcard: wild.length > 0 && placement.place !== placement.zone, wildAddresses };
}
