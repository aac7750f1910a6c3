import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { stringify } from 'yaml';
import { Authority } from './authority.js';
import { startControl, type Control } from './control.js';
import { startEngine, type EngineServer } from './engines/engine-server.js';
import type { Grounds } from './engines/fetching.js';
import { makeRounds } from './engines/rounds.js';
import { Registry } from './engines/registry.js';
import { REHEARSAL_ENGINES, type EngineRules } from './engines/rules.js';
import { MISHAPS } from './mishaps.js';
import { startNameServer, type NameServer } from './names/server.js';
import { VARIANT_SITES } from './variant-sites.js';
import { engineAddress, HOOKS_ADDRESS, newWorld, SERVERS } from './scenario.js';
import { startPost, type Post } from './post.js';
import { startSites } from './sites/server.js';
import { WorldFile } from './state.js';

export const PROFILES = fileURLToPath(new URL('../../engines/rehearsal/', import.meta.url));
const ROUND_MS = 1000;

export interface Ports {
  readonly service: number;
  readonly dns: number;
  readonly http: number;
  readonly https: number;
  readonly control: number;
  readonly smtp: number;
  readonly hooks: number;
  readonly engines: Readonly<Record<string, number>>;
}

export const USUAL_PORTS: Ports = {
  service: 7420,
  dns: 7453,
  http: 7480,
  https: 7443,
  control: 7490,
  smtp: 7425,
  hooks: 7491,
  engines: { veldrane: 7461, ostrime: 7462, sundrel: 7463 },
};
/** Ports that the system chooses, for tests that run beside each other. */
export const ANY_PORTS: Ports = {
  service: 0,
  dns: 0,
  http: 0,
  https: 0,
  control: 0,
  smtp: 0,
  hooks: 0,
  engines: {},
};

/** Bearer keys by engine and account. */
export type Keys = Readonly<Record<string, Readonly<Record<string, string>>>>;

export interface World {
  readonly file: WorldFile;
  readonly control: Control;
  /** Where its people get their mail. */
  readonly post: Post;
  readonly engines: ReadonlyMap<string, EngineServer>;
  /** The keys of each account at each engine that has a link. */
  readonly keys: Keys;
  /** The configuration by which the service runs in this world. */
  readonly config: string;
  /** What the service needs in its environment: the engines' keys. */
  readonly env: Readonly<Record<string, string>>;
  /** Puts the clock forward and lets the engines do what fell due. @param ms of shown time */
  advance(ms: number): Promise<void>;
  /** Tells of every request that reaches a website. */
  readonly listeners: Set<(url: string) => void>;
  close(): Promise<void>;
}

/**
 * Starts the stand-in world in a folder: websites, name server, engines, authority, clock, control.
 * @param shown where the fast clock begins, in a new folder
 * @param guests engines beside the usual ones, of which the product knows nothing
 */
export async function startWorld(
  folder: string,
  ports: Ports,
  shown: Date,
  guests: readonly EngineRules[] = [],
): Promise<World> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  chmodSync(folder, 0o700);
  mkdirSync(join(folder, 'engines'), { recursive: true });
  const file = new WorldFile(folder, () =>
    newWorld(
      shown,
      [...MISHAPS.map(({ site }) => site), ...VARIANT_SITES].map((site) => structuredClone(site)),
    ),
  );
  const authority = await Authority.open(folder, file);
  const ca = authority.certificate.toString('pem');
  const [names, pages, post] = await Promise.all([
    startNameServers(file, ports.dns),
    startSites(file, authority, { http: ports.http, https: ports.https }),
    startPost(folder, file, ports),
  ]);
  const grounds: Grounds = { http: pages.http, https: pages.https, dns: names.resolver.port, ca };
  for (const name of readdirSync(PROFILES)) {
    const copy = join(folder, 'engines', name);
    if (!existsSync(copy)) copyFileSync(join(PROFILES, name), copy);
  }
  const all = [...REHEARSAL_ENGINES, ...guests];
  const keys = engineKeys(folder, all);
  const registries = new Map(all.map((rules) => [rules.id, new Registry(file, rules, grounds)]));
  const engines = await startEngines(file, registries, keys, ports);
  let round: Promise<void> = Promise.resolve();
  const rounds = (): Promise<void> => {
    round = round.then(async () => {
      for (const registry of registries.values()) await makeRounds(file, registry, grounds);
    });
    return round;
  };
  const timer = setInterval(() => void rounds(), ROUND_MS);
  const advance = async (ms: number): Promise<void> => {
    file.advance(ms);
    await rounds();
  };
  const control = await startControl(
    { file, engines, registries, advance, restartSites: pages.closeIdle, post },
    ports.control,
  );
  writeFileSync(join(folder, 'rehearsal.json'), JSON.stringify({ control: control.url }));
  writeFileSync(join(folder, 'logo.svg'), LOGO);
  const config = join(folder, 'yardbadge.yaml');
  writeFileSync(config, configFor(ports.service, grounds, names, engines, post, join(folder, 'web')));
  return {
    file,
    control,
    post,
    engines,
    keys,
    config,
    env: envFor(keys),
    advance,
    listeners: pages.listeners,
    async close() {
      clearInterval(timer);
      await round;
      file.flush();
      await Promise.all([
        control.close(),
        post.close(),
        names.close(),
        pages.close(),
        ...[...engines.values()].map((engine) => engine.close()),
      ]);
    },
  };
}

interface NameServers {
  readonly resolver: NameServer;
  /** The one that the agency's own machine asks. */
  readonly ours: NameServer;
  readonly ports: Readonly<Record<keyof typeof SERVERS, number>>;
  close(): Promise<void>;
}

/** The resolver on the port that is told, and the servers that it stands for on ports of their own. */
async function startNameServers(file: WorldFile, port: number): Promise<NameServers> {
  const [ours, resolver, registry, ns1, ns2, attic] = await Promise.all([
    startNameServer(file, 'ours', port),
    startNameServer(file, 'resolver', 0),
    startNameServer(file, 'registry', 0),
    startNameServer(file, 'ns1', 0),
    startNameServer(file, 'ns2', 0),
    startNameServer(file, 'attic', 0),
  ]);
  const all = { registry, ns1, ns2, attic };
  return {
    ours,
    resolver,
    ports: { registry: registry.port, ns1: ns1.port, ns2: ns2.port, attic: attic.port },
    async close() {
      await Promise.all([ours, resolver, ...Object.values(all)].map((one) => one.close()));
    },
  };
}

async function startEngines(
  file: WorldFile,
  registries: ReadonlyMap<string, Registry>,
  keys: Keys,
  ports: Ports,
): Promise<Map<string, EngineServer>> {
  for (const registry of registries.values()) registry.open();
  const linked = [...registries].filter(([, { rules }]) => rules.hasLink);
  return new Map(
    await Promise.all(
      linked.map(
        async ([id, registry]) =>
          [id, await startEngine(file, registry, keys[id] ?? {}, ports.engines[id] ?? 0)] as const,
      ),
    ),
  );
}

/** The keys of the usual accounts: the agency's own, and one that a client has of its own. */
function engineKeys(folder: string, all: readonly EngineRules[]): Keys {
  const file = join(folder, 'engine-keys.json');
  const known = existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Keys) : {};
  const made = Object.fromEntries(
    all
      .filter(({ hasLink }) => hasLink)
      .map(({ id }) => [
        id,
        known[id] ?? { agency: randomBytes(24).toString('hex'), client: randomBytes(24).toString('hex') },
      ]),
  );
  writeFileSync(file, JSON.stringify(made), { mode: 0o600 });
  return made;
}

/** What the service finds in its environment: the keys of the agency's own accounts. */
function envFor(keys: Keys): Record<string, string> {
  return Object.fromEntries(
    Object.entries(keys).map(([engine, { agency = '' }]) => [
      `YARDBADGE_KEY_${engine.toUpperCase()}`,
      agency,
    ]),
  );
}

/** The agency’s lantern, as its reports show it. */
const LOGO = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40" width="40" height="40"><path d="M14 12h12l3 20H11z" fill="none" stroke="#0b4f6c" stroke-width="2.5"/><path d="M15 12a5 6 0 0 1 10 0M9 35h22" fill="none" stroke="#0b4f6c" stroke-width="2.5"/><circle cx="20" cy="23" r="4.5" fill="#e0a030"/></svg>`;

function configFor(
  service: number,
  grounds: Grounds,
  names: NameServers,
  engines: ReadonlyMap<string, EngineServer>,
  post: Post,
  webRoots: string,
): string {
  const local = (port: number) => `127.0.0.1:${String(port)}`;
  return stringify({
    listen: { host: '127.0.0.1', port: service },
    data: './yardbadge.sqlite',
    clock: './clock.json',
    engines: './engines/',
    keyFile: './yardbadge.key',
    // The stand-in engines speak on loopback alone, under names that nobody can have (RFC 2606).
    plainLinks: ['example'],
    log: 'warn',
    publish: { folders: [webRoots] },
    agency: { name: 'Harbour Lights', colour: '#0b4f6c', logo: './logo.svg' },
    mail: {
      host: '127.0.0.1',
      port: post.smtp,
      security: 'none',
      from: 'Yard Badge <yard@harbour-lights.example>',
    },
    net: {
      resolver: local(names.ours.port),
      // The documentation ranges (RFC 5737), which the rehearsal's names resolve to.
      allow: ['192.0.2.0/24', '198.51.100.0/24', '203.0.113.0/24'],
      connect: [
        ...[...engines].map(([id, engine]) => ({
          from: `${engineAddress(id)}:80`,
          to: local(engine.port),
        })),
        ...Object.entries(SERVERS).map(([role, { address }]) => ({
          from: `${address}:53`,
          to: local(names.ports[role as keyof typeof SERVERS]),
        })),
        { from: `${HOOKS_ADDRESS}:80`, to: local(post.hooks) },
        { from: '*:80', to: local(grounds.http) },
        { from: '*:443', to: local(grounds.https) },
      ],
      ca: './ca.pem',
    },
  });
}
