import { randomBytes, randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import Fastify, { type FastifyReply, type FastifyRequest } from 'fastify';
import type { EngineEnrolment, EngineSitemap, EngineState, WorldFile } from '../state.js';
import { judgeOwnership } from './judging.js';
import type { Grounds } from './looking.js';
import type { EngineRules } from './rules.js';

/** How an engine was told to misbehave. */
export interface Mischief {
  /** Milliseconds before every answer. */
  slowMs: number;
  /** Milliseconds after the work is done, before its answer goes out. */
  slowAfterMs: number;
  /** A status in place of an answer, for so many requests. */
  failStatus: number;
  failTimes: number;
}

export interface EngineServer {
  readonly port: number;
  readonly mischief: Mischief;
  close(): Promise<void>;
}

class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly detail: string,
  ) {
    super(detail);
  }
}

/** One engine of the rehearsal, speaking the engine link on a listener of its own. */
export async function startEngine(
  world: WorldFile,
  rules: EngineRules,
  grounds: Grounds,
  key: string,
  port: number,
): Promise<EngineServer> {
  const state = (world.state.engines[rules.id] ??= { enrolments: [], replays: {}, claimsJudged: [] });
  const mischief: Mischief = { slowMs: 0, slowAfterMs: 0, failStatus: 0, failTimes: 0 };
  const app = Fastify({ logger: false, forceCloseConnections: true });
  app.addHook('onRequest', async (request) => {
    if (mischief.slowMs > 0) await sleep(mischief.slowMs);
    if (mischief.failTimes > 0) {
      mischief.failTimes -= 1;
      throw new Refusal(mischief.failStatus, 'told-to-fail', 'out of order');
    }
    if (request.headers.authorization !== `Bearer ${key}`)
      throw new Refusal(401, 'unknown-key', 'key not known');
  });
  app.addHook('onSend', async () => {
    if (mischief.slowAfterMs > 0) await sleep(mischief.slowAfterMs);
  });
  app.setErrorHandler((error, _request, reply) => {
    const refusal = error instanceof Refusal ? error : new Refusal(500, 'broken', 'engine trouble');
    return reply.status(refusal.status).type('application/problem+json').send({
      type: 'about:blank',
      title: refusal.code,
      status: refusal.status,
      code: refusal.code,
      detail: refusal.detail,
    });
  });

  const find = (id: string): EngineEnrolment => {
    const found = state.enrolments.find((one) => one.id === id);
    if (!found) throw new Refusal(404, 'no-such-enrolment', 'enrolment not known');
    return found;
  };
  type WithId = FastifyRequest<{ Params: { id: string; method: string; claim: string; sitemap: string } }>;

  app.get('/v1/enrolments', () => ({ items: state.enrolments.map(viewEnrolment), next: null }));
  app.post('/v1/enrolments', (request, reply) =>
    once(world, state, request, reply, () => enrol(rules, state, request.body)),
  );
  app.get('/v1/enrolments/:id', (request: WithId) => viewEnrolment(find(request.params.id)));
  app.delete('/v1/enrolments/:id', (request: WithId, reply) => {
    state.enrolments = state.enrolments.filter((one) => one.id !== request.params.id);
    world.save();
    return reply.status(204).send();
  });
  app.get('/v1/enrolments/:id/tokens/:method', (request: WithId) => {
    const enrolment = find(request.params.id);
    const { method } = request.params;
    if (!['meta', 'file', 'dns'].includes(method) || (enrolment.reach === 'name' && method !== 'dns')) {
      throw new Refusal(422, 'method-not-taken', 'method not taken');
    }
    enrolment.tokens[method] ??= randomBytes(12).toString('hex');
    world.save();
    return { method, token: enrolment.tokens[method], expiresAt: null };
  });
  app.put('/v1/enrolments/:id/claims/:claim', async (request: WithId) => {
    const enrolment = find(request.params.id);
    const { claim } = request.params;
    const known = enrolment.claims[claim];
    if (known) return known;
    const { method } = request.body as { method: string };
    state.claimsJudged.push(claim);
    const verdict = await judgeOwnership(rules, grounds, enrolment, method);
    const at = world.now().toISOString();
    enrolment.claims[claim] = {
      id: claim,
      verdict: verdict.ok ? 'confirmed' : 'refused',
      reason: verdict.reason,
      at,
      method,
    };
    if (verdict.ok) {
      enrolment.ownership = { state: 'held', since: at, method };
      enrolment.lastLook = at;
      enrolment.missingSince = null;
    }
    world.save();
    return enrolment.claims[claim];
  });
  app.get('/v1/enrolments/:id/claims/:claim', (request: WithId) => {
    const known = find(request.params.id).claims[request.params.claim];
    if (!known) throw new Refusal(404, 'no-such-claim', 'claim not known');
    return known;
  });
  app.get('/v1/enrolments/:id/sitemaps', (request: WithId) => ({
    items: find(request.params.id).sitemaps,
    next: null,
  }));
  app.post('/v1/enrolments/:id/sitemaps', (request: WithId, reply) =>
    once(world, state, request, reply, () => submit(world, rules, find(request.params.id), request.body)),
  );
  app.delete('/v1/enrolments/:id/sitemaps/:sitemap', (request: WithId, reply) => {
    const enrolment = find(request.params.id);
    enrolment.sitemaps = enrolment.sitemaps.filter((one) => one.id !== request.params.sitemap);
    world.save();
    return reply.status(204).send();
  });

  await app.listen({ host: '127.0.0.1', port });
  return { port: (app.server.address() as AddressInfo).port, mischief, close: () => app.close() };
}

function viewEnrolment({ id, reach, target, ownership }: EngineEnrolment): object {
  return { id, reach, target, ownership };
}

/** Answers a POST with a key the way it was answered the first time. */
async function once(
  world: WorldFile,
  state: EngineState,
  request: FastifyRequest,
  reply: FastifyReply,
  work: () => object,
): Promise<unknown> {
  const key = request.headers['idempotency-key'];
  if (typeof key !== 'string') throw new Refusal(400, 'no-idempotency-key', 'Idempotency-Key wanted');
  const known = state.replays[key];
  if (known) return reply.status(known.status).send(known.body);
  const body = work();
  state.replays[key] = { status: 201, body };
  world.save();
  return reply.status(201).send(body);
}

function enrol(rules: EngineRules, state: EngineState, body: unknown): object {
  const { reach, target } = body as { reach: 'name' | 'address'; target: string };
  if (!rules.reaches.includes(reach)) throw new Refusal(422, 'reach-not-taken', 'reach not taken');
  const known = state.enrolments.find((one) => one.reach === reach && one.target === target);
  if (known) return viewEnrolment(known);
  const enrolment: EngineEnrolment = {
    id: `${rules.id.slice(0, 2)}-${randomUUID().slice(0, 8)}`,
    account: 'agency',
    reach,
    target,
    tokens: {},
    ownership: { state: 'none' },
    lastLook: null,
    missingSince: null,
    claims: {},
    sitemaps: [],
  };
  state.enrolments.push(enrolment);
  return viewEnrolment(enrolment);
}

function submit(
  world: WorldFile,
  rules: EngineRules,
  enrolment: EngineEnrolment,
  body: unknown,
): EngineSitemap {
  const { address } = body as { address: string };
  if (enrolment.ownership.state !== 'held') throw new Refusal(403, 'not-held', 'ownership not confirmed');
  const isWhole = /^https?:\/\//.test(address);
  if (enrolment.reach === 'address' && rules.sitemapForm === 'path' && isWhole)
    throw new Refusal(422, 'path-wanted', 'path wanted');
  if (!isWhole && enrolment.reach === 'name')
    throw new Refusal(422, 'address-wanted', 'whole address wanted');
  const url = isWhole ? address : new URL(address, enrolment.target).href;
  const known = enrolment.sitemaps.find((one) => one.url === url);
  if (known) return known;
  const sitemap: EngineSitemap = {
    id: `s-${randomUUID().slice(0, 8)}`,
    address,
    url,
    submittedAt: world.now().toISOString(),
    tries: 0,
    triedAt: null,
    readAt: null,
    found: null,
    listed: null,
    trouble: null,
  };
  enrolment.sitemaps.push(sitemap);
  return sitemap;
}
