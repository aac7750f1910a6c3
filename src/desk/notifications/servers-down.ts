import { isIP } from 'node:net';
import { counted } from '../../api/plural.js';
import { writtenMinute } from '../../core/time/time-formats.js';
import type { Desk } from '../context/desk.js';
import { keepAgencyAlerts, type AgencyAlert } from '../alerts/agency-alerts.js';

/** So many websites that are out of reach at one address, or by the same name servers, are one alert: that their server is down. */
const WEBSITES_AT_LEAST = 3;
/** Websites that the alert names. */
const MOST_NAMED = 12;
/** Handles that are kept with it. */
const MOST_KEPT = 500;

interface Down {
  readonly place: string;
  readonly since: string;
  readonly count: number;
  /** JSON. */
  readonly handles: string;
}

/** Opens one case for each server at which several websites are out of reach, and ends it where they are not any more. Safe to be done again. */
export async function recordServersDown(desk: Desk): Promise<void> {
  const rows = await desk.store.select<Down>(
    `SELECT c.place, MIN(c.since) AS since, COUNT(DISTINCT c.propertyId) AS count, json_group_array(DISTINCT p.handle) AS handles
       FROM cases c JOIN properties p ON p.id = c.propertyId
      WHERE c.kind = 'out-of-reach' AND c.endedAt IS NULL AND c.place IS NOT NULL
      GROUP BY c.place HAVING COUNT(DISTINCT c.propertyId) >= $least`,
    { least: WEBSITES_AT_LEAST },
  );
  await keepAgencyAlerts(desk, 'server-down', rows.map(caseOf));
}

function caseOf({ place, since, count, handles }: Down): AgencyAlert {
  const all = (JSON.parse(handles) as string[]).sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  const rest = all.length - MOST_NAMED;
  const named = `${all.slice(0, MOST_NAMED).join(', ')}${rest > 0 ? ` and ${String(rest)} more` : ''}`;
  return {
    cause: place,
    since,
    says:
      isIP(place) > 0
        ? `${counted(count, 'website', 'websites')} at one server, ${place}, cannot be reached, the first since ${writtenMinute(since)}: ${named}. Others can be reached from here, so ask whoever runs that server.`
        : `The names of ${counted(count, 'website', 'websites')} cannot be looked up, the first since ${writtenMinute(since)}: ${named}. All of them rely on ${place}. Other names can be looked up from here, so ask whoever runs those name servers.`,
    acts: 'client',
    until: null,
    touches: all.slice(0, MOST_KEPT),
    isAtOnce: true,
  };
}

/**
 * SQL: whether a case `c` is told by that of its server, and not by itself.
 * For a program of one client alone it is told by itself all the same.
 */
export const TOLD_BY_SERVER = `c.kind = 'out-of-reach' AND c.place IS NOT NULL AND EXISTS (SELECT 1 FROM cases s
  WHERE s.kind = 'server-down' AND s.cause = c.place AND (s.endedAt IS NULL OR s.endedAt >= c.openedAt))`;
