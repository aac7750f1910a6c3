import type { Transaction } from 'sequelize';
import { sameWords } from '../../core/findings/finding.js';
import { newId } from '../../store/ids.js';
import { EngineReadingRow, ReadingRow } from '../../store/models/sitemaps.js';

type Values<Row, Own extends keyof Row> = Readonly<Pick<Row, Own>>;

/** What one reading of a sitemap of ours established. */
export type OurReading = Values<
  ReadingRow,
  'sitemapId' | 'at' | 'addresses' | 'children' | 'tried' | 'findings'
> & {
  readonly kind: NonNullable<ReadingRow['kind']> | null;
  readonly newestLastmod: string | null;
  readonly extensions: ReadingRow['extensions'];
  readonly fingerprint: string | null;
  /** Addresses at the last reading before that could be read. */
  readonly before: number | null;
};

function saysTheSame(before: ReadingRow, reading: OurReading): boolean {
  return (
    (before.kind ?? null) === reading.kind &&
    (before.fingerprint ?? null) === reading.fingerprint &&
    before.addresses === reading.addresses &&
    before.children === reading.children &&
    (before.newestLastmod ?? null) === reading.newestLastmod &&
    JSON.stringify(before.extensions ?? null) === JSON.stringify(reading.extensions ?? null) &&
    sameWords(before.findings, reading.findings)
  );
}

/**
 * Records a reading of ours. One that says the same as the newest before it lengthens that one's stretch; only what is new is a row of its own.
 * @returns the row's identifier, and whether it is a new one
 */
export async function recordReading(
  reading: OurReading,
  transaction: Transaction,
): Promise<{ readonly id: string; readonly isNew: boolean }> {
  const before = await ReadingRow.findOne({
    where: { sitemapId: reading.sitemapId },
    order: [['at', 'DESC']],
    transaction,
  });
  if (before && saysTheSame(before, reading)) {
    const { at, before: addressesBefore, tried, findings } = reading;
    await ReadingRow.update(
      { at, before: addressesBefore, tried, findings, times: before.times + 1 },
      { where: { id: before.id }, transaction },
    );
    return { id: before.id, isNew: false };
  }
  const id = newId();
  await ReadingRow.create({ ...reading, id, firstAt: reading.at, times: 1 }, { transaction });
  return { id, isNew: true };
}

/** What an engine said of a submission. */
export type EnginesReading = Values<EngineReadingRow, 'submissionId' | 'at'> & {
  readonly readAt: string | null;
  readonly found: number | null;
  readonly listed: number | null;
  readonly trouble: string | null;
  /** Our own count when it read. */
  readonly ours: number | null;
  readonly recordedBy: string | null;
};

/**
 * Records what an engine said of a submission. A later reading that found the same lengthens the stretch of the one before.
 * @returns whether it says something new
 */
export async function recordEnginesReading(
  reading: EnginesReading,
  transaction: Transaction,
): Promise<boolean> {
  const { submissionId, at, readAt, found, listed, trouble, ours, recordedBy } = reading;
  const before = await EngineReadingRow.findOne({
    where: { submissionId },
    order: [['at', 'DESC']],
    transaction,
  });
  const isSame =
    before !== null &&
    (before.readAt == null) === (readAt === null) &&
    (before.found ?? null) === found &&
    (before.listed ?? null) === listed &&
    (before.trouble ?? null) === trouble &&
    (before.ours ?? null) === ours &&
    (before.recordedBy ?? null) === recordedBy;
  if (isSame) {
    await EngineReadingRow.update(
      { at, readAt, times: before.times + 1 },
      { where: { id: before.id }, transaction },
    );
    return false;
  }
  await EngineReadingRow.create({ ...reading, id: newId(), firstAt: at, times: 1 }, { transaction });
  return true;
}
