import type { AddressInfo } from 'node:net';
import Fastify from 'fastify';
import Joi from 'joi';
import type { EngineServer } from './engines/engine-server.js';
import type { SiteState, WorldFile } from './state.js';

export interface ControlParts {
  readonly file: WorldFile;
  readonly engines: ReadonlyMap<string, EngineServer>;
  readonly advance: (ms: number) => Promise<void>;
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
  | { do: 'sitemap'; host: string; path: string; addresses: number }
  | { do: 'clock'; ms: number }
  | {
      do: 'engine';
      engine: string;
      slowMs?: number;
      slowAfterMs?: number;
      failStatus?: number;
      failTimes?: number;
    };

const host = Joi.string().lowercase().required();
const text = Joi.string().max(20_000).required();
const orderSchema = Joi.alternatives<Order>(
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
    do: Joi.valid('sitemap').required(),
    host,
    path: Joi.string().pattern(/^\//).required(),
    addresses: Joi.number().integer().min(0).max(100_000).required(),
  }),
  Joi.object({ do: Joi.valid('clock').required(), ms: Joi.number().integer().min(0).required() }),
  Joi.object({
    do: Joi.valid('engine').required(),
    engine: Joi.string().required(),
    slowMs: Joi.number().integer().min(0),
    slowAfterMs: Joi.number().integer().min(0),
    failStatus: Joi.number().integer().min(400).max(599),
    failTimes: Joi.number().integer().min(0),
  }),
);

/** The control interface that only the rehearsal has: orders come in by POST, the world's memory can be read. */
export async function startControl(parts: ControlParts, port: number): Promise<Control> {
  const app = Fastify({ logger: false, forceCloseConnections: true });
  app.get('/world', () => parts.file.state);
  app.post('/orders', async (request, reply) => {
    const { value, error } = orderSchema.validate(request.body);
    if (error) return reply.status(400).send({ says: error.message });
    try {
      return { says: await carryOut(parts, value) };
    } catch (failure) {
      return reply.status(404).send({ says: failure instanceof Error ? failure.message : String(failure) });
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
    case 'sitemap':
      site(order.host).sitemaps[order.path] = order.addresses;
      return `${order.path} of ${site(order.host).host} now lists ${String(order.addresses)} addresses.`;
    case 'clock':
      await parts.advance(order.ms);
      return `It is ${parts.file.now().toISOString()} now.`;
    case 'engine': {
      const engine = parts.engines.get(order.engine);
      if (!engine)
        throw new Error(
          `The rehearsal has no engine ${order.engine}. It has: ${[...parts.engines.keys()].join(', ')}.`,
        );
      const { slowMs = 0, slowAfterMs = 0, failStatus = 503, failTimes = 0 } = order;
      Object.assign(engine.mischief, { slowMs, slowAfterMs, failStatus, failTimes });
      return `${order.engine}: ${String(slowMs)} ms slow, fails ${String(failTimes)} times with ${String(failStatus)}.`;
    }
  }
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
