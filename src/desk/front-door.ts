import { randomBytes } from 'node:crypto';
import type { JobResult } from '../api/documents.js';
import type { SiteSeen } from '../core/badge/advice.js';
import type { PageSeen } from '../core/badge/look/evidence.js';
import { siteSeen } from '../core/badge/look/site-seen.js';
import { frontDoorOf, type FrontDoor } from '../core/variants/front-door.js';
import { addressForPeople, addressText, parseAddress, type WebAddress } from '../core/address/web-address.js';
import { PropertyRow } from '../store/models/clients.js';
import { note } from './journal.js';
import type { Piece } from './jobs/runner.js';
import { nowText, type Actor, type Desk } from './parts.js';

interface Observed {
  readonly door: FrontDoor;
  readonly page: PageSeen;
}

/** Asks for the address as it was pasted; where no scheme was written and https is dark, for http too. */
async function observe(desk: Desk, asked: WebAddress, schemeWritten: boolean): Promise<Observed> {
  const first = await observeOne(desk, asked);
  if (first.door.kind !== 'dark' || schemeWritten || asked.scheme === 'http' || asked.port !== null)
    return first;
  const second = await observeOne(desk, { ...asked, scheme: 'http' });
  return second.door.kind === 'dark' ? first : second;
}

async function observeOne(desk: Desk, asked: WebAddress): Promise<Observed> {
  const page = await desk.net.page(addressText(asked));
  return { door: frontDoorOf(asked, page), page };
}

/** What the site is like, as far as the choice of a method depends on it: its page, and what a made-up file answers. */
async function lookAround(desk: Desk, { door, page }: Observed): Promise<SiteSeen | null> {
  if (door.kind !== 'found') return null;
  const nowhere = `/yb${randomBytes(4).toString('hex')}.txt`;
  return siteSeen(page, await desk.net.page(new URL(nowhere, addressText(door.address)).href));
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
  const observed = await observe(desk, parseAddress(property.address), schemeWritten);
  const { door } = observed;
  const around = await lookAround(desk, observed);
  const says = sayWhere(door);
  await desk.store.write(async (transaction) => {
    const current = await PropertyRow.findByPk(property.id, { transaction, rejectOnEmpty: true });
    // One dark moment does not make a known front door unknown.
    const frontDoor = door.kind === 'found' ? addressText(door.address) : (current.frontDoor ?? null);
    const changed = frontDoor !== current.frontDoor || says !== current.frontDoorSays;
    await current.update(
      {
        frontDoor,
        frontDoorSays: says,
        frontDoorAt: nowText(desk),
        siteSeen: around ?? current.siteSeen ?? null,
      },
      { transaction },
    );
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
