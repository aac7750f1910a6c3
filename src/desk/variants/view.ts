import type { Move, Variant, VariantFinding, Variants } from '../../api/documents.js';
import { unicodeOf } from '../../core/address/host.js';
import { addressForPeople, parseAddress } from '../../core/address/web-address.js';
import { followingOf, sayMove } from '../../core/variants/move.js';
import { sparingProofs } from '../../core/variants/proven-there.js';
import { isUsed } from '../../core/variants/roles.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { HostRow, MoveRow, VariantFindingRow, VariantRow } from '../../store/models/variants.js';
import { heldAbove } from '../facts/covering.js';
import { enrolmentFacts, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import type { Desk } from '../context/desk.js';
import { findProperty } from '../context/references.js';
import { sitemapFacts } from '../facts/sitemap-facts.js';
import { coverByEngine, coveringOf, type CoverAt } from '../facts/cover.js';

const DAY_MS = 86_400_000;
/** Earlier roles and findings that are shown; the records keep them all. */
const HISTORY_SHOWN = 50;
const ORDER: readonly string[] = [
  'front-door',
  'answers',
  'framed',
  'leads',
  'elsewhere',
  'closed',
  'broken-certificate',
  'dark',
];

/** Everything that is on record of a property's variants, with what covers them. */
export async function showVariants(desk: Desk, ref: string): Promise<Variants> {
  const property = await findProperty(ref);
  const own = { propertyId: property.id };
  const [rows, findings, hosts, move, facts] = await Promise.all([
    VariantRow.findAll({ where: own, order: [['since', 'DESC'], 'address'], limit: 200 }),
    VariantFindingRow.findAll({ where: own, order: [['since', 'DESC']], limit: 200 }),
    HostRow.findAll({ where: { ...own, endedAt: null }, order: ['host'] }),
    MoveRow.findOne({ where: own, order: [['at', 'DESC']] }),
    EnrolmentRow.findAll({ where: { ...own, endedAt: null }, order: ['engine', 'reach', 'createdAt'] }).then(
      (some) => enrolmentFacts(desk, some),
    ),
  ]);
  const live = rows.filter(({ endedAt }) => endedAt == null);
  const covers = coverByEngine(property, live, facts, (await heldAbove(desk, [property]))(property));
  const door = property.frontDoor ?? null;
  return {
    property: { id: property.id, handle: property.handle },
    seenAt: property.variantsAt ?? null,
    door: {
      address: door,
      forPeople: door === null ? null : addressForPeople(parseAddress(door)),
      says: property.frontDoorSays ?? null,
    },
    items: live.map((row) => viewVariant(desk, row, covers)).sort(byRole),
    spellings: (property.spellings ?? []).map(({ kind, url, outcome, says }) => ({
      kind,
      url,
      outcome,
      says,
    })),
    findings: viewFindings(
      findings,
      covers,
      facts.map((one) => ({ ...coveringOf(one), engine: one.profile.title })),
    ),
    cover: covers.map(({ engine, missed, uncovered }) => ({
      engine,
      missed: [...missed],
      uncovered: [...uncovered],
    })),
    hosts: hosts.map(({ host, why }) => ({ host, forPeople: unicodeOf(host), why })),
    move: move && (await viewMove(desk, property, move, covers, facts)),
    history: rows
      .flatMap(({ address, role, says, since, endedAt }) =>
        endedAt == null
          ? []
          : [
              {
                address,
                forPeople: addressForPeople(parseAddress(address)),
                role,
                says,
                since,
                until: endedAt,
              },
            ],
      )
      .slice(0, HISTORY_SHOWN),
    mended: findings
      .flatMap(({ code, finding, since, endedAt }) =>
        endedAt == null ? [] : [{ code, says: finding.says, since, until: endedAt }],
      )
      .slice(0, HISTORY_SHOWN),
  };
}

function byRole(a: Variant, b: Variant): number {
  return ORDER.indexOf(a.role) - ORDER.indexOf(b.role) || a.address.localeCompare(b.address);
}

function viewVariant(desk: Desk, row: VariantRow, covers: readonly CoverAt[]): Variant {
  const { address, why, role, via, endsAt, says, since, seenAt, seen } = row;
  const { certificate } = seen;
  return {
    address,
    forPeople: addressForPeople(parseAddress(address)),
    why,
    role,
    via: via ?? null,
    endsAt: endsAt ?? null,
    says,
    since,
    seenAt,
    steps: seen.steps.map((step) => ({ ...step })),
    status: seen.status,
    failure: seen.failure,
    dialled: seen.dialled,
    certificate: certificate && {
      issuer: certificate.issuer,
      names: [...certificate.names],
      validUntil: certificate.validUntil,
      daysLeft: Math.floor((Date.parse(certificate.validUntil) - desk.clock.now().getTime()) / DAY_MS),
    },
    hsts: seen.hsts,
    robotsHeader: seen.robotsHeader,
    stayAway: (seen.page?.stayAway ?? []).map(({ name, content }) => `${name}: ${content}`),
    canonical: seen.page?.canonical ?? null,
    siblings: (seen.page?.siblings ?? []).map((one) => ({ ...one })),
    cover: covers.flatMap(({ engine, over }) =>
      (over.get(address) ?? []).map(({ name, badge }) => ({ engine, enrolment: name, badge })),
    ),
    used: isUsed(row),
  };
}

const GRADES = ['stops', 'harms', 'note'];

/** What holds now: what was seen, and what follows from the enrolments as they are; the worst first. */
function viewFindings(
  rows: readonly VariantFindingRow[],
  covers: readonly CoverAt[],
  enrolments: Parameters<typeof sparingProofs>[1],
): VariantFinding[] {
  return [
    ...rows
      .filter(({ endedAt }) => endedAt == null)
      .map(({ finding, since }) => ({
        ...sparingProofs(finding, enrolments),
        evidence: { ...finding.evidence },
        since,
      })),
    ...covers.flatMap(({ findings }) =>
      findings.map((finding) => ({ ...finding, evidence: { ...finding.evidence }, since: null })),
    ),
  ].sort((a, b) => GRADES.indexOf(a.grade) - GRADES.indexOf(b.grade));
}

async function viewMove(
  desk: Desk,
  property: PropertyRow,
  move: MoveRow,
  covers: readonly CoverAt[],
  facts: readonly EnrolmentFacts[],
): Promise<Move> {
  const to = parseAddress(move.toAddress);
  const sitemaps = (await sitemapFacts(desk, [property.id])).get(property.id) ?? [];
  const follows = covers.flatMap(({ engine }) => {
    const own = facts.filter(({ profile }) => profile.id === engine.id);
    const ids = new Set(own.map(({ row }) => row.id));
    return followingOf(to, {
      engine: engine.title,
      enrolments: own.map((one) => ({ ...coveringOf(one), methods: one.tokens.map(({ method }) => method) })),
      takesSitemaps: own.some(({ profile }) => profile.sitemaps !== undefined),
      submitted: sitemaps
        .filter(({ submissions }) => submissions.some(({ row }) => ids.has(row.enrolmentId)))
        .map(({ row }) => row.url),
    }).map((one) => ({ ...one, engine }));
  });
  return {
    from: move.fromAddress,
    to: move.toAddress,
    at: move.at,
    says: sayMove(parseAddress(move.fromAddress), to),
    follows,
  };
}
