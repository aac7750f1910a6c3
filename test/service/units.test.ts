import { mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it, test, vi } from 'vitest';
import { exitFor, Usage } from '../../src/cli/exit.js';
import { ApiProblem, NotReached } from '../../src/client/client.js';
import { Problem, PROBLEMS, type ProblemCode } from '../../src/api/problems.js';
import { handleFrom } from '../../src/core/address/handle.js';
import { hashPassword, isPassword } from '../../src/desk/people/passwords.js';
import { hop } from '../support/evidence.js';
import { Politeness } from '../../src/net/http/politeness.js';
import { classify } from '../../src/net/http/failure.js';
import { fileClock } from '../../src/service/clock.js';

const folder = mkdtempSync(join(tmpdir(), 'yardbadge-units-'));
afterAll(() => {
  rmSync(folder, { recursive: true });
});

describe('politeness', () => {
  it('lets two requests go to a host at once, and any number to different hosts', async () => {
    const politeness = new Politeness();
    let running = 0;
    let most = 0;
    const work = async () => {
      running += 1;
      most = Math.max(most, running);
      await new Promise((done) => setImmediate(done));
      running -= 1;
      return { hop: hop() };
    };
    await Promise.all(Array.from({ length: 9 }, () => politeness.within('quay.example', work)));
    expect(most).toBe(2);
    most = 0;
    await Promise.all(Array.from({ length: 9 }, (_, at) => politeness.within(`${String(at)}.example`, work)));
    expect(most).toBe(9);
  });

  it('leaves a host alone for as long as it asks, within bounds', async () => {
    const politeness = new Politeness();
    const busy = hop({ status: 429, headers: { 'retry-after': '0.2' } });
    await politeness.within('quay.example', () => Promise.resolve({ hop: busy }));
    const order: string[] = [];
    const ask = (host: string) =>
      politeness.within(host, () => {
        order.push(host);
        return Promise.resolve({ hop: hop() });
      });
    await Promise.all([ask('quay.example'), ask('other.example')]);
    expect(order).toEqual(['other.example', 'quay.example']);
  });

  it('goes on after a request that failed', async () => {
    const politeness = new Politeness();
    const fail = () => Promise.reject(new Error('no'));
    const results = await Promise.allSettled(
      Array.from({ length: 5 }, () => politeness.within('quay.example', fail)),
    );
    expect(results.every(({ status }) => status === 'rejected')).toBe(true);
    expect(
      await politeness.within('quay.example', () => Promise.resolve({ hop: hop({ ms: 7 }) })),
    ).toMatchObject({ hop: { ms: 7 } });
  });
});

describe('the clock file', () => {
  it('tells the time that another process set, at its rate, and follows a change', () => {
    const file = join(folder, 'clock.json');
    const write = (shown: string, rate: number, at: number) => {
      writeFileSync(file, JSON.stringify({ from: '2026-11-24T00:00:00Z', shown, rate }));
      utimesSync(file, at, at);
    };
    vi.useFakeTimers({ now: new Date('2026-11-24T00:00:10Z'), toFake: ['Date'] });
    const clock = fileClock(file);
    write('2026-12-01T00:00:00Z', 60, 1);
    expect(clock.now().toISOString()).toBe('2026-12-01T00:10:00.000Z');
    write('2027-01-01T00:00:00Z', 1, 2);
    expect(clock.now().toISOString()).toBe('2027-01-01T00:00:10.000Z');
    vi.useRealTimers();
  });
});

describe('passwords', () => {
  it('are kept by scrypt with a salt of their own, and only the right one fits', async () => {
    const [one, two] = await Promise.all([
      hashPassword('lantern-at-the-quay'),
      hashPassword('lantern-at-the-quay'),
    ]);
    expect(one).toMatch(/^scrypt\$32768\$8\$1\$/);
    expect(one).not.toBe(two);
    expect(await isPassword('lantern-at-the-quay', one)).toBe(true);
    expect(await isPassword('Lantern-at-the-quay', one)).toBe(false);
    expect(await isPassword('', 'scrypt$32768$8$1$$')).toBe(false);
  });
});

test.each([
  ['Saltmarsh Ferry Line', 'saltmarsh-ferry-line'],
  ['  Möwen & Söhne, Ltd. ', 'moewen-soehne-ltd'],
  ['Café Ålesund', 'cafe-aalesund'],
  ['★★★', 'unnamed'],
])('the handle of %j is %s', (name, handle) => {
  expect(handleFrom(name)).toBe(handle);
});

describe('the exit status', () => {
  const problem = (code: ProblemCode) => {
    const { status, title } = PROBLEMS[code];
    return new ApiProblem({ type: `urn:yardbadge:problem:${code}`, title, status, code, detail: 'because' });
  };
  test.each([
    [new Usage('so'), 2],
    [new NotReached('http://127.0.0.1:9'), 4],
    [problem('not-signed-in'), 3],
    [problem('not-allowed'), 3],
    [problem('no-such-property'), 2],
    [problem('engine-refused'), 5],
    [problem('engine-waits'), 1],
    [problem('internal'), 6],
  ])('%s is %i', (error, status) => {
    expect(exitFor(error)?.status).toBe(status);
  });
  it('comes with one sentence, filled from what the problem was made with', () => {
    expect(new Problem('not-taken', { engine: 'House', what: 'lookups' }).document()).toEqual({
      type: 'urn:yardbadge:problem:not-taken',
      title: PROBLEMS['not-taken'].title,
      status: 422,
      code: 'not-taken',
      detail: 'House takes no lookups.',
    });
    expect(new Problem('job-over').detail).toBe(PROBLEMS['job-over'].says);
    // Braces that came with a value are nobody's name.
    expect(new Problem('bad-reach', { reach: '{says}' }).detail).toContain('“{says}”');
  });
  it('is left to chance for nothing that was foreseen', () => {
    expect(exitFor(new TypeError('unforeseen'))).toBeNull();
    for (const code of Object.keys(PROBLEMS) as ProblemCode[])
      expect(exitFor(problem(code))?.says).toBe('because');
  });
});

test.each([
  ['ECONNREFUSED', 'refused'],
  ['EHOSTUNREACH', 'unreachable'],
  ['UND_ERR_HEADERS_TIMEOUT', 'timed-out'],
  ['ECONNRESET', 'cut'],
  ['CERT_HAS_EXPIRED', 'tls-expired'],
  ['ERR_TLS_CERT_ALTNAME_INVALID', 'tls-name'],
  ['UNABLE_TO_VERIFY_LEAF_SIGNATURE', 'tls-chain'],
  ['ERR_SSL_WRONG_VERSION_NUMBER', 'tls-failed'],
  ['HPE_INVALID_CONSTANT', 'not-http'],
  ['SOMETHING_NEW', 'cut'],
])('the network’s %s is %s, even wrapped', (code, failure) => {
  const inner = Object.assign(new Error('inner'), { code });
  expect(classify(inner).failure).toBe(failure);
  expect(classify(new Error('outer', { cause: inner })).failure).toBe(failure);
});
