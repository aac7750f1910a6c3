import { randomBytes, randomUUID } from 'node:crypto';
import type { EngineEnrolment, EngineSitemap, EngineState, EngineToken, WorldFile } from '../state.js';
import { judgeOwnership } from './judging.js';
import type { Grounds } from './fetching.js';
import type { EngineRules } from './rules.js';

const HOUR_MS = 3_600_000;
const METHODS = ['meta', 'file', 'dns'] as const;

/** An engine's no, in its few words. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly detail: string,
    /** Seconds to wait. */
    readonly retryAfter: number | null = null,
  ) {
    super(detail);
  }
}

/** Somebody who holds a site, as an engine tells it. */
export interface HolderSeen {
  readonly id: string;
  readonly account: string;
  readonly since: string;
  readonly method: string | null;
  readonly own: boolean;
}

export interface EnrolInput {
  readonly reach: 'name' | 'address';
  readonly target: string;
  readonly facts?: Readonly<Record<string, string>>;
  readonly sitemap?: string;
}

/** An engine's own records, and what it does with them: the same for one that has a link and one that has only pages. */
export class Registry {
  constructor(
    private readonly world: WorldFile,
    readonly rules: EngineRules,
    private readonly grounds: Grounds,
  ) {}

  get state(): EngineState {
    return (this.world.state.engines[this.rules.id] ??= {
      enrolments: [],
      accountTokens: {},
      replays: {},
      claimsJudged: [],
      spent: {},
    });
  }

  /** Writes down that there is such an engine, by which the name server knows its link. */
  open(): void {
    this.world.state.engines[this.rules.id] = this.state;
    this.save();
  }

  save(): void {
    this.world.save();
  }

  list(account: string): EngineEnrolment[] {
    return this.state.enrolments.filter((one) => one.account === account);
  }

  find(account: string, id: string): EngineEnrolment {
    const found = this.list(account).find((one) => one.id === id);
    if (!found) throw new Refusal(404, 'no-such-enrolment', 'enrolment not known');
    return found;
  }

  enrol(account: string, input: EnrolInput): EngineEnrolment {
    const { reach, target } = input;
    if (typeof target !== 'string' || !['name', 'address'].includes(reach))
      throw new Refusal(400, 'bad-request', 'reach and target wanted');
    if (!this.rules.reaches.includes(reach)) throw new Refusal(422, 'reach-not-taken', 'reach not taken');
    const known = this.list(account).find((one) => one.reach === reach && one.target === target);
    if (known) return known;
    const missing = this.rules.asks.filter((fact) => (input.facts?.[fact] ?? '') === '');
    if (missing.length > 0) throw new Refusal(422, 'facts-wanted', `tell ${missing.join(', ')}`);
    const enrolment: EngineEnrolment = {
      id: `${this.rules.id.slice(0, 2)}-${randomUUID().slice(0, 8)}`,
      account,
      reach,
      target,
      tokens: {},
      ownership: { state: 'none' },
      lastLook: null,
      missingSince: null,
      claims: {},
      sitemaps: [],
    };
    this.state.enrolments.push(enrolment);
    if (input.sitemap !== undefined) this.addSitemap(enrolment, input.sitemap);
    this.save();
    return enrolment;
  }

  /** Everybody who holds the same target, whatever their account is called; only holders are told. */
  holders(account: string, id: string): HolderSeen[] {
    const asking = this.find(account, id);
    if (asking.ownership.state !== 'held') throw new Refusal(403, 'not-held', 'ownership not confirmed');
    return this.state.enrolments.flatMap((one) =>
      one.reach === asking.reach && one.target === asking.target && one.ownership.state === 'held'
        ? [
            {
              id: one.id,
              account: one.account,
              since: one.ownership.since ?? '',
              method: one.ownership.method ?? null,
              own: one.id === asking.id,
            },
          ]
        : [],
    );
  }

  /** Somebody else has proved that a site is theirs. */
  hold(account: string, target: string, method: string): void {
    const enrolment = this.enrol(account, {
      reach: target.startsWith('http') ? 'address' : 'name',
      target,
      facts: Object.fromEntries(this.rules.asks.map((fact) => [fact, 'as it is'])),
    });
    enrolment.ownership = { state: 'held', since: this.world.now().toISOString(), method };
    this.save();
  }

  drop(account: string, id: string): void {
    this.find(account, id);
    this.state.enrolments = this.state.enrolments.filter((one) => one.id !== id);
    this.save();
  }

  /** The token by one method, made at the first asking, and again when nobody claimed with it in time. */
  token(enrolment: EngineEnrolment, method: string): EngineToken {
    const isTaken =
      METHODS.some((one) => one === method) &&
      this.rules[method as (typeof METHODS)[number]] !== null &&
      (enrolment.reach === 'address' || method === 'dns');
    if (!isTaken) throw new Refusal(422, 'method-not-taken', 'method not taken');
    const known = this.known(enrolment, method);
    const now = this.world.now();
    const isVoid =
      known?.expiresAt != null && enrolment.ownership.state !== 'held' && new Date(known.expiresAt) <= now;
    return known && !isVoid ? known : this.issue(enrolment, method);
  }

  /** A new token in place of the one there is. */
  issue(enrolment: EngineEnrolment, method: string): EngineToken {
    const { make, sharedByAccount, livesHours } = this.rules.token;
    const expiresAt =
      livesHours === null ? null : new Date(this.world.now().getTime() + livesHours * HOUR_MS).toISOString();
    const token: EngineToken = { value: make(randomBytes(32)), expiresAt };
    if (sharedByAccount) this.state.accountTokens[enrolment.account] = token;
    else enrolment.tokens[method] = token;
    this.save();
    return token;
  }

  known(enrolment: EngineEnrolment, method: string): EngineToken | undefined {
    return this.rules.token.sharedByAccount
      ? this.state.accountTokens[enrolment.account]
      : enrolment.tokens[method];
  }

  async claim(
    enrolment: EngineEnrolment,
    claim: string,
    method: string,
  ): Promise<EngineEnrolment['claims'][string]> {
    const known = enrolment.claims[claim];
    if (known) return known;
    if (!METHODS.some((one) => one === method)) throw new Refusal(400, 'bad-request', 'method wanted');
    this.state.claimsJudged.push(claim);
    const token = this.known(enrolment, method);
    const isVoid =
      token?.expiresAt != null &&
      enrolment.ownership.state !== 'held' &&
      new Date(token.expiresAt) <= this.world.now();
    const verdict = isVoid
      ? { ok: false, reason: 'token expired' }
      : await judgeOwnership(this.rules, this.grounds, enrolment, method, token?.value);
    const at = this.world.now().toISOString();
    const answer = {
      id: claim,
      verdict: verdict.ok ? ('confirmed' as const) : ('refused' as const),
      reason: verdict.reason,
      at,
      method,
    };
    enrolment.claims[claim] = answer;
    if (verdict.ok) {
      enrolment.ownership = { state: 'held', since: at, method };
      enrolment.lastLook = at;
      enrolment.missingSince = null;
    }
    this.save();
    return answer;
  }

  submit(enrolment: EngineEnrolment, address: unknown): EngineSitemap {
    if (typeof address !== 'string') throw new Refusal(400, 'bad-request', 'address wanted');
    if (enrolment.ownership.state !== 'held') throw new Refusal(403, 'not-held', 'ownership not confirmed');
    const isWhole = /^https?:\/\//.test(address);
    const wanted = enrolment.reach === 'name' ? 'address' : this.rules.sitemapForm;
    if (wanted === 'path' && isWhole) throw new Refusal(422, 'path-wanted', 'path wanted');
    if (wanted === 'address' && !isWhole) throw new Refusal(422, 'address-wanted', 'whole address wanted');
    return this.addSitemap(enrolment, address);
  }

  private addSitemap(enrolment: EngineEnrolment, address: string): EngineSitemap {
    const url = new URL(address, enrolment.reach === 'address' ? enrolment.target : undefined).href;
    const known = enrolment.sitemaps.find((one) => one.url === url);
    if (known) return known;
    if (enrolment.sitemaps.length >= this.rules.mostSitemaps)
      throw new Refusal(422, 'too-many-sitemaps', 'no more sitemaps taken');
    const sitemap: EngineSitemap = {
      id: `s-${randomUUID().slice(0, 8)}`,
      address,
      url,
      submittedAt: this.world.now().toISOString(),
      tries: 0,
      triedAt: null,
      readAt: null,
      found: null,
      listed: null,
      trouble: null,
    };
    enrolment.sitemaps.push(sitemap);
    this.save();
    return sitemap;
  }

  withdraw(enrolment: EngineEnrolment, id: string): void {
    enrolment.sitemaps = enrolment.sitemaps.filter((one) => one.id !== id);
    this.save();
  }

  /** Somebody says that a sitemap has changed: it is read at the next round. */
  ping(url: string): void {
    const known = this.state.enrolments.flatMap(({ sitemaps }) => sitemaps).filter((one) => one.url === url);
    if (known.length === 0) throw new Refusal(404, 'no-such-sitemap', 'sitemap not known');
    for (const sitemap of known) sitemap.isPinged = true;
    this.save();
  }

  lookup(enrolment: EngineEnrolment, address: unknown): object {
    const url = this.single(enrolment, address, 'lookup', this.rules.lookupsADay);
    const read = enrolment.sitemaps.find((one) => one.readAt !== null);
    // An engine lists most pages, and always the same ones.
    const isListed =
      read !== undefined && [...url].reduce((sum, sign) => sum + sign.charCodeAt(0), 0) % 5 !== 0;
    return { address: url, listed: isListed, visitedAt: read?.readAt ?? null, says: null };
  }

  visit(enrolment: EngineEnrolment, address: unknown): void {
    this.single(enrolment, address, 'visit', this.rules.visitsADay);
  }

  /** One address that the enrolment covers, within the day's ration. */
  private single(enrolment: EngineEnrolment, address: unknown, what: string, ration: number): string {
    if (typeof address !== 'string' || !URL.canParse(address))
      throw new Refusal(400, 'bad-request', 'whole address wanted');
    if (ration === 0) throw new Refusal(422, 'not-offered', `no ${what}s here`);
    if (enrolment.ownership.state !== 'held') throw new Refusal(403, 'not-held', 'ownership not confirmed');
    const url = new URL(address);
    const isCovered =
      enrolment.reach === 'name'
        ? url.hostname === enrolment.target || url.hostname.endsWith(`.${enrolment.target}`)
        : url.href.startsWith(enrolment.target);
    if (!isCovered) throw new Refusal(422, 'not-covered', 'address not covered');
    const now = this.world.now();
    const day = `${what} ${enrolment.account} ${now.toISOString().slice(0, 10)}`;
    const spent = this.state.spent[day] ?? 0;
    if (spent >= ration) {
      const midnight = Date.parse(`${now.toISOString().slice(0, 10)}T00:00:00Z`) + 24 * HOUR_MS;
      throw new Refusal(
        429,
        'ration-spent',
        `${what}s of the day are spent`,
        Math.ceil((midnight - now.getTime()) / 1000),
      );
    }
    this.state.spent[day] = spent + 1;
    this.save();
    return url.href;
  }
}
