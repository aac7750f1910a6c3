import type Joi from 'joi';
import { parseScope, scopeText } from '../../core/address/reach.js';
import type { Method } from '../../core/profile/profile.js';
import type {
  ClaimRequest,
  Engine,
  EnrolledAt,
  EnrolmentAtEngine,
  EnrolRequest,
  Holder,
  IssuedToken,
  Lookup,
  Outcome,
  Ownership,
  SitemapAtEngine,
  Verdict,
} from '../engine.js';
import type { ClaimAnswer, EnrolmentAnswer, SitemapAnswer } from './answers.js';
import { LINK, type LinkRoute } from './routes.js';
import { call, RETRIED, type TransportParts } from './transport.js';

function map<A, B>(outcome: Outcome<A>, change: (value: A) => B): Outcome<B> {
  return outcome.kind === 'done' ? { kind: 'done', value: change(outcome.value) } : outcome;
}

/** More than these are not asked for: an engine that always names a next page would never be done with. */
const MOST_PAGES = 1000;
const MOST_ITEMS = 100_000;

/** An engine worked over the engine link (docs/engine-link.md). */
export class LinkEngine implements Engine {
  constructor(private readonly parts: TransportParts) {}

  private ask<Name extends keyof typeof LINK>(
    name: Name,
    params: Readonly<Record<string, string>>,
    more: { body?: unknown; idempotencyKey?: string; after?: string } = {},
  ): Promise<Outcome<Answered<Name>>> {
    const { work, method, path, answer, repeats } = LINK[name];
    const filled = path.replace(/\{(\w+)\}/g, (_, param: string) => encodeURIComponent(params[param] ?? ''));
    // The table ties each route to the shape of its answer; the compiler cannot follow that through a name.
    return call<unknown>(this.parts, {
      work,
      method,
      path: more.after === undefined ? filled : `${filled}?after=${encodeURIComponent(more.after)}`,
      tries: repeats ? RETRIED : 1,
      shape: answer as Joi.ObjectSchema<unknown> | null,
      ...(more.body === undefined ? {} : { body: more.body }),
      ...(more.idempotencyKey === undefined ? {} : { idempotencyKey: more.idempotencyKey }),
    }) as Promise<Outcome<Answered<Name>>>;
  }

  /** Every page of a list, one after the other. One without an end is no list: a part of it would be taken for the whole. */
  private async all<Item>(
    page: (after: string | undefined) => Promise<Outcome<{ items: Item[]; next: string | null }>>,
  ): Promise<Outcome<Item[]>> {
    const items: Item[] = [];
    const asked = new Set<string>();
    let after: string | undefined;
    while (asked.size < MOST_PAGES && items.length <= MOST_ITEMS) {
      const outcome = await page(after);
      if (outcome.kind !== 'done') return outcome;
      items.push(...outcome.value.items);
      if (outcome.value.next === null) return { kind: 'done', value: items };
      after = outcome.value.next;
      if (asked.has(after)) break;
      asked.add(after);
    }
    return { kind: 'unreached', says: `${this.parts.title} answered with a list that does not end` };
  }

  async enrol({ target, key, facts, sitemap }: EnrolRequest): Promise<Outcome<EnrolledAt>> {
    const body = {
      reach: target.reach,
      target: scopeText(target),
      ...(Object.keys(facts).length === 0 ? {} : { facts }),
      ...(sitemap === null ? {} : { sitemap }),
    };
    return map(await this.ask('enrol', {}, { body, idempotencyKey: key }), ({ id }) => ({ ref: id }));
  }

  async list(): Promise<Outcome<readonly EnrolmentAtEngine[]>> {
    const outcome = await this.all((after) =>
      this.ask('enrolments', {}, after === undefined ? {} : { after }),
    );
    return map(outcome, (items) => items.flatMap(enrolmentOf));
  }

  async drop(ref: string): Promise<Outcome<null>> {
    const outcome = await this.ask('drop', { enrolment: ref });
    return outcome.kind === 'refused' && outcome.code === 'no-such-enrolment'
      ? { kind: 'done', value: null }
      : outcome;
  }

  async token(ref: string, method: Method): Promise<Outcome<IssuedToken>> {
    const outcome = await this.ask('token', { enrolment: ref, method });
    return map(outcome, ({ token, expiresAt }) => ({ value: token, expiresAt }));
  }

  async claim(request: ClaimRequest): Promise<Outcome<Verdict>> {
    const body = { method: request.placement.method };
    return map(await this.ask('claim', claimParams(request), { body }), verdictOf);
  }

  async claimed(request: ClaimRequest): Promise<Outcome<Verdict | null>> {
    const outcome = await this.ask('claimed', claimParams(request));
    if (outcome.kind === 'refused' && outcome.code === 'no-such-claim') return { kind: 'done', value: null };
    return map(outcome, verdictOf);
  }

  async ownership(ref: string): Promise<Outcome<Ownership | null>> {
    return map(await this.ask('enrolment', { enrolment: ref }), ({ ownership }) => ownershipOf(ownership));
  }

  async holders(ref: string): Promise<Outcome<readonly Holder[]>> {
    const outcome = await this.all((after) =>
      this.ask('holders', { enrolment: ref }, after === undefined ? {} : { after }),
    );
    return map(outcome, (items) =>
      items.map(({ account, since, method, own }) => ({ account, since, method, own })),
    );
  }

  async submitSitemap(ref: string, address: string, key: string): Promise<Outcome<{ ref: string }>> {
    const outcome = await this.ask('submit', { enrolment: ref }, { body: { address }, idempotencyKey: key });
    return map(outcome, ({ id }) => ({ ref: id }));
  }

  async sitemaps(ref: string): Promise<Outcome<readonly SitemapAtEngine[]>> {
    const outcome = await this.all((after) =>
      this.ask('sitemaps', { enrolment: ref }, after === undefined ? {} : { after }),
    );
    return map(outcome, (items) => items.map(sitemapOf));
  }

  withdrawSitemap(ref: string, sitemapRef: string): Promise<Outcome<null>> {
    return this.ask('withdraw', { enrolment: ref, sitemap: sitemapRef });
  }

  ping(address: string): Promise<Outcome<null>> {
    return call<null>(this.parts, {
      work: 'sitemaps',
      method: 'GET',
      path: `/ping?sitemap=${encodeURIComponent(address)}`,
      tries: RETRIED,
      shape: null,
      isOpen: true,
    });
  }

  async lookup(ref: string, address: string, key: string): Promise<Outcome<Lookup>> {
    const outcome = await this.ask('lookup', { enrolment: ref }, { body: { address }, idempotencyKey: key });
    return map(outcome, ({ listed, visitedAt, says }) => ({ listed, visitedAt, says }));
  }

  visit(ref: string, address: string, key: string): Promise<Outcome<null>> {
    return this.ask('visit', { enrolment: ref }, { body: { address }, idempotencyKey: key });
  }
}

type Answered<Name extends keyof typeof LINK> =
  (typeof LINK)[Name] extends LinkRoute<infer Answer> ? Answer : never;

function claimParams(request: ClaimRequest): Record<string, string> {
  return { enrolment: request.ref, claim: request.claimId };
}

function verdictOf(answer: ClaimAnswer): Verdict {
  return answer.verdict === 'confirmed' ? { kind: 'confirmed' } : { kind: 'refused', reason: answer.reason };
}

function ownershipOf(ownership: EnrolmentAnswer['ownership']): Ownership {
  const since = ownership.since ?? '';
  if (ownership.state === 'held')
    return { state: 'held', since, method: ownership.method ?? null, lookedAt: ownership.lookedAt ?? null };
  if (ownership.state === 'withdrawn') return { state: 'withdrawn', since, reason: ownership.reason ?? '' };
  return { state: 'none' };
}

/** One whose target cannot be read is left out: nothing could be done with it. */
function enrolmentOf({ id, reach, target, ownership }: EnrolmentAnswer): EnrolmentAtEngine[] {
  try {
    return [{ ref: id, target: parseScope(reach, target), ownership: ownershipOf(ownership) }];
  } catch {
    return [];
  }
}

function sitemapOf({ id, address, readAt, found, listed, trouble }: SitemapAnswer): SitemapAtEngine {
  return { ref: id, address, readAt, found, listed, trouble };
}
