import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { placementOf } from '../../src/core/badge/placement.js';
import type { EnrolRequest, Work } from '../../src/engines/engine.js';
import { LinkEngine } from '../../src/engines/link/link-engine.js';
import { OWN_PROFILES, ProfileFault, readProfiles } from '../../src/engines/profiles.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { veldrane } from '../support/profiles.js';

type Answer = (request: IncomingMessage, response: ServerResponse) => void;

const says =
  (status: number, body: unknown, headers: Record<string, string> = {}): Answer =>
  (_, response) => {
    response.writeHead(status, { 'content-type': 'application/json', ...headers }).end(JSON.stringify(body));
  };
const ENROLLED = {
  id: 've-1',
  reach: 'address',
  target: 'https://quay.example/',
  ownership: { state: 'none' },
};
const TARGET = parseScope('address', 'https://quay.example/');
const NOW = new Date('2026-11-20T08:00:00Z');

describe('the engine link, from our side', () => {
  let script: Answer[] = [];
  let seen: IncomingMessage[] = [];
  const pauses: number[] = [];
  let engine: LinkEngine;
  let net: Net;
  const bodies: string[] = [];
  const server = createServer((request, response) => {
    seen.push(request);
    const pieces: Buffer[] = [];
    request.on('data', (piece: Buffer) => pieces.push(piece));
    request.on('end', () => {
      bodies.push(Buffer.concat(pieces).toString());
      const next = script.shift();
      if (next) next(request, response);
      else response.writeHead(500).end();
    });
  });

  let hasKey = true;
  let switchedOff: Work | null = null;
  let notes: [Work, string][] = [];
  const request = (key: string): EnrolRequest => ({ target: TARGET, key, facts: {}, sitemap: null });

  beforeAll(async () => {
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    net = new Net({
      resolver: null,
      allow: ['127.0.0.0/8'],
      connect: [],
      ca: null,
      agent: 'test',
      bounds: { ...DEFAULT_BOUNDS, hopMs: 2_000 },
    });
    const base = `http://127.0.0.1:${String((server.address() as AddressInfo).port)}/`;
    const sleep = (ms: number) => {
      pauses.push(ms);
      return Promise.resolve();
    };
    engine = new LinkEngine({
      net,
      clock: { now: () => NOW },
      base,
      key: () => Promise.resolve(hasKey ? { key: 'secret-key' } : { missing: 'The account has no key.' }),
      log: {
        pending: (work) => (work === switchedOff ? { kind: 'waits', says: 'off', until: null } : null),
        note: (work, note) => {
          notes.push([work, note.kind]);
          return Promise.resolve();
        },
      },
      title: 'Veldrane',
      sleep,
      firstPauseMs: 1,
    });
  });
  afterAll(async () => {
    await net.close();
    server.closeAllConnections();
    server.close();
  });
  beforeEach(() => {
    script = [];
    seen = [];
    pauses.length = 0;
    notes = [];
    hasKey = true;
    switchedOff = null;
  });

  it.each([
    ['a name that ends a line', { id: 've-1\r\nX-Evil: 1' }],
    ['a name that goes up a folder', { id: '..' }],
    ['a name that nobody sees', { id: 've\u202e1' }],
    ['a target with a line in it', { target: 'https://quay.example/\n' }],
  ])('takes no enrolment with %s', async (_, odd) => {
    script = [says(201, { ...ENROLLED, ...odd })];
    expect(await engine.enrol(request('item-1'))).toMatchObject({ kind: 'unreached' });
  });

  it('goes nowhere above the account, whatever an enrolment is called', async () => {
    script = [says(200, ENROLLED)];
    await engine.ownership('a/../../admin?x=1#y');
    expect(seen[0]?.url).toBe('/v1/enrolments/a%2F..%2F..%2Fadmin%3Fx%3D1%23y');
  });

  it('takes what an engine says as one line, and no token with a line in it', async () => {
    const reason = 'No.\r\nBcc: everybody@example.org\u0007\u202e';
    script = [
      says(200, { ...ENROLLED, ownership: { state: 'withdrawn', since: '2026-11-01T00:00:00Z', reason } }),
      says(200, { method: 'file', token: '/../robots.txt#\r\nUser-agent: *' }),
    ];
    expect(await engine.ownership('ve-1')).toMatchObject({
      value: { reason: 'No. Bcc: everybody@example.org' },
    });
    expect(await engine.token('ve-1', 'file')).toMatchObject({ kind: 'unreached' });
  });

  it('sends key, idempotency key and target', async () => {
    script = [says(201, ENROLLED)];
    expect(await engine.enrol(request('item-1'))).toEqual({ kind: 'done', value: { ref: 've-1' } });
    expect(seen[0]?.headers).toMatchObject({
      authorization: 'Bearer secret-key',
      'idempotency-key': 'item-1',
    });
  });

  it('retries what may be retried, under the same key, and waits in between', async () => {
    script = [
      says(500, {}),
      (request) => {
        request.socket.destroy();
      },
      says(201, ENROLLED),
    ];
    expect((await engine.enrol(request('item-2'))).kind).toBe('done');
    expect(new Set(seen.map((one) => one.headers['idempotency-key']))).toEqual(new Set(['item-2']));
    // The engine asked for no time of its own.
    expect(pauses).toEqual([]);
  });

  it('honours Retry-After, and tells a long one as a wait', async () => {
    script = [says(429, {}, { 'retry-after': '2' }), says(201, ENROLLED)];
    expect((await engine.enrol(request('item-3'))).kind).toBe('done');
    expect(pauses).toEqual([2000]);
    script = [says(503, { detail: 'switched off' }, { 'retry-after': '86400' })];
    expect(await engine.enrol(request('item-4'))).toEqual({
      kind: 'wait',
      until: new Date('2026-11-21T08:00:00Z'),
      says: 'Veldrane: switched off',
    });
    expect(pauses).toHaveLength(1);
  });

  it('never repeats a claim by itself', async () => {
    const placement = placementOf(veldrane, TARGET, 'meta', 'token');
    if (!placement) throw new Error('no placement');
    script = [says(500, {}), says(200, { id: 'c-1', verdict: 'confirmed' })];
    expect((await engine.claim({ claimId: 'c-1', ref: 've-1', placement })).kind).toBe('unreached');
    expect(seen).toHaveLength(1);
    expect(await engine.claimed({ claimId: 'c-1', ref: 've-1', placement })).toEqual({
      kind: 'done',
      value: { kind: 'confirmed' },
    });
    script = [says(404, { code: 'no-such-claim' })];
    expect(await engine.claimed({ claimId: 'c-2', ref: 've-1', placement })).toEqual({
      kind: 'done',
      value: null,
    });
  });

  it('gives up after a few tries, and says so without blaming anybody', async () => {
    script = Array.from({ length: 9 }, () => says(502, { detail: 'bad gateway' }));
    expect(await engine.ownership('ve-1')).toEqual({
      kind: 'unreached',
      says: 'Veldrane answered 502: bad gateway',
    });
    expect(seen).toHaveLength(4);
  });

  it('does not take an answer of the wrong shape for one', async () => {
    for (const answer of [
      says(200, { id: 7 }),
      says(200, [1, 2]),
      (_: IncomingMessage, response: ServerResponse) => {
        response.end('<html>');
      },
    ]) {
      script = [answer];
      expect(await engine.enrol(request('item-5'))).toMatchObject({
        kind: 'unreached',
        says: expect.stringContaining('shape') as string,
      });
    }
  });

  it('passes on the engine’s own no', async () => {
    script = [says(422, { code: 'reach-not-taken', detail: 'reach not taken' })];
    expect(await engine.enrol(request('item-6'))).toEqual({
      kind: 'refused',
      code: 'reach-not-taken',
      says: 'Veldrane: reach not taken',
    });
  });

  it('reads all pages of sitemaps', async () => {
    const item = (id: string) => ({
      id,
      address: `/${id}.xml`,
      readAt: null,
      found: null,
      listed: null,
      trouble: null,
    });
    script = [says(200, { items: [item('a')], next: 'a' }), says(200, { items: [item('b')], next: null })];
    const outcome = await engine.sitemaps('ve-1');
    expect(outcome.kind === 'done' && outcome.value.map(({ ref }) => ref)).toEqual(['a', 'b']);
    expect(seen[1]?.url).toContain('after=a');
  });

  it('writes down how it went, by the kind of work', async () => {
    script = [says(201, ENROLLED)];
    await engine.enrol(request('item-7'));
    script = [says(503, {}, { 'retry-after': '999' })];
    await engine.visit('ve-1', 'https://quay.example/', 'key-1');
    script = Array.from({ length: 4 }, () => says(500, {}));
    await engine.sitemaps('ve-1');
    expect(notes).toEqual([
      ['enrol', 'answers'],
      ['visit', 'waits'],
      ['sitemaps', 'unreached'],
    ]);
  });

  it('does not ask for what the engine has switched off, and for all else', async () => {
    switchedOff = 'visit';
    expect(await engine.visit('ve-1', 'https://quay.example/', 'key-1')).toMatchObject({
      kind: 'wait',
      says: 'off',
    });
    expect(seen).toHaveLength(0);
    script = [says(200, { address: 'https://quay.example/', listed: true })];
    expect(await engine.lookup('ve-1', 'https://quay.example/', 'key-2')).toEqual({
      kind: 'done',
      value: { listed: true, visitedAt: null, says: null },
    });
  });

  it('asks nobody without a key, and never tells the key that it has', async () => {
    hasKey = false;
    expect(await engine.list()).toEqual({ kind: 'refused', code: 'no-key', says: 'The account has no key.' });
    expect(seen).toHaveLength(0);
    hasKey = true;
    script = [says(401, { code: 'unknown-key', detail: 'the key secret-key is not known' })];
    expect(await engine.list()).toMatchObject({ says: 'Veldrane: the key (key) is not known' });
  });

  it('sends facts and a sitemap where the engine asks for them', async () => {
    script = [says(201, ENROLLED)];
    await engine.enrol({
      ...request('item-8'),
      facts: { kind: 'museum' },
      sitemap: 'https://quay.example/s.xml',
    });
    expect(JSON.parse(bodies.at(-1) ?? '')).toEqual({
      reach: 'address',
      target: 'https://quay.example/',
      facts: { kind: 'museum' },
      sitemap: 'https://quay.example/s.xml',
    });
  });

  it('lists what is enrolled, and leaves out what cannot be read', async () => {
    script = [
      says(200, { items: [ENROLLED, { ...ENROLLED, id: 'odd', target: 'not an address' }], next: null }),
    ];
    const outcome = await engine.list();
    expect(outcome.kind === 'done' && outcome.value.map(({ ref }) => ref)).toEqual(['ve-1']);
  });

  it.each([
    ['names the same next page again', 1, () => 'more', 3],
    ['always names another next page', 0, (at: number) => String(at), 1_001],
    ['has full pages without end', 1_000, (at: number) => String(at), 102],
  ])(
    'a list that %s is called endless, and no part of it is taken for the whole',
    async (_, count, next, most) => {
      const items = Array.from({ length: count }, () => ENROLLED);
      seen = [];
      script = Array.from({ length: 1_100 }, (_, at) => says(200, { items, next: next(at) }));
      expect(await engine.list()).toEqual({
        kind: 'unreached',
        says: 'Veldrane answered with a list that does not end',
      });
      expect(seen.length).toBeLessThanOrEqual(most);
      script = [];
    },
  );

  it('an enrolment that is gone already is dropped', async () => {
    script = [says(404, { code: 'no-such-enrolment' })];
    expect((await engine.drop('ve-9')).kind).toBe('done');
    script = [says(204, {})];
    expect((await engine.drop('ve-1')).kind).toBe('done');
  });
});

describe('profile files', () => {
  it('name the file in every fault, and no id twice', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'yardbadge-profiles-'));
    writeFileSync(join(folder, 'quay.yaml'), 'id: quay\ntitle: Quay\n');
    await expect(readProfiles([folder])).rejects.toThrow(/quay\.yaml: “worked” is missing/);
    writeFileSync(join(folder, 'quay.yaml'), 'id: [');
    await expect(readProfiles([folder])).rejects.toThrow(ProfileFault);
    await expect(readProfiles([OWN_PROFILES, OWN_PROFILES])).rejects.toThrow(
      /house\.yaml: id: “house” is taken by another profile/,
    );
    rmSync(folder, { recursive: true });
  });
});
