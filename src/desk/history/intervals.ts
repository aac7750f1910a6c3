import { Op } from 'sequelize';
import type { PropertyHistory } from '../../api/documents.js';
import { addressForPeople, parseAddress } from '../../core/address/web-address.js';
import { badgeIntervals, type StandingHistory } from '../../core/badge/intervals.js';
import type { OwnershipFact } from '../../core/badge/standing.js';
import { CheckRow, EnrolmentRow, OwnershipRow, TokenRow } from '../../store/models/enrolments.js';
import { EngineReadingRow, SitemapRow, SubmissionRow } from '../../store/models/sitemaps.js';
import { VariantFindingRow, VariantRow } from '../../store/models/variants.js';
import { AWAY } from '../facts/variant-alerts.js';
import { nowText, type Desk } from '../context/desk.js';
import { namesOf } from '../context/names.js';
import { by } from '../context/newest.js';
import { findProperty } from '../context/references.js';

/** The newest of each that are told; what is older is in the records. */
const MOST_ENROLMENTS = 100;
const MOST_CHECKS = 5_000;
const MOST_INTERVALS = 500;

/** How a property stood over its time. Throws Problem. */
export async function showHistory(desk: Desk, ref: string): Promise<PropertyHistory> {
  const property = await findProperty(ref, { archivedToo: true });
  const own = { propertyId: property.id };
  const [enrolments, doors, away, counts] = await Promise.all([
    badgesOf(desk, property.id),
    VariantRow.findAll({
      where: { ...own, role: 'front-door' },
      order: [['since', 'DESC']],
      limit: MOST_INTERVALS,
    }),
    VariantFindingRow.findAll({
      where: { ...own, code: [...AWAY] },
      order: [['since', 'DESC']],
      limit: MOST_INTERVALS,
    }),
    countsOf(desk, property.id),
  ]);
  return {
    property: { id: property.id, handle: property.handle },
    asOf: nowText(desk),
    enrolments,
    doors: doors.map(({ address, since, endedAt }) => ({
      from: since,
      until: endedAt ?? null,
      address,
      forPeople: addressForPeople(parseAddress(address)),
    })),
    away: away.map(({ finding, since, endedAt }) => ({
      from: since,
      until: endedAt ?? null,
      says: finding.says,
    })),
    counts,
  };
}

/** How each enrolment of a property stood over its time, those that have ended last. */
export async function badgesOf(desk: Desk, propertyId: string): Promise<PropertyHistory['enrolments']> {
  const rows = await EnrolmentRow.findAll({
    where: { propertyId },
    order: [['createdAt', 'DESC']],
    limit: MOST_ENROLMENTS,
  });
  const ids = rows.map(({ id }) => id);
  const of = { where: { enrolmentId: ids } };
  const [names, tokens, checks, ownerships] = await Promise.all([
    namesOf(desk.store, ids),
    TokenRow.findAll(of),
    CheckRow.findAll({
      ...of,
      attributes: [
        'enrolmentId',
        'tokenId',
        'method',
        'seen',
        'firstAt',
        'checkedAt',
        'seenSince',
        'told',
        'toldSince',
      ],
      order: [['checkedAt', 'DESC']],
      limit: MOST_CHECKS,
    }),
    OwnershipRow.findAll(of),
  ]);
  const tokensOf = by(tokens, (one) => one.enrolmentId);
  const checksOf = by(checks, (one) => one.enrolmentId);
  const wordsOf = by(ownerships, (one) => one.enrolmentId);
  return rows
    .map((row) => {
      const history: StandingHistory = {
        enrolledAt: new Date(row.createdAt),
        endedAt: row.endedAt == null ? null : new Date(row.endedAt),
        tokens: (tokensOf.get(row.id) ?? []).map((one) => ({
          id: one.id,
          method: one.method,
          issuedAt: new Date(one.issuedAt),
          replacedAt: one.replacedAt == null ? null : new Date(one.replacedAt),
        })),
        checks: (checksOf.get(row.id) ?? []).map((one) => ({
          tokenId: one.tokenId,
          method: one.method,
          told: one.told ?? null,
          firstAt: new Date(one.firstAt ?? one.checkedAt),
          at: new Date(one.checkedAt),
          toldSince: new Date(one.toldSince ?? one.seenSince),
        })),
        ownerships: (wordsOf.get(row.id) ?? []).map(wordOf),
      };
      return {
        name: names.get(row.id) ?? row.id,
        engine: { id: row.engine, title: desk.book.titleOf(row.engine) },
        ended: row.endedAt != null,
        badges: badgeIntervals(history).map(({ badge, from, until }) => ({
          badge,
          from: from.toISOString(),
          until: until?.toISOString() ?? null,
        })),
      };
    })
    .sort((a, b) => Number(a.ended) - Number(b.ended) || a.name.localeCompare(b.name));
}

function wordOf({ kind, at, method, reason }: OwnershipRow): OwnershipFact {
  if (kind === 'withdrawn') return { kind, at: new Date(at), reason: reason ?? '' };
  return { kind: 'confirmed', at: new Date(at), method: method ?? 'meta' };
}

/** What engines counted, reading by reading; those that say the same are one stretch already. */
async function countsOf(desk: Desk, propertyId: string): Promise<PropertyHistory['counts']> {
  const sitemaps = await SitemapRow.findAll({ where: { propertyId }, attributes: ['id', 'url'] });
  const submissions = await SubmissionRow.findAll({
    where: { sitemapId: sitemaps.map(({ id }) => id) },
    attributes: ['id', 'sitemapId', 'enrolmentId'],
  });
  const [enrolments, readings] = await Promise.all([
    EnrolmentRow.findAll({
      where: { id: { [Op.in]: submissions.map(({ enrolmentId }) => enrolmentId) } },
      attributes: ['id', 'engine'],
    }),
    EngineReadingRow.findAll({
      where: { submissionId: submissions.map(({ id }) => id) },
      order: [['at', 'DESC']],
      limit: MOST_INTERVALS,
    }),
  ]);
  const urlOf = new Map(sitemaps.map(({ id, url }) => [id, url]));
  const engineOf = new Map(enrolments.map(({ id, engine }) => [id, engine]));
  const submissionOf = new Map(submissions.map((one) => [one.id, one]));
  const later = new Map<string, string>();
  return readings.map((one) => {
    const submission = submissionOf.get(one.submissionId);
    const engine = engineOf.get(submission?.enrolmentId ?? '') ?? '';
    // It held until the engine said otherwise; the newest still does.
    const until = later.get(one.submissionId) ?? null;
    const from = one.firstAt ?? one.at;
    later.set(one.submissionId, from);
    return {
      from,
      until,
      engine: { id: engine, title: desk.book.titleOf(engine) },
      sitemap: urlOf.get(submission?.sitemapId ?? '') ?? '',
      found: one.found ?? null,
      listed: one.listed ?? null,
      trouble: one.trouble ?? null,
    };
  });
}
