import { zoneStrings } from '../badge/placement.js';
import type { SheetPlace, SheetTask, SheetThing } from './sheet.js';

/** How long others may remember a record with none beside it, in seconds: an hour, so that a slip is soon mended. */
const TTL = 3_600;

type Of<Kind extends SheetThing['kind']> = Extract<SheetThing, { kind: Kind }>;

/** The things of one kind that are to be put at a place, or changed there. */
function toPut<Kind extends SheetThing['kind']>(place: SheetPlace, kind: Kind): Of<Kind>[] {
  return place.tasks.flatMap(({ state, thing }) =>
    (state === 'put' || state === 'change') && thing.kind === kind ? [thing as Of<Kind>] : [],
  );
}

/** The records of a zone as lines of a zone file (RFC 1035 §5). */
export function zoneLines(place: SheetPlace): string[] {
  return toPut(place, 'dns').map(
    ({ place: name, ttl, value }) => `${name}. ${String(ttl ?? TTL)} IN TXT ${zoneStrings(value)}`,
  );
}

/** The same as a script for `nsupdate` (RFC 2136); records that others have placed stay beside. */
export function nsupdateScript(place: SheetPlace): string[] {
  const records = toPut(place, 'dns');
  if (records.length === 0) return [];
  return [
    `zone ${place.where}.`,
    ...records.map(
      ({ place: name, ttl, value }) =>
        `update add ${name}. ${String(ttl ?? TTL)} IN TXT ${zoneStrings(value)}`,
    ),
    'send',
  ];
}

/** The tags of a page in one block, to be pasted into its head. */
export function tagBlock(place: SheetPlace): string[] {
  return toPut(place, 'meta').map(({ tag }) => tag);
}

/** The files that go into a web root, each once. */
export function filesOf(places: readonly SheetPlace[]): Of<'file'>[] {
  return places.flatMap((place) => toPut(place, 'file'));
}

/** What a panel for DNS asks for, one row for each record: most want the name without the zone's own. */
export interface PanelRow {
  readonly type: 'TXT';
  /** As most panels want it: without the zone’s name, `@` for the zone itself. */
  readonly name: string;
  /** As others want it: the whole name. */
  readonly wholeName: string;
  readonly value: string;
}

export function panelRow({ recordName, place, value }: Of<'dns'>): PanelRow {
  return { type: 'TXT', name: recordName, wholeName: place, value };
}

/** Whether a task is something to do. */
export function isToDo({ state }: SheetTask): boolean {
  return state === 'put' || state === 'change';
}
