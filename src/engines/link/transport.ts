import type Joi from 'joi';
import pRetry from 'p-retry';
import { excerpt } from '../../core/findings/excerpt.js';
import type { Clock } from '../../core/time/clock.js';
import { DAY } from '../../core/time/duration.js';
import type { Net } from '../../net/net.js';
import type { JsonAnswer, JsonRequest } from '../../net/http/exchange.js';
import type { Outcome, Work } from '../engine.js';
import type { LinkLog } from './log.js';

export interface TransportParts {
  readonly net: Net;
  readonly clock: Clock;
  /** Where the link's `/v1` stands. */
  readonly base: string;
  /** The account's key, or why there is none. Asked for at each call, and never part of what is told. */
  readonly key: () => Promise<{ readonly key: string } | { readonly missing: string }>;
  readonly title: string;
  readonly log: LinkLog;
  /** Waits for milliseconds of real time as an engine asks for; injected so that tests need not. */
  readonly sleep: (ms: number) => Promise<void>;
  /** Milliseconds before the first retry where the engine asks for no time of its own; each after it waits twice as long. */
  readonly firstPauseMs: number;
}

export interface Call<T> {
  readonly work: Work;
  readonly method: JsonRequest['method'];
  readonly path: string;
  readonly body?: unknown;
  readonly idempotencyKey?: string;
  /** How often it may be sent in all; 1 for a claim, which is never repeated by itself. */
  readonly tries: number;
  readonly shape: Joi.ObjectSchema<T> | null;
  /** Stands beside the link's `v1` and is for everybody: no key is sent. */
  readonly isOpen?: boolean;
}

export const RETRIED = 4;
export const FIRST_PAUSE_MS = 200;
/** A longer wait than this is not sat out but told. */
const LONGEST_PAUSE_MS = 5_000;

type Sent<T> = { readonly outcome: Outcome<T>; readonly again: boolean; readonly pauseMs: number | null };

/**
 * One call over the link, with what may be retried retried: exponential back-off with jitter (p-retry), and
 * `Retry-After` honoured (RFC 9110 §10.2.3). What the engine has switched off is not asked for before its time.
 */
export async function call<T>(parts: TransportParts, request: Call<T>): Promise<Outcome<T>> {
  const pending = parts.log.pending(request.work);
  if (pending)
    return { kind: 'wait', until: pending.until, says: pending.says ?? `${parts.title} asks to wait.` };
  const held = request.isOpen === true ? { key: '' } : await parts.key();
  if ('missing' in held) return { kind: 'refused', code: 'no-key', says: held.missing };
  const outcome = scrubbed(await tried(parts, request, held.key), held.key);
  await note(parts, request.work, outcome);
  return outcome;
}

async function tried<T>(parts: TransportParts, request: Call<T>, key: string): Promise<Outcome<T>> {
  try {
    return await pRetry(
      async () => {
        const sent = await send(parts, request, key);
        if (sent.again) throw new Again(sent);
        return sent.outcome;
      },
      {
        retries: request.tries - 1,
        minTimeout: parts.firstPauseMs,
        maxTimeout: LONGEST_PAUSE_MS,
        randomize: true,
        shouldRetry: ({ error }) => error instanceof Again && (error.sent.pauseMs ?? 0) <= LONGEST_PAUSE_MS,
        onFailedAttempt: async ({ error, retriesLeft }) => {
          const pauseMs = error instanceof Again ? error.sent.pauseMs : null;
          if (pauseMs !== null && pauseMs <= LONGEST_PAUSE_MS && retriesLeft > 0) await parts.sleep(pauseMs);
        },
      },
    );
  } catch (error) {
    if (error instanceof Again) return (error.sent as Sent<T>).outcome;
    throw error;
  }
}

/** What was sent came to nothing so far, and may be sent again. */
class Again extends Error {
  constructor(readonly sent: Sent<unknown>) {
    super('to be sent again');
  }
}

/** An engine that repeats the key in its words or its documents does not get it into ours. */
function scrubbed<T>(outcome: Outcome<T>, key: string): Outcome<T> {
  return key === '' ? outcome : (without(outcome, key) as Outcome<T>);
}

/** A value with every mention of a text taken out, in whatever depth; answers were held against a schema, so it is shallow. */
function without(value: unknown, key: string): unknown {
  if (typeof value === 'string') return value.includes(key) ? value.replaceAll(key, '(key)') : value;
  if (Array.isArray(value)) return value.map((one) => without(one, key));
  if (typeof value !== 'object' || value === null || value instanceof Date) return value;
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, without(one, key)]));
}

function note(parts: TransportParts, work: Work, outcome: Outcome<unknown>): Promise<void> {
  if (outcome.kind === 'wait')
    return parts.log.note(work, { kind: 'waits', says: outcome.says, until: outcome.until });
  if (outcome.kind === 'unreached')
    return parts.log.note(work, { kind: 'unreached', says: outcome.says, until: null });
  return parts.log.note(work, { kind: 'answers', says: null, until: null });
}

async function send<T>(parts: TransportParts, request: Call<T>, key: string): Promise<Sent<T>> {
  const answer = await parts.net.json({
    method: request.method,
    url: new URL(request.isOpen === true ? `.${request.path}` : `v1${request.path}`, parts.base).href,
    headers: {
      ...(request.isOpen === true ? {} : { authorization: `Bearer ${key}` }),
      ...(request.idempotencyKey === undefined ? {} : { 'idempotency-key': request.idempotencyKey }),
    },
    ...(request.body === undefined ? {} : { body: request.body }),
  });
  if (answer.kind === 'failed') {
    return {
      outcome: unreached(parts, `could not be reached: ${excerpt(answer.detail)}`),
      again: true,
      pauseMs: null,
    };
  }
  if (answer.status >= 200 && answer.status < 300)
    return { outcome: readAnswer(parts, request, answer.data), again: false, pauseMs: null };
  return readProblem(parts, answer);
}

function readAnswer<T>(parts: TransportParts, request: Call<T>, data: unknown): Outcome<T> {
  if (request.shape === null) return { kind: 'done', value: null as T };
  const { value, error } = request.shape.required().validate(data);
  if (error)
    return unreached(parts, `answered in a shape that the link does not know: ${excerpt(error.message)}`);
  return { kind: 'done', value };
}

function readProblem<T>(parts: TransportParts, answer: Extract<JsonAnswer, { kind: 'answer' }>): Sent<T> {
  const problem = (typeof answer.data === 'object' && answer.data !== null ? answer.data : {}) as Record<
    string,
    unknown
  >;
  const said = (name: string): string | null =>
    typeof problem[name] === 'string' ? excerpt(problem[name], 300) : null;
  const says = said('detail') ?? said('title') ?? `status ${String(answer.status)}`;
  if (answer.status === 429 || answer.status === 503) {
    const pauseMs = retryAfterMs(answer.headers['retry-after'], parts.clock);
    const until = pauseMs === null ? null : new Date(parts.clock.now().getTime() + pauseMs);
    return { outcome: { kind: 'wait', until, says: `${parts.title}: ${says}` }, again: true, pauseMs };
  }
  if (answer.status >= 500)
    return {
      outcome: unreached(parts, `answered ${String(answer.status)}: ${says}`),
      again: true,
      pauseMs: null,
    };
  return {
    outcome: {
      kind: 'refused',
      code: said('code') ?? String(answer.status),
      says: `${parts.title}: ${says}`,
    },
    again: false,
    pauseMs: null,
  };
}

/** However long an engine says: nobody waits longer than a year, and a date has to be able to hold it. */
const LONGEST_WAIT_MS = 366 * DAY;

function retryAfterMs(header: string | undefined, clock: Clock): number | null {
  if (header === undefined) return null;
  const ms = /^\d+$/.test(header) ? Number(header) * 1000 : Date.parse(header) - clock.now().getTime();
  return Number.isNaN(ms) ? null : Math.min(Math.max(0, ms), LONGEST_WAIT_MS);
}

function unreached<T>(parts: TransportParts, what: string): Outcome<T> {
  return { kind: 'unreached', says: `${parts.title} ${what}` };
}
