import type { PropertyRow } from '../../store/models/clients.js';
import type { Desk } from '../context/desk.js';
import type { EnrolmentFacts } from './enrolment-facts.js';
import type { SitemapFacts } from './sitemap-facts.js';
import type { VariantFacts } from './variant-facts.js';

/** What is on record of one property, as everything goes by that is derived of it. */
export interface PropertyFacts {
  readonly desk: Desk;
  readonly property: PropertyRow;
  readonly enrolments: readonly EnrolmentFacts[];
  readonly variants: VariantFacts;
  readonly sitemapFacts: readonly SitemapFacts[];
}
