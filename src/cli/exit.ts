import { Problem } from '../api/problems.js';
import { ApiProblem, NotReached } from '../client/client.js';
import { Explained } from '../api/explained-error.js';

/** What the exit status says. */
export const EXIT = {
  done: 0,
  stops: 1,
  usage: 2,
  notAllowed: 3,
  notReached: 4,
  engineSaidNo: 5,
  failed: 6,
} as const;

/** Wrong use of the command line, with what was expected. */
export class Usage extends Error {}

/** A wait is none of them: the engine did not say no. */
const ENGINE_CODES = new Set(['engine-refused', 'engine-unreached', 'enrolment-missing']);

/** The exit status and the sentence for what went wrong; null for what nobody foresaw. */
export function exitFor(error: unknown): { status: number; says: string } | null {
  if (error instanceof Usage) return { status: EXIT.usage, says: error.message };
  if (error instanceof NotReached) {
    return {
      status: EXIT.notReached,
      says: `${error.message} Is the service running? “yardbadge serve” or “yardbadge demo” starts it.`,
    };
  }
  if (error instanceof ApiProblem) {
    const { status, code, detail } = error.problem;
    if (status === 401 || status === 403) return { status: EXIT.notAllowed, says: detail };
    if (code === 'engine-waits') return { status: EXIT.stops, says: detail };
    if (ENGINE_CODES.has(code)) return { status: EXIT.engineSaidNo, says: detail };
    return { status: ofProblem(status), says: detail };
  }
  if (error instanceof Explained || error instanceof Problem)
    return { status: EXIT.usage, says: error.message };
  if (error instanceof Error && 'code' in error && error.code === 'EADDRINUSE') {
    return {
      status: EXIT.usage,
      says: `${error.message}. Something else listens there: stop it, or choose another port.`,
    };
  }
  return null;
}

export function isEngineCode(code: string): boolean {
  return ENGINE_CODES.has(code);
}

/** Statuses by which something in between says that the service is not there (RFC 9110 §15.6). */
const NOT_THERE = new Set([502, 503, 504]);

function ofProblem(status: number): number {
  if (NOT_THERE.has(status)) return EXIT.notReached;
  return status >= 500 ? EXIT.failed : EXIT.usage;
}
