import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { Transaction } from 'sequelize';
import type { EvidenceSeen } from '../../api/documents.js';
import { sightOf } from '../../core/badge/visibility.js';
import { sameWords, type Finding } from '../../core/findings/finding.js';
import { newId } from '../../store/ids.js';
import { CheckRow } from '../../store/models/enrolments.js';
import type { Desk } from '../context/desk.js';

/** What one look at a placement established. */
export interface Look extends Pick<
  CheckRow,
  'enrolmentId' | 'tokenId' | 'method' | 'place' | 'seen' | 'forecast'
> {
  readonly at: string;
  readonly visibleAt: string | null;
  readonly findings: readonly Finding[];
  readonly evidence: EvidenceSeen;
}

/** Whether a look says the same as the one before: the same findings in the same words, and so the same forecast. */
export function saysTheSame(
  before: Pick<CheckRow, 'place' | 'seen' | 'forecast' | 'findings'>,
  look: Pick<Look, 'place' | 'seen' | 'forecast' | 'findings'>,
): boolean {
  return (
    before.place === look.place &&
    before.seen === look.seen &&
    before.forecast === look.forecast &&
    sameWords(before.findings, look.findings)
  );
}

/** What the looks up to this one tell of the token, and since when: one that failed changes nothing of it. */
function toldBy(before: CheckRow | undefined, look: Look): Pick<CheckRow, 'told' | 'toldSince'> {
  const sight = sightOf(look);
  const earlier = { told: before?.told ?? null, toldSince: before?.toldSince ?? null };
  if (sight === 'unclear' || sight === earlier.told) return earlier;
  return { told: sight, toldSince: look.at };
}

/**
 * Records a look. One that says the same as the newest before it lengthens that one's stretch; only what is new is a row of its own.
 * @param before the newest look at the placement, as it was known when this one was begun
 */
export async function recordLook(
  desk: Desk,
  before: CheckRow | undefined,
  look: Look,
  transaction: Transaction,
): Promise<CheckRow> {
  const { at, evidence, visibleAt, findings, ...same } = look;
  const told = toldBy(before, look);
  if (before && saysTheSame(before, look)) {
    const changes = { checkedAt: at, visibleAt, findings: [...findings], times: before.times + 1 };
    const [found] = await CheckRow.update(changes, { where: { id: before.id }, transaction });
    if (found === 1) {
      await keepEvidence(desk, { checkId: before.id, which: 'newest', at }, evidence, transaction);
      return CheckRow.findByPk(before.id, { transaction, rejectOnEmpty: true });
    }
  }
  const row = await CheckRow.create(
    {
      ...same,
      id: newId(),
      checkedAt: at,
      firstAt: at,
      times: 1,
      seenSince: before?.seen === look.seen ? before.seenSince : at,
      ...told,
      visibleAt,
      findings: [...findings],
    },
    { transaction },
  );
  await keepEvidence(desk, { checkId: row.id, which: 'first', at }, evidence, transaction);
  return row;
}

interface Place {
  readonly checkId: string;
  readonly which: 'first' | 'newest';
  readonly at: string;
}

async function keepEvidence(
  { store }: Desk,
  { checkId, which, at }: Place,
  evidence: EvidenceSeen,
  transaction: Transaction,
): Promise<void> {
  await store.sequelize.query(
    `INSERT INTO evidence (checkId, which, at, packed) VALUES ($checkId, $which, $at, $packed)
       ON CONFLICT (checkId, which) DO UPDATE SET at = excluded.at, packed = excluded.packed`,
    { bind: { checkId, which, at, packed: deflateRawSync(JSON.stringify(evidence)) }, transaction },
  );
}

/** The newest evidence of each of some checks; none of those whose evidence was let go. */
export async function evidenceOf(
  { store }: Desk,
  checkIds: readonly string[],
): Promise<ReadonlyMap<string, object>> {
  const rows = await store.select<{ checkId: string; packed: Buffer | string }>(
    // “newest” sorts behind “first”, and is put in its place.
    `SELECT checkId, packed FROM evidence WHERE checkId IN (SELECT value FROM json_each($ids)) ORDER BY checkId, which`,
    { ids: JSON.stringify(checkIds) },
  );
  return new Map(rows.map(({ checkId, packed }) => [checkId, unpacked(packed)]));
}

/** Of before there is text, of since then bytes. */
function unpacked(packed: Buffer | string): object {
  const text = typeof packed === 'string' ? packed : inflateRawSync(packed).toString();
  return JSON.parse(text) as object;
}
