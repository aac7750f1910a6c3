import Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import { isOutOfReach } from '../../core/badge/visibility.js';
import { PropertyRow } from '../../store/models/clients.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import type { Actor, Desk } from '../context/desk.js';
import { findProperties } from '../context/references.js';
import { SILENT_OUTCOME, pageOutcome, UNREPORTED, type Met } from '../context/probe-outcome.js';
import { observe } from './observe.js';
import { recordVariants, type Recorded } from './record.js';

/** Looks at the variants of a property and writes down what was seen. */
export async function lookAtVariants(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  met: Met = UNREPORTED,
): Promise<Recorded> {
  const observed = await observe(desk, property);
  const isSilent = observed.observation.seen.every(({ failure }) => isOutOfReach(failure));
  const isOurs = await met(isSilent ? SILENT_OUTCOME : pageOutcome(observed.atDoor, observed.isNews));
  if (isOurs && !isSilent)
    return {
      says: 'Something in our own network answers in its place; nothing was recorded.',
      found: false,
      stops: false,
    };
  return recordVariants(desk, actor, property, observed);
}

interface VariantsInput {
  readonly propertyId: string;
}

/** One piece for each property to look at. */
export async function variantPieces(which: {
  properties?: string[];
  all?: boolean;
}): Promise<NewPiece<VariantsInput>[]> {
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
async function runVariants(desk: Desk, piece: Piece<VariantsInput>): Promise<JobResult> {
  const { propertyId } = piece.input;
  const property = await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true });
  const { says, stops } = await lookAtVariants(desk, piece.actor, property);
  return { says, stops, property: property.handle };
}

export const variantsWork = anyWork<VariantsInput>({
  kind: 'variants',
  input: Joi.object<VariantsInput, true>({ propertyId: Joi.string().required() }),
  run: runVariants,
});
