import type { Badge, EngineRef, Named } from '../parts/document.js';

/** How long something was so; `until` is null for what still is. */
export interface Interval {
  from: string;
  until: string | null;
}

/** How a property stood over its time, from what is on record. */
export interface PropertyHistory {
  property: Named;
  /** The service's time when this was read. */
  asOf: string;
  enrolments: {
    name: string;
    engine: EngineRef;
    ended: boolean;
    badges: (Interval & { badge: Badge })[];
  }[];
  /** Where visitors ended up. */
  doors: (Interval & { address: string; forPeople: string })[];
  /** When engines were asked to stay away, and how. */
  away: (Interval & { says: string })[];
  /** What engines counted in its sitemaps. */
  counts: (Interval & {
    engine: EngineRef;
    sitemap: string;
    found: number | null;
    listed: number | null;
    trouble: string | null;
  })[];
}
