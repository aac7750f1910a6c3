import type { Lane } from '../../store/models/jobs.js';
import { NOT_PAUSED } from '../context/pauses.js';
import { nowText, type Desk } from '../context/desk.js';

/** What who runs the service wants to know of it now, counted in the records. */
export interface Measures {
  /** Looks that are due, by what is looked at, and by how many seconds the one is late that is due longest. */
  readonly due: readonly { readonly what: string; readonly count: number; readonly late: number }[];
  /** Pieces that are waited for or under way, by lane. */
  readonly pieces: readonly { readonly lane: Lane; readonly count: number }[];
  /** Links to engines by how they stand. */
  readonly links: readonly { readonly engine: string; readonly state: string; readonly count: number }[];
  readonly messages: readonly { readonly way: string; readonly state: string; readonly count: number }[];
  /** Open cases by kind. */
  readonly cases: readonly { readonly kind: string; readonly count: number }[];
}

/** Counts it. Costs a look into an index each, however many the properties are. */
export async function measures(desk: Desk): Promise<Measures> {
  const { store } = desk;
  const now = nowText(desk);
  const [due, pieces, links, messages, cases] = await Promise.all([
    store.select<{ what: string; count: number; since: string }>(
      `SELECT what, COUNT(*) AS count, MIN(dueAt) AS since FROM watched w WHERE dueAt <= $now AND ${NOT_PAUSED} GROUP BY what`,
      { now },
    ),
    store.select<{ lane: Lane; count: number }>(
      `SELECT lane, SUM(total - finished) AS count FROM jobs WHERE state IN ('waiting', 'running') GROUP BY lane`,
    ),
    store.select<{ engine: string; state: string; count: number }>(
      `SELECT a.engine AS engine, l.kind AS state, COUNT(*) AS count FROM link_states l JOIN accounts a ON a.id = l.accountId
        GROUP BY a.engine, l.kind`,
    ),
    store.select<{ way: string; state: string; count: number }>(
      `SELECT way, 'waiting' AS state, COUNT(*) AS count FROM messages WHERE nextAt IS NOT NULL GROUP BY way
        UNION ALL SELECT way, 'dead', COUNT(*) FROM messages WHERE deadAt IS NOT NULL GROUP BY way`,
    ),
    store.select<{ kind: string; count: number }>(
      'SELECT kind, COUNT(*) AS count FROM cases WHERE endedAt IS NULL GROUP BY kind',
    ),
  ]);
  return {
    due: due.map(({ what, count, since }) => ({
      ...{ what, count },
      late: Math.max(0, (Date.parse(now) - Date.parse(since)) / 1000),
    })),
    ...{ pieces, links, messages, cases },
  };
}
