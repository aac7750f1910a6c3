import { refParams } from '../parts/schema.js';
import type { RouteSchemas } from '../route-schemas.js';
import { propertyHistory } from './schema.js';

/** What the routes take and answer. */
export const historyRequests = {
  history: { params: refParams('property'), answer: propertyHistory },
} satisfies Record<string, RouteSchemas>;
