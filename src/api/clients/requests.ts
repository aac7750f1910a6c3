import Joi from 'joi';
import { handleText, nameText, page, pageQuery, refParams } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { clientsRoutes } from './routes.js';
import { client } from './schema.js';

const country = Joi.string()
  .pattern(/^[A-Z]{2}$/)
  .messages({ 'string.pattern.base': '{#label} must be a country by ISO 3166-1 alpha-2, such as FI' });
const audience = Joi.array().items(country).unique().max(60);

/** What the routes take and answer. */
export const clientsRequests = {
  listClients: {
    query: Joi.object<QueryOf<typeof clientsRoutes.listClients>, true>(pageQuery),
    answer: page(client),
  },
  addClient: {
    body: Joi.object<BodyOf<typeof clientsRoutes.addClient>, true>({
      name: nameText.required(),
      handle: handleText,
      contact: Joi.string().trim().max(200),
      audience,
    }),
    answer: client,
  },
  showClient: { params: refParams('client'), answer: client },
  editClient: {
    params: refParams('client'),
    body: Joi.object<BodyOf<typeof clientsRoutes.editClient>, true>({
      name: nameText,
      contact: Joi.string().trim().max(200).allow(null),
      audience,
    }).min(1),
    answer: client,
  },
} satisfies Record<string, RouteSchemas>;
