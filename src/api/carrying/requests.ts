import Joi from 'joi';
import { CARRY_WAYS } from '../../core/carry/plan.js';
import { begun } from '../jobs/schema.js';
import { items, oneOf, refParams, refText } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { NewCarryPlace } from './document.js';
import type { carryingRoutes } from './routes.js';
import { carryPlace } from './schema.js';

const secret = Joi.string().min(1).max(20_000);
const who = oneOf(['lead', 'consultant']);
const place = Joi.object<Record<string, string>, true>({ place: refText.required() });
const hostText = Joi.string().hostname();
const nameText = Joi.string().pattern(
  /^[\w.-]{1,253}$/u,
  'a name of a record, such as saltmarsh-ferries.example',
);

/** What the routes take and answer. */
export const carryingRequests = {
  listCarryPlaces: { params: refParams('property'), answer: items(carryPlace) },
  addCarryPlace: {
    params: refParams('property'),
    body: Joi.object<NewCarryPlace, true>({
      way: oneOf(CARRY_WAYS).required(),
      root: Joi.string().pattern(/^[^\0\r\n]{1,1000}$/u, 'the path of a folder'),
      host: hostText,
      port: Joi.number().port(),
      user: Joi.string().max(200),
      zone: nameText.label('the DNS zone'),
      keyName: nameText,
      algorithm: oneOf(['hmac-sha256', 'hmac-sha384', 'hmac-sha512']),
      secret,
      role: who.label('who may carry there'),
      watchMay: Joi.boolean(),
    }),
    answer: carryPlace,
  },
  editCarryPlace: {
    params: place,
    body: Joi.object<BodyOf<typeof carryingRoutes.editCarryPlace>, true>({
      trust: Joi.string().max(200),
      secret,
      watchMay: Joi.boolean(),
      role: who.label('who may carry there'),
    }).min(1),
    answer: carryPlace,
  },
  endCarryPlace: { params: place },
  carry: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof carryingRoutes.carry>, true>({
      plan: Joi.boolean(),
      takeAway: Joi.boolean(),
    }),
    ...begun,
  },
} satisfies Record<string, RouteSchemas>;
