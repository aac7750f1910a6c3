import { ownershipChange, type OwnershipChange, type OwnershipTold } from '../../core/badge/ownership.js';
import { newId } from '../../store/ids.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, OwnershipRow } from '../../store/models/enrolments.js';
import { noteMissing } from '../engines/answers.js';
import type { EnrolmentFacts } from '../facts/enrolment-facts.js';
import { note } from '../context/journal.js';
import { engineOf, nowText, type Actor, type Desk } from '../context/desk.js';

/** Asks the engine how it sees the ownership now, and records it when that is news. An engine that gives no answer changes nothing. */
export async function refreshOwnership(desk: Desk, actor: Actor, facts: EnrolmentFacts): Promise<void> {
  const outcome = await (await engineOf(desk, facts.row)).ownership(facts.row.ref);
  if (outcome.kind === 'refused' && outcome.code === 'no-such-enrolment')
    return noteMissing(desk, actor, facts);
  if (outcome.kind !== 'done' || outcome.value === null) return;
  await noteLook(desk, facts.row, outcome.value);
  const change = ownershipChange(facts.ownership, outcome.value, nowText(desk));
  if (change) await recordOwnership(desk, actor, facts, { ...change, says: changeSays(facts, change) });
}

/** Keeps when the engine looked last: from then on it counts how long it needs to notice a loss. */
async function noteLook(desk: Desk, row: EnrolmentFacts['row'], told: OwnershipTold): Promise<void> {
  const lookedAt = told.state === 'held' ? (told.lookedAt ?? null) : null;
  if (lookedAt === null || lookedAt === (row.engineLookedAt ?? null)) return;
  await desk.store.write((transaction) =>
    EnrolmentRow.update({ engineLookedAt: lookedAt }, { where: { id: row.id }, transaction }),
  );
}

function changeSays({ name, profile: { title } }: EnrolmentFacts, change: OwnershipChange): string {
  if (change.kind === 'confirmed') return `${title} says that ${name} is held.`;
  return change.isSaid
    ? `${title} withdrew the badge of ${name}: “${change.reason}”.`
    : `${title} knows of no ownership of ${name} any more, and gave no reason.`;
}

export type OwnershipNews = {
  readonly at: string;
  readonly says: string;
  /** Who carried it here from the engine's own pages. */
  readonly recordedBy?: string | null;
} & (
  | { readonly kind: 'withdrawn'; readonly reason: string }
  | { readonly kind: 'confirmed'; readonly method: OwnershipRow['method'] }
);

/** Records an engine's word about ownership, with a line of the journal. */
export async function recordOwnership(
  desk: Desk,
  actor: Actor,
  facts: Pick<EnrolmentFacts, 'row'>,
  news: OwnershipNews,
): Promise<void> {
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  const own = news.kind === 'withdrawn' ? { reason: news.reason } : { method: news.method };
  await desk.store.write(async (transaction) => {
    const newest = await OwnershipRow.findOne({
      where: { enrolmentId: facts.row.id },
      order: [['at', 'DESC']],
      transaction,
    });
    // Another look at the same time has written it down already.
    if (newest?.kind === news.kind && newest.at >= news.at) return;
    await OwnershipRow.create(
      {
        id: newId(),
        enrolmentId: facts.row.id,
        at: news.at,
        kind: news.kind,
        recordedBy: news.recordedBy ?? null,
        ...own,
      },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: `ownership.${news.kind}`,
      says: news.says,
      property,
      enrolmentId: facts.row.id,
    });
  });
}
