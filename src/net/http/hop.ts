import { performance } from 'node:perf_hooks';
import type { Readable } from 'node:stream';
import type { Hop } from '../../core/badge/probe/evidence.js';
import { withPatience } from '../../cancellation/cancellation.js';
import type { NetSettings } from '../settings.js';
import type { Dialled, Dialler } from './dial.js';
import { classify } from './failure.js';

/** The response headers that evidence keeps. */
const KEPT = [
  'content-type',
  'content-encoding',
  'content-length',
  'content-disposition',
  'location',
  'server',
  'age',
  'cache-control',
  'expires',
  'via',
  'x-cache',
  'etag',
  'link',
  'last-modified',
  'retry-after',
  'strict-transport-security',
  'x-robots-tag',
  'date',
];

const REDIRECTS = new Set([301, 302, 303, 307, 308]);
const LONGEST_HEADER = 1024;
/** Longer addresses than this nobody follows: it is what every recipient should take (RFC 9110 §4.1). */
const LONGEST_LOCATION = 8_000;

export type HopBody<T> = (source: Readable, headers: Readonly<Record<string, string>>) => Promise<T>;

export interface HopResult<T> {
  readonly hop: Hop;
  readonly body: T | null;
}

/**
 * Makes one GET request and no more: no redirect is followed, nothing is thrown for what the other side does.
 * @param read gets the body of an answer that is not a redirect
 */
export async function hopTo<T>(
  dialler: Dialler,
  settings: NetSettings,
  url: URL,
  read: HopBody<T>,
  extra: Record<string, string> = {},
): Promise<HopResult<T>> {
  const started = performance.now();
  const base = {
    url: url.href,
    address: null,
    status: null,
    location: null,
    headers: {},
    certificate: null,
    failure: null,
    detail: null,
  };
  const ms = () => performance.now() - started;
  let seen: Omit<Hop, 'ms'> = base;
  let dialled: Dialled | null = null;
  try {
    dialled = await dialler.dial(url);
    if (dialled.kind === 'failed') {
      const { address, failure, detail } = dialled;
      return { hop: { ...base, address, failure, detail, ms: ms() }, body: null };
    }
    const { dispatcher, addresses } = dialled;
    return await withPatience(settings.bounds.hopMs, async (signal) => {
      const response = await dispatcher.request({
        origin: url.origin,
        path: url.pathname + url.search,
        method: 'GET',
        headers: {
          'user-agent': settings.agent,
          accept: '*/*',
          'accept-encoding': 'gzip, deflate, br',
          ...extra,
        },
        signal,
      });
      const headers = keptHeaders(response.headers);
      const isRedirect = REDIRECTS.has(response.statusCode);
      const location = isRedirect ? resolved(first(response.headers['location']), url) : null;
      seen = {
        ...seen,
        ...dialler.seenAt(url, addresses),
        status: response.statusCode,
        headers,
        location,
      };
      // Leaving a body unread makes the stream end with an error of its own, which says nothing about the other side.
      response.body.on('error', () => undefined);
      if (location !== null) {
        response.body.destroy();
        return { hop: { ...seen, ms: ms() }, body: null };
      }
      const body = await read(response.body, headers);
      return { hop: { ...seen, ms: ms() }, body };
    });
  } catch (error) {
    const { failure, detail } = classify(error);
    const at = dialled?.kind === 'ready' ? dialled.addresses : [];
    const { certificate, address } = dialler.seenAt(url, at);
    return {
      hop: { ...seen, address: address ?? at[0] ?? null, certificate, failure, detail, ms: ms() },
      body: null,
    };
  }
}

function first(value: string | string[] | undefined): string | undefined {
  return Array.isArray(value) ? value[0] : value;
}

function keptHeaders(all: Record<string, string | string[] | undefined>): Record<string, string> {
  const kept: Record<string, string> = {};
  for (const name of KEPT) {
    const value = all[name];
    if (value !== undefined)
      kept[name] = (Array.isArray(value) ? value.join(', ') : value).slice(0, LONGEST_HEADER);
  }
  return kept;
}

/** Where a redirect points; null when it names no web address, so that it ends the walk with its own status. */
function resolved(location: string | undefined, base: URL): string | null {
  if (location === undefined || location.length > LONGEST_LOCATION) return null;
  try {
    const url = new URL(location, base);
    url.hash = '';
    return url.protocol === 'http:' || url.protocol === 'https:' ? url.href : null;
  } catch {
    return null;
  }
}
