import Joi from 'joi';
import type { Work } from '../engine.js';
import {
  claimAnswer,
  enrolmentAnswer,
  enrolmentsAnswer,
  holdersAnswer,
  lookupAnswer,
  sitemapAnswer,
  sitemapsAnswer,
  tokenAnswer,
  type ClaimAnswer,
  type EnrolmentAnswer,
  type HolderAnswer,
  type LookupAnswer,
  type SitemapAnswer,
  type TokenAnswer,
} from './answers.js';

/** One route of the engine link, below `{base}v1`. */
export interface LinkRoute<Answer> {
  readonly work: Work;
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly path: string;
  readonly status: 200 | 201 | 202 | 204;
  readonly summary: string;
  /** What is sent; null where nothing is. */
  readonly body: Joi.ObjectSchema | null;
  readonly answer: Joi.ObjectSchema<Answer> | null;
  /** Carries `Idempotency-Key`, so that sending it twice does it once. */
  readonly keyed: boolean;
  /** Whether it may be sent again by itself. A claim may not: it is asked about. */
  readonly repeats: boolean;
  readonly pages: boolean;
  readonly answers?: Answer;
}

type Given<Answer> = Omit<LinkRoute<Answer>, 'body' | 'keyed' | 'repeats' | 'pages' | 'answers'> &
  Partial<Pick<LinkRoute<Answer>, 'body' | 'keyed' | 'repeats' | 'pages'>>;

function route<Answer>(given: Given<Answer>): LinkRoute<Answer> {
  return { body: null, keyed: false, repeats: true, pages: false, ...given };
}

interface Paged<Item> {
  items: Item[];
  next: string | null;
}

const address = Joi.string().max(2048).required();

/** The whole engine link: the client speaks by it, and the OpenAPI document is made from it. */
export const LINK = {
  enrol: route<EnrolmentAnswer>({
    work: 'enrol',
    method: 'POST',
    path: '/enrolments',
    status: 201,
    summary: 'Register a site under the account; the same enrolment when it is there already',
    body: Joi.object({
      reach: Joi.valid('name', 'address').required(),
      target: address,
      facts: Joi.object().pattern(Joi.string(), Joi.string().max(200)),
      sitemap: Joi.string().uri().max(2048),
    }),
    answer: enrolmentAnswer,
    keyed: true,
  }),
  enrolments: route<Paged<EnrolmentAnswer>>({
    work: 'list',
    method: 'GET',
    path: '/enrolments',
    status: 200,
    summary: 'Everything that is enrolled under the account',
    answer: enrolmentsAnswer,
    pages: true,
  }),
  enrolment: route<EnrolmentAnswer>({
    work: 'ownership',
    method: 'GET',
    path: '/enrolments/{enrolment}',
    status: 200,
    summary: 'One enrolment, with its ownership',
    answer: enrolmentAnswer,
  }),
  holders: route<Paged<HolderAnswer>>({
    work: 'ownership',
    method: 'GET',
    path: '/enrolments/{enrolment}/holders',
    status: 200,
    summary:
      'Everybody who holds what is enrolled, under whatever account; 403 with the code not-held to one who does not',
    answer: holdersAnswer,
    pages: true,
  }),
  drop: route<null>({
    work: 'enrol',
    method: 'DELETE',
    path: '/enrolments/{enrolment}',
    status: 204,
    summary: 'End an enrolment',
    answer: null,
  }),
  token: route<TokenAnswer>({
    work: 'token',
    method: 'GET',
    path: '/enrolments/{enrolment}/tokens/{method}',
    status: 200,
    summary: 'The token by one method; the same each time while it is valid',
    answer: tokenAnswer,
  }),
  claim: route<ClaimAnswer>({
    work: 'claim',
    method: 'PUT',
    path: '/enrolments/{enrolment}/claims/{claim}',
    status: 200,
    summary:
      'Look for the token now and answer with a verdict; a claim that was judged is never judged again',
    body: Joi.object({ method: Joi.valid('meta', 'file', 'dns').required() }),
    answer: claimAnswer,
    repeats: false,
  }),
  claimed: route<ClaimAnswer>({
    work: 'claim',
    method: 'GET',
    path: '/enrolments/{enrolment}/claims/{claim}',
    status: 200,
    summary: 'What became of a claim; 404 with the code no-such-claim when it never arrived',
    answer: claimAnswer,
  }),
  submit: route<SitemapAnswer>({
    work: 'sitemaps',
    method: 'POST',
    path: '/enrolments/{enrolment}/sitemaps',
    status: 201,
    summary: 'Make a sitemap known, as a path or a whole address; the same one when it is there already',
    body: Joi.object({ address }),
    answer: sitemapAnswer,
    keyed: true,
  }),
  sitemaps: route<Paged<SitemapAnswer>>({
    work: 'sitemaps',
    method: 'GET',
    path: '/enrolments/{enrolment}/sitemaps',
    status: 200,
    summary: 'The sitemaps of an enrolment, with what the engine made of them',
    answer: sitemapsAnswer,
    pages: true,
  }),
  withdraw: route<null>({
    work: 'sitemaps',
    method: 'DELETE',
    path: '/enrolments/{enrolment}/sitemaps/{sitemap}',
    status: 204,
    summary: 'Withdraw a sitemap',
    answer: null,
  }),
  lookup: route<LookupAnswer>({
    work: 'lookup',
    method: 'POST',
    path: '/enrolments/{enrolment}/lookups',
    status: 200,
    summary: 'Whether the engine lists one address; counts against the day’s ration',
    body: Joi.object({ address }),
    answer: lookupAnswer,
    keyed: true,
  }),
  visit: route<null>({
    work: 'visit',
    method: 'POST',
    path: '/enrolments/{enrolment}/visits',
    status: 202,
    summary: 'Ask for a visit to one address; counts against the day’s ration',
    body: Joi.object({ address }),
    answer: null,
    keyed: true,
  }),
} as const;
