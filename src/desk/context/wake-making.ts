import type { Transaction } from 'sequelize';
import { durationMs } from '../../core/time/duration.js';
import { MakingRow, RecipeRow } from '../../store/models/making.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { Desk } from './desk.js';
import { placeOf } from './sitemap-place.js';

/**
 * Has a sitemap made sooner, since a feed or a sitemap of the website has changed: at once, or when the last making is old enough.
 * @param changed the address of what has changed
 */
export async function wakeMaking(
  desk: Desk,
  property: PropertyRow,
  changed: string,
  transaction: Transaction,
): Promise<void> {
  const propertyId = property.id;
  const recipe = await RecipeRow.findByPk(propertyId, { transaction });
  // What was made itself is no news.
  if (recipe?.afterChange == null || changed === placeOf(property, recipe.recipe.selection)) return;
  const last = await MakingRow.findOne({
    where: { propertyId },
    order: [['startedAt', 'DESC']],
    attributes: ['startedAt'],
    transaction,
  });
  const now = desk.clock.now().getTime();
  const old = last === null ? now : Date.parse(last.startedAt) + durationMs(recipe.afterChange);
  const nextAt = new Date(Math.max(now, old)).toISOString();
  if (recipe.nextAt != null && recipe.nextAt <= nextAt) return;
  await recipe.update({ nextAt }, { transaction });
}
