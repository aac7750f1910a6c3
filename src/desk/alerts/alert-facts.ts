import { isIP } from 'node:net';
import type { SinceGood } from './last-good.js';
import { hindranceOf } from '../../core/badge/visibility.js';
import { registrableOf, unicodeOf } from '../../core/address/host.js';
import { addressForPeople, addressText, parseAddress } from '../../core/address/web-address.js';
import type { AlertEnrolment, AlertFacts, AlertSitemap } from '../../core/alerts/alert.js';
import type { Finding } from '../../core/findings/finding.js';
import { durationMs } from '../../core/time/duration.js';
import { sayMove } from '../../core/variants/move.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { countsOf, type SitemapFacts } from '../facts/sitemap-facts.js';
import { AWAY, CERTIFICATE_ENDS } from '../facts/variant-alerts.js';
import type { Outage } from '../facts/outage.js';
import type { PropertyFacts } from '../facts/property-facts.js';

/** What stands in the place of a front door that could not be looked at. */
const UNSEEN: readonly string[] = ['dark', 'closed', 'broken-certificate'];

interface Facts extends PropertyFacts {
  readonly outage: Outage | null;
  /** What has changed at a placement since its token was seen, by identifier of the check. */
  readonly changed: ReadonlyMap<string, SinceGood>;
}

/** What is on record of a property, as cases are made of it. */
export function alertFactsOf(facts: Facts): AlertFacts {
  const { desk, property, enrolments, variants, sitemapFacts, outage, changed } = facts;
  const { move } = variants;
  const told = (wanted: (code: string) => boolean) =>
    variants.told
      .filter(({ finding }) => wanted(finding.code))
      .map(({ finding, since }) => ({
        says: finding.says,
        remedy: finding.remedy,
        since: new Date(since),
      }));
  return {
    now: desk.clock.now(),
    handle: property.handle,
    enrolments: enrolments
      .filter(({ row }) => row.endAskedAt == null)
      .map((one) => enrolmentOf(one, changed)),
    move: move && {
      at: new Date(move.at),
      to: addressForPeople(parseAddress(move.toAddress)),
      says: sayMove(parseAddress(move.fromAddress), parseAddress(move.toAddress)),
    },
    away: told((code) => AWAY.includes(code)),
    certificate: told((code) => code === CERTIFICATE_ENDS),
    nameEnds:
      property.nameEnds == null
        ? null
        : {
            name: unicodeOf(registrableOf(property.host)),
            at: new Date(property.nameEnds),
          },
    doorUnseen: variants.roles.some(
      ({ address, role }) => address === addressText(frontDoorOf(property)) && UNSEEN.includes(role),
    ),
    sitemaps: sitemapFacts
      .filter(({ withdrawn, submissions }) => !withdrawn && submissions.length > 0)
      .map((one) => sitemapOf(desk, one)),
    cutOff: outage && {
      since: new Date(outage.since),
      until: outage.until === null ? null : new Date(outage.until),
    },
  };
}

function enrolmentOf(
  { row, name, profile, standing, tokens, checks, ownership }: EnrolmentFacts,
  changed: Facts['changed'],
): AlertEnrolment {
  const held = ownership?.kind === 'confirmed' ? (ownership.method ?? null) : null;
  const newest = [...checks].sort((a, b) => b.checkedAt.localeCompare(a.checkedAt));
  const check = held === null ? newest[0] : checks.find(({ method }) => method === held);
  const by = check && !check.seen ? hindranceOf(check.findings) : null;
  const first = check?.findings.find(({ grade }) => grade === 'stops') ?? check?.findings[0];
  const expires = tokens.flatMap(({ expiresAt }) => (expiresAt == null ? [] : [expiresAt])).sort();
  return {
    name,
    engine: profile.title,
    badge: standing.badge,
    badgeSince: standing.since,
    method: check?.method ?? held,
    look: check
      ? {
          at: new Date(check.checkedAt),
          since: new Date(check.toldSince ?? check.seenSince),
          says: first?.says ?? '',
          remedy: first?.remedy ?? '',
          wellSince: check.seen ? new Date(check.seenSince) : null,
          difference: changed.get(check.id)?.lines ?? [],
          lastSeenAt: changed.get(check.id)?.goodAt ?? null,
          hindered: by && { by, since: new Date(check.seenSince), place: placeIn(check.findings) },
        }
      : null,
    actsWithin: profile.keeps
      ? { looksEvery: durationMs(profile.keeps.looksEvery), grace: durationMs(profile.keeps.grace) }
      : null,
    engineLookedAt: row.engineLookedAt == null ? null : new Date(row.engineLookedAt),
    reason: ownership?.kind === 'withdrawn' ? (ownership.reason ?? null) : null,
    missingSince: row.missingSince == null ? null : new Date(row.missingSince),
    tokenExpiresAt: expires[0] === undefined ? null : new Date(expires[0]),
  };
}

/** Findings by which the server itself does not answer, rather than one website at it. */
const SERVER_SILENT: readonly string[] = ['reach.timed-out', 'reach.unreachable', 'reach.refused'];

/** Findings by which no name server of a zone answers as it should. */
const NAMES_SILENT: readonly string[] = ['reach.resolver-fails', 'dns.server-fails', 'dns.no-answer'];

/** The address that was dialled in vain, or the names of the name servers that do not answer. */
function placeIn(findings: readonly Finding[]): string | null {
  const told = (codes: readonly string[], key: string) => {
    const value = findings.find(({ code }) => codes.includes(code))?.evidence[key];
    return typeof value === 'string' ? value : '';
  };
  const address = told(SERVER_SILENT, 'address');
  if (isIP(address) > 0) return address;
  const names = told(NAMES_SILENT, 'delegated').split(', ').sort();
  return names.every((name) => name.includes('.')) ? names.join(', ') : null;
}

function sitemapOf(desk: Desk, sitemap: SitemapFacts): AlertSitemap {
  const { row, reading, state, submissions } = sitemap;
  const since = new Date(reading?.firstAt ?? reading?.at ?? row.createdAt);
  const told = (code: string) => {
    const found = reading?.findings.find((one) => one.code === code);
    return found ? { says: found.says, remedy: found.remedy, since } : null;
  };
  const [worst] = reading?.findings ?? [];
  return {
    url: row.url,
    unreachable:
      state === 'unreachable' && reading && worst
        ? { says: worst.says, remedy: worst.remedy, since, at: new Date(reading.at) }
        : null,
    fell: told('sitemap.fell'),
    still: told('sitemap.stands-still'),
    overdueAt: submissions.flatMap((one) => {
      const profile = desk.book.profiles.get(one.known.engine.id);
      const counts = profile && countsOf(desk, profile, sitemap, one);
      // Before it is told, it was asked once more.
      const asked = one.row.askedAt ?? one.engine?.at;
      const isAsked = counts?.dueBy != null && asked !== undefined && new Date(asked) >= counts.dueBy;
      return profile && counts?.state === 'overdue' && counts.dueBy && isAsked
        ? [{ engine: profile.title, since: counts.dueBy }]
        : [];
    }),
  };
}
