import { EventEmitter } from 'node:events';
import type { Role } from '../api/documents.js';
import { EngineBook } from '../desk/engines/book.js';
import { LinkStates } from '../desk/engines/link-states.js';
import type { Desk } from '../desk/context/desk.js';
import { addKey, addPerson } from '../desk/people/persons.js';
import { Net } from '../net/net.js';
import { machineClock } from '../net/time/machine-clock.js';
import { Store } from '../store/store.js';
import { fileClock } from './clock.js';
import type { Settings } from './settings/schema.js';

/** Works on the records themselves, on the machine where they lie: how the first lead comes to be. */
async function onRecords<T>(settings: Settings, work: (desk: Desk) => Promise<T>): Promise<T> {
  const store = await Store.open(settings.data);
  const net = new Net({ ...settings.net, ca: null });
  const clock = settings.clock === null ? machineClock : fileClock(settings.clock);
  try {
    return await work({
      store,
      net,
      clock,
      book: EngineBook.EMPTY,
      links: new LinkStates(store, clock),
      sitemaps: settings.sitemaps,
      events: new EventEmitter(),
    });
  } finally {
    await store.close();
  }
}

export async function addPeopleHere(
  settings: Settings,
  people: readonly { name: string; role: Role; password: string }[],
): Promise<void> {
  await onRecords(settings, (desk) =>
    Promise.all(people.map((person) => addPerson(desk, { personId: null }, person))),
  );
}

/** A person with a bearer key, for the one who sets a machine up. @returns the key's secret */
export function addPersonWithKeyHere(
  settings: Settings,
  input: { name: string; role: Role; password: string },
  label: string,
): Promise<string> {
  return onRecords(
    settings,
    async (desk) =>
      (await addKey(desk, (await addPerson(desk, { personId: null }, input)).id, { label })).key,
  );
}
