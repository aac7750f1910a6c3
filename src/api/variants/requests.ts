import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { refParams, refText } from '../parts/schema.js';
import type { BodyOf, ParamsOf, RouteSchemas } from '../route-schemas.js';
import type { variantsRoutes } from './routes.js';
import { variants } from './schema.js';

/** What the routes take and answer. */
export const variantsRequests = {
  showVariants: { params: refParams('property'), answer: variants },
  lookAtVariants: {
    body: Joi.object<BodyOf<typeof variantsRoutes.lookAtVariants>, true>({
      properties: Joi.array().items(refText).min(1).max(10_000),
      all: Joi.boolean(),
    }).xor('properties', 'all'),
    ...begun,
  },
  addHost: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof variantsRoutes.addHost>, true>({ host: refText.required() }),
    ...begun,
  },
  dropHost: {
    params: Joi.object<ParamsOf<typeof variantsRoutes.dropHost>, true>({
      property: refText.required(),
      host: refText.required(),
    }),
    ...begun,
  },
} satisfies Record<string, RouteSchemas>;
