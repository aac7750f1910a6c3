import type { EvidenceSeen, HopSeen } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import { differenceOf, type Seen } from '../../core/alerts/difference.js';
import type { CheckRow } from '../../store/models/enrolments.js';
import type { Desk } from '../context/desk.js';
import { evidenceOf } from '../history/stretches.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';

/** Records and servers that are held beside each other. */
const MOST = 12;

interface Good {
  readonly id: string;
  readonly tokenId: string;
  readonly checkedAt: string;
}

/** What has changed since a token was seen last, line by line, and when that was. */
export interface SinceGood {
  readonly lines: readonly string[];
  readonly goodAt: Date | null;
}

/**
 * What has changed at the placements that do not show their token any more: the last good evidence beside the present one, by
 * identifier of the check. Costs nothing where every token is seen.
 */
export async function changedSince(
  desk: Desk,
  enrolments: readonly EnrolmentFacts[],
): Promise<ReadonlyMap<string, SinceGood>> {
  const gone = enrolments
    .filter(({ standing }) => standing.badge === 'slipping' || standing.badge === 'lost')
    .flatMap(({ checks }) => checks.filter(({ told, seen }) => !seen && told === 'gone'));
  if (gone.length === 0) return new Map();
  const good = await desk.store.select<Good>(
    `SELECT c.id, c.tokenId, c.checkedAt FROM json_each($tokens) t JOIN checks c ON c.id =
       (SELECT n.id FROM checks n WHERE n.tokenId = t.value AND n.seen ORDER BY n.checkedAt DESC, n.rowid DESC LIMIT 1)`,
    { tokens: JSON.stringify(gone.map(({ tokenId }) => tokenId)) },
  );
  const goodOf = new Map(good.map((one) => [one.tokenId, one]));
  const evidence = await evidenceOf(
    desk,
    [...gone, ...good].map(({ id }) => id),
  );
  const seenBy = (check: Good | undefined): Seen | null => {
    const found = check && (evidence.get(check.id) as EvidenceSeen | undefined);
    return found ? seenOf(found, check.checkedAt) : null;
  };
  return new Map(
    gone.map((check: CheckRow) => {
      const last = goodOf.get(check.tokenId);
      const lines = differenceOf(seenBy(last), seenBy(check));
      return [check.id, { lines, goodAt: last ? new Date(last.checkedAt) : null }];
    }),
  );
}

function seenOf(evidence: EvidenceSeen, at: string): Seen {
  return { at: new Date(at), things: evidence.kind === 'dns' ? dnsThings(evidence) : pageThings(evidence) };
}

function pageThings(page: EvidenceSeen & { kind: 'page' }): Seen['things'] {
  const last = page.hops.at(-1);
  const bytes = page.bytes === null ? '' : `, ${counted(page.bytes, 'byte', 'bytes')}`;
  return [
    ...(last ? [{ what: 'asked', says: last.url }, ...serverThings(last)] : []),
    {
      what: 'answered',
      says: `${answerOf(last)}${page.mediaType === null ? '' : `, ${page.mediaType}`}${bytes}`,
    },
    ...(page.around?.lines ?? [])
      .filter(({ number }) => number === page.around?.line)
      .map(({ number, text }) => ({ what: `line ${String(number)}`, says: text.trim() })),
  ];
}

function answerOf(hop: HopSeen | undefined): string {
  return hop?.status == null ? (hop?.detail ?? 'nothing') : `status ${String(hop.status)}`;
}

function serverThings({ address, headers, certificate }: HopSeen): Seen['things'] {
  const server = headers['server'];
  return [
    ...(address === null ? [] : [{ what: 'from', says: address }]),
    ...(server === undefined ? [] : [{ what: 'server', says: server }]),
    ...(certificate ? [{ what: 'certificate of', says: certificate.issuer }] : []),
  ];
}

function dnsThings({ name, servers, records }: EvidenceSeen & { kind: 'dns' }): Seen['things'] {
  const own = servers.filter(({ role }) => role === 'delegated').map((one) => one.name);
  return [
    { what: 'asked', says: name },
    ...[...new Set(own)]
      .sort()
      .slice(0, MOST)
      .map((says) => ({ what: 'name server', says })),
    ...records
      .map(({ value }) => value)
      .sort()
      .slice(0, MOST)
      .map((says) => ({ what: 'TXT', says: `“${says}”` })),
  ];
}
