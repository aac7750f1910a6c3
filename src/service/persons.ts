import { EventEmitter } from 'node:events';
import type { Role } from '../api/documents.js';
import { EngineBook } from '../desk/engine-book/book.js';
import { LinkStates } from '../desk/engine-book/link-states.js';
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
      publish: settings.publish,
      watch: settings.watch,
      claims: settings.claims,
      sendsMail: false,
      agency: { ...settings.agency, logo: null },
      whenPutAway: new Set(),
      events: new EventEmitter(),
    });
  } finally {
    await store.close();
  }
}

interface NewPerson {
  readonly name: string;
  readonly role: Role;
  readonly password: string;
}

export async function addPersonHere(settings: Settings, person: NewPerson): Promise<void> {
  await onRecords(settings, (desk) => addPerson(desk, { personId: null }, person));
}

/** People with a bearer key each, for the one who sets a machine up. @returns the keys' secrets, in the order of the people */
export function addPeopleWithKeysHere(
  settings: Settings,
  people: readonly NewPerson[],
  label: string,
): Promise<string[]> {
  return onRecords(settings, (desk) =>
    Promise.all(
      people.map(async (person) => {
        const { id } = await addPerson(desk, { personId: null }, person);
        return (await addKey(desk, id, { label })).key;
      }),
    ),
  );
}

/** One person with a bearer key. @returns the key's secret */
export async function addPersonWithKeyHere(
  settings: Settings,
  person: NewPerson,
  label: string,
): Promise<string> {
  const [key = ''] = await addPeopleWithKeysHere(settings, [person], label);
  return key;
}
