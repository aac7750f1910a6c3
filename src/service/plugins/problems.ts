import type { FastifyInstance, FastifyReply } from 'fastify';
import { PROBLEMS, Problem } from '../../api/problems.js';

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

/** Every error leaves as a problem document; what is unexpected goes to the log, never to the caller. */
export function problems(app: FastifyInstance): void {
  app.setErrorHandler((error, request, reply) => {
    const problem = toProblem(error);
    if (!problem) request.log.error({ err: error }, 'unexpected');
    return answerProblem(reply, problem ?? new Problem('internal'));
  });
}
