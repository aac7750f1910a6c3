import { writtenMinute } from '../../core/time/time-formats.js';
import type { Work } from '../../engines/engine.js';
import { nowText, type Desk } from '../context/desk.js';
import { keepAgencyAlerts } from '../alerts/agency-alerts.js';

interface SwitchedOff {
  readonly accountId: string;
  readonly work: Work;
  readonly engine: string;
  readonly since: string;
  readonly until: string;
}

/** How what can be asked of an engine is called, where it is switched off. */
const WORK: Readonly<Record<Work, string>> = {
  enrol: 'new enrolments',
  token: 'tokens',
  claim: 'claims',
  list: 'its list of enrolments',
  ownership: 'what it says of ownership',
  sitemaps: 'submitting sitemaps',
  lookup: 'questions about single pages',
  visit: 'asking for visits',
};

/**
 * Opens a case for what an engine has switched off for a while, and ends it where that is on again: what waited can be done then. Safe to
 * be done again.
 */
export async function recordSwitchedOff(desk: Desk): Promise<void> {
  const off = await desk.store.select<SwitchedOff>(
    `SELECT l.accountId, l.work, a.engine, l.since, l.until FROM link_states l JOIN accounts a ON a.id = l.accountId
      WHERE l.kind = 'waits' AND l.until > $now`,
    { now: nowText(desk) },
  );
  await keepAgencyAlerts(
    desk,
    'switched-off',
    off.map((one) => ({
      ...{ cause: `${one.accountId} ${one.work}`, since: one.since, says: saysOf(desk, one) },
      ...{ acts: 'engine', until: one.until, touches: [], isAtOnce: false },
    })),
  );
}

function saysOf(desk: Desk, { engine, work, until }: SwitchedOff): string {
  return `${desk.book.titleOf(engine)} has switched off ${WORK[work]} until ${writtenMinute(until)} UTC; what waits for it can be done then.`;
}
