import { gzipSync } from 'node:zlib';
import { documentFor, type EngineCall, type EngineWork } from './engine.js';
import type { WebAnswer } from './site.js';

/** What an engine answers, and to what. */
export interface EngineCase {
  readonly what: string;
  readonly work: EngineWork;
  readonly answer: (call: EngineCall) => WebAnswer;
}

/** Texts that do harm where they are put: in a path, a header, a terminal, a page, a sheet, or a line of a mail. */
const HARMFUL: Readonly<Record<string, string>> = {
  'a path out of the root': '/../robots.txt',
  'a path and a line of its own': '/../robots.txt#\r\nUser-agent: *\r\nDisallow: /',
  'a folder': '..',
  'the name of a settings file': '../.htaccess',
  'a script': '<script src=//elsewhere.example/x.js></script>',
  'a quote and an attribute': '"><meta http-equiv=refresh content=0>',
  'two lines of a header': 'held\r\nSet-Cookie: session=1',
  'a colour and a cursor': '\u001b[2J\u001b[31mheld',
  'writing turned round': 'held\u202edleh',
  'a byte of nothing': 'held\u0000',
  'half a sign': '\ud800held',
  'a formula': '=HYPERLINK("http://elsewhere.example","held")',
  'an address of elsewhere': 'http://elsewhere.example/',
  'a loopback address': 'http://127.0.0.1:1/',
  'a hundred thousand signs': 'x'.repeat(100_000),
  'a name of every object': '__proto__',
};

/** What is no text at all where a text should be. */
const ODD: Readonly<Record<string, unknown>> = {
  nothing: null,
  'a number': 1e300,
  'a list': ['held'],
  'an object': { toString: 'held' },
};

const said = (value: unknown): WebAnswer => ({ body: JSON.stringify(value) });
/** The document of an engine in order, with one field otherwise, wherever it lies. */
function changed(call: EngineCall, field: string, value: unknown): WebAnswer {
  const text = JSON.stringify(documentFor(call), (key, one: unknown) => (key === field ? value : one));
  return { body: text };
}

const FIELDS: readonly (readonly [EngineWork, string])[] = [
  ['enrol', 'id'],
  ['token', 'token'],
  ['claim', 'reason'],
  ['claim', 'verdict'],
  ['list', 'target'],
  ['holders', 'account'],
  ['submit', 'id'],
  ['sitemaps', 'address'],
  ['lookup', 'says'],
];

const fieldCases = FIELDS.flatMap(([work, field]) =>
  Object.entries({ ...HARMFUL, ...ODD }).map(([name, value]): EngineCase => ({
    what: `${field} of ${work} is ${name}`,
    work,
    answer: (call) => changed(call, field, value),
  })),
);

const raw =
  (text: string): (() => WebAnswer) =>
  () => ({ raw: (socket) => socket.end(text) });
const deep = (depth: number) => `${'{"a":'.repeat(depth)}1${'}'.repeat(depth)}`;

/** Answers that are no document of the link. */
const ANSWERS: Readonly<Record<string, (call: EngineCall) => WebAnswer>> = {
  'a page': () => ({
    headers: { 'content-type': 'text/html' },
    body: '<!doctype html><title>Sign in</title>',
  }),
  'no body': () => ({ body: '' }),
  'no content': () => ({ status: 204 }),
  'a document cut short': (call) => ({ body: JSON.stringify(documentFor(call)).slice(0, 20) }),
  'a list in place of an object': () => ({ body: '[]' }),
  'a word': () => ({ body: '"held"' }),
  'depth without end': () => ({ body: deep(100_000) }),
  'depth beside what is right': (call) => ({
    body: `${JSON.stringify(documentFor(call)).slice(0, -1)},"more":${deep(100_000)}}`,
  }),
  'a hundred thousand keys beside what is right': (call) => ({
    body: JSON.stringify({
      ...documentFor(call),
      ...Object.fromEntries(Array.from({ length: 100_000 }, (_, at) => [`k${String(at)}`, at])),
    }),
  }),
  'a prototype': (call) => ({
    body: `{"__proto__":{"items":[]},${JSON.stringify(documentFor(call)).slice(1)}`,
  }),
  'bytes of no encoding': () => ({ body: Buffer.from([0xff, 0xfe, 0xfd, 0x7b]) }),
  'gzip that grows': () => ({
    headers: { 'content-encoding': 'gzip' },
    body: gzipSync(Buffer.alloc(40_000_000, 0x20)),
  }),
  'a coding that nobody knows': () => ({ headers: { 'content-encoding': 'zebra' }, body: '{}' }),
  'a length that is not so': raw('HTTP/1.1 200 OK\r\nContent-Length: 999\r\n\r\n{}'),
  'two lengths': raw('HTTP/1.1 200 OK\r\nContent-Length: 2\r\nContent-Length: 3\r\n\r\n{}'),
  'chunks that are none': raw('HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n'),
  'headers without end': raw(`HTTP/1.1 200 OK\r\nX: ${'y'.repeat(200_000)}`),
  'no HTTP': raw('hello\r\n'),
  'nothing but the end': raw(''),
  'somewhere else to go': () => ({ status: 302, headers: { location: 'http://127.0.0.1:1/' } }),
  'a status that nobody knows': () => ({ status: 299, body: '{}' }),
  'who are you, in words of its own': () => ({
    status: 401,
    headers: { 'www-authenticate': 'Basic realm="hollin-key-1"' },
    body: JSON.stringify({ detail: 'hollin-key-1 \u001b[31mis wrong', code: '../x' }),
  }),
  'a problem of a megabyte': () => ({ status: 400, body: JSON.stringify({ detail: 'x'.repeat(1_000_000) }) }),
  'a problem of depth': () => ({ status: 409, body: deep(50_000) }),
};

const answerCases = (['enrol', 'token', 'list', 'sitemaps'] as const).flatMap((work) =>
  Object.entries(ANSWERS).map(([name, answer]): EngineCase => ({
    what: `${work} is answered with ${name}`,
    work,
    answer,
  })),
);

const waitCase = (work: EngineWork, wait: string): EngineCase => ({
  what: `${work} is to wait ${wait}`,
  work,
  answer: () => ({ status: 429, headers: { 'retry-after': wait }, body: '{}' }),
});
/** Each work rests by itself: after the last of them for one, it is not asked for again. */
const waitCases = [
  ...['-1', '1e99', 'never', '99999999999999999999'].map((wait) => waitCase('lookup', wait)),
  waitCase('holders', 'Fri, 31 Dec 9999 23:59:59 GMT'),
];

const many = (call: EngineCall, count: number, next: string | null): WebAnswer => {
  const { items = [] } = documentFor(call) as { items?: object[] };
  return said({
    items: Array.from({ length: count }, (_, at) => ({ ...items[0], id: `n${String(at)}` })),
    next,
  });
};
const listCases = (['list', 'holders', 'sitemaps'] as const).flatMap((work): EngineCase[] => [
  {
    what: `${work} names the same page as its next for ever`,
    work,
    answer: (call) => many(call, 1, 'again'),
  },
  {
    what: `${work} names another next page for ever, each full`,
    work,
    answer: (call) => many(call, 1_000, String(Number(call.after ?? '0') + 1)),
  },
  { what: `${work} has more on one page than may be`, work, answer: (call) => many(call, 20_000, null) },
  { what: `${work} has a thousand of one identifier`, work, answer: (call) => many(call, 1_000, null) },
  {
    what: `${work} has a next page of another host`,
    work,
    answer: (call) => many(call, 1, 'http://127.0.0.1/'),
  },
]);

const COUNTS: readonly unknown[] = [-1, 1.5, 1e308, '12', 2 ** 53, null];
const countCases = COUNTS.map((count): EngineCase => ({
  what: `found is ${String(count)}`,
  work: 'sitemaps',
  answer: (call) => changed(call, 'found', count),
}));
const TIMES: readonly unknown[] = [
  '9999-12-31T23:59:59Z',
  '-271821-04-20T00:00:00Z',
  '2026-02-30',
  '+275760-09-13',
  'soon',
];
const timeCases = TIMES.flatMap((time): EngineCase[] => [
  {
    what: `a sitemap was read at ${String(time)}`,
    work: 'sitemaps',
    answer: (call) => changed(call, 'readAt', time),
  },
  {
    what: `a token ends at ${String(time)}`,
    work: 'token',
    answer: (call) => changed(call, 'expiresAt', time),
  },
  { what: `a holder since ${String(time)}`, work: 'holders', answer: (call) => changed(call, 'since', time) },
]);

/** Those of one work beside each other: what an enrolment has to be before them is seen to once. */
const ORDER: readonly EngineWork[] = [
  'enrol',
  'token',
  'claim',
  'submit',
  'sitemaps',
  'list',
  'holders',
  'lookup',
];
const ALL = [...fieldCases, ...answerCases, ...listCases, ...countCases, ...timeCases, ...waitCases];

export const ENGINE_ANSWERS: readonly EngineCase[] = ORDER.flatMap((work) =>
  ALL.filter((one) => one.work === work),
);
