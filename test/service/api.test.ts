import { connect } from 'node:net';
import sqlite3 from 'sqlite3';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { ApiProblem, createClient, NotReached } from '../../src/client/client.js';
import { routes, type RouteName } from '../../src/api/routes.js';
import { PASSWORD, openStage, takeOnFerries, type Stage } from '../support/stage.js';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage();
  await takeOnFerries(stage);
});
afterAll(() => stage.close());

async function problem(work: Promise<unknown>): Promise<{ code: string; status: number; detail: string }> {
  const error: unknown = await work.then(
    () => null,
    (thrown: unknown) => thrown,
  );
  if (!(error instanceof ApiProblem)) throw new Error(`expected a problem, got ${String(error)}`);
  return error.problem;
}

const raw = (path: string, init: RequestInit = {}) => fetch(`${stage.url}${path}`, init);
const json = { 'content-type': 'application/json' };

describe('who may do what', () => {
  it('answers nothing without a sign-in but sign-in and health', async () => {
    for (const name of Object.keys(routes) as RouteName[]) {
      const { method, path, role } = routes[name];
      const body = method === 'POST' || method === 'PATCH' ? { body: '{}', headers: json } : {};
      const response = await raw(`/api/v1${path.replace(/:\w+/g, 'x')}`, { method, ...body });
      if (role === 'anyone') expect([name, response.status]).not.toEqual([name, 401]);
      else expect([name, response.status]).toEqual([name, 401]);
    }
    for (const path of ['/api/v1/events', '/api/v1/jobs/x/events'])
      expect((await raw(path)).status).toBe(401);
  });

  it('holds every route to its role', async () => {
    const { client } = await stage.person('odile', 'onlooker');
    expect((await client.yard()).items).toHaveLength(1);
    expect(await problem(client.addClient({ body: { name: 'X' } }))).toMatchObject({
      code: 'not-allowed',
      status: 403,
    });
    expect(await problem(client.check({ body: { all: true } }))).toMatchObject({ code: 'not-allowed' });
    const jonas = await stage.person('jonas', 'consultant');
    expect(await problem(client.listPersons())).toMatchObject({ code: 'not-allowed' });
    const added = { name: 'Anybody', role: 'lead' as const, password: 'lantern-at-the-quay' };
    expect(await problem(jonas.client.addPerson({ body: added }))).toMatchObject({ code: 'not-allowed' });
  });

  it('signs in by password with a strict cookie, and out again', async () => {
    const wrong = await raw('/api/v1/session', {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ name: 'marit', password: 'wrong' }),
    });
    expect([wrong.status, wrong.headers.get('content-type')]).toEqual([
      401,
      expect.stringContaining('application/problem+json'),
    ]);
    const right = await raw('/api/v1/session', {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ name: 'Marit', password: PASSWORD }),
    });
    const cookie = right.headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const headers = { cookie: cookie.split(';')[0] ?? '' };
    expect((await raw('/api/v1/session', { headers })).status).toBe(200);
    const foreign = await raw('/api/v1/keys', {
      method: 'POST',
      headers: { ...json, ...headers, 'sec-fetch-site': 'cross-site' },
      body: '{"label":"x"}',
    });
    expect(await foreign.json()).toMatchObject({ code: 'cross-site' });
    expect((await raw('/api/v1/session', { method: 'DELETE', headers })).status).toBe(204);
    expect((await raw('/api/v1/session', { headers })).status).toBe(401);
  });

  it('keeps no secret in the clear', async () => {
    const { readFileSync } = await import('node:fs');
    const files = ['yardbadge.sqlite', 'yardbadge.sqlite-wal'].map((name) =>
      readFileSync(`${stage.folder}/${name}`, 'latin1'),
    );
    for (const secret of [PASSWORD, stage.key])
      for (const file of files) expect(file.includes(secret)).toBe(false);
  });

  it('sends security headers and no inline script', async () => {
    const csp = (await raw('/api/v1/health')).headers.get('content-security-policy') ?? '';
    expect(csp).toContain("script-src 'self'");
    expect(csp).not.toMatch(/script-src[^;]*unsafe/);
  });
});

describe('bad input', () => {
  test.each([
    ['ftp://saltmarsh-ferries.example', 'bad-address'],
    ['192.0.2.1', 'bad-address'],
    ['example', 'bad-address'],
    ['https://saltmarsh-ferries.example', 'already-there'],
  ])('%s is refused as %s', async (address, code) => {
    const refused = await problem(stage.marit.addProperty({ body: { client: 'saltmarsh', address } }));
    expect(refused.code).toBe(code);
  });

  it('names the field and what was expected', async () => {
    const refused = await problem(
      stage.marit.addClient({ body: { name: 'X'.repeat(200), handle: 'Not A Handle', audience: ['fi'] } }),
    );
    expect(refused).toMatchObject({
      code: 'bad-input',
      faults: [{ at: 'body.name' }, { at: 'body.handle' }],
    });
    expect(refused.detail).toContain('expected lower-case letters, digits and hyphens');
    const audience = await problem(
      stage.marit.addClient({ body: { name: 'X', audience: ['FI', 'Finlnd', 'Atlantis'] } }),
    );
    expect(audience).toMatchObject({ code: 'no-such-country' });
    expect(audience.detail).toMatch(
      /“Finlnd” is no country\. Did you mean Finland \(FI\)\? “Atlantis” is no/u,
    );
  });

  it('is a problem document even where nothing fits', async () => {
    const headers = { ...json, authorization: `Bearer ${stage.key}` };
    expect(
      await (await raw('/api/v1/clients', { method: 'POST', headers, body: '{broken' })).json(),
    ).toMatchObject({ code: 'bad-input', status: 400 });
    expect(await (await raw('/api/v1/nowhere')).json()).toMatchObject({ code: 'no-such-route' });
    expect(await problem(stage.marit.showJob({ params: { id: 'none' } }))).toMatchObject({
      code: 'no-such-job',
    });
    expect(
      await problem(stage.marit.enrol({ body: { properties: ['ferries'], engines: ['nowhere'] } })),
    ).toMatchObject({ code: 'no-such-engine' });
    expect(
      await problem(
        stage.marit.enrol({ body: { properties: ['ferries'], engines: ['house'], reach: 'name' } }),
      ),
    ).toMatchObject({ code: 'reach-not-taken' });
    await expect(createClient({ url: 'http://127.0.0.1:9', key: 'x' }).yard()).rejects.toBeInstanceOf(
      NotReached,
    );
  });

  it('that is too large is told so once it is sent, not by a connection that breaks meanwhile', async () => {
    const { hostname, port } = new URL(stage.url);
    const socket = connect(Number(port), hostname);
    let said = '';
    let isBroken = false;
    socket.on('data', (piece) => (said += piece.toString()));
    for (const event of ['error', 'end']) socket.on(event, () => (isBroken = true));
    const piece = 'x'.repeat(500_000);
    socket.write(
      `POST /api/v1/session HTTP/1.1\r\nhost: ${hostname}:${port}\r\ncontent-type: application/json\r\ncontent-length: ${String(6 * piece.length)}\r\n\r\n`,
    );
    for (let sent = 0; sent < 6; sent += 1) {
      expect(isBroken).toBe(false);
      socket.write(piece);
      await new Promise((done) => setTimeout(done, 40));
    }
    await expect.poll(() => said).toMatch(/^HTTP\/1\.1 413 [^]*too-large/u);
    socket.destroy();
  });

  it('tells which properties a reference fits', async () => {
    const { job } = await stage.marit.addProperty({
      body: {
        client: 'saltmarsh',
        address: 'https://tidewell-clocks.example/ferry-clocks',
        handle: 'ferry-clocks',
      },
    });
    await stage.marit.finished({ id: job });
    expect(await problem(stage.marit.showProperty({ params: { property: 'ferr' } }))).toMatchObject({
      code: 'ambiguous',
      handles: ['ferries', 'ferry-clocks'],
    });
    const refused = await stage.results(
      stage.marit.enrol({ body: { properties: ['ferry-clocks'], engines: ['veldrane'], reach: 'name' } }),
    );
    expect(refused[0]?.problem?.detail).toContain('would cover its neighbours');
    await stage.marit.archiveProperty({ params: { property: 'ferry-clocks' } });
    expect((await stage.marit.showProperty({ params: { property: 'ferr' } })).handle).toBe('ferries');
  });
});

describe('the contract', () => {
  it('does nothing twice for one Idempotency-Key', async () => {
    const body = { name: 'The Button Museum', handle: 'button-museum' };
    const first = await stage.marit.addClient({ body }, { idempotencyKey: 'once-and-only' });
    const again = await stage.marit.addClient({ body }, { idempotencyKey: 'once-and-only' });
    expect(again).toEqual(first);
    expect(
      await problem(stage.marit.addClient({ body: { name: 'Other' } }, { idempotencyKey: 'once-and-only' })),
    ).toMatchObject({ code: 'key-reused' });
    expect(await problem(stage.marit.addClient({ body }, { idempotencyKey: 'another-key' }))).toMatchObject({
      code: 'same-name',
    });
  });

  it('refuses an edit of what somebody else has changed', async () => {
    const { version } = await stage.marit.showClient({ params: { client: 'saltmarsh' } });
    await stage.marit.editClient(
      { params: { client: 'saltmarsh' }, body: { contact: 'quay@saltmarsh-ferries.example' } },
      { ifMatch: version },
    );
    expect(
      await problem(
        stage.marit.editClient(
          { params: { client: 'saltmarsh' }, body: { contact: null } },
          { ifMatch: version },
        ),
      ),
    ).toMatchObject({ code: 'changed-meanwhile', status: 412 });
  });

  it('pages with a Link', async () => {
    const response = await raw('/api/v1/journal?limit=2', {
      headers: { authorization: `Bearer ${stage.key}` },
    });
    const link = /<([^>]+)>; rel="next"/.exec(response.headers.get('link') ?? '')?.[1] ?? '';
    const second = (await (
      await raw(link, { headers: { authorization: `Bearer ${stage.key}` } })
    ).json()) as { items: { seq: number }[] };
    const first = (await response.json()) as { items: { seq: number }[] };
    expect(second.items[0]?.seq).toBeLessThan(first.items[1]?.seq ?? 0);
  });

  it('is told by an OpenAPI document with every route, and every reference resolves', async () => {
    const document = (await (await raw('/api/openapi.json')).json()) as {
      openapi: string;
      paths: Record<string, object>;
      components: { schemas: object };
    };
    expect(document.openapi).toBe('3.1.0');
    const operations = Object.values(document.paths).flatMap(
      (path) => Object.values(path) as { operationId: string }[],
    );
    expect(operations.map(({ operationId }) => operationId).sort()).toEqual(Object.keys(routes).sort());
    for (const [, name] of JSON.stringify(document).matchAll(/#\/components\/schemas\/(\w+)/g))
      expect(Object.keys(document.components.schemas)).toContain(name);
    expect(JSON.stringify(document)).not.toContain('$defs');
  });

  it('never changes its journal', async () => {
    const database = new sqlite3.Database(`${stage.folder}/yardbadge.sqlite`);
    const run = (sql: string) =>
      new Promise((done) =>
        database.run(sql, (error: Error | null) => {
          done(error?.message ?? 'done');
        }),
      );
    expect(await run("UPDATE journal SET says = 'x'")).toContain('append-only');
    expect(await run('DELETE FROM journal')).toContain('append-only');
    await new Promise((done) => database.close(done));
  });
});
