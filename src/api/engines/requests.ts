import Joi from 'joi';
import { handleText, items, refParams, refText } from '../parts/schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { enginesRoutes } from './routes.js';
import { account, engine } from './schema.js';

const keyFrom = Joi.string()
  .pattern(/^[A-Z][A-Z0-9_]*$/)
  .messages({ 'string.pattern.base': '{#label} must be the name of an environment variable' });
const accountKey = Joi.string().min(4).max(500);

/** What the routes take and answer. */
export const enginesRequests = {
  listEngines: { answer: items(engine) },
  addEngine: {
    body: Joi.object<BodyOf<typeof enginesRoutes.addEngine>, true>({
      profile: Joi.string().max(100_000).required(),
      file: Joi.string().max(200),
      replace: Joi.boolean(),
    }),
    answer: engine,
  },
  listAccounts: { answer: items(account) },
  addAccount: {
    body: Joi.object<BodyOf<typeof enginesRoutes.addAccount>, true>({
      engine: refText.required(),
      name: handleText.required().label('the account’s name'),
      keyFrom,
      key: accountKey,
    }).oxor('keyFrom', 'key'),
    answer: account,
  },
  editAccount: {
    params: refParams('account'),
    body: Joi.object<BodyOf<typeof enginesRoutes.editAccount>, true>({
      name: handleText.label('the account’s name'),
      keyFrom,
      key: accountKey,
      passedOnTo: refText.allow(null).label('the client that it is passed on to'),
    })
      .oxor('keyFrom', 'key')
      .min(1),
    answer: account,
  },
} satisfies Record<string, RouteSchemas>;
