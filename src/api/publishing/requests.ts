import Joi from 'joi';
import { TARGET_PROTOCOLS } from '../../core/publish/plan.js';
import { begun } from '../jobs/schema.js';
import { items, oneOf, refParams, refText } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { NewTarget } from './document.js';
import type { publishingRoutes } from './routes.js';
import { targetSchema } from './schema.js';

const secret = Joi.string().min(1).max(20_000);
const who = oneOf(['lead', 'consultant']);
const target = Joi.object<Record<string, string>, true>({ target: refText.required() });
const hostText = Joi.string().hostname();
const nameText = Joi.string().pattern(
  /^[\w.-]{1,253}$/u,
  'a name of a record, such as saltmarsh-ferries.example',
);

/** What the routes take and answer. */
export const publishingRequests = {
  listTargets: { params: refParams('property'), answer: items(targetSchema) },
  addTarget: {
    params: refParams('property'),
    body: Joi.object<NewTarget, true>({
      way: oneOf(TARGET_PROTOCOLS).required(),
      root: Joi.string().pattern(/^[^\0\r\n]{1,1000}$/u, 'the path of a folder'),
      host: hostText,
      port: Joi.number().port(),
      user: Joi.string().max(200),
      zone: nameText.label('the DNS zone'),
      keyName: nameText,
      algorithm: oneOf(['hmac-sha256', 'hmac-sha384', 'hmac-sha512']),
      secret,
      role: who.label('who may publish there'),
      watchMay: Joi.boolean(),
    }),
    answer: targetSchema,
  },
  editTarget: {
    params: target,
    body: Joi.object<BodyOf<typeof publishingRoutes.editTarget>, true>({
      trust: Joi.string().max(200),
      secret,
      watchMay: Joi.boolean(),
      role: who.label('who may publish there'),
    }).min(1),
    answer: targetSchema,
  },
  endTarget: { params: target },
  publish: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof publishingRoutes.publish>, true>({
      plan: Joi.boolean(),
      takeAway: Joi.boolean(),
    }),
    ...begun,
  },
} satisfies Record<string, RouteSchemas>;
