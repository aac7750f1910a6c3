import Joi from 'joi';
import { items, nameText, oneOf, refParams, role } from '../parts/schema.js';
import type { BodyOf, OutOf, RouteSchemas } from '../route-schemas.js';
import type { peopleRoutes } from './routes.js';
import { key, newKey, person } from './schema.js';

export const password = Joi.string()
  .min(12)
  .max(200)
  .messages({ 'string.min': 'a password must have at least 12 characters' });

/** What the routes take and answer. */
export const peopleRequests = {
  signIn: {
    body: Joi.object<BodyOf<typeof peopleRoutes.signIn>, true>({
      name: Joi.string().max(120).required().label('the name'),
      password: Joi.string().max(200).required(),
    }),
    answer: Joi.object<OutOf<typeof peopleRoutes.signIn>, true>({ person: person.required() }),
  },
  signOut: {},
  whoAmI: {
    answer: Joi.object<OutOf<typeof peopleRoutes.whoAmI>, true>({
      person: person.required(),
      now: Joi.string().isoDate().required(),
    }),
  },
  health: {
    answer: Joi.object<OutOf<typeof peopleRoutes.health>, true>({
      status: oneOf(['up']).required(),
      version: Joi.string().required(),
      faults: Joi.number().integer().required(),
    }),
  },
  addKey: {
    body: Joi.object<BodyOf<typeof peopleRoutes.addKey>, true>({
      label: nameText.required(),
      days: Joi.number().integer().min(1).max(730).label('the number of days'),
    }),
    answer: newKey,
  },
  listKeys: { answer: items(key) },
  endKey: { params: refParams('id') },
  listPersons: { answer: items(person) },
  addPerson: {
    body: Joi.object<BodyOf<typeof peopleRoutes.addPerson>, true>({
      name: nameText.required().label('the name'),
      role: role.required().label('the role'),
      password: password.required(),
    }),
    answer: person,
  },
  endPerson: { params: refParams('id') },
} satisfies Record<string, RouteSchemas>;
