import Joi from 'joi';
import type { RouteName } from '../routes.js';
import { ACTS, STEP_KINDS } from '../../core/worklist/kinds.js';
import { sitemapRequests } from './sitemap-requests.js';
import * as doc from './documents.js';
import { narrow, pageQuery, refParams as params, refText as ref } from './parts.js';

export interface RouteSchemas {
  readonly params?: Joi.ObjectSchema;
  readonly query?: Joi.ObjectSchema;
  readonly body?: Joi.ObjectSchema;
  /** Absent where nothing is answered. */
  readonly answer?: Joi.ObjectSchema;
}

const handle = Joi.string()
  .pattern(/^[a-z0-9][a-z0-9-]{0,59}$/, 'a handle: lower-case letters, digits and hyphens')
  .messages({ 'string.pattern.name': '{#label} must be {#name}, such as “ferries”' });
const country = Joi.string()
  .pattern(/^[A-Z]{2}$/)
  .messages({ 'string.pattern.base': '{#label} must be a country by ISO 3166-1 alpha-2, such as FI' });
const audience = Joi.array().items(country).unique().max(60);
const name = Joi.string().trim().min(1).max(120);
const enrolments = Joi.array().items(ref).min(1).max(20_000);
const which = { enrolments, all: Joi.boolean(), method: doc.method };
const job = { answer: doc.job };
const facts = Joi.object()
  .pattern(/^[a-z][a-z0-9-]{1,30}$/, Joi.string().trim().max(200))
  .max(20);
const keyFrom = Joi.string()
  .pattern(/^[A-Z][A-Z0-9_]*$/)
  .messages({ 'string.pattern.base': '{#label} must be the name of an environment variable' });
const key = Joi.string().min(4).max(500);

export const password = Joi.string()
  .min(12)
  .max(200)
  .messages({ 'string.min': 'a password must have at least 12 characters' });

/** What each route takes and answers. The service validates by it, and the OpenAPI document is made from it. */
export const schemas: Readonly<Record<RouteName, RouteSchemas>> = {
  signIn: {
    body: Joi.object({ name: Joi.string().max(120).required(), password: Joi.string().max(200).required() }),
    answer: Joi.object({ person: doc.person.required() }),
  },
  signOut: {},
  whoAmI: { answer: Joi.object({ person: doc.person.required(), now: Joi.string().isoDate().required() }) },
  health: {
    answer: Joi.object({
      status: Joi.valid('up').required(),
      version: Joi.string().required(),
      faults: Joi.number().integer().required(),
    }),
  },
  addKey: {
    body: Joi.object({ label: name.required(), days: Joi.number().integer().min(1).max(730) }),
    answer: doc.newKey,
  },
  listKeys: { answer: doc.items(doc.key) },
  endKey: { params: params('id') },
  listPersons: { answer: doc.items(doc.person) },
  addPerson: {
    body: Joi.object({ name: name.required(), role: doc.role.required(), password: password.required() }),
    answer: doc.person,
  },
  endPerson: { params: params('id') },

  listClients: { query: Joi.object(pageQuery), answer: doc.page(doc.client) },
  addClient: {
    body: Joi.object({ name: name.required(), handle, contact: Joi.string().trim().max(200), audience }),
    answer: doc.client,
  },
  showClient: { params: params('client'), answer: doc.client },
  editClient: {
    params: params('client'),
    body: Joi.object({ name, contact: Joi.string().trim().max(200).allow(null), audience }).min(1),
    answer: doc.client,
  },

  listProperties: {
    query: Joi.object({ ...pageQuery, client: ref, match: ref }),
    answer: doc.page(doc.property),
  },
  addProperty: {
    body: Joi.object({
      client: ref.required(),
      address: Joi.string().allow('').max(4096).required(),
      handle,
    }),
    answer: doc.newProperty,
  },
  showProperty: { params: params('property'), answer: doc.property },
  editProperty: {
    params: params('property'),
    body: Joi.object({ handle, facts, access: doc.access.min(1) }).min(1),
    answer: doc.property,
  },
  archiveProperty: { params: params('property') },
  showVariants: { params: params('property'), answer: doc.variants },
  lookAtVariants: {
    body: Joi.object({ properties: Joi.array().items(ref).min(1).max(10_000), all: Joi.boolean() }).xor(
      'properties',
      'all',
    ),
    ...job,
  },
  addHost: { params: params('property'), body: Joi.object({ host: ref.required() }), ...job },
  dropHost: { params: Joi.object({ property: ref.required(), host: ref.required() }), ...job },

  listEngines: { answer: doc.items(doc.engine) },
  addEngine: {
    body: Joi.object({
      profile: Joi.string().max(100_000).required(),
      file: Joi.string().max(200),
      replace: Joi.boolean(),
    }),
    answer: doc.engine,
  },
  listAccounts: { answer: doc.items(doc.account) },
  addAccount: {
    body: Joi.object({ engine: ref.required(), name: handle.required(), keyFrom, key }).oxor(
      'keyFrom',
      'key',
    ),
    answer: doc.account,
  },
  editAccount: {
    params: params('account'),
    body: Joi.object({ name: handle, keyFrom, key, passedOnTo: ref.allow(null) })
      .oxor('keyFrom', 'key')
      .min(1),
    answer: doc.account,
  },
  adopt: {
    body: Joi.object({ engine: ref.required(), account: ref, take: Joi.boolean() }),
    ...job,
  },
  fit: { params: params('property'), answer: doc.items(doc.fit) },
  advice: { params: params('enrolment'), answer: doc.items(doc.advice) },
  endEnrolment: { params: params('enrolment'), ...job },
  pasteToken: {
    params: params('enrolment'),
    body: Joi.object({ text: Joi.string().allow('').max(20_000).required(), method: doc.method }),
    answer: doc.pastedToken,
  },
  recordVerdict: {
    params: params('enrolment'),
    body: Joi.object({
      verdict: Joi.valid('confirmed', 'refused', 'withdrawn').required(),
      method: doc.method,
      reason: Joi.string().trim().max(500),
      at: Joi.string().isoDate(),
    }),
    answer: doc.enrolment,
  },
  recordReading: {
    params: params('id'),
    body: Joi.object({
      found: Joi.number().integer().min(0).max(1e9),
      listed: Joi.number().integer().min(0).max(1e9),
      readAt: Joi.string().isoDate(),
      trouble: Joi.string().trim().max(500),
    }).or('found', 'trouble'),
    answer: doc.sitemap,
  },

  listEnrolments: { query: Joi.object({ property: ref.required() }), answer: doc.items(doc.enrolment) },
  showEnrolment: { params: params('enrolment'), answer: doc.enrolment },
  enrol: {
    body: Joi.object({
      properties: Joi.array().items(ref).min(1).max(10_000),
      missing: Joi.boolean().valid(true),
      client: ref,
      engines: Joi.array().items(ref).min(1).max(50),
      fitting: Joi.boolean(),
      reach: doc.reach,
      address: Joi.string().max(4096),
      account: ref,
      facts,
    })
      .xor('engines', 'fitting')
      .xor('properties', 'missing')
      .with('client', 'missing')
      .with('missing', 'engines'),
    ...job,
  },
  getTokens: { body: Joi.object(which).xor('enrolments', 'all'), ...job },
  check: { body: Joi.object(which).xor('enrolments', 'all'), ...job },
  listChecks: { params: params('enrolment'), query: Joi.object(pageQuery), answer: doc.page(doc.check) },
  claim: {
    body: Joi.object({ ...which, ready: Joi.boolean(), anyway: Joi.boolean() }).or(
      'enrolments',
      'all',
      'ready',
    ),
    ...job,
  },

  ...sitemapRequests,

  yard: {
    query: Joi.object({ ...pageQuery, ...narrow, badge: doc.badge, kind: Joi.valid(...STEP_KINDS) }),
    answer: doc.yard,
  },
  worklist: {
    query: Joi.object({
      ...pageQuery,
      ...narrow,
      property: ref,
      badge: doc.badge,
      kind: Joi.valid(...STEP_KINDS),
      acts: Joi.valid(...ACTS),
    }),
    answer: doc.worklist,
  },
  verifyRecords: { answer: doc.verification },
  journal: {
    query: Joi.object({ ...pageQuery, property: ref, client: ref }),
    answer: doc.page(doc.journalEntry),
  },
  showJob: { params: params('id'), query: Joi.object(pageQuery), answer: doc.job },
  stopJob: { params: params('id'), answer: doc.job },
  resumeJob: { params: params('id'), answer: doc.job },
  listJobs: { query: Joi.object(pageQuery), answer: doc.page(doc.job) },
};
