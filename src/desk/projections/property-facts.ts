import type { Sitemap } from '../../api/documents.js';
import type { ClientRow } from '../../store/models/clients.js';
import { type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { assignmentsOf } from './assignments.js';
import type { Unanswered } from './reminders.js';
import type { SinceGood } from '../alerts/last-good.js';
import type { Outage } from '../facts/outage.js';
import type { PropertyFacts } from '../facts/property-facts.js';
import { type SteppedFacts } from '../facts/steps.js';

/** Everything that where one property stands is derived from. */
export interface Facts extends PropertyFacts {
  readonly client: ClientRow;
  readonly enrolments: readonly SteppedFacts[];
  /** What is held for other properties and is over this one. */
  readonly above: readonly EnrolmentFacts[];
  /** The newest time in which nothing could be reached from here. */
  readonly outage: Outage | null;
  /** What has changed where tokens are gone, by identifier of the check. */
  readonly changed: ReadonlyMap<string, SinceGood>;
  readonly markOf: Awaited<ReturnType<typeof assignmentsOf>>;
  /** The letters that nobody has answered, oldest first. */
  readonly unanswered: readonly Unanswered[];
  /** Since when a made sitemap waits to be carried. */
  readonly sitemapToPublish: Date | null;
  readonly sitemaps: readonly Sitemap[];
  /** When something was heard last by a link to its sheet: that it was opened, or that it is done. */
  readonly heardAt: string | null;
}
