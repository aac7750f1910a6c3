import Joi from 'joi';
import { begun } from '../jobs/schema.js';
import { refParams } from '../parts/schema.js';
import type { RobotsKept } from './document.js';
import { robotsKept } from './schema.js';
import type { BodyOf, RouteSchemas } from '../route-schemas.js';
import type { robotsRoutes } from './routes.js';

/** What the route takes and answers. */
export const robotsRequests = {
  judgeRobots: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof robotsRoutes.judgeRobots>, true>({
      addresses: Joi.array().items(Joi.string().trim().min(1).max(2_047)).max(100),
      draft: Joi.string().allow('').max(50_000),
    }),
    ...begun,
  },
  showRobots: {
    params: refParams('property'),
    answer: Joi.object<{ kept: RobotsKept | null }, true>({ kept: robotsKept.allow(null).required() }),
  },
  keepRobots: {
    params: refParams('property'),
    body: Joi.object<BodyOf<typeof robotsRoutes.keepRobots>, true>({
      text: Joi.string().max(50_000).required().label('the text of the robots.txt'),
      over: Joi.string().hex().length(64).allow(null).required(),
      anyway: Joi.boolean(),
    }),
    answer: robotsKept,
  },
  dropRobots: { params: refParams('property') },
} satisfies Record<string, RouteSchemas>;
