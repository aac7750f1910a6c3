import { execFile } from 'node:child_process';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { RULES } from '../../src/engines/conformance/rules.js';
import { ANY_PORTS, startWorld, type World } from '../../src/rehearsal/world.js';
import { linkOpenApi } from '../../scripts/link-openapi.js';
import { removed } from '../support/removed.js';
import { STAGE_TIME } from '../support/time.js';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/** Runs the script as anybody would. */
function conformance(
  args: readonly string[],
  key: string | undefined,
): Promise<{ status: number; out: string }> {
  const env = { ...process.env, ...(key === undefined ? {} : { ENGINE_KEY: key }) };
  return new Promise((done) => {
    execFile(
      'npm',
      ['run', '--silent', 'engine-conformance', '--', ...args],
      { cwd: ROOT, env },
      (error, out, err) => {
        done({ status: typeof error?.code === 'number' ? error.code : 0, out: out + err });
      },
    );
  });
}

describe('the conformance test', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-conform-'));
  let world: World;
  beforeAll(async () => {
    world = await startWorld(folder, ANY_PORTS, STAGE_TIME);
  });
  afterAll(async () => {
    await world.close();
    await removed(folder);
  });
  const base = (engine: string) => `http://127.0.0.1:${String(world.engines.get(engine)?.port)}/`;

  test.each([
    ['veldrane', []],
    ['veldrane', ['--reach', 'name']],
    ['ostrime', []],
    ['sundrel', ['--fact', 'kind=museum', '--fact', 'languages=fi']],
  ])('%s passes %j', async (engine, more) => {
    const { status, out } = await conformance([base(engine), ...more], world.keys[engine]?.['agency']);
    expect(out).toContain(`${String(RULES.length)} rules hold, 0 do not.`);
    expect(status).toBe(0);
    expect(world.file.state.engines[engine]?.enrolments).toEqual([]);
  });

  it('passes against a held enrolment’s engine again and again, with pages in its list', async () => {
    const state = world.file.state.engines['ostrime'];
    for (const at of [1, 2, 3, 4, 5])
      state?.enrolments.push({
        id: `os-${String(at)}`,
        account: 'agency',
        reach: 'address',
        target: `https://quay-${String(at)}.example/`,
        tokens: {},
        ownership: { state: 'none' },
        lastLook: null,
        missingSince: null,
        claims: {},
        sitemaps: [],
      });
    const { out } = await conformance([base('ostrime')], world.keys['ostrime']?.['agency']);
    expect(out).toContain('0 do not.');
  });

  it('tells each departure of one that only seems to speak it', async () => {
    const server = createServer((request, response) => {
      response.writeHead(request.method === 'POST' ? 201 : 200, { 'content-type': 'application/json' });
      response.end(JSON.stringify({ id: String(Math.random()), items: [], next: 'more' }));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    const { port } = server.address() as AddressInfo;
    const { status, out } = await conformance([`http://127.0.0.1:${String(port)}`], 'any');
    expect(status).toBe(1);
    expect(out).toContain('expected status 401, got 200');
    expect(out).toContain('the answer has another shape than the document says');
    expect(out).toMatch(/0 rules hold|[0-2] rules? hold/);
    server.close();
  });

  it('says what it needs, and what does not answer', async () => {
    expect((await conformance(['http://127.0.0.1:9/'], undefined)).out).toContain(
      'environment variable ENGINE_KEY',
    );
    expect((await conformance(['quay'], 'any')).status).toBe(2);
    const { status, out } = await conformance(['http://127.0.0.1:9/'], 'any');
    expect(status).toBe(1);
    expect(out).toContain('was not answered: refused');
  });
});

it('the link’s OpenAPI document is the one that the table makes', () => {
  const kept: unknown = JSON.parse(
    readFileSync(new URL('../../docs/engine-link.openapi.json', import.meta.url), 'utf8'),
  );
  expect(kept).toEqual(JSON.parse(JSON.stringify(linkOpenApi())));
});
