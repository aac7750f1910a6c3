import Joi from 'joi';
import { CLAIMS_BY } from '../../core/record/states.js';
import { handleText, nameText, oneOf, page, pageQuery, refParams } from '../parts/schema.js';
import type { BodyOf, QueryOf, RouteSchemas } from '../route-schemas.js';
import type { clientsRoutes } from './routes.js';
import { client } from './schema.js';

/** Countries by code (ISO 3166-1) or by name; which those are is looked up behind this. */
const audience = Joi.array().items(Joi.string().trim().min(1).max(80)).max(60);

/** What the routes take and answer. */
export const clientsRequests = {
  listClients: {
    query: Joi.object<QueryOf<typeof clientsRoutes.listClients>, true>({
      ...pageQuery,
      archived: Joi.boolean(),
      without: oneOf(['property'] as const),
    }),
    answer: page(client),
  },
  addClient: {
    body: Joi.object<BodyOf<typeof clientsRoutes.addClient>, true>({
      name: nameText.required().label('the client’s name'),
      handle: handleText,
      contact: Joi.string().trim().max(200),
      audience,
      anyway: Joi.boolean(),
    }),
    answer: client,
  },
  showClient: { params: refParams('client'), answer: client },
  editClient: {
    params: refParams('client'),
    body: Joi.object<BodyOf<typeof clientsRoutes.editClient>, true>({
      handle: handleText,
      name: nameText.label('the client’s name'),
      contact: Joi.string().trim().max(200).allow(null),
      audience,
      claims: oneOf(CLAIMS_BY).allow(null),
    }).min(1),
    answer: client,
  },
  archiveClient: {
    params: refParams('client'),
    query: Joi.object<QueryOf<typeof clientsRoutes.archiveClient>, true>({ anyway: Joi.boolean() }),
  },
  restoreClient: { params: refParams('client'), answer: client },
} satisfies Record<string, RouteSchemas>;
