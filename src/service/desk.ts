import { EventEmitter } from 'node:events';
import { readFile } from 'node:fs/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import { ensureAccounts } from '../desk/engine-list.js';
import { lookAt } from '../desk/look.js';
import type { Desk } from '../desk/parts.js';
import type { Engine } from '../engines/engine.js';
import { HouseEngine } from '../engines/house.js';
import { LinkEngine } from '../engines/link/link-engine.js';
import { OWN_PROFILES, readProfiles } from '../engines/profiles.js';
import type { EngineProfile } from '../core/profile/profile.js';
import type { Clock } from '../core/time/clock.js';
import { Net } from '../net/net.js';
import { Store } from '../store/store.js';
import { fileClock, systemClock } from './clock.js';
import { SettingsFault } from './settings/load.js';
import type { Settings } from './settings/schema.js';

/** Puts together what the use cases work with, from the settings. */
export async function openDesk(settings: Settings, env: NodeJS.ProcessEnv): Promise<Desk> {
  const clock = settings.clock === null ? systemClock : fileClock(settings.clock);
  const profiles = await readProfiles(
    settings.engines === null ? [OWN_PROFILES] : [OWN_PROFILES, settings.engines],
  );
  const ca = settings.net.ca === null ? null : await readFile(settings.net.ca, 'utf8');
  const net = new Net({ ...settings.net, ca });
  const store = await Store.open(settings.data);
  const engines = new Map(
    [...profiles.values()].map((profile) => [profile.id, workEngine(profile, net, clock, env)]),
  );
  const desk: Desk = { store, net, clock, profiles, engines, events: new EventEmitter().setMaxListeners(0) };
  await ensureAccounts(desk);
  return desk;
}

export async function closeDesk(desk: Desk): Promise<void> {
  await desk.net.close();
  await desk.store.close();
}

function workEngine(profile: EngineProfile, net: Net, clock: Clock, env: NodeJS.ProcessEnv): Engine {
  const { worked } = profile;
  if (worked.how === 'house')
    return new HouseEngine(
      profile,
      clock,
      async (placement) => (await lookAt(net, clock, placement)).judgement,
    );
  const key = env[worked.keyFrom];
  if (key === undefined)
    throw new SettingsFault(
      `The engine ${profile.id} wants its key in the environment variable ${worked.keyFrom}, which is not set.`,
    );
  return new LinkEngine({
    net,
    clock,
    base: worked.base,
    key,
    title: profile.title,
    sleep: (ms) => sleep(ms),
  });
}
