import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import { cliAt, runCli } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

describe('the command line, as a process', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
  const cli = cliAt(() => stage, home);

  beforeAll(async () => {
    stage = await openStage();
    await placeAll(stage, (await takeOnFerries(stage)).slice(0, 1));
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  test.each([
    [['--version'], 0, /^\d+\.\d+\.\d+\n$/],
    [['--help'], 0, /Usage: yardbadge/],
    [['nonsense'], 2, /unknown command/],
    [['enrol', 'ferries'], 2, /--engine/],
    [['enrol', 'ferries', '--engine', 'house', '--reach', 'world'], 2, /expected name or address/],
    [['check'], 2, /Name a property/],
    [['check', 'ferries', '--method', 'smoke'], 2, /expected meta, file or dns/],
    [['property', 'show', 'nowhere'], 2, /No property has the handle/],
    [['check', 'ferries@house'], 0, /✓ accept/],
    [['check', 'ferries@veldrane:name'], 1, /✗ refuse[\s\S]*→ Please add/],
    [['claim', 'ferries@veldrane:name'], 1, /Not claimed: Veldrane would refuse/],
    [['claim', 'ferries@veldrane:name', '--anyway'], 5, /record not found/],
    [['claim', '--ready'], 0, /House confirmed ferries@house:address: held/],
    [['sitemap', 'submit', 'ferries', 'sitemap.xml'], 2, /hold a badge that covers it first/],
    [['engine', 'show', 'veldrane'], 0, /Looks again every 5 days; withdraws after 2 days without the token/],
    [['person', 'list'], 0, /marit +lead/],
    [['rehearsal', 'meta', 'nowhere.example', '<meta>'], 2, /has no website nowhere\.example/],
  ] as const)('%j exits %i', async (args, status, expected) => {
    const ran = await cli(...args);
    expect(ran.out + ran.err).toMatch(expected);
    expect(ran.status).toBe(status);
  });

  it('gives wide letters the two columns that they take, and loses none of them', async () => {
    await cli('client', 'add', '桟橋の時計修理店', '--handle', 'sanbashi');
    const { out } = await cli('client', 'list');
    expect(out).toMatch(/sanbashi +桟橋の時計修理店/u);
  });

  it('prints the API’s own documents with --json', async () => {
    const { out } = await cli('check', 'ferries', '--json');
    const { checks } = JSON.parse(out) as { checks: object[] };
    expect(checks).toHaveLength(7);
    for (const key of [
      'property',
      'engine',
      'method',
      'place',
      'checkedAt',
      'seen',
      'forecast',
      'visibleAt',
      'findings',
    ])
      expect(checks[0]).toHaveProperty(key);
    expect(JSON.parse((await cli('yard', '--json')).out)).toMatchObject({
      items: [{ property: { handle: 'ferries' } }],
    });
  });

  it('lets no control character of a website reach the terminal', async () => {
    const { client } = { client: stage.marit };
    await client.addClient({ body: { name: 'Evil \u001b[31mred\u202e', handle: 'evil' } });
    const { out } = await cli('client', 'list');
    expect(out).toContain('Evil');
    expect(out).not.toMatch(/[\u001b\u202e]/);
    expect((await cli('client', 'list', '--json')).out).not.toMatch(/[\u001b\u202e]/);
  });

  it('says when the service is not reached, and when one is not let in', async () => {
    const gone = await runCli(['yard'], { YARDBADGE_URL: 'http://127.0.0.1:9', YARDBADGE_KEY: 'x' });
    expect([gone.status, gone.err]).toEqual([
      4,
      expect.stringContaining('No answer from http://127.0.0.1:9'),
    ]);
    const wrong = await runCli(['yard'], { YARDBADGE_URL: stage.url, YARDBADGE_KEY: 'ybk_wrong' });
    expect(wrong.status).toBe(3);
  });

  it('adds a person on the machine itself, and signs in with the password', async () => {
    const data = join(home, 'own.sqlite');
    expect(
      await runCli(['person', 'add', 'odile', '--role', 'lead', '--data', data], {}, 'too short'),
    ).toMatchObject({ status: 2, err: expect.stringContaining('12 characters') as string });
    expect(
      await runCli(['person', 'add', 'odile', '--role', 'lead', '--data', data], {}, 'fog-over-the-sound\n'),
    ).toMatchObject({ status: 0 });
    expect(
      await runCli(['person', 'add', 'Odile', '--role', 'lead', '--data', data], {}, 'fog-over-the-sound\n'),
    ).toMatchObject({ status: 2, err: expect.stringContaining('already') as string });
    const login = await runCli(
      ['login', stage.url, '--name', 'marit'],
      { XDG_CONFIG_HOME: home },
      'lantern-at-the-quay',
    );
    expect(login.out).toContain('Signed in');
    expect(
      (await runCli(['yard'], { XDG_CONFIG_HOME: home, YARDBADGE_URL: undefined, YARDBADGE_KEY: undefined }))
        .out,
    ).toContain('ferries');
  });

  describe('settings', () => {
    const folder = join(home, 'settings');
    const file = join(folder, 'yardbadge.yaml');
    beforeAll(() => {
      mkdirSync(folder);
      writeFileSync(file, 'listen: { port: 7001 }\nnet: { agent: "Quay/1.0" }\n');
    });
    it('come from file, environment and flag, the later winning, and config says which', async () => {
      const { out } = await runCli(['config', '--config', file, '--host', '127.0.0.2'], {
        YARDBADGE_LISTEN_PORT: '7002',
      });
      expect(out).toMatch(/listen\.port +7002 +environment YARDBADGE_LISTEN_PORT/);
      expect(out).toMatch(/listen\.host +"127\.0\.0\.2" +flag/);
      expect(out).toMatch(/net\.agent +"Quay\/1\.0" +file/);
      expect(out).toMatch(/log +"info" +default/);
    });
    it('name every wrong key', async () => {
      writeFileSync(file, 'listen: { port: seven }\nnet: { resolver: nowhere, speed: fast }\n');
      const { status, err } = await runCli(['config', '--config', file], {});
      expect(status).toBe(2);
      for (const word of ['listen.port', 'net.resolver', 'net.speed is not a setting', 'yardbadge.yaml'])
        expect(err).toContain(word);
    });
  });
});
