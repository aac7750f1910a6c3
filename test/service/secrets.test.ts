import { chmodSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readEvents } from '../../src/client/client.js';
import { keyByPassword } from '../../src/client/key-by-password.js';
import { openStage, PASSWORD, takeOnFerries, type Stage } from '../support/stage.js';

const DAY = 86_400_000;

describe('keys, sessions and what they open', () => {
  let stage: Stage;
  const profile = (name: string) => readFileSync(join(stage.folder, 'engines', `${name}.yaml`), 'utf8');
  const tokens = () => stage.results(stage.marit.getTokens({ body: { enrolments: ['ferries@veldrane'] } }));
  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
  });
  afterAll(() => stage.close());

  it('records are for their owner alone', () => {
    const mode = (name: string) => (statSync(join(stage.folder, name)).mode & 0o777).toString(8);
    expect([
      mode('yardbadge.sqlite'),
      mode('yardbadge.sqlite-wal'),
      mode('yardbadge.key'),
      mode('.'),
    ]).toEqual(['600', '600', '600', '700']);
    chmodSync(stage.folder, 0o700);
  });

  it('no profile and no account names a variable that the operator did not mean', async () => {
    const text = profile('veldrane')
      .replace('YARDBADGE_KEY_VELDRANE', 'PATH')
      .replace('id: veldrane', 'id: pathfinder');
    await expect(stage.marit.addEngine({ body: { profile: text } })).rejects.toThrow(
      'PATH may not be named as a key',
    );
    await expect(
      stage.marit.addAccount({ body: { engine: 'veldrane', name: 'other', keyFrom: 'HOME' } }),
    ).rejects.toThrow('HOME may not be named as a key');
  });

  it('a key goes where it was first used, and nowhere else', async () => {
    expect((await tokens()).map(({ problem }) => problem)).toEqual([undefined, undefined]);
    const moved = profile('veldrane').replace(
      'http://link.veldrane.example/',
      'http://link.elsewhere.example/',
    );
    await stage.marit.addEngine({ body: { profile: moved, replace: true } });
    for (const { problem } of await tokens()) expect(problem?.detail).toContain('goes nowhere else');
    await stage.marit.addEngine({
      body: { profile: profile('veldrane').replace('link.elsewhere', 'link.veldrane'), replace: true },
    });
    expect((await tokens()).map(({ problem }) => problem)).toEqual([undefined, undefined]);
  });

  it('a sealed key opens for the address for which it was sealed', async () => {
    const { id } = await stage.marit.editAccount({
      params: { account: 'veldrane/agency' },
      body: { key: stage.world.keys['veldrane']?.['agency'] ?? '' },
    });
    expect((await tokens()).map(({ problem }) => problem)).toEqual([undefined, undefined]);
    const moved = profile('veldrane').replace(
      'http://link.veldrane.example/',
      'http://link.elsewhere.example/',
    );
    await stage.marit.addEngine({ body: { profile: moved, replace: true } });
    for (const { problem } of await tokens()) expect(problem?.detail).toContain('sealed for another address');
    await stage.marit.addEngine({
      body: { profile: profile('veldrane').replace('link.elsewhere', 'link.veldrane'), replace: true },
    });
    expect(id).not.toBe('');
  });

  it('what opens something stands in no record in the clear, and is shown once', async () => {
    const { marit } = stage;
    const hook = await marit.addWebhook({
      body: { url: 'https://hooks.harbour.example/in/pass-8841?key=word-8842' },
    });
    const contact = { client: 'saltmarsh', name: 'Mika Reed', role: 'developer' } as const;
    await marit.addContact({ body: contact });
    const { items } = await marit.writeLetters({ body: { client: 'saltmarsh', way: 'copied' } });
    const [, code = ''] = /\/shared\/([\w-]{20,})/u.exec(items[0]?.text ?? '') ?? [];
    expect(code.length).toBeGreaterThan(20);
    const { client: odile } = await stage.person('onno', 'onlooker');
    const { items: read } = await odile.listLetters({ query: { client: 'saltmarsh' } });
    expect(read[0]?.text).toContain('/shared/…');
    const { items: lines } = await marit.journal({ query: { limit: 20 } });
    expect(lines.find(({ kind }) => kind === 'webhook.added')?.says).toBe(
      'https://hooks.harbour.example gets the alerts from now on.',
    );
    const files = ['yardbadge.sqlite', 'yardbadge.sqlite-wal'].map((name) =>
      readFileSync(join(stage.folder, name)).toString('latin1'),
    );
    for (const secret of [hook.secret, code])
      for (const file of files) expect(file.includes(secret)).toBe(false);
    await marit.endWebhook({ params: { id: hook.id } });
  });

  it('patience out of all bounds is cut to a year, and told', async () => {
    await stage.order({
      do: 'engine',
      engine: 'ostrime',
      failStatus: 503,
      failTimes: 1,
      retryAfter: 999_999_999_999_999,
    });
    const [result] = await stage.results(
      stage.marit.enrol({ body: { properties: ['ferries'], engines: ['ostrime'] } }),
    );
    expect(result?.problem?.code).toBe('engine-waits');
    await stage.order({ do: 'engine', engine: 'ostrime' });
    const { items } = await stage.marit.listAccounts();
    const until = items.find(({ engine }) => engine === 'ostrime')?.links[0]?.until ?? '';
    expect(Date.parse(until) - stage.world.file.now().getTime()).toBeLessThan(367 * DAY);
  });

  it('keys and sessions are seen, end when they are ended, and come to an end by themselves', async () => {
    const { client: odile } = await stage.person('odile', 'onlooker');
    const secret = await keyByPassword(stage.url, 'odile', PASSWORD, 'a script');
    const headers = { authorization: `Bearer ${secret}` };
    const status = async () => (await fetch(`${stage.url}/api/v1/session`, { headers })).status;
    expect(await status()).toBe(200);
    const { items } = await odile.listKeys();
    const own = items.find(({ label }) => label === 'a script');
    expect(own).toMatchObject({ kind: 'key', current: false });
    expect(Date.parse(own?.expiresAt ?? '')).toBeGreaterThan(stage.world.file.now().getTime());
    const used = async () => (await odile.listKeys()).items.find(({ current }) => current)?.usedAt ?? null;
    await expect.poll(used).not.toBeNull();

    // Whoever listens with it hears no more once it is ended.
    const events = readEvents(await fetch(`${stage.url}/api/v1/events`, { headers }));
    const over = events.next();
    await odile.endKey({ params: { id: own?.id ?? '' } });
    expect((await over).done).toBe(true);
    expect(await status()).toBe(401);
    await expect(odile.endKey({ params: { id: own?.id ?? '' } })).rejects.toThrow('no key');
  });
});

describe('behind a proxy', () => {
  it('the cookie goes over HTTPS alone, and the proxy’s name is ours', async () => {
    const stage = await openStage({ publicUrl: 'https://yard.harbour.example' });
    try {
      const answer = await fetch(`${stage.url}/api/v1/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'marit', password: PASSWORD }),
      });
      expect(answer.headers.get('set-cookie')).toMatch(/; Secure/);
    } finally {
      await stage.close();
    }
  });
});
