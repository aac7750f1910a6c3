import type { Sitemap, YardRow } from '../../api/documents.js';
import { bestBadge, type Badge } from '../../core/badge/standing.js';
import { plainly } from '../../core/report/owner-words.js';
import { REPORT_WORDS, type ReportWords } from '../../core/report/report-words.js';
import type { SheetLanguage } from '../../core/sheet/sentences.js';
import type { AlertKind } from '../../core/alerts/alert.js';
import type { StepKind } from '../../core/worklist/kinds.js';
import type { Told } from '../../core/report/report.js';
import type { Report, ReportedProperty } from '../../core/report/mail.js';
import { ClientRow } from '../../store/models/clients.js';
import type { Desk } from '../context/desk.js';
import { HOUR } from '../../core/time/duration.js';
import { pastStanding, type PastStanding } from './past-standing.js';
import { siteNames } from './site-names.js';
import { MOST_READ, journalWordsOf, type Span } from './journal-words.js';

/** What of the journal is told to a client: what was taken on, proved, withdrawn, submitted. */
const TOLD = [
  'property.added',
  'enrolled',
  'enrolled.again',
  'ownership.confirmed',
  'ownership.withdrawn',
  'sitemap.submitted',
];

/** Everything that a report tells, of one client (by identifier) or of all, from what is kept ready. */
export async function reportFacts(
  desk: Desk,
  clientId: string | null,
  { from, to }: Span,
  language: SheetLanguage = 'en',
): Promise<Report> {
  const words = REPORT_WORDS[language];
  const nameOf = await siteNames(clientId);
  const client = clientId === null ? null : await ClientRow.findByPk(clientId, { rejectOnEmpty: true });
  const of = clientId === null ? 'true' : 'clientId = $clientId';
  const values = { clientId, from, to, most: MOST_READ };
  // What is told of all goes to the agency's own people, who want to know which enrolment is meant.
  const said = clientId === null ? (says: string) => says : plainly;
  // Of all together only those are told one by one that need care.
  const which = clientId === null ? `(instr(badges, ' slipping ') OR instr(badges, ' lost '))` : of;
  const [rows, sitemaps, totals, happened, cases, steps] = await Promise.all([
    desk.store.select<{ document: string }>(
      `SELECT document FROM yard_rows WHERE ${which} ORDER BY handle LIMIT $most`,
      values,
    ),
    clientId === null
      ? []
      : desk.store.select<{ propertyId: string; document: string }>(
          `SELECT propertyId, document FROM sitemap_rows WHERE ${of} ORDER BY byProperty LIMIT $most`,
          values,
        ),
    totalsOf(desk, of, values),
    journalWordsOf(desk, clientId, TOLD, { from, to }, language),
    desk.store.select<AlertRow>(
      `SELECT c.openedAt, c.endedAt, c.mended, p.handle AS property, c.kind, c.cause, c.says FROM cases c JOIN properties p ON p.id = c.propertyId
        WHERE ((c.openedAt > $from AND c.openedAt <= $to) OR (c.endedAt > $from AND c.endedAt <= $to))
          AND ${clientId === null ? 'true' : 'c.clientId = $clientId'} ORDER BY c.openedAt DESC LIMIT $most`,
      values,
    ),
    desk.store.select<StepRow>(
      `SELECT document->>'$.property.handle' AS handle, kind, (SELECT group_concat(value->>'$.title', ', ') FROM json_each(document, '$.engines')) AS engine, document->>'$.step.says' AS says FROM entries
        WHERE acts = 'client' AND kind <> 'put-off' AND ${of} ORDER BY place LIMIT $most`,
      values,
    ),
  ]);
  // Of a time that is over it is told how it stood then; what is to be done is only of today.
  const isOver = clientId !== null && desk.clock.now().getTime() - Date.parse(to) > HOUR;
  const then = isOver ? await pastStanding(desk, clientId, to, MOST_READ) : null;
  return {
    client: client?.name ?? null,
    language,
    ...{ from: new Date(from), to: new Date(to), totals: then ? totalsThen(then) : totals },
    properties: then
      ? then.map((one) => reportedThen(one, words))
      : rows.map(({ document }) => reported(JSON.parse(document) as YardRow, sitemaps, words)),
    changed: [...happened, ...cases.flatMap((one) => changesOf(one, from, words))]
      .map(({ at, property, says }) => ({ at: new Date(at), property: nameOf(property), says: said(says) }))
      .sort((a, b) => b.at.getTime() - a.at.getTime()),
    toDo: eachOnce(
      (then ? [] : steps).map((one) => ({ property: nameOf(one.handle), says: said(stepIn(one, words)) })),
    ),
  };
}

/** What two enrolments at one engine ask for in the same words is one thing to an owner. */
function eachOnce<One extends { readonly property: string; readonly says: string }>(
  all: readonly One[],
): One[] {
  return all.filter(
    (one, at) => all.findIndex(({ property, says }) => property === one.property && says === one.says) === at,
  );
}

interface StepRow {
  readonly handle: string;
  readonly kind: StepKind;
  readonly engine: string | null;
  readonly says: string;
}

function stepIn({ kind, engine, says }: StepRow, { steps, anyStep }: ReportWords): string {
  return steps === null ? says : (steps[kind]?.(engine ?? '') ?? anyStep);
}

/** What a case says in a language of reports. */
export function alertIn(
  { kind, cause, says }: { readonly kind: AlertKind; readonly cause: string; readonly says: string },
  { cases }: ReportWords,
): string {
  return cases === null ? says : cases[kind](cause);
}

interface AlertRow {
  readonly kind: AlertKind;
  readonly cause: string;
  readonly openedAt: string;
  readonly endedAt: string | null;
  readonly mended: number | null;
  readonly property: string;
  readonly says: string;
}

/** A harm that came, and one that was mended. */
function changesOf(
  { openedAt, endedAt, mended, property, ...one }: AlertRow,
  from: string,
  words: ReportWords,
): Told[] {
  const says = alertIn(one, words);
  return [
    ...(openedAt > from ? [{ at: openedAt, property, says }] : []),
    ...(endedAt !== null && mended === 1 ? [{ at: endedAt, property, says: words.mail.over(says) }] : []),
  ];
}

async function totalsOf(desk: Desk, of: string, values: object): Promise<Report['totals']> {
  const [row] = await desk.store.select<Report['totals']>(
    `SELECT (SELECT COUNT(*) FROM yard_rows WHERE ${of}) AS properties,
       CAST(TOTAL(badge = 'held') AS INTEGER) AS held, CAST(TOTAL(badge = 'slipping') AS INTEGER) AS slipping,
       CAST(TOTAL(badge = 'lost') AS INTEGER) AS lost FROM standings WHERE ${of} AND badge IN ('held', 'slipping', 'lost')`,
    { ...values },
  );
  return row ?? { properties: 0, held: 0, slipping: 0, lost: 0 };
}

/** How a property stands at an engine by all its enrolments there: the best counts, but what goes wrong with one is not hidden by another. */
function standsAt(
  badges: readonly Badge[],
  { stands, oneOfMore }: ReportWords,
): { readonly isHeld: boolean; readonly stands: string } {
  const worst = (['lost', 'slipping'] as const).find((badge) => badges.includes(badge));
  const badge = worst ?? bestBadge(badges) ?? 'bare';
  const many = badges.filter((one) => one === badge).length;
  const isOneOfMore = worst !== undefined && many < badges.length;
  return {
    isHeld: badge === 'held',
    stands: isOneOfMore ? oneOfMore(stands[badge], many, badges.length) : stands[badge],
  };
}

function totalsThen(then: readonly PastStanding[]): Report['totals'] {
  const all = then.flatMap(({ enrolments }) => enrolments);
  const count = (badge: Badge) => all.filter((one) => one.badge === badge).length;
  return {
    properties: then.length,
    ...{ held: count('held'), slipping: count('slipping'), lost: count('lost') },
  };
}

function reportedThen({ handle, address, enrolments }: PastStanding, words: ReportWords): ReportedProperty {
  const engines = [...new Set(enrolments.map(({ engine }) => engine))];
  const at = engines.map((engine) => ({
    engine,
    ...standsAt(
      enrolments.filter((one) => one.engine === engine).map(({ badge }) => badge),
      words,
    ),
  }));
  return {
    handle,
    address,
    held: at.filter(({ isHeld }) => isHeld).map(({ engine }) => engine),
    open: at.filter(({ isHeld }) => !isHeld).map(({ engine, stands }) => ({ engine, stands })),
    sitemaps: [],
  };
}

function reported(
  { property, enrolments }: YardRow,
  sitemaps: readonly { readonly propertyId: string; readonly document: string }[],
  words: ReportWords,
): ReportedProperty {
  const engines = [...new Map(enrolments.map(({ engine }) => [engine.id, engine.title])).entries()];
  const at = engines.map(([id, engine]) => {
    const badges = enrolments.filter((one) => one.engine.id === id).map(({ badge }) => badge);
    return { engine, ...standsAt(badges, words) };
  });
  return {
    handle: property.handle,
    address: property.addressForPeople,
    held: at.filter(({ isHeld }) => isHeld).map(({ engine }) => engine),
    open: at.filter(({ isHeld }) => !isHeld).map(({ engine, stands }) => ({ engine, stands })),
    sitemaps: sitemaps
      .filter(({ propertyId }) => propertyId === property.id)
      .map(({ document }) => JSON.parse(document) as Sitemap)
      .map(({ url, reading, submissions }) => ({
        url,
        addresses: reading?.addresses ?? null,
        // By how many enrolments an engine knows it is between it and us.
        engines: [...new Map(submissions.map((one) => [one.engine.id, one])).values()].map(
          ({ engine, engineReading }) => ({ engine: engine.title, found: engineReading?.found ?? null }),
        ),
      })),
  };
}
