import { QueryClient } from '@tanstack/react-query';
import { ApiProblem, createClient, NotReached, type CallOptions, type Client } from '../client/client.js';
import { BASE, CHANGE_EVENTS, routes, type RouteName } from '../api/routes.js';
import type { Changes } from '../api/documents.js';
import { isTouched } from './touched.js';

/** A second press so soon after the first is the same press: a double click, or an impatient one. */
const SAME_PRESS_MS = 1_500;

/**
 * Has every button write once for each time that somebody means it: the same call while the first is under way, or right behind it and
 * nothing else in between, is the first one's answer. What got no answer keeps its key, so that trying again does nothing twice.
 */
function oncePerIntention(client: Client): Client {
  const underWay = new Map<string, Promise<unknown>>();
  let lastDone: { meant: string; answer: Promise<unknown> } | null = null;
  const keys = new Map<string, string>();
  const calls = client as unknown as Record<
    string,
    (input?: unknown, options?: CallOptions) => Promise<unknown>
  >;
  const once =
    (name: RouteName) =>
    (input?: unknown, options: CallOptions = {}) => {
      const call = calls[name];
      if (!call) throw new TypeError(`there is no route ${name}`);
      const meant = `${name} ${JSON.stringify(input ?? null)}`;
      if (lastDone && lastDone.meant !== meant) lastDone = null;
      const known = underWay.get(meant) ?? lastDone?.answer;
      if (known) return known;
      const idempotencyKey = keys.get(meant) ?? crypto.randomUUID();
      keys.set(meant, idempotencyKey);
      const answer = call(input, { idempotencyKey, ...options });
      underWay.set(meant, answer);
      answer.then(
        () => {
          keys.delete(meant);
          underWay.delete(meant);
          // Work that was begun is shown as under way by its button, and may be wanted again as soon as it is done.
          if (routes[name].status === 202) return;
          const done = { meant, answer };
          lastDone = done;
          setTimeout(() => {
            if (lastDone === done) lastDone = null;
          }, SAME_PRESS_MS);
        },
        (error: unknown) => {
          if (!(error instanceof NotReached)) keys.delete(meant);
          underWay.delete(meant);
        },
      );
      return answer;
    };
  const writes = (Object.keys(routes) as RouteName[]).filter((name) => routes[name].method !== 'GET');
  return { ...client, ...Object.fromEntries(writes.map((name) => [name, once(name)])) };
}

/** The page's own origin, its own cookie. */
export const api = oncePerIntention(createClient({ url: '' }));

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
