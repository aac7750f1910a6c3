import { once } from 'node:events';
import type { IncomingMessage } from 'node:http';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { PROBLEMS, Problem } from '../../api/problems.js';
import { isDamage, isDiskFault } from '../../store/records-fault.js';

/** Answers with a problem document (RFC 9457). */
export function answerProblem(reply: FastifyReply, problem: Problem): FastifyReply {
  const document = problem.document();
  return reply.status(document.status).type('application/problem+json').send(document);
}

const BY_STATUS: Readonly<Record<number, 'too-large' | 'not-json' | 'too-many-requests'>> = {
  413: 'too-large',
  415: 'not-json',
  429: 'too-many-requests',
};

function toProblem(error: unknown): Problem | null {
  if (error instanceof Problem) return error;
  const known = error as { statusCode?: number; message?: string; code?: string };
  if (known.statusCode === undefined || known.statusCode >= 500) return null;
  const code = BY_STATUS[known.statusCode] ?? 'bad-input';
  return new Problem(code, { says: known.message ?? PROBLEMS[code].title });
}

/** How much of a body that is too large is passed over, and for how long. */
const MOST_PASSED_OVER = 16_000_000;
const LONGEST_PASSING_MS = 2_000;

/**
 * Passes over the rest of a body, unread: whoever is still sending when the connection is closed meets a broken one, and never reads
 * why (RFC 9112 §9.6).
 */
async function passOver(body: IncomingMessage): Promise<void> {
  if (body.complete) return;
  const over = new AbortController();
  let left = MOST_PASSED_OVER;
  const count = (piece: Buffer): void => {
    left -= piece.length;
    if (left < 0) over.abort();
  };
  body.on('data', count).resume();
  const timer = setTimeout(() => {
    over.abort();
  }, LONGEST_PASSING_MS);
  await once(body, 'end', { signal: over.signal }).catch(() => undefined);
  clearTimeout(timer);
  body.off('data', count);
}

/** Every error leaves as a problem document; what is unexpected goes to the log, never to the caller. */
export function problems(app: FastifyInstance): void {
  app.setErrorHandler(async (error, request, reply) => {
    const problem = toProblem(error);
    if (!problem) request.log.error({ err: error }, 'unexpected');
    if (problem?.code === 'too-large') await passOver(request.raw);
    return answerProblem(reply, problem ?? new Problem(failureOf(error)));
  });
}

/** What went wrong in the service, as far as its records are to blame. */
function failureOf(error: unknown): 'records-full' | 'records-damaged' | 'internal' {
  if (isDiskFault(error)) return 'records-full';
  return isDamage(error) ? 'records-damaged' : 'internal';
}
