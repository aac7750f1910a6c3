import { EventEmitter } from 'node:events';
import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { ensureAccounts } from '../desk/engines/accounts.js';
import { EngineBook } from '../desk/engine-book/book.js';
import { KeyBases } from '../desk/engine-book/key-bases.js';
import { LinkStates } from '../desk/engine-book/link-states.js';
import { closeShelves } from '../desk/contents/shelves.js';
import type { Desk } from '../desk/context/desk.js';
import { OWN_PROFILES, readProfiles } from '../engines/profiles.js';
import { Vault } from '../engines/vault.js';
import { Net } from '../net/net.js';
import { closeReaders } from '../readers/readers.js';
import { Store } from '../store/store.js';
import { machineClock } from '../net/time/machine-clock.js';
import { fileClock } from './clock.js';
import { SettingsFault } from './settings/load.js';
import type { Settings } from './settings/schema.js';

/**
 * Puts together what the use cases work with, from the settings.
 * @param pause waits for milliseconds of real time between tries
 */
export async function openDesk(
  settings: Settings,
  env: NodeJS.ProcessEnv,
  pause: (ms: number) => Promise<void> = (ms) => sleep(ms),
): Promise<Desk> {
  const clock = settings.clock === null ? machineClock : fileClock(settings.clock);
  const profiles = await readProfiles(
    settings.engines === null ? [OWN_PROFILES] : [OWN_PROFILES, settings.engines],
  );
  const ca = settings.net.ca === null ? null : await readFile(settings.net.ca, 'utf8');
  const net = new Net({ ...settings.net, ca });
  const store = await Store.open(settings.data);
  const links = new LinkStates(store, clock);
  await links.load();
  const book = new EngineBook(
    {
      net,
      clock,
      env,
      keyVariables: settings.keyVariables,
      plainLinks: settings.plainLinks,
      keyBases: new KeyBases(store, clock),
      vault: new Vault(settings.keyFile),
      sleep: pause,
      logFor: (accountId) => links.logFor(accountId),
      folder: settings.engines,
    },
    profiles.values(),
  );
  const { sitemaps, watch, publish, claims } = settings;
  const events = new EventEmitter().setMaxListeners(0);
  const sendsMail = settings.mail.host !== null;
  const desk: Desk = {
    store,
    net,
    clock,
    book,
    links,
    sitemaps,
    watch,
    publish,
    claims,
    sendsMail,
    agency: await agencyOf(settings),
    whenPutAway: new Set(),
    events,
  };
  await ensureAccounts(desk);
  return desk;
}

/** A logo is as large as this at most, and of these kinds. */
const MOST_LOGO_BYTES = 300_000;
const LOGOS: Readonly<Record<string, string>> = {
  '.png': 'image/png',
  '.svg': 'image/svg+xml',
  '.jpg': 'image/jpeg',
};

/** The agency as its reports show it. Throws SettingsFault for a logo that cannot be read. */
async function agencyOf({ agency }: Pick<Settings, 'agency'>): Promise<Desk['agency']> {
  if (agency.logo === null) return { ...agency, logo: null };
  const type = LOGOS[extname(agency.logo).toLowerCase()];
  const bytes = await readFile(agency.logo).catch(() => null);
  if (type === undefined || bytes === null || bytes.length > MOST_LOGO_BYTES)
    throw new SettingsFault(
      `agency.logo: ${agency.logo} cannot be used; expected a file that ends in .png, .svg or .jpg, of 300 kB at most`,
    );
  return { ...agency, logo: `data:${type};base64,${bytes.toString('base64')}` };
}

export async function closeDesk(desk: Desk): Promise<void> {
  await Promise.all([desk.net.close(), closeReaders()]);
  await closeShelves();
  await desk.store.close();
}
