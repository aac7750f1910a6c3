import { Op } from 'sequelize';
import type { Finding } from '../../core/findings/finding.js';
import type { VariantRole } from '../../core/variants/roles.js';
import { MoveRow, VariantFindingRow, VariantRow } from '../../store/models/variants.js';
import { TOLD_OF_VARIANTS } from './variant-alerts.js';
import { by, newest, type Raw } from '../context/newest.js';
import type { Desk } from '../context/desk.js';

/** What is recorded of a property's variants, as far as standing and next steps need it. */
export interface VariantFacts {
  readonly roles: readonly VariantRole[];
  /** What makes all other work void, with the time since when. */
  readonly stops: readonly { readonly finding: Finding; readonly since: string }[];
  /** What people are told of besides. */
  readonly told: readonly { readonly finding: Finding; readonly since: string }[];
  /** The newest move of its front door. */
  readonly move: Raw<MoveRow> | null;
}

const NOTHING: VariantFacts = { roles: [], stops: [], told: [], move: null };

/** The variants of properties, by property. Costs a fixed number of queries, however many they are. */
export async function variantFacts(
  desk: Desk,
  propertyIds: readonly string[],
): Promise<(propertyId: string) => VariantFacts> {
  const [roles, stops, moves] = await Promise.all([
    VariantRow.findAll({
      where: { propertyId: propertyIds, endedAt: null },
      attributes: ['propertyId', 'address', 'why', 'role'],
      order: ['since', 'address'],
    }),
    VariantFindingRow.findAll({
      where: {
        propertyId: propertyIds,
        endedAt: null,
        [Op.or]: [{ grade: 'stops' }, { code: [...TOLD_OF_VARIANTS] }],
      },
      order: ['since'],
    }),
    newest<Raw<MoveRow>>(desk.store, 'moves', 'propertyId', 'at', propertyIds),
  ]);
  const rolesOf = by(roles, (one) => one.propertyId);
  const stopsOf = by(stops, (one) => one.propertyId);
  const moveOf = new Map(moves.map((one) => [one.propertyId, one]));
  return (id) =>
    rolesOf.has(id)
      ? {
          roles: (rolesOf.get(id) ?? []).map(({ address, why, role }) => ({ address, why, role })),
          stops: (stopsOf.get(id) ?? [])
            .filter(({ grade }) => grade === 'stops')
            .map(({ finding, since }) => ({ finding, since })),
          told: (stopsOf.get(id) ?? [])
            .filter(({ code }) => TOLD_OF_VARIANTS.includes(code))
            .map(({ finding, since }) => ({ finding, since })),
          move: moveOf.get(id) ?? null,
        }
      : NOTHING;
}
