/** One request that a stranger, or somebody who may, could send to the service itself. */
export interface Sent {
  readonly what: string;
  readonly method: string;
  readonly path: string;
  readonly body?: string;
  readonly headers?: Readonly<Record<string, string>>;
  /** Whether it comes with a bearer key. */
  readonly signedIn: boolean;
  /** Statuses that are right: never one of 500 and above. */
  readonly status: readonly number[];
}

const JSON_TYPE = { 'content-type': 'application/json' };
const json = (value: unknown) => JSON.stringify(value);
const keys = (count: number) =>
  `{${Array.from({ length: count }, (_, at) => `"k${String(at)}":1`).join(',')}}`;
const deep = (depth: number) => '['.repeat(depth) + ']'.repeat(depth);
const known = (
  what: string,
  method: string,
  path: string,
  status: number[],
  body?: string,
  headers = {},
): Sent => ({
  what,
  method,
  path,
  signedIn: true,
  status,
  headers: { ...JSON_TYPE, ...headers },
  ...(body === undefined ? {} : { body }),
});
const stranger = (
  what: string,
  method: string,
  path: string,
  status: number[],
  body?: string,
  headers = {},
): Sent => ({ ...known(what, method, path, status, body, headers), signedIn: false });

/** Texts that have broken one program or another. */
const ODD = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '../../etc/passwd',
  '%00',
  '%',
  "'; DROP TABLE properties; --",
  '%27%20OR%201=1',
  '\u202e',
  '\ud800',
  'x'.repeat(3_000),
  '💧'.repeat(500),
  'NaN',
  'Infinity',
  '-1',
  '1e309',
  '__proto__',
  'constructor',
  '*',
  '_',
  '%25',
  '\\',
  '[object Object]',
];
const enc = (text: string) => {
  try {
    return encodeURIComponent(text);
  } catch {
    return '%EF%BF%BD';
  }
};

export const REQUESTS: readonly Sent[] = [
  stranger('a sign-in with 350,000 keys', 'POST', '/session', [413], keys(350_000)),
  stranger('a sign-in with a few hundred keys', 'POST', '/session', [400], keys(300)),
  stranger('a sign-in that nests', 'POST', '/session', [400, 413], deep(2_000)),
  stranger(
    'a sign-in of a password of megabytes',
    'POST',
    '/session',
    [413],
    json({ name: 'a', password: 'x'.repeat(3_000_000) }),
  ),
  stranger('a sign-in of no object', 'POST', '/session', [400], '"a"'),
  stranger('a sign-in that is no JSON', 'POST', '/session', [400], '{'),
  stranger('a sign-in in another type', 'POST', '/session', [415, 400], 'a=b', {
    'content-type': 'application/x-www-form-urlencoded',
  }),
  stranger('a sign-in from another site', 'POST', '/session', [403], json({ name: 'a', password: 'b' }), {
    'sec-fetch-site': 'cross-site',
  }),
  stranger('a sign-in from a foreign origin', 'POST', '/session', [403], json({ name: 'a', password: 'b' }), {
    origin: 'https://elsewhere.example',
  }),
  stranger(
    'a sign-in with a prototype',
    'POST',
    '/session',
    [400],
    '{"__proto__":{"name":"a"},"name":"a","password":"b"}',
  ),
  stranger('a check without a key', 'POST', '/checks', [401], json({ all: true })),
  stranger('a check without a key, of megabytes', 'POST', '/checks', [401, 413], 'x'.repeat(3_000_000)),
  stranger('a key that is none', 'GET', '/yard', [401], undefined, {
    authorization: `Bearer ${'x'.repeat(8_000)}`,
  }),
  stranger('a cookie that is none', 'GET', '/yard', [401], undefined, {
    cookie: `yardbadge=${'x'.repeat(3_000)}`,
  }),
  stranger('cookies without number', 'GET', '/yard', [401], undefined, { cookie: 'a=b; '.repeat(1_500) }),
  stranger('a route that is none', 'GET', `/${'a/'.repeat(800)}`, [401, 404]),
  stranger('a method that is none', 'PATCH', '/session', [404]),
  known(
    '20,000 references that are none',
    'POST',
    '/checks',
    [404, 400],
    json({ enrolments: Array.from({ length: 20_000 }, (_, at) => `p${String(at)}@house`) }),
  ),
  known(
    '50,000 references',
    'POST',
    '/checks',
    [400],
    json({ enrolments: Array.from({ length: 50_000 }, (_, at) => `p${String(at)}`) }),
  ),
  known(
    'one property named 20,000 times',
    'POST',
    '/checks',
    [202],
    json({ enrolments: Array<string>(20_000).fill('quay') }),
  ),
  known(
    'one property named 10,000 times, to be looked at',
    'POST',
    '/variants',
    [202],
    json({ properties: Array<string>(10_000).fill('quay') }),
  ),
  known('two million wrong items', 'POST', '/checks', [413], `{"enrolments":[${'1,'.repeat(2_000_000)}1]}`),
  known('20,000 wrong items', 'POST', '/checks', [400], json({ enrolments: Array(20_000).fill(1) })),
  known(
    'items of objects',
    'POST',
    '/checks',
    [400],
    json({ enrolments: Array(5_000).fill({ a: { b: [1] } }) }),
  ),
  known('unknown keys', 'POST', '/clients', [400], keys(5_000)),
  known('a body that nests', 'POST', '/clients', [400], `{"name":${deep(5_000)}}`),
  known(
    'a profile of aliases that expand',
    'POST',
    '/engines',
    [400, 422],
    json({ profile: `a: &a [1,1]\nb: &b [*a,*a]\nc: [*b,*b]` }),
  ),
  known('a profile that nests', 'POST', '/engines', [400, 422], json({ profile: '['.repeat(20_000) })),
  known(
    'a profile of a hundred kilobytes',
    'POST',
    '/engines',
    [400, 422],
    json({ profile: 'a: b\n'.repeat(19_000) }),
  ),
  known(
    'a pasted tag that nests',
    'POST',
    '/enrolments/quay@house/token',
    [422, 404],
    json({ text: '<b id=1><i><p>'.repeat(1_400) }),
  ),
  known(
    'pasted quotes',
    'POST',
    '/enrolments/quay@house/token',
    [422, 404],
    json({ text: '"\\'.repeat(9_000) }),
  ),
  known(
    'pasted blanks',
    'POST',
    '/enrolments/quay@house/token',
    [422, 404],
    json({ text: `TXT ${' )'.repeat(9_000)}` }),
  ),
  known(
    'an address of kilobytes',
    'POST',
    '/properties',
    [400, 422],
    json({ client: 'quay', address: `http://${'a.'.repeat(1_900)}example` }),
  ),
  known(
    'an address with odd marks',
    'POST',
    '/properties',
    [201, 400, 422],
    json({ client: 'quay', address: '“http://\u202ea.example”' }),
  ),
  known('If-Match of another tag', 'PATCH', '/clients/quay', [412], json({ name: 'Other' }), {
    'if-match': 'W/"1"',
  }),
  known('If-Match of nothing', 'PATCH', '/clients/quay', [412], json({ name: 'Other' }), { 'if-match': '' }),
  known('If-Match that is none', 'PATCH', '/clients/quay', [412], json({ name: 'Other' }), {
    'if-match': 'junk',
  }),
  known('If-Match of a list', 'PATCH', '/clients/quay', [412], json({ name: 'Other' }), {
    'if-match': '"98", "99"',
  }),
  known('a key that is no Idempotency-Key', 'POST', '/clients', [400], json({ name: 'Other' }), {
    'idempotency-key': 'x',
  }),
  known('a preference without end', 'GET', '/yard', [200], undefined, { prefer: `wait=${'9'.repeat(400)}` }),
  ...ODD.flatMap((text, at): Sent[] => [
    known(
      `an odd property, ${String(at)}`,
      'GET',
      `/properties/${enc(text)}`,
      [200, 301, 400, 404, 409, 414],
      undefined,
    ),
    known(`an odd match, ${String(at)}`, 'GET', `/properties?match=${enc(text)}`, [200, 400]),
    known(`an odd page, ${String(at)}`, 'GET', `/jobs?after=${enc(text)}`, [200, 400]),
    known(`an odd line of the journal, ${String(at)}`, 'GET', `/journal?after=${enc(text)}`, [200, 400]),
    known(`an odd name, ${String(at)}`, 'POST', '/clients', [201, 400, 409], json({ name: text })),
    known(`an odd enrolment, ${String(at)}`, 'DELETE', `/enrolments/${enc(text)}`, [400, 404, 409, 422]),
  ]),
];
