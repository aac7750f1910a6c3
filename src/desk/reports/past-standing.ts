import { addressForPeople, parseAddress } from '../../core/address/web-address.js';
import type { Badge } from '../../core/badge/standing.js';
import { PropertyRow } from '../../store/models/clients.js';
import type { Desk } from '../context/desk.js';
import { badgesOf } from '../history/intervals.js';

/** A property with its enrolments as they stood at some time. */
export interface PastStanding {
  readonly handle: string;
  readonly address: string;
  readonly enrolments: readonly { readonly engine: string; readonly badge: Badge }[];
}

/** How a client’s properties stood at a time that is over, from what was recorded by then. */
export async function pastStanding(
  desk: Desk,
  clientId: string,
  at: string,
  most: number,
): Promise<PastStanding[]> {
  const rows = await PropertyRow.findAll({ where: { clientId }, order: ['handle'], limit: most });
  const there = rows.filter(
    ({ createdAt, archivedAt }) => createdAt <= at && (archivedAt == null || archivedAt > at),
  );
  const stood: PastStanding[] = [];
  for (const { id, handle, frontDoor, address } of there) {
    const enrolments = (await badgesOf(desk, id)).flatMap(({ engine, badges }) => {
      const then = badges.find(({ from, until }) => from <= at && (until === null || until > at));
      return then ? [{ engine: engine.title, badge: then.badge }] : [];
    });
    stood.push({ handle, address: addressForPeople(parseAddress(frontDoor ?? address)), enrolments });
  }
  return stood;
}
