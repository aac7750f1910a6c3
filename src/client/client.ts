import { EventSourceParserStream, type EventSourceMessage } from 'eventsource-parser/stream';
import type { Job, ProblemDocument } from '../api/documents.js';
import type { ContentsQuery } from '../api/contents/routes.js';
import {
  BASE,
  CONTENTS_CSV,
  MADE_FILES,
  CLIENT_ARCHIVE,
  SHEET_ZIP,
  routes,
  type Input,
  type InputOf,
  type OutputOf,
  type Route,
  type RouteName,
} from '../api/routes.js';

export interface ClientOptions {
  /** Where the service answers; empty for the page's own origin. */
  readonly url: string;
  /** Bearer key; absent in the browser, which has its cookie. */
  readonly key?: string;
  /** Seconds to wait for a job in the request that starts it, before its events are followed. */
  readonly wait?: number;
  /** Hears of each request before it is made, by the name of its route. */
  readonly onRequest?: (name: RouteName) => void;
}

/** The service answered with a problem document. */
export class ApiProblem extends Error {
  constructor(readonly problem: ProblemDocument) {
    super(problem.detail);
  }
}

/** The service could not be reached at all. */
export class NotReached extends Error {
  constructor(readonly url: string) {
    super(`No answer from ${url === '' ? 'the service' : url}.`);
  }
}

export interface CallOptions {
  readonly idempotencyKey?: string;
  /** The version that an edit was made against. */
  readonly ifMatch?: number;
  readonly signal?: AbortSignal;
}

type Call<Name extends RouteName> =
  Record<never, never> extends InputOf<Name>
    ? (input?: InputOf<Name>, options?: CallOptions) => Promise<OutputOf<Name>>
    : (input: InputOf<Name>, options?: CallOptions) => Promise<OutputOf<Name>>;

export type Client = { readonly [Name in RouteName]: Call<Name> } & {
  /** Waits until a job is done or rests, telling its progress on the way, and gives it with all its pieces. */
  finished(job: Pick<Job, 'id'> & Partial<Job>, onProgress?: (job: Job) => void): Promise<Job>;
  /** One file of a made version, as it is. */
  madeFile(version: string, name: string): Promise<Uint8Array>;
  /** A placement sheet with the files that go with it, packed. */
  sheetZip(whom: InputOf<'showSheet'>['query']): Promise<Uint8Array>;
  /** A client’s part of the records, packed. */
  clientArchive(client: string): Promise<Uint8Array>;
  /** The addresses of a sitemap as a table (RFC 4180), as it comes. */
  contentsTable(sitemap: string, asked: ContentsQuery): Promise<ReadableStream<Uint8Array>>;
};

interface AnyInput {
  readonly params?: Readonly<Record<string, string>>;
  readonly query?: Readonly<Record<string, unknown>>;
  readonly body?: object;
}

/**
 * A function for every route of the API, typed by the route table.
 * @example const { items } = await createClient({ url, key }).listClients({});
 */
export function createClient(options: ClientOptions): Client {
  const calls = Object.fromEntries(
    (Object.keys(routes) as RouteName[]).map((name) => [
      name,
      (input: AnyInput = {}, call: CallOptions = {}) => request(options, name, input, call),
    ]),
  );
  const finished = (job: Pick<Job, 'id'> & Partial<Job>, onProgress?: (job: Job) => void) =>
    follow(options, calls as unknown as Client, job, onProgress);
  const madeFile = (version: string, name: string) => fileOf(options, version, name);
  const contentsTable = (sitemap: string, asked: ContentsQuery) => tableOf(options, sitemap, asked);
  const sheetZip = (whom: InputOf<'showSheet'>['query']) => zipOf(options, whom);
  const clientArchive = (client: string) =>
    bytesAt(options, CLIENT_ARCHIVE.replace(':client', encodeURIComponent(client)));
  return { ...calls, finished, madeFile, contentsTable, sheetZip, clientArchive } as unknown as Client;
}

async function request(
  options: ClientOptions,
  name: RouteName,
  input: AnyInput,
  call: CallOptions,
): Promise<unknown> {
  options.onRequest?.(name);
  const route: Route<Input, unknown> = routes[name];
  const path = route.path.replace(/:(\w+)/g, (_, param: string) =>
    encodeURIComponent(input.params?.[param] ?? ''),
  );
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(input.query ?? {}))
    if (value !== undefined) query.set(name, String(value));
  const url = `${options.url}${BASE}${path}${query.size > 0 ? `?${query.toString()}` : ''}`;
  const headers: Record<string, string> = { accept: 'application/json', ...authorization(options) };
  if (input.body) headers['content-type'] = 'application/json';
  // Every POST of ours can be sent twice without doing anything twice.
  if (route.method === 'POST' && route.role !== 'anyone')
    headers['idempotency-key'] = call.idempotencyKey ?? crypto.randomUUID();
  if (route.status === 202 && options.wait !== undefined) headers['prefer'] = `wait=${String(options.wait)}`;
  if (call.ifMatch !== undefined) headers['if-match'] = `"${String(call.ifMatch)}"`;
  const response = await send(options, url, {
    method: route.method,
    headers,
    ...(input.body ? { body: JSON.stringify(input.body) } : {}),
    ...(call.signal ? { signal: call.signal } : {}),
  });
  if (response.status === 204) return null;
  const document: unknown = await response.json().catch(() => null);
  if (response.ok) return document;
  throw new ApiProblem(asProblem(document, response.status));
}

async function fileOf(options: ClientOptions, version: string, name: string): Promise<Uint8Array> {
  const path = MADE_FILES.replace(':version', encodeURIComponent(version)).replace(
    ':name',
    encodeURIComponent(name),
  );
  return bytesAt(options, path);
}

async function bytesAt(options: ClientOptions, path: string): Promise<Uint8Array> {
  const response = await send(options, `${options.url}${BASE}${path}`, { headers: authorization(options) });
  if (response.ok) return new Uint8Array(await response.arrayBuffer());
  throw new ApiProblem(asProblem(await response.json().catch(() => null), response.status));
}

async function zipOf(options: ClientOptions, whom: InputOf<'showSheet'>['query']): Promise<Uint8Array> {
  const query = new URLSearchParams(whom as Record<string, string>);
  return bytesAt(options, `${SHEET_ZIP}?${query.toString()}`);
}

async function tableOf(
  options: ClientOptions,
  sitemap: string,
  asked: ContentsQuery,
): Promise<ReadableStream<Uint8Array>> {
  const url = `${options.url}${contentsTablePath(sitemap, asked)}`;
  const response = await send(options, url, { headers: authorization(options) });
  if (response.ok && response.body) return response.body;
  throw new ApiProblem(asProblem(await response.json().catch(() => null), response.status));
}

/** Where the table of the addresses of a sitemap is, from the service's own root. */
export function contentsTablePath(sitemap: string, asked: ContentsQuery): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked) as [string, string | number | undefined][])
    if (value !== undefined) query.set(name, String(value));
  return `${BASE}${CONTENTS_CSV.replace(':sitemap', encodeURIComponent(sitemap))}${query.size > 0 ? `?${query.toString()}` : ''}`;
}

async function send(options: ClientOptions, url: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(url, init);
  } catch (error) {
    if (init.signal?.aborted) throw error;
    throw new NotReached(options.url);
  }
}

function authorization(options: ClientOptions): Record<string, string> {
  return options.key === undefined ? {} : { authorization: `Bearer ${options.key}` };
}

function asProblem(document: unknown, status: number): ProblemDocument {
  if (typeof document === 'object' && document !== null && 'code' in document)
    return document as ProblemDocument;
  return {
    type: 'about:blank',
    title: 'Unexpected answer',
    status,
    detail: `The service answered ${String(status)} without saying why.`,
    code: 'internal',
  };
}

/** Milliseconds before events are asked for once more, where there were none: twice as long each time, up to a bound. */
const FIRST_PAUSE_MS = 250;
const LONGEST_PAUSE_MS = 10_000;

/** Follows a job by its events; when the stream ends early, asks again. Throws ApiProblem where they may not be had. */
async function follow(
  options: ClientOptions,
  client: Client,
  started: Pick<Job, 'id'> & Partial<Job>,
  onProgress?: (job: Job) => void,
): Promise<Job> {
  const { id } = started;
  for (let pause = FIRST_PAUSE_MS; ; pause = Math.min(pause * 2, LONGEST_PAUSE_MS)) {
    const job = started.state === 'done' ? (started as Job) : await client.showJob({ params: { id } });
    onProgress?.(job);
    if (job.state === 'done' || job.state === 'stopped' || job.rests !== null) return whole(client, job);
    const response = await send(options, `${options.url}${BASE}/jobs/${id}/events`, {
      headers: { accept: 'text/event-stream', ...authorization(options) },
    });
    if (response.status >= 400 && response.status < 500)
      throw new ApiProblem(asProblem(await response.json().catch(() => null), response.status));
    let isTold = false;
    if (response.ok)
      for await (const event of readEvents(response)) {
        isTold = true;
        onProgress?.(JSON.parse(event.data) as Job);
        if (event.event === 'done') break;
      }
    // What answers with something else, as a proxy does whose service is starting anew, is not asked at once again and for ever.
    if (isTold) pause = FIRST_PAUSE_MS / 2;
    else await new Promise((done) => setTimeout(done, pause));
  }
}

/** A job with all its pieces. */
async function whole(client: Client, job: Job): Promise<Job> {
  const items = [...job.items];
  for (let { next } = job; next !== null;) {
    const page = await client.showJob({
      params: { id: job.id },
      query: { after: next, limit: MOST_AT_ONCE },
    });
    items.push(...page.items);
    next = page.next;
  }
  return { ...job, items, next: null };
}

/** Pieces of a job that are asked for at once. */
const MOST_AT_ONCE = 500;

/** The events of a stream (HTML standard §9.2), until it ends or breaks off. */
export async function* readEvents(response: Response): AsyncGenerator<EventSourceMessage> {
  const reader = response.body
    ?.pipeThrough(new TextDecoderStream())
    .pipeThrough(new EventSourceParserStream())
    .getReader();
  try {
    for (;;) {
      const { done = true, value } = (await reader?.read()) ?? {};
      if (done || !value) return;
      yield value;
    }
  } catch {
    // The stream broke off; the caller asks again.
  } finally {
    await reader?.cancel().catch(() => undefined);
  }
}
