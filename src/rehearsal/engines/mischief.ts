import { setTimeout as sleep } from 'node:timers/promises';
import type { FastifyReply } from 'fastify';
import { Refusal } from './registry.js';

/** How an engine was told to misbehave. All of it ends when it is told to behave again. */
export interface Mischief {
  /** Milliseconds before every answer. */
  slowMs: number;
  /** Milliseconds after the work is done, before its answer goes out. */
  slowAfterMs: number;
  /** A status in place of an answer, for so many requests, with `Retry-After` in seconds where given. */
  failStatus: number;
  failTimes: number;
  retryAfter: number | null;
  /** So many connections are cut after the work is done and before its answer. */
  cutTimes: number;
  /** So many answers have a shape that nobody expects. */
  oddTimes: number;
  /** Work that is switched off until a time, by its name in the path; `enrolments` for enrolling itself. */
  suspended: Record<string, string>;
}

export function noMischief(): Mischief {
  return {
    slowMs: 0,
    slowAfterMs: 0,
    failStatus: 500,
    failTimes: 0,
    retryAfter: null,
    cutTimes: 0,
    oddTimes: 0,
    suspended: {},
  };
}

/** Before the engine looks at a request. @param function_ the last word of the route, such as `claims` */
export async function misbehaveBefore(mischief: Mischief, work: string, now: Date): Promise<void> {
  if (mischief.slowMs > 0) await sleep(mischief.slowMs);
  if (mischief.failTimes > 0) {
    mischief.failTimes -= 1;
    throw new Refusal(mischief.failStatus, 'told-to-fail', 'out of order', mischief.retryAfter);
  }
  const until = mischief.suspended[work];
  if (until !== undefined && new Date(until) > now) {
    const seconds = Math.ceil((Date.parse(until) - now.getTime()) / 1000);
    throw new Refusal(503, 'suspended', `${work} are switched off for now`, seconds);
  }
}

/** After the work is done, before its answer goes out. @returns the answer to send in place of the true one */
export async function misbehaveAfter(
  mischief: Mischief,
  reply: FastifyReply,
  payload: unknown,
): Promise<unknown> {
  if (mischief.slowAfterMs > 0) await sleep(mischief.slowAfterMs);
  if (mischief.cutTimes > 0) {
    mischief.cutTimes -= 1;
    reply.raw.socket?.destroy();
    return payload;
  }
  if (mischief.oddTimes > 0) {
    mischief.oddTimes -= 1;
    return JSON.stringify({ tide: 'out' });
  }
  return payload;
}
