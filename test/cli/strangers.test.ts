import { chmodSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cliAt, runCli, type Ran } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, type Stage } from '../support/stage.js';

/** Text of others at the terminal, and files of others in the folders above. */
describe('what strangers wrote, at the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
  const cli = cliAt(() => stage, home);
  const ODILE = 'fog-over-the-sound';
  const PROFILE = String.raw`
id: eel
title: "Eel\e[2J\u202eleE\r\nproperty  held at every engine"
worked: { how: hand }
reaches: [address]
token: { per: enrolment }
methods: { meta: { name: eel-tag } }
`;
  beforeAll(async () => {
    stage = await openStage();
    await stage.marit.addPerson({ body: { name: 'odile', role: 'onlooker', password: ODILE } });
    await stage.marit.addEngine({ body: { profile: PROFILE } });
    await stage.marit.addClient({ body: { name: 'Quay\u001b]0;owned\u0007', handle: 'quay' } });
    const { job } = await stage.marit.addProperty({
      body: { client: 'quay', address: 'tidewell-clocks.example', handle: 'clocks' },
    });
    await stage.marit.finished({ id: job });
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  it.each([
    ['yard'],
    ['engine', 'show', 'eel'],
    ['engine', 'list'],
    ['client', 'list'],
    ['next'],
    ['journal'],
  ])('stays in its place and says nothing to the terminal: %s', async (...args) => {
    const { out } = await cli(...args);
    expect(out).not.toMatch(/[\u0000-\u0009\u000b-\u001f\u007f-\u009f\u202a-\u202e]/u);
    for (const line of out.split('\n')) expect(line).not.toMatch(/^(property {2}held|yardbadge: all)/u);
  });

  it('a sign-in in a folder above is taken only where it is one’s own', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'yardbadge-above-'));
    const file = join(folder, '.yardbadge', 'signin.json');
    const inner = join(folder, 'inner');
    mkdirSync(inner);
    mkdirSync(join(folder, '.yardbadge'));
    writeFileSync(file, JSON.stringify({ url: stage.url, key: stage.key }));
    const list = (): Promise<Ran> =>
      runCli(
        ['client', 'list'],
        { XDG_CONFIG_HOME: home, YARDBADGE_URL: undefined, YARDBADGE_KEY: undefined },
        '',
        inner,
      );
    chmodSync(file, 0o644);
    const planted = await list();
    expect([planted.status, planted.err]).toEqual([2, expect.stringContaining('was passed over') as string]);
    chmodSync(file, 0o600);
    expect((await list()).out).toContain('quay');
    mkdirSync(join(home, 'yardbadge'), { recursive: true });
    writeFileSync(
      join(home, 'yardbadge', 'signin.json'),
      JSON.stringify({ url: 'http://127.0.0.1:1', key: 'x' }),
    );
    expect((await list()).err).toContain('your usual service is http://127.0.0.1:1');
    writeFileSync(file, 'junk', { mode: 0o600 });
    expect((await list()).err).toContain('does not hold a sign-in');
    rmSync(folder, { recursive: true });
  });

  it('a sign-in by hand counts before a demo’s own that is older, and is ended again', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'yardbadge-demo-'));
    const own = mkdtempSync(join(tmpdir(), 'yardbadge-own-'));
    const inner = join(folder, 'inner');
    mkdirSync(inner);
    mkdirSync(join(folder, '.yardbadge'));
    const demo = { url: stage.url, key: stage.key, demo: 'marit' };
    const keep = (at: string) => {
      writeFileSync(join(folder, '.yardbadge', 'signin.json'), JSON.stringify({ ...demo, at }), {
        mode: 0o600,
      });
    };
    const env = { XDG_CONFIG_HOME: own, YARDBADGE_URL: undefined, YARDBADGE_KEY: undefined };
    const at = (args: readonly string[], input = ''): Promise<Ran> => runCli(args, env, input, inner);
    keep('2026-01-01T00:00:00.000Z');
    expect((await at(['whoami'])).out).toMatch(/^marit \(lead\) .*by the demo’s own sign-in/u);
    expect((await at(['client', 'add', 'Reed & Rush'])).err).toContain('As marit, by the demo’s own sign-in');
    expect((await at(['client', 'list'])).err).toBe('');
    expect((await at(['logout'])).err).toContain('Nothing to end');
    expect((await at(['login', stage.url, '--name', 'odile'], ODILE)).out).toContain('as odile (onlooker)');
    expect((await at(['whoami'])).out).toMatch(/^odile \(onlooker\) /u);
    expect((await at(['client', 'add', 'Sedge'])).err).toContain('This needs the role consultant');
    keep('2999-01-01T00:00:00.000Z');
    expect((await at(['whoami'])).out).toMatch(/^marit /u);
    keep('2026-01-01T00:00:00.000Z');
    expect((await at(['logout'])).out).toContain('Signed out');
    expect((await at(['whoami'])).out).toMatch(/^marit /u);
    rmSync(join(folder, '.yardbadge'), { recursive: true });
    expect(await at(['whoami'])).toMatchObject({ status: 2 });
    for (const one of [folder, own]) rmSync(one, { recursive: true });
  });

  it('keys and sessions are listed, and ended', async () => {
    const made = await stage.marit.addKey({ body: { label: 'night watch', days: 2 } });
    expect((await cli('key', 'list')).out).toContain('night watch');
    expect((await cli('key', 'end', made.id)).out).toContain('Ended');
    expect((await cli('key', 'list')).out).not.toContain('night watch');
  });

  it('archives what is named whole, and nothing that a part of it would fit', async () => {
    expect(await cli('property', 'archive', 'clo')).toMatchObject({ status: 2 });
    expect((await cli('property', 'archive', 'clocks')).out).toContain('Archived clocks;');
  });

  it('lists clients in the archive by the handles that they had', async () => {
    expect((await cli('client', 'list', '--archived')).out).toContain('No client is in the archive.');
    await stage.marit.addClient({ body: { name: 'Old Mill', handle: 'old-mill' } });
    expect((await cli('client', 'archive', 'old-mill')).status).toBe(0);
    expect((await cli('client', 'list')).out).not.toContain('Old Mill');
    expect((await cli('client', 'list', '--archived')).out).toMatch(
      /^old-mill +Old Mill +\S+ \S+ +no day said/mu,
    );
  });
});
