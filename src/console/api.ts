import { QueryClient } from '@tanstack/react-query';
import { ApiProblem, createClient, NotReached } from '../client/client.js';
import { BASE, CHANGE_EVENTS } from '../api/routes.js';
import type { Changes } from '../api/documents.js';
import { isTouched } from './touched.js';

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

/** Follows what changes: what it touches is read again, and everything once after the connection broke off. @returns how to stop */
export function followChanges(): () => void {
  const source = new EventSource(BASE + CHANGE_EVENTS);
  let isBroken = false;
  source.addEventListener('change', ({ data }: MessageEvent<string>) => {
    const changes = JSON.parse(data) as Changes;
    void queries.invalidateQueries({ predicate: (query) => isTouched(query, changes) });
  });
  source.addEventListener('error', () => (isBroken = true));
  source.addEventListener('open', () => {
    if (isBroken) void queries.invalidateQueries();
    isBroken = false;
  });
  return () => {
    source.close();
  };
}
