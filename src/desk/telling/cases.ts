import type { Transaction } from 'sequelize';
import { isToldAtOnce, type CaseKind, type CaseNow } from '../../core/telling/case.js';
import { writtenMinute } from '../../core/time/written.js';
import type { Work } from '../../engines/engine.js';
import { newId } from '../../store/ids.js';
import { nowText, type Desk } from '../context/desk.js';

/** A case on record: what people are told of, from when it was met until it was over. */
export interface CaseValues {
  readonly id: string;
  /** Null where it is of no property: it is ourselves. */
  readonly propertyId: string | null;
  readonly clientId: string | null;
  readonly kind: CaseKind;
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
}

/** What a property's cases are now, and whose they are. */
export interface CasesOf {
  readonly clientId: string;
  readonly cases: readonly CaseNow[];
  /** Those that stay open, if they are, until it can be told again whether they go on. */
  readonly unclear: readonly Pick<CaseNow, 'kind' | 'cause'>[];
  /** Whether anybody looks after it at all. */
  readonly isKept: boolean;
}

/**
 * Writes down which cases have come and which are over. Safe to be done again with the same: a case is open once.
 * @param derived by property
 */
export async function recordCases(
  desk: Desk,
  derived: ReadonlyMap<string, CasesOf>,
  transaction: Transaction,
): Promise<void> {
  const ids = [...derived.keys()];
  if (ids.length === 0) return;
  const open = await desk.store.select<CaseValues>(
    'SELECT * FROM cases WHERE propertyId IN (:ids) AND endedAt IS NULL',
    { ids },
    transaction,
  );
  const now = nowText(desk);
  const news: CaseValues[] = [];
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
          ...{ atOnce: isToldAtOnce(one, new Date(now)) ? 1 : 0, openedAt: now, endedAt: null, mended: null },
          ...{ toldAt: null, endToldAt: null },
        });
      else if (isNews(there, shown))
        await desk.store.run(
          `UPDATE cases SET says = :says, remedy = :remedy, touches = :touches, until = :until,
             difference = iif(:difference = '[]', difference, :difference) WHERE id = :id`,
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
      'UPDATE cases SET endedAt = :now, mended = :mended WHERE id = :id',
      { now, mended: own && isMended(row, own) ? 1 : 0, id: row.id },
      transaction,
    );
  }
}

function isSame(row: CaseValues, one: Pick<CaseNow, 'kind' | 'cause'>): boolean {
  return row.kind === one.kind && row.cause === one.cause;
}

function shownOf({ says, remedy, acts, until, touches, difference = [] }: CaseNow): Shown {
  return {
    says,
    remedy,
    acts,
    until: until?.toISOString() ?? null,
    touches: JSON.stringify(touches),
    difference: JSON.stringify(difference),
  };
}

type Shown = Pick<CaseValues, 'says' | 'remedy' | 'acts' | 'until' | 'touches' | 'difference'>;

/** Whether a case that is open is told in other words by now. What evidence once told stays, also when it was let go. */
function isNews(there: CaseValues, shown: Shown): boolean {
  return (
    there.says !== shown.says ||
    there.touches !== shown.touches ||
    there.until !== shown.until ||
    (there.difference !== shown.difference && shown.difference !== '[]')
  );
}

/** Cases in the place of which something worse may come. */
const MAY_WORSEN: readonly CaseKind[] = ['slipping', 'out-of-reach', 'enrolment-lost', 'token-ends'];

/** Whether a case that is over ended well, rather than by something worse, or by time. */
function isMended({ kind, touches }: CaseValues, { cases, isKept }: CasesOf): boolean {
  if (!isKept || kind === 'moved') return false;
  if (!MAY_WORSEN.includes(kind)) return true;
  const touched = JSON.parse(touches) as string[];
  const worse = cases.filter(
    (one) => one.kind === 'lost' || one.kind === 'slipping' || one.kind === 'out-of-reach',
  );
  return !worse.some((one) => one.touches.some((name) => touched.includes(name)));
}

/** Opens the case that nothing can be reached from here: it is of no property. */
export async function openOwnCase(
  desk: Desk,
  { id, since, says }: { readonly id: string; readonly since: Date; readonly says: string },
  transaction: Transaction,
): Promise<void> {
  const row: CaseValues = {
    ...{
      id: newId(),
      propertyId: null,
      clientId: null,
      kind: 'cut-off',
      cause: id,
      since: since.toISOString(),
    },
    ...{ says, remedy: '', acts: 'us', until: null, touches: '[]', difference: '[]' },
    ...{ atOnce: 1, openedAt: nowText(desk) },
    ...{ endedAt: null, mended: null, toldAt: null, endToldAt: null },
  };
  await desk.store.insert('cases', [{ ...row }], transaction);
}

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
 * Opens a case for what an engine has switched off for a while, and ends it where that is on again: what waited can be done then. It is
 * of no property, since it touches all that are enrolled there. Safe to be done again.
 */
export async function recordSwitchedOff(desk: Desk): Promise<void> {
  const now = nowText(desk);
  const off = await desk.store.select<SwitchedOff>(
    `SELECT l.accountId, l.work, a.engine, l.since, l.until FROM link_states l JOIN accounts a ON a.id = l.accountId
      WHERE l.kind = 'waits' AND l.until > :now`,
    { now },
  );
  const open = await desk.store.select<{ id: string; cause: string }>(
    `SELECT id, cause FROM cases WHERE kind = 'switched-off' AND endedAt IS NULL`,
  );
  const causeOf = ({ accountId, work }: SwitchedOff) => `${accountId} ${work}`;
  const news = off.filter((one) => !open.some(({ cause }) => cause === causeOf(one)));
  const over = open.filter(({ cause }) => !off.some((one) => causeOf(one) === cause));
  if (news.length + over.length === 0) return;
  await desk.store.writeQuietly(async (transaction) => {
    const rows = news.map((one): CaseValues => ({
      ...{ id: newId(), propertyId: null, clientId: null, kind: 'switched-off', cause: causeOf(one) },
      ...{ since: one.since, says: offSays(desk, one), remedy: '', acts: 'engine', until: one.until },
      ...{ touches: '[]', difference: '[]', atOnce: 0, openedAt: now, endedAt: null, mended: null },
      ...{ toldAt: null, endToldAt: null },
    }));
    await desk.store.insert(
      'cases',
      rows.map((row) => ({ ...row })),
      transaction,
    );
    await desk.store.run(
      `UPDATE cases SET endedAt = :now, mended = 1 WHERE id IN (SELECT value FROM json_each(:ids)) AND endedAt IS NULL`,
      { now, ids: JSON.stringify(over.map(({ id }) => id)) },
      transaction,
    );
  });
}

function offSays(desk: Desk, { engine, work, until }: SwitchedOff): string {
  return `${desk.book.titleOf(engine)} has switched off ${WORK[work]} until ${writtenMinute(until)} UTC; what waits for it can be done then.`;
}

/** Ends it, well. @param cause the outage */
export async function endOwnCase(desk: Desk, cause: string, transaction: Transaction): Promise<void> {
  await desk.store.run(
    `UPDATE cases SET endedAt = :now, mended = 1 WHERE kind = 'cut-off' AND cause = :cause AND endedAt IS NULL`,
    { cause, now: nowText(desk) },
    transaction,
  );
}
