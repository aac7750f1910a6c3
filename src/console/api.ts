import { QueryClient } from '@tanstack/react-query';
import { ApiProblem, createClient, NotReached } from '../client/client.js';
import { BASE, CHANGE_EVENTS } from '../api/routes.js';

/** The page's own origin, its own cookie. */
export const api = createClient({ url: '' });

export const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: (times, error) => error instanceof NotReached && times < 3, staleTime: 5_000 },
  },
});

/** Something that did not come about, told in words that are meant for people. */
export class Told extends Error {}

/** What went wrong, as a sentence for people. */
export function sayError(error: unknown): string {
  if (error instanceof ApiProblem) return error.problem.detail;
  if (error instanceof Told) return error.message;
  if (error instanceof NotReached) return 'The service does not answer. Is it running?';
  return 'Something went wrong in this page. Load it again.';
}

export function isSignedOut(error: unknown): boolean {
  return error instanceof ApiProblem && error.problem.code === 'not-signed-in';
}

/** Reads everything shown again whenever the service says that something changed. @returns how to stop */
export function followChanges(): () => void {
  const source = new EventSource(BASE + CHANGE_EVENTS);
  source.addEventListener('change', () => void queries.invalidateQueries());
  return () => {
    source.close();
  };
}
