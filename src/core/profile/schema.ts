import Joi from 'joi';
import { asKey, faultInWords } from '../input/input-faults.js';
import { durationMs } from '../time/duration.js';
import {
  isBorrowing,
  MANY_RULES,
  METHODS,
  WAYS_OF_WORKING,
  type EngineProfile,
  type Profile,
} from './profile.js';

const duration = Joi.string()
  .custom((value: string) => {
    durationMs(value);
    return value;
  })
  .messages({ 'any.custom': '{#label} must be an ISO 8601 duration such as P5D or PT36H' });

const id = Joi.string().pattern(/^[a-z][a-z0-9-]{1,30}$/, 'lower-case letters, digits and hyphens');
const country = Joi.string().pattern(/^[A-Z]{2}$/, 'a country by ISO 3166-1 alpha-2, such as FI');
const reaches = Joi.array().items(Joi.valid('name', 'address')).min(1).unique();
const compare = Joi.valid('exact', 'trimmed').default('trimmed');
const redirects = Joi.valid('none', 'host', 'registrable').default('host');
const mostRedirects = Joi.number().integer().min(0).max(10).default(5);
const withToken = Joi.string().pattern(/\{token\}/, 'a text with {token} in it');

const methods = Joi.object({
  meta: Joi.object({
    name: Joi.string()
      .pattern(/^[\w.:-]+$/)
      .required(),
    content: withToken.default('{token}'),
    compare,
    many: Joi.valid(...MANY_RULES).default('any'),
    redirects,
    mostRedirects,
    reaches: reaches.default(['address']),
    scripting: Joi.boolean(),
  }),
  file: Joi.object({
    base: Joi.valid('root', 'folder').default('root'),
    path: Joi.string()
      .pattern(/^\/[\w./{}-]+$/)
      .required(),
    content: withToken.default('{token}'),
    compare,
    redirects,
    mostRedirects,
    reaches: reaches.default(['address']),
  }),
  dns: Joi.object({
    label: Joi.string()
      .pattern(/^_[a-z0-9-]+$/)
      .allow(null)
      .default(null),
    value: withToken.required(),
    compare,
    // At a name that others use as well, records of others always stand beside.
    many: Joi.valid('any', 'one')
      .default('any')
      .when('label', { is: null, then: Joi.valid('any') })
      .messages({ 'any.only': '{#label} must be any or one; one asks for a label of the engine’s own' }),
    reaches: reaches.default(['name', 'address']),
  }),
}).min(1);

const fact = Joi.object({
  id: Joi.string()
    .pattern(/^[a-z][a-z0-9-]{1,30}$/)
    .required(),
  title: Joi.string().max(120).required(),
  oneOf: Joi.array().items(Joi.string().max(60)).min(1).unique(),
  form: Joi.valid('languages'),
}).oxor('oneOf', 'form');

const own = {
  reaches: reaches.required(),
  facts: Joi.array().items(fact).unique('id').default([]),
  token: Joi.object({
    per: Joi.valid('enrolment', 'account').required(),
    livesUnclaimed: duration,
    shape: Joi.object({
      signs: Joi.valid('hex', 'alphanumeric', 'base64url').required(),
      length: Joi.number().integer().min(4).max(500).required(),
    }),
  }).required(),
  methods: methods.required(),
  agent: Joi.string().pattern(
    /^[A-Za-z_-]{2,60}$/,
    'a product token of letters, hyphens and underscores (RFC 9309)',
  ),
  keeps: Joi.object({ looksEvery: duration.required(), grace: duration.required() }),
  sitemaps: Joi.object({
    form: Joi.valid('path', 'address').required(),
    formats: Joi.array()
      .items(Joi.valid('urlset', 'index', 'rss', 'atom', 'text'))
      .min(1)
      .required(),
    limit: Joi.number().integer().min(1).default(500),
    firstReading: duration.required(),
    ping: Joi.boolean().default(false),
    needsBadge: Joi.boolean().default(true),
    atRegistration: Joi.boolean().default(false),
  }),
  lookupsADay: Joi.number().integer().min(0).default(0),
  visitsADay: Joi.number().integer().min(0).default(0),
};

const worked = Joi.object({
  how: Joi.valid(...WAYS_OF_WORKING).required(),
  base: Joi.string()
    .uri({ scheme: ['http', 'https'] })
    .pattern(/\/$/, 'an address that ends in /')
    .when('how', { is: 'link', then: Joi.required(), otherwise: Joi.forbidden() }),
  keyFrom: Joi.string()
    .pattern(/^[A-Z][A-Z0-9_]*$/, 'the name of an environment variable')
    .when('how', { is: 'link', then: Joi.optional(), otherwise: Joi.forbidden() }),
  from: id.when('how', { is: 'borrowed', then: Joi.required(), otherwise: Joi.forbidden() }),
});

/** What only an engine with rules of its own has; one that shows another's results has none of it. */
const whenOwn = Object.fromEntries(
  Object.entries(own).map(([key, schema]) => [
    key,
    Joi.when('worked.how', { is: 'borrowed', then: Joi.forbidden(), otherwise: schema }),
  ]),
);

/** The shape of a profile file. Unknown keys are refused, so that a misspelt rule is not silently ignored. */
export const profileSchema: Joi.ObjectSchema<Profile> = Joi.object({
  id: id.required(),
  title: Joi.string().max(60).required(),
  audience: Joi.alternatives(Joi.valid('everyone'), Joi.array().items(country).min(1).unique()).default(
    'everyone',
  ),
  share: Joi.object()
    .pattern(Joi.alternatives(country, Joi.valid('everywhere')), Joi.number().min(0).max(100))
    .default({}),
  worked: worked.required(),
  ...whenOwn,
})
  .required()
  .custom((profile: Profile, helpers) => {
    if (isBorrowing(profile)) return profile;
    const unproven = profile.reaches.find((reach) => !isProven(profile, reach));
    return unproven === undefined ? profile : helpers.error('profile.unproven', { reach: unproven });
  })
  .messages({ 'profile.unproven': 'reaches names “{#reach}”, but no method serves that reach' });

function isProven(profile: EngineProfile, reach: EngineProfile['reaches'][number]): boolean {
  return METHODS.some((method) => profile.methods[method]?.reaches.includes(reach) === true);
}

/**
 * Checks what was read from a profile file.
 * @returns the profile with defaults filled in, or every fault, each naming its key
 */
export function readProfile(data: unknown): { profile: Profile } | { faults: string[] } {
  const { value, error } = profileSchema.validate(data, {
    abortEarly: false,
    errors: { wrap: { label: false } },
  });
  if (!error) return { profile: value };
  // What is ours alone says what it means by itself.
  const says = (detail: Joi.ValidationErrorItem) =>
    detail.type.startsWith('profile.') ? detail.message : faultInWords(detail, asKey);
  return { faults: error.details.map(says) };
}
