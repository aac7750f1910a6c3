import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply, FastifyRequest, RouteShorthandOptions } from 'fastify';
import { BASE, routes, type Input, type Route, type RouteName } from '../../api/routes.js';
import { Problem } from '../../api/problems.js';
import { schemas } from '../../api/requests.js';
import type { JobRunner } from '../../desk/jobs/runner.js';
import type { Callers } from '../../desk/people/callers.js';
import type { Projections } from '../../desk/projections/projections.js';
import type { Desk } from '../../desk/context/desk.js';
import { writtenFromReady } from '../../desk/lists/document-text.js';
import type { SignedIn } from '../../desk/people/persons.js';
import { handlers, type Asked } from '../handlers.js';
import { networkOf } from './network.js';
import type { Answer, Replays } from './replay.js';
import { requireOwnPage, requireRole } from './sign-in.js';
import { ifMatch, roomFor, takenIn } from './request-bounds.js';
import type { ProcessFaults } from '../process-faults.js';
import type { Settings } from '../settings/schema.js';

export interface RouteParts {
  readonly desk: Desk;
  readonly callers: Callers;
  readonly jobs: JobRunner;
  readonly kept: Projections;
  readonly replays: Replays;
  readonly faults: ProcessFaults;
  readonly settings: Pick<Settings, 'publicUrl'>;
  readonly version: string;
  /** Also holds every answer against its schema; for tests, so that document and service cannot part. */
  readonly checkAnswers: boolean;
}

const SIGN_INS_A_MINUTE = 20;
const NOBODY: SignedIn = {
  person: { id: '', name: '', role: 'onlooker', createdAt: '' },
  via: 'key',
  keyId: '',
};

/** Registers every route of the table: role, validation, replay, answer. */
export async function routesPlugin(app: FastifyInstance, parts: RouteParts): Promise<void> {
  await app.register(rateLimit, { global: false, keyGenerator: ({ ip }) => networkOf(ip) });
  for (const name of Object.keys(routes) as RouteName[]) {
    const route: Route<Input, unknown> = routes[name];
    const options: RouteShorthandOptions = { bodyLimit: roomFor(name).bytes };
    // Before the body is read: of those who may not, nothing is.
    options.onRequest =
      route.role === 'anyone' ? (request) => requireOwnPage(request) : requireRole(parts.callers, route.role);
    if (name === 'signIn') options.config = { rateLimit: { max: SIGN_INS_A_MINUTE, timeWindow: '1 minute' } };
    app.route({
      ...options,
      method: route.method,
      url: BASE + route.path,
      handler: (request, reply) => answer(parts, name, request, reply),
    });
  }
}

async function answer(
  parts: RouteParts,
  name: RouteName,
  request: FastifyRequest,
  reply: FastifyReply,
): Promise<unknown> {
  const { status, method } = routes[name];
  const input = takenIn(name, request);
  const key =
    method === 'POST' && request.signedIn && !KEPT_BY_NOBODY.has(name) ? idempotencyKey(request) : null;
  const work = async (): Promise<Answer> => {
    const asked: Asked = {
      ...parts,
      isSecure: parts.settings.publicUrl?.startsWith('https:') === true,
      base: parts.settings.publicUrl ?? `${request.protocol}://${request.host}`,
      who: request.signedIn ?? NOBODY,
      reply,
      ifMatch: ifMatch(request),
      waitMs: waitMs(request),
    };
    const handle = handlers[name] as (asked: Asked, input: unknown) => Promise<object | null> | object | null;
    const body = await handle(asked, input);
    if (parts.checkAnswers) checkAnswer(name, body);
    return { status, body };
  };
  const personId = request.signedIn?.person.id ?? '';
  const answer =
    key === null
      ? await work()
      : await parts.replays.answer(request, reply, { personId, key }, status === 202, work);
  addHeaders(request, reply, answer.body);
  const ready = answer.body && writtenFromReady(answer.body);
  if (ready === null) return reply.status(answer.status).send(answer.body ?? undefined);
  return reply.status(answer.status).type('application/json; charset=utf-8').send(ready);
}

/** What answers with a secret is not kept to be answered again: a second key is better than one that lies about. */
const KEPT_BY_NOBODY: ReadonlySet<RouteName> = new Set<RouteName>(['addKey', 'addLink']);

function idempotencyKey(request: FastifyRequest): string | null {
  const key = request.headers['idempotency-key'];
  if (key === undefined) return null;
  if (typeof key === 'string' && /^[\x21-\x7e]{8,200}$/.test(key)) return key;
  throw new Problem('bad-request-key');
}

const LONGEST_WAIT_S = 10;

/** `Prefer: wait=2` (RFC 7240 §4.3) in milliseconds. */
function waitMs(request: FastifyRequest): number {
  const seconds = /(?:^|[,;\s])wait=(\d+)/.exec(String(request.headers['prefer'] ?? ''))?.[1];
  return Math.min(Number(seconds ?? 0), LONGEST_WAIT_S) * 1000;
}

/** ETag for what can be edited, Link for the next page (RFC 8288), Location for a job. */
function addHeaders(request: FastifyRequest, reply: FastifyReply, body: object | null): void {
  if (body === null) return;
  if ('version' in body && typeof body.version === 'number')
    void reply.header('etag', `"${String(body.version)}"`);
  if ('next' in body && typeof body.next === 'string') {
    const url = new URL(request.url, 'http://own.invalid');
    url.searchParams.set('after', body.next);
    void reply.header('link', `<${url.pathname}${url.search}>; rel="next"`);
  }
  if ('items' in body && 'kind' in body && 'id' in body)
    void reply.header('location', `${BASE}/jobs/${String(body.id)}`);
}

function checkAnswer(name: RouteName, answer: object | null): void {
  const ready = answer && writtenFromReady(answer);
  const body: unknown = ready === null ? answer : JSON.parse(ready);
  const schema = schemas[name].answer;
  if (!schema) {
    if (body !== null) throw new Error(`${name} answers something, but its schema says nothing`);
    return;
  }
  const { error } = schema.validate(body, { abortEarly: false, convert: false });
  if (error) throw new Error(`${name} answers what its schema does not allow: ${error.message}`);
}
