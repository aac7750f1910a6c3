import type { Transaction } from 'sequelize';
import { addressForPeople, addressText, parseAddress } from '../../core/address/web-address.js';
import type { Finding } from '../../core/findings/finding.js';
import type { VariantsJudged } from '../../core/variants/judge.js';
import { sayMove } from '../../core/variants/move.js';
import type { VariantSeen } from '../../core/variants/follow.js';
import type { VariantJudged } from '../../core/variants/roles.js';
import { read } from '../../readers/readers.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { HostRow, MoveRow, VariantFindingRow, VariantRow } from '../../store/models/variants.js';
import { note } from '../context/journal.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import type { Observed } from './observe.js';

/** What an observation came to, in words. */
export interface Recorded {
  readonly says: string;
  readonly found: boolean;
  readonly stops: boolean;
}

/** Siblings that are kept with a look; more are told by nobody. */
const SIBLINGS_KEPT = 20;
/** Changes that one line of the journal tells. */
const CHANGES_TOLD = 6;

/** Judges what was seen and writes it down: roles and findings with the time since when, and a move of the front door once. */
export async function recordVariants(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  observed: Observed,
): Promise<Recorded> {
  const judged = await read('judgeVariants', observed.observation);
  const where = sayWhere(judged, property);
  await desk.store.write(async (transaction) => {
    const current = await PropertyRow.findByPk(property.id, { transaction, rejectOnEmpty: true });
    const isFirst = current.variantsAt == null;
    const changes = await recordRoles(desk, transaction, current, judged.variants);
    await recordFindings(desk, transaction, current, judged.findings);
    await recordHosts(desk, transaction, current, observed);
    await recordDoor(desk, actor, transaction, current, judged, where, observed);
    if (!isFirst && changes.length > 0)
      await note(desk, actor, transaction, {
        kind: 'variants',
        says: `Variants of ${current.handle}: ${changes.slice(0, CHANGES_TOLD).join('; ')}${changes.length > CHANGES_TOLD ? '; and more' : ''}.`,
        property: current,
      });
  });
  const stop = judged.findings.find(({ grade }) => grade === 'stops');
  return {
    says: stop && judged.door.kind === 'found' ? `${where} ${stop.says}` : where,
    found: judged.door.kind === 'found',
    stops: stop !== undefined,
  };
}

function sayWhere({ door, findings }: VariantsJudged, property: PropertyRow): string {
  switch (door.kind) {
    case 'found': {
      const text = addressText(door.address);
      return text === property.address
        ? 'It answers by itself.'
        : `Visitors end up at ${addressForPeople(door.address)}.`;
    }
    case 'elsewhere':
      return `It leads away to ${door.url}, another domain.`;
    case 'dark':
      return findings[0]?.says ?? `Nothing answers at ${property.address}.`;
  }
}

/** @returns what changed, in words */
async function recordRoles(
  desk: Desk,
  transaction: Transaction,
  property: PropertyRow,
  variants: readonly VariantJudged[],
): Promise<string[]> {
  const now = nowText(desk);
  const live = await VariantRow.findAll({ where: { propertyId: property.id, endedAt: null }, transaction });
  const stays = ({ address, role, via, endsAt }: VariantJudged) =>
    live.find(
      (one) =>
        one.address === address &&
        one.role === role &&
        (one.via ?? null) === via &&
        (one.endsAt ?? null) === endsAt,
    );
  const kept = variants.flatMap((one) => stays(one) ?? []);
  const ended = live.filter((row) => !kept.includes(row)).map(({ id }) => id);
  if (ended.length > 0) await VariantRow.update({ endedAt: now }, { where: { id: ended }, transaction });
  for (const one of variants)
    await stays(one)?.update(
      { says: one.says, why: one.why, seen: shortened(one.seen), seenAt: now },
      { transaction },
    );
  const news = variants.filter((one) => !stays(one));
  await VariantRow.bulkCreate(
    news.map(({ address, role, via, endsAt, says, why, seen }) => ({
      ...{ id: newId(), propertyId: property.id, address, why, role, via, endsAt, says },
      ...{ seen: shortened(seen), since: now, seenAt: now },
    })),
    { transaction },
  );
  return news
    .filter(({ address }) => live.some((row) => row.address === address))
    .map(({ address, role, says }) => `${addressForPeople(parseAddress(address))} ${sayRole(role, says)}`);
}

function shortened(seen: VariantSeen): VariantSeen {
  const { page } = seen;
  return page ? { ...seen, page: { ...page, siblings: page.siblings.slice(0, SIBLINGS_KEPT) } } : seen;
}

function sayRole(role: string, says: string): string {
  return role === 'front-door' ? 'is the front door' : role === 'dark' ? `is dark: ${says}` : says;
}

async function recordFindings(
  desk: Desk,
  transaction: Transaction,
  property: PropertyRow,
  findings: readonly Finding[],
): Promise<void> {
  const now = nowText(desk);
  const live = await VariantFindingRow.findAll({
    where: { propertyId: property.id, endedAt: null },
    transaction,
  });
  const subjectOf = ({ evidence }: Finding) => String(evidence['url'] ?? '');
  const still = new Set<VariantFindingRow>();
  const news: Finding[] = [];
  for (const finding of findings) {
    const there = live.find(
      (one) => one.code === finding.code && one.subject === subjectOf(finding) && !still.has(one),
    );
    if (there) {
      still.add(there);
      await there.update({ finding, grade: finding.grade }, { transaction });
    } else news.push(finding);
  }
  await VariantFindingRow.bulkCreate(
    news.map((finding) => ({
      ...{ id: newId(), propertyId: property.id, code: finding.code, subject: subjectOf(finding) },
      ...{ grade: finding.grade, finding, since: now },
    })),
    { transaction },
  );
  const gone = live.filter((row) => !still.has(row)).map(({ id }) => id);
  if (gone.length > 0) await VariantFindingRow.update({ endedAt: now }, { where: { id: gone }, transaction });
}

async function recordHosts(
  desk: Desk,
  transaction: Transaction,
  property: PropertyRow,
  { met }: Observed,
): Promise<void> {
  for (const { host, why } of met) {
    const where = { propertyId: property.id, host, endedAt: null };
    // A host that somebody took off stays off.
    const before = await HostRow.findOne({ where: { propertyId: property.id, host }, transaction });
    if (!before)
      await HostRow.create({ ...where, id: newId(), why, addedAt: nowText(desk) }, { transaction });
  }
}

async function recordDoor(
  desk: Desk,
  actor: Actor,
  transaction: Transaction,
  property: PropertyRow,
  { door }: VariantsJudged,
  says: string,
  { observation, site }: Observed,
): Promise<void> {
  const before = property.frontDoor ?? null;
  // One dark moment does not make a known front door unknown.
  const after = door.kind === 'found' ? addressText(door.address) : before;
  const isMove = before !== null && after !== null && after !== before;
  const isNews = isMove || after !== before || says !== property.frontDoorSays;
  const at = nowText(desk);
  await property.update(
    {
      frontDoor: after,
      frontDoorSays: says,
      frontDoorAt: at,
      variantsAt: at,
      spellings: observation.spellings,
      siteSeen: site ?? property.siteSeen ?? null,
    },
    { transaction },
  );
  if (isMove) {
    await MoveRow.create(
      { id: newId(), propertyId: property.id, fromAddress: before, toAddress: after, at },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'moved',
      says: `${property.handle}: ${sayMove(parseAddress(before), parseAddress(after))}`,
      property,
      details: { from: before, to: after },
    });
  } else if (isNews)
    await note(desk, actor, transaction, {
      kind: 'front-door',
      says: `Front door of ${property.handle}: ${says}`,
      property,
    });
}
