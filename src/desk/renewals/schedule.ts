import { PropertyRow } from '../../store/models/clients.js';
import { RecipeRow } from '../../store/models/making.js';
import { nowText, type Desk } from '../context/desk.js';
import type { JobRunner } from '../jobs/runner.js';
import { NOT_PAUSED } from '../context/pauses.js';
import { makePiece } from './renewal.js';
import { later } from '../making/recipes.js';

/** Sitemaps that are begun to be made in one round of the watch: each takes minutes, and two are made at once. */
const MOST_AT_ONCE = 4;

/**
 * Begins to make the sitemaps whose time has come. The job and the time of the next one are written in one transaction, so that none is
 * forgotten and none made twice.
 */
export async function makeDue(desk: Desk, jobs: JobRunner): Promise<void> {
  const due = await desk.store.select<{ propertyId: string }>(
    `SELECT w.propertyId FROM
       (SELECT r.propertyId, r.nextAt, o.clientId FROM recipes r JOIN properties o ON o.id = r.propertyId
         WHERE r.nextAt IS NOT NULL AND r.nextAt <= $now AND o.archivedAt IS NULL) w
      WHERE ${NOT_PAUSED} ORDER BY w.nextAt LIMIT ${String(MOST_AT_ONCE)}`,
    { now: nowText(desk) },
  );
  for (const { propertyId } of due) {
    const property = await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true });
    const recipe = await RecipeRow.findByPk(propertyId, { rejectOnEmpty: true });
    const job = jobs.prepare('make', { personId: null }, [makePiece(property, true)]);
    const nextAt = recipe.every == null ? null : later(desk, recipe.every);
    await desk.store.write(async (transaction) => {
      await job.write(transaction);
      await recipe.update({ nextAt }, { transaction });
    });
    job.begin();
  }
}
