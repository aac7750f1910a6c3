import type { AddressInfo } from 'node:net';
import Fastify, { type FastifyReply, type FastifyRequest } from 'fastify';
import type { EngineEnrolment, WorldFile } from '../state.js';
import { misbehaveAfter, misbehaveBefore, noMischief, type Mischief } from './mischief.js';
import { Refusal, type EnrolInput, type Registry } from './registry.js';

export interface EngineServer {
  readonly port: number;
  readonly mischief: Mischief;
  close(): Promise<void>;
}

type Asked = FastifyRequest<{
  Params: { id: string; method: string; claim: string; sitemap: string };
  Querystring: { after?: string; sitemap?: string };
  Body: Record<string, unknown> | null;
}>;

/** The account that a bearer key belongs to. */
function accountOf(keys: Readonly<Record<string, string>>, request: FastifyRequest): string {
  const found = Object.entries(keys).find(([, key]) => request.headers.authorization === `Bearer ${key}`);
  if (!found) throw new Refusal(401, 'unknown-key', 'key not known');
  return found[0];
}

/** What a route is about, as it is switched off by: the last plain word of its path. */
function workOf(request: FastifyRequest): string {
  const words = (request.routeOptions.url ?? '')
    .split('/')
    .filter((word) => word !== '' && !word.startsWith(':'));
  return words.at(-1) ?? '';
}

/**
 * One engine of the rehearsal, speaking the engine link on a listener of its own.
 * @param keys the bearer key of each account
 */
export async function startEngine(
  world: WorldFile,
  registry: Registry,
  keys: Readonly<Record<string, string>>,
  port: number,
): Promise<EngineServer> {
  const mischief = noMischief();
  const app = Fastify({ logger: false, forceCloseConnections: true });
  app.addHook('onRequest', async (request) => {
    await misbehaveBefore(mischief, workOf(request), world.now());
    // Anybody may say that a sitemap has changed.
    if (request.routeOptions.url !== '/ping') accountOf(keys, request);
  });
  app.addHook('onSend', (_request, reply, payload) => misbehaveAfter(mischief, reply, payload));
  app.setErrorHandler((error, _request, reply) => {
    const status = (error as { statusCode?: number }).statusCode ?? 500;
    const refusal =
      error instanceof Refusal
        ? error
        : new Refusal(status, status < 500 ? 'bad-request' : 'broken', 'request not understood');
    if (refusal.retryAfter !== null) void reply.header('retry-after', String(refusal.retryAfter));
    return reply.status(refusal.status).type('application/problem+json').send({
      type: 'about:blank',
      title: refusal.code,
      status: refusal.status,
      code: refusal.code,
      detail: refusal.detail,
    });
  });
  app.setNotFoundHandler(() => {
    throw new Refusal(404, 'no-such-route', 'nothing here');
  });
  routes(app, registry, (request) => accountOf(keys, request));
  await app.listen({ host: '127.0.0.1', port });
  return { port: (app.server.address() as AddressInfo).port, mischief, close: () => app.close() };
}

function routes(
  app: ReturnType<typeof Fastify>,
  registry: Registry,
  account: (request: FastifyRequest) => string,
): void {
  const find = (request: Asked): EngineEnrolment => registry.find(account(request), request.params.id);
  const { pageSize } = registry.rules;
  if (registry.rules.takesPings)
    app.get('/ping', (request: Asked, reply: FastifyReply) => {
      registry.ping(request.query.sitemap ?? '');
      return reply.type('text/plain').send('ta\n');
    });
  app.get('/v1/enrolments', (request: Asked) =>
    paged(registry.list(account(request)).map(view), pageSize, request.query.after),
  );
  app.post('/v1/enrolments', (request: Asked, reply: FastifyReply) =>
    once(registry, request, reply, account(request), () =>
      view(registry.enrol(account(request), (request.body ?? {}) as unknown as EnrolInput)),
    ),
  );
  app.get('/v1/enrolments/:id', (request: Asked) => view(find(request)));
  app.get('/v1/enrolments/:id/holders', (request: Asked) =>
    paged(registry.holders(account(request), request.params.id), pageSize, request.query.after),
  );
  app.delete('/v1/enrolments/:id', (request: Asked, reply: FastifyReply) => {
    registry.drop(account(request), request.params.id);
    return reply.status(204).send();
  });
  app.get('/v1/enrolments/:id/tokens/:method', (request: Asked) => {
    const { method } = request.params;
    const { value, expiresAt } = registry.token(find(request), method);
    return { method, token: value, expiresAt };
  });
  app.put('/v1/enrolments/:id/claims/:claim', (request: Asked) =>
    registry.claim(find(request), request.params.claim, String(request.body?.['method'])),
  );
  app.get('/v1/enrolments/:id/claims/:claim', (request: Asked) => {
    const known = find(request).claims[request.params.claim];
    if (!known) throw new Refusal(404, 'no-such-claim', 'claim not known');
    return known;
  });
  app.get('/v1/enrolments/:id/sitemaps', (request: Asked) =>
    paged(find(request).sitemaps, pageSize, request.query.after),
  );
  app.post('/v1/enrolments/:id/sitemaps', (request: Asked, reply: FastifyReply) =>
    once(registry, request, reply, account(request), () =>
      registry.submit(find(request), request.body?.['address']),
    ),
  );
  app.delete('/v1/enrolments/:id/sitemaps/:sitemap', (request: Asked, reply: FastifyReply) => {
    registry.withdraw(find(request), request.params.sitemap);
    return reply.status(204).send();
  });
  app.post('/v1/enrolments/:id/lookups', (request: Asked, reply: FastifyReply) =>
    once(
      registry,
      request,
      reply,
      account(request),
      () => registry.lookup(find(request), request.body?.['address']),
      200,
    ),
  );
  app.post('/v1/enrolments/:id/visits', (request: Asked, reply: FastifyReply) =>
    once(
      registry,
      request,
      reply,
      account(request),
      () => {
        registry.visit(find(request), request.body?.['address']);
        return {};
      },
      202,
    ),
  );
}

function view({
  id,
  reach,
  target,
  ownership,
  lastLook,
}: EngineEnrolment): Pick<EngineEnrolment, 'id' | 'reach' | 'target'> & { ownership: object } {
  const looked = ownership.state === 'held' && lastLook !== null ? { lookedAt: lastLook } : {};
  return { id, reach, target, ownership: { ...ownership, ...looked } };
}

function paged<Item extends { id: string }>(
  items: readonly Item[],
  size: number,
  after: string | undefined,
): { items: Item[]; next: string | null } {
  const from = after === undefined ? 0 : items.findIndex(({ id }) => id === after) + 1;
  const shown = items.slice(from, from + size);
  return { items: shown, next: from + size < items.length ? (shown.at(-1)?.id ?? null) : null };
}

/** Answers a POST with a key the way it was answered the first time. */
function once(
  registry: Registry,
  request: FastifyRequest,
  reply: FastifyReply,
  account: string,
  work: () => object,
  status = 201,
): FastifyReply {
  const given = request.headers['idempotency-key'];
  if (typeof given !== 'string') throw new Refusal(400, 'no-idempotency-key', 'Idempotency-Key wanted');
  const key = `${account} ${given}`;
  const known = registry.state.replays[key];
  if (known) return reply.status(known.status).send(known.body);
  const body = work();
  registry.state.replays[key] = { status, body };
  registry.save();
  return reply.status(status).send(body);
}
