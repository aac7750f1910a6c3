import { peopleRoutes } from './people/routes.js';
import { clientsRoutes } from './clients/routes.js';
import { propertiesRoutes } from './properties/routes.js';
import { variantsRoutes } from './variants/routes.js';
import { enginesRoutes } from './engines/routes.js';
import { enrolmentsRoutes } from './enrolments/routes.js';
import { tokensRoutes } from './tokens/routes.js';
import { checksRoutes } from './checks/routes.js';
import { claimsRoutes } from './claims/routes.js';
import { sitemapsRoutes } from './sitemaps/routes.js';
import { publishingRoutes } from './publishing/routes.js';
import { CONTENTS_CSV, contentsRoutes } from './contents/routes.js';
import { makingRoutes } from './making/routes.js';
import { pageLookupsRoutes } from './page-lookups/routes.js';
import { SHEET_ZIP, sheetRoutes } from './sheet/routes.js';
import { SHARED, sharedRoutes } from './shared-links/routes.js';
import { lettersRoutes } from './letters/routes.js';
import { clientReportsRoutes } from './client-reports/routes.js';
import { CLIENT_ARCHIVE, handoverRoutes } from './handover/routes.js';
import { wordingRoutes } from './wording/routes.js';
import { robotsRoutes } from './robots/routes.js';
import { standingRoutes } from './standing/routes.js';
import { historyRoutes } from './history/routes.js';
import { reportsRoutes } from './reports/routes.js';
import { notificationRoutes } from './notifications/routes.js';
import { watchRoutes } from './watch/routes.js';
import { journalRoutes } from './journal/routes.js';
import { jobsRoutes } from './jobs/routes.js';

export type { Input, PageQuery, Route } from './route.js';

/** The whole API. Service, client, command line and OpenAPI document are made from this one table. */
export const routes = {
  ...peopleRoutes,
  ...clientsRoutes,
  ...propertiesRoutes,
  ...variantsRoutes,
  ...enginesRoutes,
  ...enrolmentsRoutes,
  ...tokensRoutes,
  ...checksRoutes,
  ...claimsRoutes,
  ...sitemapsRoutes,
  ...contentsRoutes,
  ...makingRoutes,
  ...publishingRoutes,
  ...robotsRoutes,
  ...sheetRoutes,
  ...sharedRoutes,
  ...lettersRoutes,
  ...clientReportsRoutes,
  ...handoverRoutes,
  ...wordingRoutes,
  ...pageLookupsRoutes,
  ...standingRoutes,
  ...historyRoutes,
  ...watchRoutes,
  ...notificationRoutes,
  ...reportsRoutes,
  ...journalRoutes,
  ...jobsRoutes,
} as const;

export type Routes = typeof routes;
export type RouteName = keyof Routes;
export type InputOf<Name extends RouteName> = NonNullable<Routes[Name]['types']>['in'];
export type OutputOf<Name extends RouteName> = NonNullable<Routes[Name]['types']>['out'];

/** Server-sent events (HTML standard §9.2) beside the table: progress of one job, and "something changed". */
export const JOB_EVENTS = '/jobs/:id/events';
export const CHANGE_EVENTS = '/events';
/** The files of a made version, as they are, beside the table. */
export const MADE_FILES = '/versions/:version/files/:name';
export { CLIENT_ARCHIVE, CONTENTS_CSV, SHARED, SHEET_ZIP };
export const BASE = '/api/v1';
