import type { EngineProfile } from '../core/profile/profile.js';
import type {
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
} from './engine.js';

/**
 * An engine without a link: what it says comes in by a person, who copies it from the engine's own pages. Here is only
 * what she has to do there.
 */
export class HandEngine implements Engine {
  constructor(private readonly profile: EngineProfile) {}

  private byHand(what: string): Promise<Outcome<never>> {
    return Promise.resolve({ kind: 'by-hand', says: `${this.profile.title} is a manual engine: ${what}` });
  }

  enrol({ key }: EnrolRequest): Promise<Outcome<EnrolledAt>> {
    return Promise.resolve({ kind: 'done', value: { ref: `hand-${key}` } });
  }

  list(): Promise<Outcome<readonly EnrolmentAtEngine[]>> {
    return this.byHand('what is registered there can only be seen on its own pages.');
  }

  drop(): Promise<Outcome<null>> {
    return Promise.resolve({ kind: 'done', value: null });
  }

  token(_ref: string, _method: string, current: IssuedToken | null): Promise<Outcome<IssuedToken>> {
    return current
      ? Promise.resolve({ kind: 'done', value: current })
      : this.byHand('register the site on its pages and paste what it shows.');
  }

  claim(): Promise<Outcome<Verdict>> {
    return this.byHand('claim on its pages, then record its verdict.');
  }

  claimed(): Promise<Outcome<Verdict | null>> {
    return this.byHand('record the verdict that it showed.');
  }

  ownership(): Promise<Outcome<Ownership | null>> {
    return Promise.resolve({ kind: 'done', value: null });
  }

  holders(): Promise<Outcome<readonly Holder[]>> {
    return this.byHand('who holds a site there can only be seen on its own pages.');
  }

  submitSitemap(_ref: string, _address: string, key: string): Promise<Outcome<{ ref: string }>> {
    return Promise.resolve({ kind: 'done', value: { ref: `hand-${key}` } });
  }

  sitemaps(): Promise<Outcome<readonly SitemapAtEngine[]>> {
    return Promise.resolve({ kind: 'done', value: [] });
  }

  withdrawSitemap(): Promise<Outcome<null>> {
    return Promise.resolve({ kind: 'done', value: null });
  }

  ping(): Promise<Outcome<null>> {
    return this.byHand('have the sitemap read again on its pages.');
  }

  lookup(): Promise<Outcome<Lookup>> {
    return this.byHand('look the address up on its pages.');
  }

  visit(): Promise<Outcome<null>> {
    return this.byHand('ask for the visit on its pages.');
  }
}
