import Fastify, { type FastifyBaseLogger, type FastifyInstance } from 'fastify';
import { openApi } from '../api/openapi.js';
import type { JobRunner } from '../desk/jobs/runner.js';
import { Callers } from '../desk/people/callers.js';
import type { Projections } from '../desk/projections/projections.js';
import type { Desk } from '../desk/context/desk.js';
import { events } from './plugins/events.js';
import { hosts } from './plugins/hosts.js';
import { entries } from './plugins/contents.js';
import { shared } from './plugins/shared-links.js';
import { clientArchives } from './plugins/client-archives.js';
import { sheets } from './plugins/sheets.js';
import { made } from './plugins/made-sitemaps.js';
import { metrics } from './plugins/metrics.js';
import { headers, pages } from './plugins/pages.js';
import { problems } from './plugins/problems.js';
import type { Replays } from './plugins/replay.js';
import { routesPlugin } from './plugins/routes.js';
import { stops } from './plugins/stop.js';
import { signInPlugin } from './plugins/sign-in.js';
import type { ProcessFaults } from './process-faults.js';
import type { Settings } from './settings/schema.js';

export interface AppParts {
  readonly desk: Desk;
  readonly jobs: JobRunner;
  readonly kept: Projections;
  readonly logger: FastifyBaseLogger;
  readonly replays: Replays;
  readonly faults: ProcessFaults;
  readonly settings: Pick<Settings, 'listen' | 'publicUrl' | 'trustProxy'>;
  readonly version: string;
  readonly checkAnswers: boolean;
}

/** For what no route takes; each has a bound of its own. */
const MOST_BODY_BYTES = 64 * 1024;

/** Milliseconds for a request to come in whole. */
const REQUEST_MS = 30_000;

function refuse(): never {
  throw new Error('Routes have no schema of Fastify’s: Joi holds what comes in and what goes out.');
}

/** Without Fastify's own compilers of schemas, which take a quarter of a second to load and nothing here needs. */
const NO_COMPILERS = { buildValidator: refuse, buildSerializer: refuse };

/** The HTTP service: each feature a plugin, in the order in which a request meets them. */
export async function createApp(parts: AppParts): Promise<FastifyInstance> {
  const app = Fastify({
    loggerInstance: parts.logger,
    bodyLimit: MOST_BODY_BYTES,
    forceCloseConnections: true,
    // Whoever sends a request a letter at a time is left (RFC 9112 §9.5); what is answered may take as long as it does.
    requestTimeout: REQUEST_MS,
    http: { headersTimeout: REQUEST_MS, connectionsCheckingInterval: REQUEST_MS / 6 },
    // Whose word is taken for where a request comes from: nobody's but that of the proxies that are told.
    trustProxy: parts.settings.trustProxy.length === 0 ? false : [...parts.settings.trustProxy],
    routerOptions: { maxParamLength: 4096 },
    schemaController: { compilersFactory: NO_COMPILERS },
  });
  problems(app);
  hosts(app, parts.settings);
  await headers(app);
  await signInPlugin(app);
  const callers = new Callers(parts.desk);
  await routesPlugin(app, { ...parts, callers });
  events(app, parts.desk, callers);
  await made(app, callers);
  entries(app, callers, parts.desk);
  sheets(app, callers, parts.desk);
  clientArchives(app, callers, parts.desk);
  await shared(app, parts.desk, parts.jobs);
  metrics(app, { ...parts, callers });
  app.get('/api/openapi.json', () => openApi(parts.version));
  await stops(app, parts.desk);
  await pages(app);
  return app;
}
