import type { Method, PastedToken, Sitemap } from '../../api/documents.js';
import { isAnswered, type Anyway } from '../../api/asks.js';
import { Problem } from '../../api/problems.js';
import { readOr } from '../../readers/readers.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, TokenRow } from '../../store/models/enrolments.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { factsOf, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { nowText, profileOf, type Actor, type Desk } from '../context/desk.js';
import { findEnrolments } from '../context/enrolment-refs.js';
import { EXACT } from '../context/references.js';
import { recordEngineReading } from '../sitemaps/engine-readings.js';
import { viewSitemap } from '../sitemaps/view.js';
import { findSubmission } from '../sitemaps/withdrawing.js';
import { propertyIn } from '../checks/view.js';
import { recognise } from '../tokens/known-tokens.js';
import { recordToken } from '../tokens/tokens.js';

/** The one enrolment that is meant, with its facts. Throws Problem. */
export async function oneEnrolment(desk: Desk, ref: string): Promise<EnrolmentFacts> {
  const [row, second] = await findEnrolments(desk, ref, EXACT);
  if (!row || second)
    throw new Problem('ambiguous', {
      ref,
      what: 'more than one enrolment',
      one: 'one, such as ferries@veldrane:address',
    });
  return factsOf(desk, row);
}

/** Only what nobody but a person can carry across is recorded by hand: a linked engine's own word counts. */
export function requireByHand({ profile }: EnrolmentFacts, instead: string): void {
  if (profile.worked.how === 'hand') return;
  throw new Problem('not-by-hand', { engine: profile.title, instead });
}

/**
 * Reads methods and tokens out of what an engine showed, and puts them on record.
 * @param input with `anyway`, one that stands in place is replaced
 * Throws Problem: `not-read`, or `replaces-standing` for one that stands in place.
 */
export async function pasteToken(
  desk: Desk,
  actor: Actor,
  ref: string,
  input: { text: string; method?: Method; anyway?: Anyway },
): Promise<{ items: PastedToken[] }> {
  const facts = await oneEnrolment(desk, ref);
  const others = [...desk.book.profiles.values()].filter(({ id }) => id !== facts.profile.id);
  const heavy = {
    kind: 'unread',
    says: 'What was pasted is more than can be read; paste the one line alone.',
  } as const;
  const pasted = await readOr(
    'readPastedPage',
    heavy,
    facts.profile,
    facts.row.reach,
    input.text,
    input.method ?? null,
    others,
  );
  if (pasted.kind === 'unread') throw new Problem('not-read', { says: pasted.says });
  const read = pasted.tokens.map((one): Pasted => {
    const known = facts.tokens.find(({ method }) => method === one.method) ?? null;
    return { ...one, known, news: known === null ? 'first' : known.value === one.token ? 'same' : 'changed' };
  });
  if (!isAnswered(input.anyway, 'token-of-another')) await requireOwn(desk, facts, read);
  // All or nothing: what stands in place is found out before anything is written down.
  for (const one of read) requireTakeable(facts, one, isAnswered(input.anyway, 'replaces-standing'));
  for (const { method, token, known, news } of read)
    if (news !== 'same')
      await recordToken(desk, actor, facts, {
        method,
        issued: { value: token, expiresAt: null },
        known,
        why: 'changed',
        recordedBy: actor.personId,
      });
  return {
    items: read.map(({ method, token, news, notes }) => ({
      enrolment: facts.name,
      method,
      token,
      news,
      notes: [...notes],
    })),
  };
}

/** Throws Problem where a token is another property’s: engines that give each enrolment one of its own never give it twice. */
async function requireOwn(desk: Desk, facts: EnrolmentFacts, read: readonly Pasted[]): Promise<void> {
  if (facts.profile.token.per === 'account') return;
  const fresh = read.filter(({ news }) => news !== 'same').map(({ token }) => token);
  const property = propertyIn(facts.name);
  const known = await recognise(desk, fresh, { engine: facts.profile.id, property });
  const other = known.find((one) => one.property !== property && one.engine === facts.profile.id);
  if (other)
    throw new Problem('token-of-another', {
      ...{ token: other.value, engine: facts.profile.title, enrolment: facts.name },
      property: other.property,
    });
}

interface Pasted extends Pick<PastedToken, 'method' | 'token' | 'news'> {
  readonly notes: readonly string[];
  readonly known: TokenRow | null;
}

/** Throws Problem where a token cannot be taken by hand, or would replace one that stands in place. */
function requireTakeable(
  facts: EnrolmentFacts,
  { method, token, known, news }: Pasted,
  anyway: boolean,
): void {
  if (news === 'same') return;
  requireByHand(facts, known === null ? '“token” gets it from there.' : pastedOther(facts, known, token));
  const stands = facts.checks.find((check) => check.tokenId === known?.id && check.seen);
  if (known && stands && !anyway)
    throw new Problem('replaces-standing', {
      method,
      old: known.value,
      enrolment: facts.name,
      place: stands.place,
      token,
    });
}

/** Forgets a token that should not have been put on record. Throws Problem, also for the one that a badge is held by. */
export async function forgetToken(desk: Desk, actor: Actor, ref: string, method: Method): Promise<void> {
  const facts = await oneEnrolment(desk, ref);
  const token = facts.tokens.find((one) => one.method === method);
  if (!token)
    throw new Problem('no-token', {
      method: `${method} `,
      enrolment: facts.name,
      next: 'There is nothing to forget.',
    });
  if (facts.ownership?.kind === 'confirmed' && facts.ownership.method === method)
    throw new Problem('token-holds-badge', { method, enrolment: facts.name });
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    await TokenRow.update(
      { replacedAt: nowText(desk), replacedWhy: 'forgotten' },
      { where: { id: token.id, replacedAt: null }, transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'token.forgotten',
      says: `The ${method} token of ${facts.name} was forgotten.`,
      property,
      enrolmentId: facts.row.id,
      details: { method, token: token.value },
    });
  });
}

function pastedOther({ name }: EnrolmentFacts, known: TokenRow | null, token: string): string {
  return `What was pasted (${token}) is another ${known?.method ?? ''} token than the one it handed out for ${name} (${known?.value ?? ''}).`;
}

/** A time given by hand: now where none was, and never one to come. */
export function timeGiven(desk: Desk, at: string | undefined): string {
  if (at === undefined) return nowText(desk);
  const time = new Date(at);
  if (time > desk.clock.now()) throw new Problem('still-to-come', { at });
  return time.toISOString();
}

/** Records what an engine worked by hand says of a sitemap. */
export async function recordReading(
  desk: Desk,
  actor: Actor,
  submissionId: string,
  given: { found?: number; listed?: number; readAt?: string; trouble?: string },
): Promise<Sitemap> {
  const submission = await findSubmission(submissionId);
  const row = await EnrolmentRow.findByPk(submission.enrolmentId, { rejectOnEmpty: true });
  const facts = await factsOf(desk, row);
  requireByHand(facts, 'Its counts come from “sitemap read”.');
  const { found, listed, trouble } = given;
  if (found !== undefined && listed !== undefined && listed > found)
    throw new Problem('more-listed-than-found', { listed, found });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const reading = {
    ref: submission.ref,
    address: submission.sentAs,
    readAt: found === undefined ? null : timeGiven(desk, given.readAt),
    found: found ?? null,
    listed: listed ?? null,
    trouble: trouble ?? null,
  };
  await recordEngineReading(
    desk,
    actor,
    property,
    submission.id,
    profileOf(desk, row.engine).id,
    reading,
    actor.personId,
  );
  const sitemap = await SitemapRow.findByPk(submission.sitemapId, { rejectOnEmpty: true });
  return viewSitemap(desk, property, sitemap.id);
}
