import { parseAddress, type WebAddress } from '../../core/address/web-address.js';
import type { PropertyRow } from '../../store/models/clients.js';

/** The address that stands for a property: its front door once that is known, else the address as taken on. */
export function frontDoorOf(row: PropertyRow): WebAddress {
  return parseAddress(row.frontDoor ?? row.address);
}
