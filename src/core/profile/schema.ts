import Joi from 'joi';
import { durationMs } from '../time/duration.js';
import { METHODS, type EngineProfile } from './profile.js';

const duration = Joi.string()
  .custom((value: string) => {
    durationMs(value);
    return value;
  })
  .messages({ 'any.custom': '{#label} must be an ISO 8601 duration such as P5D or PT36H' });

const reaches = Joi.array().items(Joi.valid('name', 'address')).min(1).unique();
const compare = Joi.valid('exact', 'trimmed').default('trimmed');
const redirects = Joi.valid('none', 'host', 'registrable').default('host');
const withToken = Joi.string().pattern(/\{token\}/, 'a text with {token} in it');

const methods = Joi.object({
  meta: Joi.object({
    name: Joi.string()
      .pattern(/^[\w.:-]+$/)
      .required(),
    content: withToken.default('{token}'),
    compare,
    redirects,
    reaches: reaches.default(['address']),
  }),
  file: Joi.object({
    path: Joi.string()
      .pattern(/^\/[\w./{}-]+$/)
      .required(),
    content: withToken.default('{token}'),
    compare,
    redirects,
    reaches: reaches.default(['address']),
  }),
  dns: Joi.object({
    label: Joi.string()
      .pattern(/^_[a-z0-9-]+$/)
      .allow(null)
      .default(null),
    value: withToken.required(),
    compare,
    reaches: reaches.default(['name', 'address']),
  }),
}).min(1);

/** The shape of a profile file. Unknown keys are refused, so that a misspelt rule is not silently ignored. */
export const profileSchema: Joi.ObjectSchema<EngineProfile> = Joi.object({
  id: Joi.string()
    .pattern(/^[a-z][a-z0-9-]{1,30}$/)
    .required(),
  title: Joi.string().max(60).required(),
  audience: Joi.alternatives(
    Joi.valid('everyone'),
    Joi.array()
      .items(Joi.string().pattern(/^[A-Z]{2}$/))
      .min(1),
  ).default('everyone'),
  worked: Joi.alternatives(
    Joi.object({ how: Joi.valid('house').required() }),
    Joi.object({
      how: Joi.valid('link').required(),
      base: Joi.string()
        .uri({ scheme: ['http', 'https'] })
        .required(),
      keyFrom: Joi.string()
        .pattern(/^[A-Z][A-Z0-9_]*$/, 'the name of an environment variable')
        .required(),
    }),
  ).required(),
  reaches: reaches.required(),
  token: Joi.object({
    per: Joi.valid('enrolment', 'account').required(),
    livesUnclaimed: duration,
  }).required(),
  methods: methods.required(),
  keeps: Joi.object({ looksEvery: duration.required(), grace: duration.required() }).required(),
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
  }),
})
  .required()
  .custom((profile: EngineProfile, helpers) => {
    const unproven = profile.reaches.find(
      (reach) => !METHODS.some((method) => profile.methods[method]?.reaches.includes(reach)),
    );
    return unproven === undefined ? profile : helpers.error('profile.unproven', { reach: unproven });
  })
  .messages({ 'profile.unproven': 'reaches names “{#reach}”, but no method serves that reach' });

/**
 * Checks what was read from a profile file.
 * @returns the profile with defaults filled in, or every fault, each naming its key
 */
export function readProfile(data: unknown): { profile: EngineProfile } | { faults: string[] } {
  const { value, error } = profileSchema.validate(data, {
    abortEarly: false,
    errors: { wrap: { label: false } },
  });
  return error ? { faults: error.details.map((detail) => detail.message) } : { profile: value };
}
