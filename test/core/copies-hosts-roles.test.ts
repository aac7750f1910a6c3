import { describe, expect, it, test } from 'vitest';
import { readHost, registrableOf, unicodeOf } from '../../src/core/address/host.js';
import { parseAddress } from '../../src/core/address/web-address.js';
import { judgeCopy } from '../../src/core/badge/judge/copy.js';
import { copyAge, mayBeCopy } from '../../src/core/badge/probe/copy-age.js';
import type { ReachFailure } from '../../src/core/badge/probe/evidence.js';
import type { StepKind, VariantSeen } from '../../src/core/variants/follow.js';
import { UNREAD_FACE } from '../../src/core/variants/page-face.js';
import { isUsed, roleOf, ROLES, type Role } from '../../src/core/variants/roles.js';
import { hop, page } from '../support/evidence.js';
import { variantSeen } from '../support/web.js';

/** When the evidence was taken. */
const AT = new Date('2026-11-25T08:00:00Z');
const MADE = 'Wed, 18 May 2033 09:00:00 GMT';
const later = (seconds: number) => new Date(Date.parse(MADE) + seconds * 1000).toUTCString();

describe('copies out of a cache (RFC 9111)', () => {
  test.each<[string, Record<string, string>, boolean, number | null, number | null]>([
    ['nothing said', {}, false, null, null],
    ['an age', { age: '60' }, true, 60, null],
    ['an age of nothing', { age: '0', 'cache-control': 'max-age=10' }, true, 0, 10],
    ['an age that is none', { age: 'old' }, true, null, null],
    ['an age below nothing', { age: '-5' }, true, null, null],
    ['a proxy’s signature', { via: '1.1 harbour' }, true, null, null],
    ['a hit', { 'x-cache': 'HIT from harbour' }, true, null, null],
    ['a miss', { 'x-cache': 'MISS' }, false, null, null],
    ['a word with a hit in it', { 'x-cache': 'white' }, false, null, null],
    ['a lifetime', { 'cache-control': 'public, max-age=300' }, false, null, 300],
    ['a lifetime less the age', { age: '100', 'cache-control': 'max-age=300' }, true, 100, 200],
    ['one that is over', { age: '400', 'cache-control': 'max-age=300' }, true, 400, 0],
    ['a lifetime in quotes', { 'cache-control': 'max-age="300"' }, false, null, 300],
    ['a lifetime oddly written', { 'cache-control': 'MAX-AGE = 300' }, false, null, 300],
    ['one for shared caches before all', { 'cache-control': 'max-age=300, s-maxage=60' }, false, null, 60],
    ['one for shared caches first', { 'cache-control': 's-maxage=60, max-age=300' }, false, null, 60],
    ['a word that ends like it', { 'cache-control': 'x-max-age=300' }, false, null, null],
    ['an end', { date: MADE, expires: later(120) }, false, null, 120],
    [
      'an end after a lifetime',
      { 'cache-control': 'max-age=30', date: MADE, expires: later(120) },
      false,
      null,
      30,
    ],
    ['an end that is over', { date: MADE, expires: later(-120) }, false, null, 0],
    ['an end that is no date', { date: MADE, expires: '0' }, false, null, null],
    ['an end without a beginning', { expires: later(120) }, false, null, null],
  ])('%s', (_, headers, isCopy, age, left) => {
    const one = hop({ headers });
    expect(mayBeCopy(one)).toBe(isCopy);
    const found = copyAge(one);
    expect(found.age).toBe(age);
    // “0” is a date to some: then it is one long past.
    expect(headers['expires'] === '0' ? (found.left ?? 0) === 0 : found.left === left).toBe(true);
  });

  const told = (headers: Record<string, string>, here: boolean, behind: boolean | null) =>
    judgeCopy('meta', page('', {}, [hop({ headers })]), here, behind, { tag: '<meta>', name: 'x' }, AT);
  test.each<[string, Record<string, string>, boolean, boolean | null, string | undefined]>([
    ['nobody looked behind', { age: '60' }, false, null, undefined],
    ['alike, there', { age: '60' }, true, true, undefined],
    ['alike, not there', { age: '60' }, false, false, undefined],
    ['behind it stands', {}, false, true, 'meta.stale-copy'],
    ['behind it is gone', { age: '60' }, true, false, 'meta.going-stale'],
    ['behind it is gone, and no cache shows', {}, true, false, undefined],
  ])('compared with what is behind: %s', (_, headers, here, behind, code) => {
    expect(told(headers, here, behind)[0]?.code).toBe(code);
  });
  it('tell how old they are and how long they are kept, as far as anybody knows', () => {
    const known = told({ age: '7200', 'cache-control': 'max-age=10800', via: '1.1 harbour' }, false, true)[0];
    expect(known?.evidence).toMatchObject({
      age: '2 hours',
      left: '60 minutes',
      until: '2026-11-25 09:00 UTC',
      seconds: 3_600,
      via: '1.1 harbour',
    });
    const unknown = told({}, false, true)[0];
    expect(unknown?.evidence).toMatchObject({
      age: 'unknown age',
      left: 'an unknown time',
      seconds: null,
      via: null,
    });
    expect(judgeCopy('file', { ...page(''), hops: [] }, false, true, {}, AT)).toEqual([]);
  });
});

describe('host names', () => {
  const long = (labels: number) => `${Array<string>(labels).fill('a'.repeat(49)).join('.')}.example`;
  test.each<[string, string, string | null]>([
    ['Quay.Example', 'quay.example', 'quay.example'],
    [' www.quay.example. ', 'www.quay.example', 'quay.example'],
    ['quay.example..', 'not-a-host', null],
    ['möwenfang.example', 'xn--mwenfang-n4a.example', 'xn--mwenfang-n4a.example'],
    ['shop.quay.co.uk', 'shop.quay.co.uk', 'quay.co.uk'],
    ['co.uk', 'public-suffix', null],
    ['quay', 'public-suffix', null],
    ['', 'not-a-host', null],
    ['a b.example', 'not-a-host', null],
    ['-quay.example', 'not-a-host', null],
    ['quay-.example', 'not-a-host', null],
    ['qu--ay.example', 'qu--ay.example', 'qu--ay.example'],
    ['quay_side.example', 'not-a-host', null],
    ['a..example', 'not-a-host', null],
    [`${'a'.repeat(63)}.example`, `${'a'.repeat(63)}.example`, `${'a'.repeat(63)}.example`],
    [`${'a'.repeat(64)}.example`, 'not-a-host', null],
    [long(4), long(4), `${'a'.repeat(49)}.example`],
    [long(6), 'not-a-host', null],
    ['192.0.2.1', 'ip-address', null],
    ['1.2.3.4.example', '1.2.3.4.example', '4.example'],
    ['[2001:db8::1]', 'ip-address', null],
    ['2001:db8::1', 'ip-address', null],
    ['::', 'ip-address', null],
    ['0x7f.1', 'ip-address', null],
    ['q.example', 'q.example', 'q.example'],
  ])('“%s” is %s', (text, ascii, registrable) => {
    const read = readHost(text);
    if (typeof read === 'string') expect([read, null]).toEqual([ascii, registrable]);
    else expect([read.ascii, read.registrable]).toEqual([ascii, registrable]);
  });
  it('are shown as people write them', () => {
    const read = readHost('Möwenfang.example');
    expect(typeof read === 'string' ? read : read.unicode).toBe('möwenfang.example');
    expect(unicodeOf('xn--mwenfang-n4a.example')).toBe('möwenfang.example');
    expect(unicodeOf('xn--')).toBe('xn--');
    expect([registrableOf('a.b.quay.example'), registrableOf('localhost')]).toEqual([
      'quay.example',
      'localhost',
    ]);
  });
});

describe('what a variant is to its property', () => {
  const DOOR = parseAddress('https://www.quay.example/');
  const step = (kind: StepKind) => ({
    url: 'http://quay.example/',
    to: 'https://www.quay.example/',
    kind,
    status: 301,
  });
  const face = { ...UNREAD_FACE, beyond: null };
  const bare = 'http://quay.example/';
  const door = 'https://www.quay.example/';

  test.each<[string, VariantSeen, Role, StepKind | null, string | null, string]>([
    ['the front door', variantSeen(door), 'front-door', null, door, 'where visitors end up'],
    ['one that answers too', variantSeen(bare), 'answers', null, bare, 'answers by itself'],
    [
      'one that leads there for good',
      variantSeen(bare, { steps: [step('permanent')], endsAt: door }),
      'leads',
      'permanent',
      door,
      'leads to the front door permanently',
    ],
    [
      'one that leads there for now',
      variantSeen(bare, { steps: [step('permanent'), step('temporary')], endsAt: door }),
      'leads',
      'temporary',
      door,
      'leads to the front door by a temporary redirect',
    ],
    [
      'by its page',
      variantSeen(bare, { steps: [step('refresh'), step('permanent')], endsAt: door }),
      'leads',
      'refresh',
      door,
      'by a meta refresh',
    ],
    [
      'by a script, the weakest of all',
      variantSeen(bare, { steps: [step('permanent'), step('script'), step('refresh')], endsAt: door }),
      'leads',
      'script',
      door,
      'by a script',
    ],
    [
      'to a page below the front door',
      variantSeen(bare, { steps: [step('permanent')], endsAt: `${door}welcome` }),
      'leads',
      'permanent',
      door,
      'leads to the front door',
    ],
    [
      'elsewhere',
      variantSeen(bare, { steps: [step('temporary')], endsAt: 'https://other.example/' }),
      'elsewhere',
      'temporary',
      'https://other.example/',
      'leads by a temporary redirect to',
    ],
    [
      'a frame',
      variantSeen(bare, { page: { ...face, frame: 'https://host.example/a' } }),
      'framed',
      null,
      bare,
      'only a frame around https://host.example/a',
    ],
    [
      'a frame at the front door',
      variantSeen(door, { page: { ...face, frame: 'https://host.example/' } }),
      'framed',
      null,
      door,
      'only a frame around',
    ],
    [
      'in a circle',
      variantSeen(bare, { end: 'loop', steps: [step('permanent')] }),
      'dark',
      'permanent',
      null,
      'round in a circle',
    ],
    ['without end', variantSeen(bare, { end: 'too-many-hops' }), 'dark', null, null, 'redirects without end'],
    ['404', variantSeen(bare, { status: 404 }), 'dark', null, null, 'answers 404'],
    [
      '404 behind a redirect',
      variantSeen(bare, { status: 404, steps: [step('permanent')], endsAt: door }),
      'dark',
      'permanent',
      null,
      'answers 404, at https://www.quay.example',
    ],
    ['no status', variantSeen(bare, { status: null }), 'dark', null, null, 'answers 0'],
    ...[401, 403, 407, 429].map(
      (status) =>
        [
          `kept out by ${String(status)}`,
          variantSeen(bare, { status }),
          'closed',
          null,
          null,
          `answers ${String(status)}`,
        ] as [string, VariantSeen, Role, StepKind | null, string | null, string],
    ),
    ...(
      [
        ['name-missing', 'the name does not exist'],
        ['no-address', 'no address record'],
        ['resolver-fails', 'could not be looked up'],
        ['refused', 'connections are refused'],
        ['unreachable', 'no way leads'],
        ['timed-out', 'no answer in time'],
        ['cut', 'was cut'],
        ['guarded', 'a private address'],
        ['headers-too-large', 'headers are too large'],
        ['not-http', 'speaks no HTTP'],
      ] as [ReachFailure, string][]
    ).map(
      ([failure, says]) =>
        [failure, variantSeen(bare, { end: 'failed', status: null, failure }), 'dark', null, null, says] as [
          string,
          VariantSeen,
          Role,
          StepKind | null,
          string | null,
          string,
        ],
    ),
    ...(
      [
        ['tls-expired', 'has expired'],
        ['tls-name', 'for other names'],
        ['tls-self-signed', 'signed by itself'],
        ['tls-chain', 'chain is incomplete'],
        ['tls-untrusted', 'nobody knows'],
        ['tls-failed', 'no secure connection'],
      ] as [ReachFailure, string][]
    ).map(
      ([failure, says]) =>
        [
          failure,
          variantSeen(bare, { end: 'failed', status: null, failure }),
          'broken-certificate',
          null,
          null,
          says,
        ] as [string, VariantSeen, Role, StepKind | null, string | null, string],
    ),
    [
      'a failure of a kind that nobody knows',
      variantSeen(bare, { end: 'failed', status: null }),
      'dark',
      null,
      null,
      'it does not answer',
    ],
    [
      'a failure behind a redirect',
      variantSeen(bare, {
        end: 'failed',
        status: null,
        failure: 'cut',
        steps: [step('permanent')],
        endsAt: door,
      }),
      'dark',
      'permanent',
      null,
      'the connection was cut at https://www.quay.example',
    ],
  ])('%s', (_, one, role, via, endsAt, says) => {
    const judged = roleOf(one, DOOR, '/');
    expect([judged.role, judged.via, judged.endsAt]).toEqual([role, via, endsAt]);
    expect(judged.says).toContain(says);
    expect(judged.seen).toBe(one);
  });

  it('answers by itself where there is no front door', () => {
    expect(roleOf(variantSeen(door), null, '/').role).toBe('answers');
    expect(roleOf(variantSeen(bare, { steps: [step('permanent')], endsAt: door }), null, '/').role).toBe(
      'elsewhere',
    );
  });
  it('is told by an address as it is, where that is a page or none', () => {
    const says = (endsAt: string) =>
      roleOf(variantSeen(bare, { status: 404, steps: [step('permanent')], endsAt }), DOOR, '/').says;
    expect(says('https://www.quay.example/a?b=c')).toContain('at https://www.quay.example/a?b=c');
    expect(says('nowhere')).toContain('at nowhere');
  });
  test.each(
    ROLES.flatMap((role) => [
      [role, 'usual', role === 'front-door' || role === 'answers' || role === 'framed'] as const,
      [role, 'redirect', role === 'front-door'] as const,
    ]),
  )('%s, met as %s, is used: %s', (role, why, used) => {
    expect(isUsed({ address: bare, role, why })).toBe(used);
  });
});
