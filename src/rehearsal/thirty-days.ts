import { setTimeout as sleep } from 'node:timers/promises';
import type { Alert } from '../api/documents.js';
import type { Client } from '../client/client.js';
import { getPost, sendOrder } from './command.js';
import { orderFor } from './developer.js';
import type { MailGot } from './post.js';
import { SEEDS } from './scenario.js';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** How far the clock goes at once. */
const STEP = 4 * HOUR;
/** Milliseconds of the machine's time for which addresses are remembered that a resolver told: so long its failing goes unseen. */
const REMEMBERED_MS = 5_500;
/** Milliseconds of real time until it is taken that something hangs. */
const PATIENCE_MS = 60_000;
const POLL_MS = 50;
/** It may be a tenth of a second until the service looks what time it is. */
const QUIET_POLLS = 4;

interface Site {
  readonly handle: string;
  readonly host: string;
  readonly client: string;
  readonly method: 'meta' | 'file' | 'dns';
}

/** Websites that were proven at two engines before the thirty days begin. */
const SITES: readonly Site[] = [
  {
    handle: 'ferries',
    host: 'www.saltmarsh-ferries.example',
    client: 'Saltmarsh Ferry Line',
    method: 'meta',
  },
  { handle: 'clocks', host: 'tidewell-clocks.example', client: 'Tidewell Clock Menders', method: 'file' },
  { handle: 'ropes', host: 'www.bollard-ropes.example', client: 'Bollard Ropeworks', method: 'dns' },
  { handle: 'buttons', host: 'www.button-museum.example', client: 'The Button Museum', method: 'meta' },
  { handle: 'tea', host: 'compass-tea.example', client: 'The Compass Tearooms', method: 'meta' },
  { handle: 'seeds', host: SEEDS, client: 'Hallig Seed Growers', method: 'file' },
];

/** Something that happens to a website, or to us. */
export interface Mishap {
  /** Hours after the beginning. */
  readonly at: number;
  readonly says: string;
  readonly orders: readonly object[];
  /** What people are to be told of it: a kind of case and a property; null where nothing may be told. */
  readonly told: { readonly kind: string; readonly property: string | null } | null;
}

const hostOf = (handle: string) => SITES.find((one) => one.handle === handle)?.host ?? '';

/** What happens in the thirty days. */
export const MISHAPS: readonly Mishap[] = [
  {
    at: 2 * 24 + 5,
    says: 'a website is down for ten minutes',
    orders: [{ do: 'site', host: hostOf('buttons'), serves: 'down' }],
    told: null,
  },
  {
    at: 3 * 24,
    says: 'a theme update drops the tag',
    orders: [{ do: 'clear', host: hostOf('ferries'), what: 'meta' }],
    told: { kind: 'slipping', property: 'ferries' },
  },
  {
    at: 5 * 24 + 2,
    says: 'a move to a new host forgets the file',
    orders: [{ do: 'clear', host: hostOf('clocks'), what: 'files' }],
    told: { kind: 'slipping', property: 'clocks' },
  },
  {
    at: 7 * 24,
    says: 'a certificate is about to run out',
    orders: [{ do: 'odd', host: hostOf('tea'), certificate: 'ends-soon' }],
    told: { kind: 'certificate', property: 'tea' },
  },
  {
    at: 9 * 24 + 7,
    says: 'the certificate has run out',
    orders: [{ do: 'odd', host: hostOf('tea'), certificate: 'expired' }],
    told: { kind: 'out-of-reach', property: 'tea' },
  },
  {
    at: 11 * 24 + 1,
    says: 'the zone loses the record',
    orders: [{ do: 'clear', host: hostOf('ropes'), what: 'txt' }],
    told: { kind: 'slipping', property: 'ropes' },
  },
  {
    at: 12 * 24 + 4,
    says: 'the certificate is renewed',
    orders: [{ do: 'odd', host: hostOf('tea'), certificate: 'good' }],
    told: null,
  },
  {
    at: 13 * 24 + 3,
    says: 'the sitemap plug-in is switched off',
    orders: [{ do: 'odd', host: hostOf('seeds'), answer: { path: '/sitemap.xml', status: 404 } }],
    told: { kind: 'sitemap-unreachable', property: 'seeds' },
  },
  {
    at: 16 * 24 + 2,
    says: 'the staging switch is left on',
    orders: [{ do: 'meta', host: hostOf('buttons'), tag: '<meta name="robots" content="noindex">' }],
    told: { kind: 'stays-away', property: 'buttons' },
  },
  {
    at: 18 * 24 + 6,
    says: 'a website is down for a day',
    orders: [{ do: 'site', host: hostOf('tea'), serves: 'down' }],
    told: { kind: 'out-of-reach', property: 'tea' },
  },
  {
    at: 19 * 24 + 6,
    says: 'it is back',
    orders: [{ do: 'site', host: hostOf('tea'), serves: 'pages' }],
    told: null,
  },
  {
    at: 22 * 24 + 3,
    says: 'our own resolver fails for an hour',
    orders: [{ do: 'resolver', how: 'fails' }],
    told: { kind: 'cut-off', property: null },
  },
];

/** How long what passes by itself lasts, in milliseconds, by what happened; then these orders end it. */
const PASSES: readonly { readonly after: string; readonly ms: number; readonly orders: readonly object[] }[] =
  [
    {
      after: 'a website is down for ten minutes',
      ms: 10 * MINUTE,
      orders: [{ do: 'site', host: hostOf('buttons'), serves: 'pages' }],
    },
    {
      after: 'our own resolver fails for an hour',
      ms: HOUR,
      orders: [{ do: 'resolver', how: 'answers' }],
    },
  ];

/** What happened, when, and what came of it. */
export interface Happened extends Mishap {
  readonly time: string;
  /** When the case that it made was told; null where it made none. */
  readonly notifiedAt: string | null;
  /** When the first engine withdrew a badge by it; null where none did. */
  readonly lostAt: string | null;
}

/** What of the thirty days is to be seen: what happened, when it was told, and how long before an engine acted. */
export interface Lived {
  /** In milliseconds since the epoch. */
  readonly begun: number;
  readonly happened: readonly Happened[];
  readonly cases: readonly Alert[];
  readonly mails: readonly MailGot[];
}

export interface World {
  readonly client: Client;
  /** Where the rehearsal is told what to do. */
  readonly control: string;
  readonly say: (text: string) => void;
  /** Done before each step in which nothing passes by itself, whose time it would lengthen: where the service is ended and begun again. */
  readonly between?: (step: number) => Promise<void>;
}

async function order(world: World, one: object): Promise<void> {
  const { done, says } = await sendOrder(world.control, one);
  if (!done) throw new Error(says);
}

/** Takes the websites on, has them proven at two engines, and one person told. */
export async function takeOnAll(world: World): Promise<void> {
  const { client } = world;
  await client.editRecipient({
    params: { person: 'me' },
    body: { email: 'marit@harbour-lights.example', zone: 'Europe/Berlin', digestAt: '07:30' },
  });
  for (const { handle, host, client: name } of SITES) {
    const { handle: of } = await client.addClient({ body: { name } });
    await client.finished({
      id: (await client.addProperty({ body: { client: of, address: host, handle } })).job,
    });
  }
  for (const { handle, method } of SITES) {
    const engines = ['veldrane', 'ostrime'];
    await client.finished(await client.enrol({ body: { properties: [handle], engines, reach: 'address' } }));
    await client.finished(await client.getTokens({ body: { enrolments: [handle], method } }));
    const { items } = await client.listEnrolments({ query: { property: handle } });
    for (const placement of items.flatMap(({ placements }) => placements))
      await order(world, orderFor(placement));
    await client.finished(await client.claim({ body: { enrolments: [handle] } }));
    const { id } = await client.addSitemap({ body: { property: handle, address: 'sitemap.xml' } });
    await client.finished(await client.submitSitemap({ body: { sitemap: id } }));
  }
}

/** Lives through the days. @returns what came of it */
export async function liveThirtyDays(world: World, days = 30): Promise<Lived> {
  const begun = Date.parse((await world.client.whoAmI()).now);
  const times = new Map<Mishap, string>();
  const later: { at: number; orders: readonly object[] }[] = [];
  let now = begun;
  let cutOffUntil = 0;
  for (let step = 0; now < begun + days * DAY; step += 1) {
    if (later.length === 0) await world.between?.(step);
    const next = MISHAPS.filter((one) => !times.has(one)).map((one) => begun + one.at * HOUR);
    const watch = await world.client.showWatch({ query: { limit: 1 } });
    // What did not come out well is looked at again in time, and so is all while something passes; what is only due may else be some
    // hours late, as where much is to be done.
    const [first] = watch.items;
    if (watch.cutOff) cutOffUntil = now + 10 * MINUTE;
    const isHot = first !== undefined && (first.why !== 'rhythm' || later.length > 0 || now < cutOffUntil);
    const soon = isHot ? Date.parse(first.dueAt) : Infinity;
    const untold =
      now < cutOffUntil ||
      (await world.client.listAlerts({})).items.some(({ notifiedAt }) => notifiedAt === null);
    const target = Math.min(
      now + (untold ? (watch.cutOff ? 10 : 3) * MINUTE : STEP),
      Math.max(soon + 1_000, now + (watch.cutOff ? 10 : 1) * MINUTE),
      ...next.map((time) => Math.max(time, now)),
      ...later.map(({ at }) => at),
    );
    await order(world, { do: 'clock', ms: Math.max(0, target - now) });
    now = Date.parse((await world.client.whoAmI()).now);
    for (const one of MISHAPS)
      if (!times.has(one) && begun + one.at * HOUR <= now) {
        // An outage of ours in which nobody looked at anything is one of which nobody knows.
        if (one.told?.kind === 'cut-off') now = await untilLook(world);
        for (const what of one.orders) await order(world, what);
        if (one.told?.kind === 'cut-off') await sleep(REMEMBERED_MS);
        times.set(one, new Date(now).toISOString());
        world.say(`${dayOf(now, begun)}  ${one.says}`);
        const passes = PASSES.find(({ after }) => after === one.says);
        if (passes) later.push({ at: now + passes.ms, orders: passes.orders });
      }
    for (const one of later.splice(0))
      if (one.at <= now) for (const what of one.orders) await order(world, what);
      else later.push(one);
    await settled(world);
    now = Date.parse((await world.client.whoAmI()).now);
  }
  return told(world, begun, times);
}

/** Has the time pass until shortly before something is looked at. @returns what time it is then */
async function untilLook(world: World): Promise<number> {
  await settled(world);
  const now = Date.parse((await world.client.whoAmI()).now);
  const { nextAt } = await world.client.showWatch({ query: { limit: 1 } });
  const left = Date.parse(nextAt ?? '') - MINUTE - now;
  if (left > 0) await order(world, { do: 'clock', ms: left });
  return Date.parse((await world.client.whoAmI()).now);
}

/** Waits until nothing is due and nothing under way, and no message is still to be sent. */
async function settled(world: World): Promise<void> {
  const { client } = world;
  let idle = 0;
  let quiet = 0;
  for (let left = PATIENCE_MS; ; left -= POLL_MS) {
    const [{ counts, cutOff }, messages] = await Promise.all([
      client.showWatch({ query: { limit: 1 } }),
      client.listNotifications({ query: { state: 'waiting', limit: 1 } }),
    ]);
    const { due = 0, underWay = 0 } = counts;
    const isQuiet = (due === 0 || cutOff !== null) && underWay === 0 && messages.items.length === 0;
    quiet = isQuiet ? quiet + 1 : 0;
    if (quiet === QUIET_POLLS || left <= 0) {
      if (left <= 0)
        throw new Error(`the watch does not come to rest: ${JSON.stringify({ due, underWay, messages })}`);
      return;
    }
    // What came due within the minute of the last round is begun with the next.
    idle = due > 0 && underWay === 0 ? idle + 1 : 0;
    if (idle % 5 === 4) await order(world, { do: 'clock', ms: MINUTE });
    await sleep(POLL_MS);
  }
}

async function told(
  { client, control }: World,
  begun: number,
  times: ReadonlyMap<Mishap, string>,
): Promise<Lived> {
  const [open, over] = await Promise.all([
    client.listAlerts({ query: { limit: 500 } }),
    client.listAlerts({ query: { resolved: true, limit: 500 } }),
  ]);
  const cases = [...open.items, ...over.items].sort((a, b) => a.openedAt.localeCompare(b.openedAt));
  const happened = [...times].map(([one, time]) => {
    const own = cases.find(
      ({ kind, property, openedAt }) =>
        kind === one.told?.kind && property === one.told.property && openedAt >= time,
    );
    const lost = cases.find(
      ({ kind, property, openedAt }) =>
        kind === 'lost' && property === one.told?.property && openedAt >= time,
    );
    return { ...one, time, notifiedAt: own?.notifiedAt ?? null, lostAt: lost?.since ?? null };
  });
  return { begun, happened, cases, mails: (await getPost(control)).mails };
}

function dayOf(time: number, begun: number): string {
  return `day ${String(Math.floor((time - begun) / DAY) + 1).padStart(2)}`;
}
