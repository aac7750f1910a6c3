import { peopleRequests } from './people/requests.js';
import { clientsRequests } from './clients/requests.js';
import { propertiesRequests } from './properties/requests.js';
import { variantsRequests } from './variants/requests.js';
import { enginesRequests } from './engines/requests.js';
import { enrolmentsRequests } from './enrolments/requests.js';
import { tokensRequests } from './tokens/requests.js';
import { checksRequests } from './checks/requests.js';
import { claimsRequests } from './claims/requests.js';
import { sitemapsRequests } from './sitemaps/requests.js';
import { publishingRequests } from './publishing/requests.js';
import { contentsRequests } from './contents/requests.js';
import { makingRequests } from './making/requests.js';
import { pageLookupsRequests } from './page-lookups/requests.js';
import { sheetRequests } from './sheet/requests.js';
import { sharedRequests } from './shared-links/requests.js';
import { lettersRequests } from './letters/requests.js';
import { clientReportsRequests } from './client-reports/requests.js';
import { handoverRequests } from './handover/requests.js';
import { wordingRequests } from './wording/requests.js';
import { robotsRequests } from './robots/requests.js';
import { standingRequests } from './standing/requests.js';
import { historyRequests } from './history/requests.js';
import { reportsRequests } from './reports/requests.js';
import { notificationRequests } from './notifications/requests.js';
import { watchRequests } from './watch/requests.js';
import { journalRequests } from './journal/requests.js';
import { jobsRequests } from './jobs/requests.js';
import type { RouteSchemas } from './route-schemas.js';
import type { RouteName } from './routes.js';

/** What each route takes and answers. The service validates by it, and the OpenAPI document is made from it. */
export const schemas: Readonly<Record<RouteName, RouteSchemas>> = {
  ...peopleRequests,
  ...clientsRequests,
  ...propertiesRequests,
  ...variantsRequests,
  ...enginesRequests,
  ...enrolmentsRequests,
  ...tokensRequests,
  ...checksRequests,
  ...claimsRequests,
  ...sitemapsRequests,
  ...contentsRequests,
  ...makingRequests,
  ...publishingRequests,
  ...robotsRequests,
  ...sheetRequests,
  ...sharedRequests,
  ...lettersRequests,
  ...clientReportsRequests,
  ...handoverRequests,
  ...wordingRequests,
  ...pageLookupsRequests,
  ...standingRequests,
  ...historyRequests,
  ...watchRequests,
  ...notificationRequests,
  ...reportsRequests,
  ...journalRequests,
  ...jobsRequests,
};
