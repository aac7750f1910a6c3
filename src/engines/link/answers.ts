import Joi from 'joi';

/** The shapes that an engine's answers must have; docs/engine-link.md tells them in words. Unknown keys are let pass. */
const time = Joi.string().isoDate();
const method = Joi.valid('meta', 'file', 'dns');

/** What ends a line, moves a cursor, or turns the direction of writing: nothing of it belongs in what an engine names or says. */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Zl}\p{Zp}\p{Cs}]/u;

/** What an engine calls something, and what goes back to it as a part of a path: one line, and no name of a folder. */
function named(longest: number): Joi.StringSchema {
  return Joi.string()
    .max(longest)
    .pattern(UNSEEN, { invert: true, name: 'signs that nobody sees' })
    .invalid('.', '..');
}

/** What an engine says, for people to read: it is shown, mailed and reported as one line, whatever was sent. */
function words(longest: number): Joi.StringSchema {
  return Joi.string()
    .max(longest)
    .custom((said: string) => said.replace(new RegExp(UNSEEN, 'gu'), ' ').replace(/\s+/gu, ' ').trim());
}

export const enrolmentAnswer = Joi.object<EnrolmentAnswer>({
  id: named(200).required(),
  reach: Joi.valid('name', 'address').required(),
  target: named(2048).required(),
  ownership: Joi.object({
    state: Joi.valid('none', 'held', 'withdrawn').required(),
    since: time.when('state', { is: 'none', then: Joi.optional(), otherwise: Joi.required() }),
    method: method.allow(null),
    lookedAt: time.allow(null),
    reason: words(500).allow(''),
  }).required(),
}).unknown();

export const tokenAnswer = Joi.object<TokenAnswer>({
  method: method.required(),
  token: named(500).min(4).required(),
  expiresAt: time.allow(null).default(null),
}).unknown();

export const claimAnswer = Joi.object<ClaimAnswer>({
  id: named(200).required(),
  verdict: Joi.valid('confirmed', 'refused').required(),
  reason: words(500).allow('').default(''),
}).unknown();

export const sitemapAnswer = Joi.object<SitemapAnswer>({
  id: named(200).required(),
  address: named(2048).required(),
  readAt: time.allow(null).default(null),
  found: Joi.number().integer().min(0).allow(null).default(null),
  listed: Joi.number().integer().min(0).allow(null).default(null),
  trouble: words(500).allow(null).default(null),
}).unknown();

export const enrolmentsAnswer = Joi.object<{ items: EnrolmentAnswer[]; next: string | null }>({
  items: Joi.array().items(enrolmentAnswer).max(1000).required(),
  next: named(2048).allow(null).default(null),
}).unknown();

export const lookupAnswer = Joi.object<LookupAnswer>({
  address: named(2048).required(),
  listed: Joi.boolean().required(),
  visitedAt: time.allow(null).default(null),
  says: words(500).allow('').allow(null).default(null),
}).unknown();

export const sitemapsAnswer = Joi.object<{ items: SitemapAnswer[]; next: string | null }>({
  items: Joi.array().items(sitemapAnswer).max(1000).required(),
  next: named(2048).allow(null).default(null),
}).unknown();

export const holdersAnswer = Joi.object<{ items: HolderAnswer[]; next: string | null }>({
  items: Joi.array()
    .items(
      Joi.object<HolderAnswer>({
        id: named(200).required(),
        account: words(200).required(),
        since: time.required(),
        method: method.allow(null).default(null),
        own: Joi.boolean().required(),
      }).unknown(),
    )
    .max(1000)
    .required(),
  next: named(2048).allow(null).default(null),
}).unknown();

export interface HolderAnswer {
  id: string;
  account: string;
  since: string;
  method: 'meta' | 'file' | 'dns' | null;
  own: boolean;
}

export interface EnrolmentAnswer {
  id: string;
  reach: 'name' | 'address';
  target: string;
  ownership: {
    state: 'none' | 'held' | 'withdrawn';
    since?: string;
    method?: 'meta' | 'file' | 'dns' | null;
    /** When the engine looked for the token last. */
    lookedAt?: string | null;
    reason?: string;
  };
}

export interface TokenAnswer {
  method: 'meta' | 'file' | 'dns';
  token: string;
  expiresAt: string | null;
}

export interface ClaimAnswer {
  id: string;
  verdict: 'confirmed' | 'refused';
  reason: string;
}

export interface SitemapAnswer {
  id: string;
  address: string;
  readAt: string | null;
  found: number | null;
  listed: number | null;
  trouble: string | null;
}

export interface LookupAnswer {
  address: string;
  listed: boolean;
  visitedAt: string | null;
  says: string | null;
}
