import type { JobResult } from '../api/documents.js';
import { frontDoorOf, type FrontDoor } from '../core/variants/front-door.js';
import { addressForPeople, addressText, parseAddress, type WebAddress } from '../core/address/web-address.js';
import { PropertyRow } from '../store/models/clients.js';
import { note } from './journal.js';
import type { Piece } from './jobs/runner.js';
import { nowText, type Actor, type Desk } from './parts.js';

/** Asks for the address as it was pasted; where no scheme was written and https is dark, for http too. */
async function observe(desk: Desk, asked: WebAddress, schemeWritten: boolean): Promise<FrontDoor> {
  const first = frontDoorOf(asked, await desk.net.page(addressText(asked)));
  if (first.kind !== 'dark' || schemeWritten || asked.scheme === 'http' || asked.port !== null) return first;
  const plain: WebAddress = { ...asked, scheme: 'http' };
  const second = frontDoorOf(plain, await desk.net.page(addressText(plain)));
  return second.kind === 'dark' ? first : second;
}

function sayWhere(door: FrontDoor): string {
  switch (door.kind) {
    case 'found':
      return door.moved ? `Visitors end up at ${addressForPeople(door.address)}.` : 'It answers by itself.';
    case 'elsewhere':
      return `It leads away to ${door.url}, another domain.`;
    case 'dark':
      return `Nothing answers at ${door.url}.`;
  }
}

/** Looks where visitors of a property end up, and records it. */
export async function observeFrontDoor(
  desk: Desk,
  actor: Actor,
  property: PropertyRow,
  schemeWritten: boolean,
): Promise<{ says: string; found: boolean }> {
  const door = await observe(desk, parseAddress(property.address), schemeWritten);
  const says = sayWhere(door);
  await desk.store.write(async (transaction) => {
    const current = await PropertyRow.findByPk(property.id, { transaction, rejectOnEmpty: true });
    // One dark moment does not make a known front door unknown.
    const frontDoor = door.kind === 'found' ? addressText(door.address) : (current.frontDoor ?? null);
    const changed = frontDoor !== current.frontDoor || says !== current.frontDoorSays;
    await current.update({ frontDoor, frontDoorSays: says, frontDoorAt: nowText(desk) }, { transaction });
    if (changed)
      await note(desk, actor, transaction, {
        kind: 'front-door',
        says: `Front door of ${current.handle}: ${says}`,
        property: current,
      });
  });
  return { says, found: door.kind === 'found' };
}

/** One piece of a job that looks for front doors. */
export async function runFrontDoor(desk: Desk, piece: Piece): Promise<JobResult> {
  const { propertyId, schemeWritten } = piece.input as { propertyId: string; schemeWritten: boolean };
  const property = await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true });
  const { says, found } = await observeFrontDoor(desk, piece.actor, property, schemeWritten);
  return { says, stops: !found, property: property.handle };
}
