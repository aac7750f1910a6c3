import { stringify } from 'yaml';
import { HOST, type WebAnswer } from './site.js';

export const ENGINE_HOST = 'link.hollin.example';
/** Where a token of it may stand, whatever it hands out. */
export const TOKEN_FILE = /^\/hollin-[0-9a-f]{24}\.txt$/u;

/** The profile of an engine that is worked over the link, in the plainest form. */
export const ENGINE_PROFILE = stringify({
  id: 'hollin',
  title: 'Hollin',
  audience: 'everyone',
  worked: { how: 'link', base: `http://${ENGINE_HOST}/`, keyFrom: 'YARDBADGE_KEY_HOLLIN' },
  reaches: ['address'],
  token: { per: 'enrolment', shape: { signs: 'hex', length: 24 } },
  methods: {
    meta: {
      name: 'hollin-key',
      content: '{token}',
      compare: 'trimmed',
      redirects: 'host',
      reaches: ['address'],
    },
    file: {
      path: '/hollin-{token}.txt',
      content: 'hollin: {token}',
      compare: 'trimmed',
      redirects: 'host',
      reaches: ['address'],
    },
    dns: { label: null, value: 'hollin={token}', compare: 'trimmed', reaches: ['address'] },
  },
  keeps: { looksEvery: 'P5D', grace: 'P2D' },
  sitemaps: {
    form: 'path',
    formats: ['urlset', 'index', 'rss', 'atom', 'text'],
    limit: 500,
    firstReading: 'P3D',
    ping: false,
    needsBadge: false,
  },
  lookupsADay: 100_000,
  visitsADay: 0,
});

/** What is asked of an engine, by the work that the route of the link is for. */
export type EngineWork =
  'enrol' | 'list' | 'token' | 'claim' | 'ownership' | 'holders' | 'submit' | 'sitemaps' | 'lookup' | 'drop';
export interface EngineCall {
  readonly work: EngineWork;
  /** The last part of its path: a method, the identifier of a claim. */
  readonly last: string;
  /** Which page of a list is asked for. */
  readonly after: string | null;
}

const WORKS: readonly (readonly [RegExp, EngineWork])[] = [
  [/^POST .*\/sitemaps$/u, 'submit'],
  [/^GET .*\/sitemaps$/u, 'sitemaps'],
  [/ .*\/tokens\/\w+$/u, 'token'],
  [/ .*\/claims\/[^/]+$/u, 'claim'],
  [/ .*\/holders$/u, 'holders'],
  [/ .*\/lookups$/u, 'lookup'],
  [/^POST /u, 'enrol'],
  [/^DELETE /u, 'drop'],
  [/^GET \/v1\/enrolments$/u, 'list'],
  [/^GET /u, 'ownership'],
];

/** A request to the link, told by its method and target (RFC 9112 §3.2.1). */
export function engineCall(method: string, target: string): EngineCall {
  const { pathname, searchParams } = new URL(target, `http://${ENGINE_HOST}`);
  const [, work] = WORKS.find(([pattern]) => pattern.test(`${method} ${pathname}`)) ?? [null, 'ownership'];
  return { work, last: pathname.split('/').at(-1) ?? '', after: searchParams.get('after') };
}

export const ENROLLED = {
  id: 'ho-1',
  reach: 'address',
  target: `http://${HOST}/`,
  ownership: { state: 'none' },
};
const SITEMAP = { id: 'sm-1', address: '/sitemap.xml', readAt: null, found: 3, listed: 2, trouble: null };

/** What an engine in order answers. */
export function documentFor({ work, last }: EngineCall): object | null {
  switch (work) {
    case 'enrol':
    case 'ownership':
      return ENROLLED;
    case 'list':
      return { items: [ENROLLED], next: null };
    case 'token':
      return { method: last, token: '0123456789abcdef01234567', expiresAt: null };
    case 'claim':
      return { id: last, verdict: 'refused', reason: 'Not found.' };
    case 'holders':
      return {
        items: [{ id: 'h', account: 'agency', since: '2026-01-01T00:00:00Z', method: null, own: true }],
        next: null,
      };
    case 'submit':
      return SITEMAP;
    case 'sitemaps':
      return { items: [SITEMAP], next: null };
    case 'lookup':
      return { address: `http://${HOST}/`, listed: true, visitedAt: null, says: null };
    case 'drop':
      return null;
  }
}

export function orderly(call: EngineCall): WebAnswer {
  const document = documentFor(call);
  return document === null ? { status: 204 } : { body: JSON.stringify(document) };
}
