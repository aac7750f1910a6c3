import type { JobResult } from '../../api/documents.js';
import { PropertyRow } from '../../store/models/clients.js';
import type { NewPiece, Piece } from '../jobs/runner.js';
import type { Actor, Desk } from '../parts.js';
import { findProperties } from '../refs.js';
import { observe } from './observe.js';
import { recordVariants, type Recorded } from './record.js';

/** Looks at the variants of a property and writes down what was seen. */
export async function lookAtVariants(desk: Desk, actor: Actor, property: PropertyRow): Promise<Recorded> {
  return recordVariants(desk, actor, property, await observe(desk, property));
}

/** One piece for each property to look at. */
export async function variantPieces(which: { properties?: string[]; all?: boolean }): Promise<NewPiece[]> {
  const rows =
    which.properties === undefined
      ? await PropertyRow.findAll({
          where: { archivedAt: null },
          order: ['handle'],
          attributes: ['id', 'handle'],
        })
      : await findProperties(which.properties);
  return [...new Map(rows.map((row) => [row.id, row])).values()].map(({ id, handle }) => ({
    subject: handle,
    input: { propertyId: id },
  }));
}

/** One piece of a job that looks at variants. Doing it again only looks again. */
export async function runVariants(desk: Desk, piece: Piece): Promise<JobResult> {
  const { propertyId } = piece.input as { propertyId: string };
  const property = await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true });
  const { says, stops } = await lookAtVariants(desk, piece.actor, property);
  return { says, stops, property: property.handle };
}
