import { addressText } from '../../core/address/web-address.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { VariantRow } from '../../store/models/variants.js';
import { frontDoorOf } from '../context/front-door.js';

/** The front door of a property and its other variants, as origins. */
export async function variantsOf(property: PropertyRow): Promise<{ origin: string; others: Set<string> }> {
  const { origin } = new URL(addressText(frontDoorOf(property)));
  const rows = await VariantRow.findAll({
    where: { propertyId: property.id, endedAt: null },
    attributes: ['address'],
  });
  const others = new Set(rows.map(({ address }) => new URL(address).origin));
  others.delete(origin);
  return { origin, others };
}
