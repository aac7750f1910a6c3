import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Judgement } from '../../src/core/badge/judge/judge.js';
import type { EngineProfile, Method } from '../../src/core/profile/profile.js';
import { probe } from '../../src/desk/engine-book/probe.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { judgeOwnership, type EngineVerdict } from '../../src/rehearsal/engines/judging.js';
import type { Grounds } from '../../src/rehearsal/engines/fetching.js';
import { REHEARSAL_ENGINES, type EngineRules } from '../../src/rehearsal/engines/rules.js';
import { startNameServer } from '../../src/rehearsal/names/server.js';
import { newWorld, SERVERS } from '../../src/rehearsal/scenario.js';
import { startSites } from '../../src/rehearsal/sites/server.js';
import { removed } from '../support/removed.js';
import { brindle, ostrime, sundrel, veldrane } from '../support/profiles.js';
import { STAGE_TIME, stageClock } from '../support/time.js';
import { DNS_SCENES } from './dns-scenes.js';
import { FILE_SCENES } from './file-scenes.js';
import { Ground, placed, tokenLike } from './ground.js';
import { META_SCENES } from './meta-scenes.js';
import { REACH_SCENES } from './reach-scenes.js';
import { ofMethod, type MethodScene } from './scenes.js';

export const PROFILES: readonly EngineProfile[] = [veldrane, ostrime, sundrel, brindle];
const SCENES: readonly MethodScene[] = [
  ...ofMethod('meta', [...META_SCENES, ...REACH_SCENES]),
  ...ofMethod('file', FILE_SCENES),
  ...ofMethod('dns', DNS_SCENES),
];
// Long enough that a busy machine does not look like a website that keeps silent.
const PATIENCE_MS = 6_000;
const REFUSING = '192.0.2.99';

/** A scene at an engine, on a website and zone of its own. */
export interface Row {
  readonly title: string;
  readonly method: Method;
  readonly engine: string;
  readonly rules: EngineRules;
  readonly scene: MethodScene;
  readonly ground: Ground;
  readonly reach: 'name' | 'address';
  readonly target: string;
}

/** The rehearsal's websites, name servers and engines, and a look at them by our own check. */
export interface Stage {
  readonly look: (row: Pick<Row, 'ground' | 'rules'>) => Promise<Judgement>;
  readonly verdict: (
    rules: EngineRules,
    at: Pick<Row, 'reach' | 'target'>,
    method: Method,
    token: string,
  ) => Promise<EngineVerdict>;
  readonly rows: readonly Row[];
  readonly close: () => Promise<void>;
}

/** One row for each scene, engine and reach that go together. */
function rowsIn(state: Ground['state']): Row[] {
  let count = 0;
  return SCENES.flatMap((scene) =>
    PROFILES.flatMap((profile) =>
      (['address', 'name'] as const).flatMap((reach) => {
        const number = (count += 1);
        const bare = `quay-${String(number)}.example`;
        const host = scene.at === 'www' ? `www.${bare}` : bare;
        const target = reach === 'name' ? host : `https://${host}${scene.at === 'folder' ? '/shop/' : '/'}`;
        const token = (seed: number) => tokenLike(profile, number * 10 + seed);
        const placement = placed(profile, reach, target, scene.method, token(1));
        const rules = REHEARSAL_ENGINES.find(({ id }) => id === profile.id);
        if (!placement || !rules || (scene.at === 'folder' && reach === 'name')) return [];
        const neighbour = profile === sundrel ? veldrane : sundrel;
        const other = { method: scene.method, replacedAt: null, inUse: true };
        const ground = new Ground(state, profile, bare, placement, {
          own: token(1),
          old: token(2),
          others: [
            {
              ...other,
              value: tokenLike(neighbour, number),
              engine: neighbour.id,
              engineTitle: neighbour.title,
              property: 'own',
            },
            { ...other, value: token(3), engine: profile.id, engineTitle: profile.title, property: 'clocks' },
          ],
        });
        if (scene.fits?.(ground) === false) return [];
        const title = `${scene.method}: ${scene.what}, at ${profile.title} by ${reach}`;
        return [{ title, method: scene.method, engine: profile.title, rules, scene, ground, reach, target }];
      }),
    ),
  );
}

/** Sets the stage: every scene of every engine, each on a website and zone of its own. */
export async function openStage(): Promise<Stage> {
  const state = newWorld(STAGE_TIME);
  const world = { state, ...stageClock };
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-agree-'));
  const authority = await Authority.open(folder, stageClock);
  const [resolver, registry, ns1, ns2, attic] = await Promise.all(
    (['resolver', 'registry', 'ns1', 'ns2', 'attic'] as const).map((role) => startNameServer(world, role, 0)),
  );
  if (!resolver || !registry || !ns1 || !ns2 || !attic) throw new Error('no name servers');
  const sites = await startSites(world, authority, { http: 0, https: 0 });
  const local = (port: number) => `127.0.0.1:${String(port)}`;
  const ca = authority.certificate.toString('pem');
  const served = { registry, ns1, ns2, attic };
  const net = new Net({
    resolver: local(resolver.port),
    allow: ['192.0.2.0/24'],
    connect: [
      ...Object.entries(served).map(([role, { port }]) => ({
        from: `${SERVERS[role as keyof typeof SERVERS].address}:53`,
        to: local(port),
      })),
      { from: `${REFUSING}:443`, to: local(9) },
      { from: '*:80', to: local(sites.http) },
      { from: '*:443', to: local(sites.https) },
    ],
    ca,
    agent: 'YardBadge/1.0',
    bounds: { ...DEFAULT_BOUNDS, hopMs: PATIENCE_MS, dnsMs: 3_000 },
  });
  const grounds: Grounds = {
    http: sites.http,
    https: sites.https,
    dns: resolver.port,
    ca,
    patienceMs: PATIENCE_MS,
    elsewhere: { [REFUSING]: 9 },
  };
  const rows = rowsIn(state);
  for (const { scene, ground } of rows) scene.arrange(ground);
  return {
    rows,
    look: async ({ ground, rules }) => {
      const looked = await probe(net, world, ground.placement, {
        own: { engine: rules.id, property: 'own' },
        recognise: (words) => Promise.resolve(ground.known.filter(({ value }) => words.includes(value))),
        otherLabels: ['_other-label'],
      });
      return looked.judgement;
    },
    verdict: (rules, at, method, token) => judgeOwnership(rules, grounds, at, method, token),
    close: async () => {
      await net.close();
      await sites.close();
      await Promise.all([resolver, registry, ns1, ns2, attic].map((one) => one.close()));
      await removed(folder);
    },
  };
}

/** At most so many at the same time. */
export async function inLanes<T, R>(
  items: readonly T[],
  lanes: number,
  work: (item: T) => Promise<R>,
): Promise<R[]> {
  const results: R[] = [];
  const waiting = [...items];
  const lane = async () => {
    for (let next = waiting.shift(); next !== undefined; next = waiting.shift())
      results.push(await work(next));
  };
  await Promise.all(Array.from({ length: lanes }, lane));
  return results;
}
