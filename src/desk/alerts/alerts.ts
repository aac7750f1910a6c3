import type { Transaction } from 'sequelize';
import { isUrgent, type AlertKind, type AlertNow } from '../../core/alerts/alert.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';

/** A case on record: what people are told of, from when it was met until it was over. */
export interface AlertValues {
  readonly id: string;
  /** Null where it is of no property: it is ourselves. */
  readonly propertyId: string | null;
  readonly clientId: string | null;
  readonly kind: AlertKind;
  readonly cause: string;
  readonly since: string;
  readonly says: string;
  readonly remedy: string;
  readonly acts: string;
  readonly until: string | null;
  /** JSON. */
  readonly touches: string;
  /** JSON: the last good evidence beside the present one, line by line. */
  readonly difference: string;
  /** 1 where it is told at once, 0 where with the digest. */
  readonly atOnce: number;
  readonly openedAt: string;
  readonly endedAt: string | null;
  /** 1 where it ended well, so that it is told; 0 where something worse took its place, or nobody looks after it any more. */
  readonly mended: number | null;
  /** When it was put into messages, and its end. */
  readonly toldAt: string | null;
  readonly endToldAt: string | null;
  /** The address at which a website is out of reach; null for other cases. */
  readonly place: string | null;
}

/** What a property's alerts are now, and whose they are. */
export interface AlertsOf {
  readonly clientId: string;
  readonly cases: readonly AlertNow[];
  /** Those that stay open, if they are, until it can be told again whether they go on. */
  readonly unclear: readonly Pick<AlertNow, 'kind' | 'cause'>[];
  /** Whether anybody looks after it at all. */
  readonly isKept: boolean;
}

/**
 * Writes down which alerts have come and which are resolved. Safe to be done again with the same: an alert is open once.
 * @param derived by property
 */
export async function recordAlerts(
  desk: Desk,
  derived: ReadonlyMap<string, AlertsOf>,
  transaction: Transaction,
): Promise<void> {
  const ids = [...derived.keys()];
  if (ids.length === 0) return;
  const open = await desk.store.select<AlertValues>(
    'SELECT * FROM cases WHERE propertyId IN (SELECT value FROM json_each($ids)) AND endedAt IS NULL',
    { ids },
    transaction,
  );
  const now = nowText(desk);
  const news: AlertValues[] = [];
  for (const [propertyId, { clientId, cases }] of derived)
    for (const one of cases) {
      const there = open.find((row) => row.propertyId === propertyId && isSame(row, one));
      const shown = shownOf(one);
      if (!there)
        news.push({
          ...{
            id: newId(),
            propertyId,
            clientId,
            kind: one.kind,
            cause: one.cause,
            since: one.since.toISOString(),
          },
          ...shown,
          ...{ atOnce: isUrgent(one, new Date(now)) ? 1 : 0, openedAt: now, endedAt: null, mended: null },
          ...{ toldAt: null, endToldAt: null },
        });
      else if (isNews(there, shown))
        await desk.store.run(
          // Where it is may be known only later: a name server that says nothing at first is named by the next check.
          `UPDATE cases SET says = $says, remedy = $remedy, touches = $touches, until = $until, place = coalesce($place, place),
             difference = iif($difference = '[]', difference, $difference) WHERE id = $id`,
          { ...shown, id: there.id },
          transaction,
        );
    }
  await desk.store.insert(
    'cases',
    news.map((row) => ({ ...row })),
    transaction,
  );
  for (const row of open) {
    const own = derived.get(row.propertyId ?? '');
    if (own && [...own.cases, ...own.unclear].some((one) => isSame(row, one))) continue;
    await desk.store.run(
      'UPDATE cases SET endedAt = $now, mended = $mended WHERE id = $id',
      { now, mended: own && isMended(row, own) ? 1 : 0, id: row.id },
      transaction,
    );
  }
}

function isSame(row: AlertValues, one: Pick<AlertNow, 'kind' | 'cause'>): boolean {
  return row.kind === one.kind && row.cause === one.cause;
}

function shownOf({ says, remedy, acts, until, touches, difference = [], place }: AlertNow): Shown {
  return {
    says,
    remedy,
    acts,
    until: until?.toISOString() ?? null,
    touches: JSON.stringify(touches),
    difference: JSON.stringify(difference),
    place: place ?? null,
  };
}

type Shown = Pick<AlertValues, 'says' | 'remedy' | 'acts' | 'until' | 'touches' | 'difference' | 'place'>;

/** Whether an alert that is open is worded otherwise by now. What evidence once showed stays, also when it was deleted. */
function isNews(there: AlertValues, shown: Shown): boolean {
  return (
    there.says !== shown.says ||
    there.touches !== shown.touches ||
    there.until !== shown.until ||
    (there.place !== shown.place && shown.place !== null) ||
    (there.difference !== shown.difference && shown.difference !== '[]')
  );
}

/** Cases in the place of which something worse may come. */
const MAY_WORSEN: readonly AlertKind[] = ['slipping', 'out-of-reach', 'enrolment-lost', 'token-ends'];

/** Whether a case that is over ended well, rather than by something worse, or by time. */
function isMended({ kind, touches }: AlertValues, { cases, isKept }: AlertsOf): boolean {
  if (!isKept || kind === 'moved') return false;
  if (!MAY_WORSEN.includes(kind)) return true;
  const touched = JSON.parse(touches) as string[];
  const worse = cases.filter(
    (one) => one.kind === 'lost' || one.kind === 'slipping' || one.kind === 'out-of-reach',
  );
  return !worse.some((one) => one.touches.some((name) => touched.includes(name)));
}
