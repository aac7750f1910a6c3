import { targetText, type Target } from '../../core/address/reach.js';
import type { Method } from '../../core/profile/profile.js';
import type {
  ClaimRequest,
  Engine,
  EnrolledAt,
  IssuedToken,
  Outcome,
  Ownership,
  SitemapAtEngine,
  Verdict,
} from '../engine.js';
import {
  claimAnswer,
  enrolmentAnswer,
  sitemapAnswer,
  sitemapsAnswer,
  tokenAnswer,
  type ClaimAnswer,
  type SitemapAnswer,
} from './answers.js';
import { call, RETRIED, type TransportParts } from './transport.js';

function map<A, B>(outcome: Outcome<A>, change: (value: A) => B): Outcome<B> {
  return outcome.kind === 'done' ? { kind: 'done', value: change(outcome.value) } : outcome;
}

/** An engine worked over the engine link (docs/engine-link.md). */
export class LinkEngine implements Engine {
  constructor(private readonly parts: TransportParts) {}

  async enrol(target: Target, key: string): Promise<Outcome<EnrolledAt>> {
    const body = { reach: target.reach, target: targetText(target) };
    const outcome = await call(this.parts, {
      method: 'POST',
      path: '/enrolments',
      body,
      idempotencyKey: key,
      tries: RETRIED,
      shape: enrolmentAnswer,
    });
    return map(outcome, ({ id }) => ({ ref: id }));
  }

  async token(ref: string, method: Method): Promise<Outcome<IssuedToken>> {
    const path = `/enrolments/${encodeURIComponent(ref)}/tokens/${method}`;
    const outcome = await call(this.parts, { method: 'GET', path, tries: RETRIED, shape: tokenAnswer });
    return map(outcome, ({ token, expiresAt }) => ({ value: token, expiresAt }));
  }

  async claim(request: ClaimRequest): Promise<Outcome<Verdict>> {
    const body = { method: request.placement.method };
    return map(
      await call(this.parts, { method: 'PUT', path: claimPath(request), body, tries: 1, shape: claimAnswer }),
      verdictOf,
    );
  }

  async claimed(request: ClaimRequest): Promise<Outcome<Verdict | null>> {
    const outcome = await call(this.parts, {
      method: 'GET',
      path: claimPath(request),
      tries: RETRIED,
      shape: claimAnswer,
    });
    if (outcome.kind === 'refused' && outcome.code === 'no-such-claim') return { kind: 'done', value: null };
    return map(outcome, verdictOf);
  }

  async ownership(ref: string): Promise<Outcome<Ownership>> {
    const outcome = await call(this.parts, {
      method: 'GET',
      path: `/enrolments/${encodeURIComponent(ref)}`,
      tries: RETRIED,
      shape: enrolmentAnswer,
    });
    return map(outcome, ({ ownership }): Ownership => {
      const since = ownership.since ?? '';
      if (ownership.state === 'held') return { state: 'held', since, method: ownership.method ?? null };
      if (ownership.state === 'withdrawn')
        return { state: 'withdrawn', since, reason: ownership.reason ?? '' };
      return { state: 'none' };
    });
  }

  async submitSitemap(ref: string, address: string, key: string): Promise<Outcome<{ ref: string }>> {
    const path = `/enrolments/${encodeURIComponent(ref)}/sitemaps`;
    const outcome = await call(this.parts, {
      method: 'POST',
      path,
      body: { address },
      idempotencyKey: key,
      tries: RETRIED,
      shape: sitemapAnswer,
    });
    return map(outcome, ({ id }) => ({ ref: id }));
  }

  async sitemaps(ref: string): Promise<Outcome<readonly SitemapAtEngine[]>> {
    const all: SitemapAtEngine[] = [];
    let after = '';
    for (;;) {
      const path = `/enrolments/${encodeURIComponent(ref)}/sitemaps${after}`;
      const outcome = await call(this.parts, { method: 'GET', path, tries: RETRIED, shape: sitemapsAnswer });
      if (outcome.kind !== 'done') return outcome;
      all.push(...outcome.value.items.map(sitemapOf));
      if (outcome.value.next === null) return { kind: 'done', value: all };
      after = `?after=${encodeURIComponent(outcome.value.next)}`;
    }
  }

  withdrawSitemap(ref: string, sitemapRef: string): Promise<Outcome<null>> {
    const path = `/enrolments/${encodeURIComponent(ref)}/sitemaps/${encodeURIComponent(sitemapRef)}`;
    return call<null>(this.parts, { method: 'DELETE', path, tries: RETRIED, shape: null });
  }
}

function claimPath(request: ClaimRequest): string {
  return `/enrolments/${encodeURIComponent(request.ref)}/claims/${encodeURIComponent(request.claimId)}`;
}

function verdictOf(answer: ClaimAnswer): Verdict {
  return answer.verdict === 'confirmed' ? { kind: 'confirmed' } : { kind: 'refused', reason: answer.reason };
}

function sitemapOf({ id, ...rest }: SitemapAnswer): SitemapAtEngine {
  return {
    ref: id,
    address: rest.address,
    readAt: rest.readAt,
    found: rest.found,
    listed: rest.listed,
    trouble: rest.trouble,
  };
}
