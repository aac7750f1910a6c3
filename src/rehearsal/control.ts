import type { AddressInfo } from 'node:net';
import Fastify from 'fastify';
import Joi from 'joi';
import type { EngineServer } from './engines/engine-server.js';
import { noMischief } from './engines/mischief.js';
import { visitPage, type PageVisit } from './engines/pages.js';
import { Refusal, type Registry } from './engines/registry.js';
import {
  makeNameOdd,
  makeSiteOdd,
  makeVariantOdd,
  oddSchemas,
  type OddName,
  type OddSite,
  type OddVariant,
} from './oddities.js';
import { site as newSite } from './scenario.js';
import { CONTACT_WAYS, doAsAsked, type ContactWay } from './contacts.js';
import type { Post } from './post.js';
import type { SiteState, WorldFile } from './state.js';
import { given } from '../api/given.js';

export interface ControlParts {
  readonly file: WorldFile;
  readonly engines: ReadonlyMap<string, EngineServer>;
  /** Of every engine, with or without a link. */
  readonly registries: ReadonlyMap<string, Registry>;
  readonly advance: (ms: number) => Promise<void>;
  /** Has the websites' server take up what was changed of it. */
  readonly restartSites: () => void;
  readonly post: Post;
}

export interface Control {
  readonly url: string;
  close(): Promise<void>;
}

/** What the rehearsal can be told, as a client's developer or a bad day would do it. */
export type Order =
  | { do: 'meta'; host: string; tag: string; inBody?: boolean }
  | { do: 'file'; host: string; path: string; content: string; type?: string }
  | { do: 'txt'; name: string; value: string }
  | { do: 'clear'; host: string; what: 'meta' | 'files' | 'txt' }
  | { do: 'site'; host: string; serves: SiteState['serves'] }
  /** A website that was not there before. */
  | { do: 'new-site'; host: string; title: string; aliases?: string[] }
  | { do: 'sitemap'; host: string; path: string; addresses: number }
  /** A website of so many pages that link to one another. */
  | { do: 'pages'; host: string; count: number; traps?: boolean }
  /** A folder of this machine is the web root of a website from now on. */
  | { do: 'web-root'; host: string; folder: string }
  /** Somebody of a client's reads their newest mail, and does what it asks in a way of their own. */
  | { do: 'read-mail'; who: string; way: ContactWay }
  | { do: 'clock'; ms: number }
  /** The agency's own resolver fails, or answers again. */
  | { do: 'resolver'; how: 'fails' | 'answers' }
  | {
      do: 'engine';
      engine: string;
      slowMs?: number;
      slowAfterMs?: number;
      failStatus?: number;
      failTimes?: number;
      /** Seconds, told with each failure. */
      retryAfter?: number;
      cutTimes?: number;
      oddTimes?: number;
      /** Work that is switched off, by the last word of its route, and for how many milliseconds. */
      suspend?: { work: string; ms: number };
    }
  /** The engine forgets enrolments of a target: all that it had of them is gone; or their sitemaps alone. */
  | { do: 'engine-loses'; engine: string; target: string; sitemaps?: boolean }
  /** Somebody else proves to the engine that a site is theirs. */
  | { do: 'engine-holder'; engine: string; target: string; who: string; method: string }
  /** The engine hands out another token from now on. */
  | { do: 'engine-renews'; engine: string; target: string; method: string }
  | OddSite
  | OddVariant
  | OddName
  /** Somebody looks at the pages of an engine that has no link. */
  | { do: 'page'; engine: string; visit: PageVisit };

const host = Joi.string().lowercase().required();
const text = Joi.string().max(20_000).required();
const orderSchema = Joi.alternatives<Order>(
  ...oddSchemas,
  Joi.object({ do: Joi.valid('meta').required(), host, tag: text, inBody: Joi.boolean() }),
  Joi.object({
    do: Joi.valid('file').required(),
    host,
    path: Joi.string().pattern(/^\//).required(),
    content: text.allow(''),
    type: Joi.string(),
  }),
  Joi.object({ do: Joi.valid('txt').required(), name: host, value: text }),
  Joi.object({ do: Joi.valid('clear').required(), host, what: Joi.valid('meta', 'files', 'txt').required() }),
  Joi.object({
    do: Joi.valid('site').required(),
    host,
    serves: Joi.valid('pages', 'down', 'errors').required(),
  }),
  Joi.object({
    do: Joi.valid('new-site').required(),
    host,
    title: Joi.string().max(200).required(),
    aliases: Joi.array().items(host).max(50),
  }),
  Joi.object({
    do: Joi.valid('sitemap').required(),
    host,
    path: Joi.string().pattern(/^\//).required(),
    addresses: Joi.number().integer().min(0).max(100_000).required(),
  }),
  Joi.object({
    do: Joi.valid('pages').required(),
    host,
    count: Joi.number().integer().min(1).max(1_000_000).required(),
    traps: Joi.boolean(),
  }),
  Joi.object({ do: Joi.valid('web-root').required(), host, folder: Joi.string().pattern(/^\//).required() }),
  Joi.object({ do: Joi.valid('resolver').required(), how: Joi.valid('fails', 'answers').required() }),
  Joi.object({
    do: Joi.valid('read-mail').required(),
    who: Joi.string().required(),
    way: Joi.valid(...CONTACT_WAYS).required(),
  }),
  Joi.object({ do: Joi.valid('clock').required(), ms: Joi.number().integer().min(0).required() }),
  Joi.object({
    do: Joi.valid('engine').required(),
    engine: Joi.string().required(),
    slowMs: Joi.number().integer().min(0),
    slowAfterMs: Joi.number().integer().min(0),
    failStatus: Joi.number().integer().min(400).max(599),
    failTimes: Joi.number().integer().min(0),
    retryAfter: Joi.number().integer().min(0),
    cutTimes: Joi.number().integer().min(0),
    oddTimes: Joi.number().integer().min(0),
    suspend: Joi.object({
      work: Joi.valid('enrolments', 'tokens', 'claims', 'sitemaps', 'lookups', 'visits').required(),
      ms: Joi.number().integer().min(0).required(),
    }),
  }),
  Joi.object({
    do: Joi.valid('engine-loses').required(),
    engine: Joi.string().required(),
    target: text,
    sitemaps: Joi.boolean(),
  }),
  Joi.object({
    do: Joi.valid('engine-renews').required(),
    engine: Joi.string().required(),
    target: text,
    method: Joi.valid('meta', 'file', 'dns').required(),
  }),
  Joi.object({
    do: Joi.valid('engine-holder').required(),
    engine: Joi.string().required(),
    target: text,
    who: Joi.string().max(80).required(),
    method: Joi.valid('meta', 'file', 'dns').required(),
  }),
  Joi.object({
    do: Joi.valid('page').required(),
    engine: Joi.string().required(),
    visit: Joi.object({
      ask: Joi.valid('register', 'claim', 'sitemap', 'standing').required(),
      target: text,
      method: Joi.string(),
      address: Joi.string(),
    }).required(),
  }),
);

/** The control interface that only the rehearsal has: orders come in by POST, the world's memory can be read. */
export async function startControl(parts: ControlParts, port: number): Promise<Control> {
  const app = Fastify({ logger: false, forceCloseConnections: true });
  app.get('/world', () => parts.file.state);
  app.get('/post', () => ({ mails: parts.post.mails, events: parts.post.events }));
  app.post('/orders', async (request, reply) => {
    const { value, error } = orderSchema.validate(request.body);
    if (error) return reply.status(400).send({ says: error.message });
    try {
      return { says: await carryOut(parts, value) };
    } catch (failure) {
      const says = failure instanceof Refusal ? failure.detail : String((failure as Error).message);
      return reply.status(404).send({ says });
    }
  });
  await app.listen({ host: '127.0.0.1', port });
  const bound = (app.server.address() as AddressInfo).port;
  return { url: `http://127.0.0.1:${String(bound)}`, close: () => app.close() };
}

async function carryOut(parts: ControlParts, order: Order): Promise<string> {
  const says = await act(parts, order);
  parts.file.save();
  return says;
}

async function act(parts: ControlParts, order: Order): Promise<string> {
  const { state } = parts.file;
  const site = (name: string): SiteState => {
    const found = state.sites.find((one) => one.host === name || one.aliases.includes(name));
    if (!found)
      throw new Error(
        `The rehearsal has no website ${name}. It has: ${state.sites.map((one) => one.host).join(', ')}.`,
      );
    return found;
  };
  switch (order.do) {
    case 'meta':
      site(order.host)[order.inBody === true ? 'body' : 'head'].push(order.tag);
      return `Put into the ${order.inBody === true ? 'body' : 'head'} of ${site(order.host).host}: ${order.tag}`;
    case 'file':
      site(order.host).files[order.path] = { content: order.content, type: order.type ?? 'text/plain' };
      return `Uploaded ${order.path} to ${site(order.host).host}.`;
    case 'txt':
      state.txt.push({ name: order.name.replace(/\.$/, ''), value: order.value });
      return `Added TXT at ${order.name}: ${order.value}`;
    case 'clear':
      return clear(parts.file, site(order.host), order.what);
    case 'site':
      site(order.host).serves = order.serves;
      return `${site(order.host).host} now serves ${order.serves}.`;
    case 'new-site':
      if (state.sites.some((one) => one.host === order.host))
        throw new Error(`${order.host} is there already.`);
      state.sites.push(
        newSite(order.host, order.title, 'Everything is new here.', { aliases: order.aliases ?? [] }),
      );
      return `${order.host} is a website now.`;
    case 'sitemap':
      site(order.host).sitemaps[order.path] = order.addresses;
      return `${order.path} of ${site(order.host).host} now lists ${String(order.addresses)} addresses.`;
    case 'pages':
      site(order.host).pages = { count: order.count, traps: order.traps === true };
      return `${site(order.host).host} has ${String(order.count)} pages now${order.traps === true ? ', and traps' : ''}.`;
    case 'web-root':
      site(order.host).webRoot = order.folder;
      return `${order.folder} is the web root of ${site(order.host).host} now.`;
    case 'resolver':
      state.names.oursFails = order.how === 'fails';
      return order.how === 'fails' ? 'Our own resolver fails now.' : 'Our own resolver answers again.';
    case 'read-mail':
      return doAsAsked(parts.post.mails, order.who, order.way, state, site);
    case 'clock':
      await parts.advance(order.ms);
      return `It is ${parts.file.now().toISOString()} now.`;
    case 'engine':
      return tell(parts, order);
    case 'engine-loses': {
      const registry = registryOf(parts, order.engine);
      if (order.sitemaps === true) {
        for (const one of registry.state.enrolments) if (one.target === order.target) one.sitemaps = [];
        return `${registry.rules.title} lost the sitemaps of ${order.target}.`;
      }
      const before = registry.state.enrolments.length;
      registry.state.enrolments = registry.state.enrolments.filter(({ target }) => target !== order.target);
      return `${registry.rules.title} lost ${String(before - registry.state.enrolments.length)} enrolments of ${order.target}.`;
    }
    case 'engine-holder': {
      const registry = registryOf(parts, order.engine);
      registry.hold(order.who, order.target, order.method);
      return `${order.who} holds ${order.target} at ${registry.rules.title} too.`;
    }
    case 'engine-renews': {
      const registry = registryOf(parts, order.engine);
      const enrolment = registry.state.enrolments.find(({ target }) => target === order.target);
      if (!enrolment) throw new Error(`${registry.rules.title} knows no ${order.target}.`);
      return `${registry.rules.title} hands out ${registry.issue(enrolment, order.method).value} for ${order.target} from now on.`;
    }
    case 'odd':
      if (order.certificate !== undefined) parts.restartSites();
      return makeSiteOdd(parts.file, site(order.host), order);
    case 'odd-variant':
      if (order.certificate !== undefined) parts.restartSites();
      return makeVariantOdd(site(new URL(order.origin).hostname), order);
    case 'odd-name':
      return makeNameOdd(parts.file, order);
    case 'page':
      return visitPage(registryOf(parts, order.engine), order.visit);
  }
}

function registryOf(parts: ControlParts, engine: string): Registry {
  const registry = parts.registries.get(engine);
  if (registry) return registry;
  throw new Error(
    `The rehearsal has no engine ${engine}. It has: ${[...parts.registries.keys()].join(', ')}.`,
  );
}

/** Tells an engine how to misbehave; what is not said is as it should be. */
function tell(parts: ControlParts, order: Extract<Order, { do: 'engine' }>): string {
  const { rules } = registryOf(parts, order.engine);
  const engine = parts.engines.get(order.engine);
  if (!engine) throw new Error(`${rules.title} has no link that could misbehave.`);
  const { suspend } = order;
  const until = suspend && new Date(parts.file.now().getTime() + suspend.ms).toISOString();
  const more = {
    ...given({
      slowMs: order.slowMs,
      slowAfterMs: order.slowAfterMs,
      failTimes: order.failTimes,
      failStatus: order.failStatus,
      retryAfter: order.retryAfter,
      cutTimes: order.cutTimes,
      oddTimes: order.oddTimes,
    }),
    ...(suspend && until !== undefined ? { suspended: { [suspend.work]: until } } : {}),
  };
  Object.assign(engine.mischief, noMischief(), more);
  const told = Object.entries(more).map(([what, how]) => `${what} ${JSON.stringify(how)}`);
  return `${rules.title} ${told.length === 0 ? 'behaves' : `misbehaves: ${told.join(', ')}`}.`;
}

function clear(file: WorldFile, site: SiteState, what: 'meta' | 'files' | 'txt'): string {
  if (what === 'meta') Object.assign(site, { head: [], body: [] });
  if (what === 'files') site.files = {};
  if (what === 'txt') {
    const zone = site.host.replace(/^www\./, '');
    file.state.txt = file.state.txt.filter(
      ({ name, value }) => !(name === zone || name.endsWith(`.${zone}`)) || value.startsWith('v=spf1'),
    );
  }
  return `Removed ${what === 'txt' ? 'TXT records' : what} of ${site.host}, as a careless update would.`;
}
