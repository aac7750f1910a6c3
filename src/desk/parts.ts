import type { EventEmitter } from 'node:events';
import type { EngineProfile } from '../core/profile/profile.js';
import type { Clock } from '../core/time/clock.js';
import type { Engine } from '../engines/engine.js';
import type { Net } from '../net/net.js';
import type { Store } from '../store/store.js';
import { Problem } from '../api/problems.js';

/** What every use case works with. Made once at start; nothing reaches for it by itself. */
export interface Desk {
  readonly store: Store;
  readonly net: Net;
  readonly clock: Clock;
  readonly profiles: ReadonlyMap<string, EngineProfile>;
  /** How an engine is worked. */
  readonly engines: ReadonlyMap<string, Engine>;
  /** Tells that something changed: `change` with the kind, `job` with a job's id. */
  readonly events: EventEmitter;
}

/** Who asks for it; null is the service itself. */
export interface Actor {
  readonly personId: string | null;
}

/** The present, as it is stored and sent. */
export function nowText(desk: Desk): string {
  return desk.clock.now().toISOString();
}

/** An engine's profile by its id. Throws Problem `no-such-engine` that lists those there are. */
export function profileOf(desk: Desk, engine: string): EngineProfile {
  const profile = desk.profiles.get(engine);
  if (profile) return profile;
  throw new Problem(
    'no-such-engine',
    `There is no engine “${engine}”. Known are: ${[...desk.profiles.keys()].join(', ')}.`,
  );
}

export function engineOf(desk: Desk, id: string): Engine {
  const engine = desk.engines.get(id);
  if (engine) return engine;
  throw new Problem('no-such-engine', `The engine “${id}” has no profile any more.`);
}
