import { newId } from '../store/ids.js';
import { PropertyRow } from '../store/models/clients.js';
import { OwnershipRow } from '../store/models/enrolments.js';
import type { EnrolmentFacts } from './facts.js';
import { note } from './journal.js';
import { engineOf, type Actor, type Desk } from './parts.js';

/** Asks the engine how it sees the ownership now, and records it when that is news. An engine that gives no answer changes nothing. */
export async function refreshOwnership(desk: Desk, actor: Actor, facts: EnrolmentFacts): Promise<void> {
  const outcome = await engineOf(desk, facts.row.engine).ownership(facts.row.ref);
  if (outcome.kind !== 'done') return;
  const ownership = outcome.value;
  const recorded = facts.ownership?.kind ?? 'none';
  if (ownership.state === 'withdrawn' && recorded === 'confirmed') {
    await record(desk, actor, facts, {
      kind: 'withdrawn',
      at: ownership.since,
      reason: ownership.reason,
      says: `${facts.profile.title} withdrew the badge of ${facts.name}: “${ownership.reason}”.`,
    });
  }
  if (
    ownership.state === 'held' &&
    recorded !== 'confirmed' &&
    ownership.since > (facts.ownership?.at ?? '')
  ) {
    await record(desk, actor, facts, {
      kind: 'confirmed',
      at: ownership.since,
      method: ownership.method,
      says: `${facts.profile.title} says that ${facts.name} is held.`,
    });
  }
}

type News = { at: string; says: string } & (
  { kind: 'withdrawn'; reason: string } | { kind: 'confirmed'; method: OwnershipRow['method'] }
);

async function record(desk: Desk, actor: Actor, facts: EnrolmentFacts, news: News): Promise<void> {
  const property = await PropertyRow.findByPk(facts.row.propertyId, { rejectOnEmpty: true });
  const own = news.kind === 'withdrawn' ? { reason: news.reason } : { method: news.method };
  await desk.store.write(async (transaction) => {
    await OwnershipRow.create(
      { id: newId(), enrolmentId: facts.row.id, at: news.at, kind: news.kind, ...own },
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
