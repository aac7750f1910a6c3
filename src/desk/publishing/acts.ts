import { Op } from 'sequelize';
import { heldBack, type PublishStep } from '../../core/publish/plan.js';
import { TargetFault } from '../../net/targets/file-target.js';
import { newId } from '../../store/ids.js';
import { CarriedRow, type TargetRow } from '../../store/models/publishing.js';
import { nowText, type Desk } from '../context/desk.js';
import type { Piece } from '../jobs/work.js';
import type { OpenTarget } from './open.js';
import type { Cargo } from './cargo.js';

/** What a publication goes by. */
export interface Doing {
  readonly desk: Desk;
  readonly piece: Piece;
  readonly target: TargetRow;
  readonly open: OpenTarget;
  readonly steps: readonly PublishStep[];
  readonly cargo: readonly Cargo[];
  readonly carried: readonly CarriedRow[];
  readonly takesAway: boolean;
}

/** What came of the steps: those that were done, and why others could not be. */
export interface Done {
  readonly done: readonly PublishStep[];
  readonly failed: ReadonlyMap<PublishStep, string>;
}

/**
 * Does what the plan says, one after the other. What the server refuses is told, and the rest goes on.
 * @throws TargetFault where the server cannot be spoken to any more
 */
export async function act(doing: Doing): Promise<Done> {
  const { steps, cargo, takesAway } = doing;
  const done: PublishStep[] = [];
  const failed = new Map<PublishStep, string>();
  for (const step of steps) {
    const one = cargo.find(({ name, sum }) => name === step.name && sum === step.sum);
    try {
      const waits = heldBack(step, steps, failed);
      if (waits === null) {
        if (await does(doing, step, one)) done.push(step);
      } else if (step.act !== 'take-away' || takesAway) failed.set(step, waits);
    } catch (error) {
      if (!(error instanceof TargetFault) || error.kind === 'unreached') throw error;
      failed.set(step, error.message);
    }
  }
  return { done, failed };
}

/** @returns whether anything was done at the target */
async function does(doing: Doing, step: PublishStep, one: Cargo | undefined): Promise<boolean> {
  const { open, carried, takesAway } = doing;
  switch (step.act) {
    case 'put':
    case 'replace':
      if (one) await put(doing, step, one);
      return one !== undefined;
    case 'take-away':
      if (!takesAway) return false;
      await open.takeAway(step);
      await forget(doing, step, null);
      return true;
    case 'leave':
      // Whoever put it there, it is the one that was made here, and the next one may take its place.
      if (one?.made && !carried.some(({ name, sum }) => name === step.name && sum === step.sum))
        await forget(doing, step, (await record(doing, step)).id);
      return false;
    case 'refuse':
      return false;
  }
}

async function put(doing: Doing, step: PublishStep, one: Cargo): Promise<void> {
  const { desk, open } = doing;
  // On record before it is done: should we end in between, what stands there is known as ours by its sum, and nothing else is.
  const recorded = await record(doing, step);
  try {
    await open.put(one, recorded.id);
  } catch (error) {
    // Where the connection was cut, nobody knows what is there: it stays on record for the next time.
    if (error instanceof TargetFault && error.kind !== 'unreached')
      await desk.store.write((transaction) => recorded.destroy({ transaction }));
    throw error;
  }
  await forget(doing, step, recorded.id);
}

function record({ desk, piece, target }: Doing, { name, sum }: PublishStep): Promise<CarriedRow> {
  const row = {
    id: newId(),
    placeId: target.id,
    name,
    sum,
    at: nowText(desk),
    personId: piece.actor.personId,
  };
  return desk.store.write((transaction) => CarriedRow.create(row, { transaction }));
}

/** What was carried under a name before is there no longer; of records, where several stand under one, the same alone. */
async function forget(
  { desk, target }: Doing,
  { name, sum }: PublishStep,
  but: string | null,
): Promise<void> {
  const which = {
    placeId: target.id,
    removedAt: null,
    ...(target.way === 'dns' ? { name, sum } : { name }),
    ...(but === null ? {} : { id: { [Op.ne]: but } }),
  };
  await desk.store.write((transaction) =>
    CarriedRow.update({ removedAt: nowText(desk) }, { where: which, transaction }),
  );
}
