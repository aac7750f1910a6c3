import { mayBeOurs } from '../../core/badge/visibility.js';
import Joi from 'joi';
import { Op, type Transaction } from 'sequelize';
import { counted } from '../../api/plural.js';
import type { JobResult } from '../../api/documents.js';
import { toForget } from '../../core/sitemap/keeping.js';
import { stateOf, worstOf, type ChildReading, type WholeReading } from '../../core/sitemap/reading.js';
import type { Surroundings } from '../../core/sitemap/surroundings.js';
import { worstFirst, type Finding } from '../../core/findings/finding.js';
import { durationMs } from '../../core/time/duration.js';
import { recordReading } from '../history/readings.js';
import { PropertyRow } from '../../store/models/clients.js';
import { ReadingChildRow, ReadingSetRow } from '../../store/models/reading-sets.js';
import { ReadingRow, SitemapRow } from '../../store/models/sitemaps.js';
import { note } from '../context/journal.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { nowText, type Desk } from '../context/desk.js';
import { wakeMaking } from '../context/wake-making.js';
import { findProperty, findSitemap } from '../context/references.js';
import { agentsOf, robotsAt } from '../context/robots.js';
import { SILENT_OUTCOME, UNREPORTED, type ProbeOutcome, type Met } from '../context/probe-outcome.js';
import { AddressKeeper, tidyChunks } from './address-keeper.js';
import { followGaps, readEngines } from './engine-readings.js';
import { readOr } from '../../readers/readers.js';
import { readWhole } from './read-whole.js';
import { variantsOf } from './variants-of.js';
import { samplePages } from './sample-pages.js';
import { given } from '../../api/given.js';

/** The sitemaps of an index that are kept one by one. */
const MOST_CHILDREN = 5_000;

export interface ReadInput {
  readonly sitemapId: string;
  /** How many pages to try; as the settings say where it is not told. */
  readonly sample?: number;
  readonly seed?: number;
}

/** Two readings of one sitemap at once would ask for everything twice, and tidy away what the other is about to need. */
const oneReading = new OneAtATime();

/** One piece for each sitemap that is to be read. */
export async function readPieces(which: {
  property?: string;
  sitemap?: string;
  all?: boolean;
  sample?: number;
  seed?: number;
}): Promise<NewPiece<ReadInput>[]> {
  const { sample, seed } = which;
  const more = { ...given({ sample, seed }) };
  const rows =
    which.sitemap !== undefined
      ? [await findSitemap(which.sitemap)]
      : await SitemapRow.findAll({
          where: which.property === undefined ? {} : { propertyId: (await findProperty(which.property)).id },
          order: ['url'],
        });
  return rows.map((row) => {
    const input: ReadInput = { sitemapId: row.id, ...more };
    return { subject: row.url, input, host: new URL(row.url).hostname };
  });
}

/** One piece of a reading job: our own reading, then what the engines say of theirs. */
export function readSitemap(desk: Desk, piece: Piece<ReadInput>, met: Met = UNREPORTED): Promise<JobResult> {
  return oneReading.run(piece.input.sitemapId, () => read(desk, piece, piece.input, met));
}

async function read(desk: Desk, piece: Piece, input: ReadInput, met: Met): Promise<JobResult> {
  const row = await SitemapRow.findByPk(input.sitemapId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  const keeper = await AddressKeeper.open(desk.store, row.id, desk.sitemaps.keepAddresses);
  const seed = input.seed ?? (await readingsSoFar(row.id));
  const around = await surroundingsOf(desk, row);
  const { reading: seen, picked } = await readWhole(desk.net, row.url, {
    now: desk.clock.now(),
    agents: around.agents,
    door: await variantsOf(property),
    sample: input.sample ?? desk.sitemaps.sample,
    seed,
    keeps: desk.sitemaps.keepAddresses,
    keeper,
  });
  const sample = await samplePages(desk.net, row.url, picked, around.agents);
  const findings = worstFirst([
    ...seen.findings,
    ...(await readOr('judgeSurroundings', [], row.url, seen, around)),
    ...following(seen.findings, sample.findings),
  ]);
  const whole = { ...seen, findings };
  const state = stateOf(whole);
  if (await met(metAt(whole, findings, around.before !== null)))
    return {
      says: 'It cannot be seen from here at present; nothing was recorded.',
      stops: false,
      sitemap: row.id,
    };
  await desk.store.write(async (transaction) => {
    const { id, isNew } = await recordReading(
      {
        sitemapId: row.id,
        at: nowText(desk),
        kind: whole.kind,
        addresses: whole.addresses,
        before: around.before?.addresses ?? null,
        children: whole.children.length,
        newestLastmod: whole.newestLastmod,
        extensions: whole.extensions,
        fingerprint: whole.kind === null ? null : whole.fingerprint,
        tried: sample.tried,
        findings,
      },
      transaction,
    );
    if (whole.kind !== null) {
      await keeper.settle(id, transaction);
      await keepChildren(row.id, whole.children, transaction);
    }
    const isTidied = await forget(desk, row.id, transaction);
    // Of one that proved too large, what was kept until then is of no use.
    if (keeper.isFull && !isTidied) await tidyChunks(row.id, transaction);
    await followGaps(row.id, transaction);
    // A reading that shows nothing new is kept among the readings, but is no news.
    if (around.before !== null && isNew && whole.kind !== null)
      await wakeMaking(desk, property, row.url, transaction);
    if (isNew)
      await note(desk, piece.actor, transaction, {
        kind: 'sitemap.read',
        says: `Read ${row.url}: ${state}, ${counted(whole.addresses, 'address', 'addresses')}.`,
        property,
      });
  });
  const troubles = await readEngines(desk, piece.actor, property, row.id);
  const says = say(whole, state, sample.tried, troubles);
  return { says, stops: state !== 'clean', sitemap: row.id };
}

/** What a reading tells of whether we can look at all. @param wasRead whether it was one before */
function metAt({ kind }: WholeReading, findings: readonly Finding[], wasRead: boolean): ProbeOutcome {
  if (kind !== null) return { kind: 'itself' };
  return mayBeOurs(findings) ? SILENT_OUTCOME : { kind: 'unknown', isNews: wasRead };
}

/** How often a sitemap was read, by which other pages of it are tried each time. */
async function readingsSoFar(sitemapId: string): Promise<number> {
  return (await ReadingRow.sum('times', { where: { sitemapId } })) || 0;
}

/** Pages that lead to the front door follow from addresses that are not there. */
function following(found: readonly Finding[], ofPages: readonly Finding[]): Finding[] {
  const isAside = found.some(({ code }) => code === 'sitemap.not-at-door');
  return ofPages.map((one) =>
    isAside && one.code === 'sitemap.pages-lead'
      ? { ...one, remedy: '', follows: 'sitemap.not-at-door' }
      : one,
  );
}

function say(
  { addresses, findings }: WholeReading,
  state: string,
  tried: number,
  troubles: readonly string[],
): string {
  const worst = worstOf(findings);
  const sampled = tried === 0 ? '' : `, ${String(tried)} of them tried`;
  return [`${state}, ${counted(addresses, 'address', 'addresses')}${sampled}.`, worst?.says, ...troubles]
    .filter(Boolean)
    .join(' ');
}

/** What a reading is held against: the robots.txt beside it, and the reading before. */
async function surroundingsOf(desk: Desk, row: SitemapRow): Promise<Surroundings> {
  const [before, robots] = await Promise.all([
    ReadingRow.findOne({ where: { sitemapId: row.id, kind: { [Op.ne]: null } }, order: [['at', 'DESC']] }),
    robotsAt((url) => desk.net.page(url), row.url),
  ]);
  return {
    robots,
    agents: agentsOf(desk),
    before: before && (fallenFrom(before, row) ?? { addresses: before.addresses, at: new Date(before.at) }),
    now: desk.clock.now(),
  };
}

/**
 * What a sitemap fell from, while the fall is not over: it is over when the count is back, or when a person says that it is right, and
 * never because it was read once more. Null where it has not fallen.
 */
function fallenFrom(
  { findings, at }: ReadingRow,
  { fallAcceptedAt }: SitemapRow,
): NonNullable<Surroundings['before']> | null {
  const fell = findings.find(({ code }) => code === 'sitemap.fell');
  const { before, since } = fell?.evidence ?? {};
  const isAccepted = fallAcceptedAt != null && fallAcceptedAt >= at;
  if (isAccepted || typeof before !== 'number' || typeof since !== 'string') return null;
  return { addresses: before, at: new Date(`${since.replace(' ', 'T')}:00Z`) };
}

/** The sitemaps of an index as they are now, beside how many addresses each had before. */
async function keepChildren(
  sitemapId: string,
  children: readonly ChildReading[],
  transaction: Transaction,
): Promise<void> {
  const rows = await ReadingChildRow.findAll({ where: { sitemapId }, transaction });
  const before = new Map(rows.filter(({ kind }) => kind !== null).map((one) => [one.url, one.addresses]));
  await ReadingChildRow.destroy({ where: { sitemapId }, transaction });
  await ReadingChildRow.bulkCreate(
    children
      .slice(0, MOST_CHILDREN)
      .map((child, seq) => ({ sitemapId, seq, ...child, before: before.get(child.url) ?? null })),
    { transaction },
  );
}

/**
 * Lets go of readings that are older than the settings want them kept, and of what only they held.
 * @returns whether there were any
 */
async function forget(desk: Desk, sitemapId: string, transaction: Transaction): Promise<boolean> {
  const { keepAll, keepWeekly } = desk.sitemaps;
  const rows = await ReadingRow.findAll({ where: { sitemapId }, attributes: ['id', 'at'], transaction });
  const old = toForget(
    rows.map(({ id, at }) => ({ id, at: new Date(at) })),
    { all: durationMs(keepAll), weekly: durationMs(keepWeekly) },
    desk.clock.now(),
  ).map(({ id }) => id);
  if (old.length === 0) return false;
  await ReadingSetRow.destroy({ where: { readingId: old }, transaction });
  await ReadingRow.destroy({ where: { id: old }, transaction });
  await tidyChunks(sitemapId, transaction);
  return true;
}

export const readWork = anyWork<ReadInput>({
  kind: 'read',
  lane: 'long',
  input: Joi.object<ReadInput, true>({
    sitemapId: Joi.string().required(),
    sample: Joi.number(),
    seed: Joi.number(),
  }),
  run: (desk, piece) => readSitemap(desk, piece),
});
