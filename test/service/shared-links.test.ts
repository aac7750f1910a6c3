import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { strFromU8, unzipSync } from 'fflate';
import type { MadeLink, NewSharedLink } from '../../src/api/documents.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

/** A hundred thousand were tried by hand. */
const GUESSES = Number(process.env['GUESSES'] ?? 2_000);
const DAY = 24 * 3_600_000;
const PUBLIC = 'https://yard.harbour-lights.example';

describe('a shared link', () => {
  let stage: Stage;
  /** A link, as it is reached without the proxy. */
  const make = async (more: Partial<NewSharedLink> = {}): Promise<MadeLink> => {
    const link = await stage.marit.addLink({ body: { property: 'ferries', word: 'Mika', ...more } });
    return { ...link, url: link.url.replace(PUBLIC, stage.url) };
  };
  const show = (url: string, path = ''): Promise<Response> => fetch(`${url}${path}`, { redirect: 'manual' });
  const post = (url: string, path: string, form: Record<string, string> = {}): Promise<Response> =>
    fetch(`${url}${path}`, { method: 'POST', body: new URLSearchParams(form), redirect: 'manual' });
  const linesOf = async (kind: string) => (await stage.marit.journal({ query: { kind } })).items;
  const state = async (id: string) =>
    (await stage.marit.listLinks({ query: { all: true } })).items.find((one) => one.id === id);

  beforeAll(async () => {
    // Requests come from wherever they say.
    stage = await openStage({ trustProxy: '["127.0.0.1"]', publicUrl: PUBLIC });
    await takeOnFerries(stage);
    await stage.marit.addClient({ body: { name: 'Pebble Rye Bakery', handle: 'pebble' } });
    const { job } = await stage.marit.addProperty({
      body: { client: 'pebble', address: 'www.pebble-rye.example', handle: 'bakery' },
    });
    await stage.marit.finished({ id: job });
    await stage.results(stage.marit.enrol({ body: { properties: ['bakery'], engines: ['veldrane'] } }));
    await stage.results(stage.marit.getTokens({ body: { enrolments: ['bakery'] } }));
  });
  afterAll(() => stage.close());

  it('shows the sheet to whoever has it, and to no engine, cache or other website', async () => {
    const { url, id } = await make();
    expect(new URL(url).pathname).toMatch(/^\/shared\/[\w-]{27}$/u);
    const answer = await show(url);
    expect(answer.status).toBe(200);
    expect(answer.headers.get('x-robots-tag')).toBe('noindex, nofollow');
    expect(answer.headers.get('referrer-policy')).toBe('no-referrer');
    expect(answer.headers.get('cache-control')).toBe('no-store');
    expect(answer.headers.get('set-cookie')).toBeNull();
    const page = await answer.text();
    expect(page).toContain('What to place for');
    const zip = unzipSync(new Uint8Array(await (await show(url, '/sheet.zip')).arrayBuffer()));
    expect(strFromU8(zip['sheet.txt'] ?? new Uint8Array())).toContain('What to place for');
    expect(await state(id)).toMatchObject({ opened: 1, word: 'Mika', state: 'open', by: 'marit' });
    expect((await linesOf('shared.opened'))[0]?.says).toContain('“Mika”');
    // The secret is nowhere on record.
    const [, secret = ''] = /shared\/(.+)$/u.exec(url) ?? [];
    const all = JSON.stringify([await stage.marit.listLinks(), await stage.marit.journal()]);
    expect(all).not.toContain(secret);
  });

  it('holds nothing of another client, nor of us', async () => {
    const client = await make({ client: 'saltmarsh', property: undefined } as never);
    const [other] = (await stage.marit.listEnrolments({ query: { property: 'bakery' } })).items;
    const own = (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items;
    // Somebody put the other client's token here by mistake.
    const wrong = other?.placements.find(({ method }) => method === 'meta');
    const right = own[0]?.placements.find(({ method }) => method === 'meta');
    if (wrong?.put.kind !== 'meta' || right?.put.kind !== 'meta') throw new Error('both have a tag');
    await stage.order({ do: 'meta', host: new URL(right.put.page).hostname, tag: wrong.put.tag });
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    const page = await (await show(client.url)).text();
    const text = strFromU8(
      unzipSync(new Uint8Array(await (await show(client.url, '/sheet.zip')).arrayBuffer()))['sheet.html'] ??
        new Uint8Array(),
    );
    const { items: persons } = await stage.marit.listPersons();
    const ids = own.flatMap(({ id, name }) => [id, name]);
    for (const word of [
      'bakery',
      'pebble',
      'Pebble',
      other?.name ?? '',
      other?.id ?? '',
      wrong.put.tag,
      'marit',
    ])
      expect([word, `${page}${text}`.includes(word)]).toEqual([word, false]);
    for (const word of [...ids, ...persons.map(({ id }) => id), client.id])
      expect([word, `${page}${text}`.includes(word)]).toEqual([word, false]);
  });

  it('answers all that does not work alike', async () => {
    const { url, id } = await make();
    const brief = await make({ lasts: 'PT1H' });
    await stage.marit.endLink({ params: { id } });
    await stage.world.advance(2 * 3_600_000);
    const never = url.replace(/[\w-]{27}$/u, randomBytes(20).toString('base64url'));
    const answers = await Promise.all(
      [url, brief.url, never, `${url}x`, url.slice(0, -1)].map(async (one) => {
        const answer = await show(one);
        const kept = ['content-length', 'x-robots-tag', 'content-security-policy', 'cache-control'];
        return [answer.status, await answer.text(), kept.map((name) => answer.headers.get(name))];
      }),
    );
    for (const answer of answers) expect(answer).toEqual(answers[0]);
    expect(answers[0]?.[0]).toBe(404);
    for (const path of ['/look', '/word']) expect((await post(url, path)).status).toBe(404);
    expect((await show(url, '/events')).status).toBe(404);
    await expect.poll(() => state(brief.id), { timeout: 20_000 }).toMatchObject({ state: 'expired' });
    await expect.poll(() => linesOf('shared.expired'), { timeout: 20_000 }).toHaveLength(1);
    await expect(stage.marit.endLink({ params: { id } })).rejects.toMatchObject({
      problem: { code: 'no-such-link' },
    });
    await expect(make({ lasts: 'P900D' })).rejects.toMatchObject({ problem: { code: 'bad-lasts' } });
  });

  it('has us look, tells the open page of it, and says what stands and what does not', async () => {
    const { url } = await make();
    const stop = new AbortController();
    const events = await fetch(`${url}/events`, { signal: stop.signal });
    const reader = events.body?.pipeThrough(new TextDecoderStream()).getReader();
    let heard = '';
    const listening = (async () => {
      for (;;) {
        const piece = await reader?.read();
        if (!piece || piece.done) return;
        heard += piece.value;
      }
    })().catch(() => undefined);
    const before = (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items;
    for (const { placements } of before)
      for (const one of placements) if (one.method === 'file') await stage.order(orderFor(one));
    const looked = await post(url, '/look');
    expect([looked.status, looked.headers.get('location')]).toEqual([303, `${new URL(url).pathname}#top`]);
    await expect
      .poll(async () => (await show(url)).text(), { timeout: 20_000 })
      .toContain('We looked last at');
    await expect.poll(() => heard, { timeout: 20_000 }).toContain('event: changed');
    await expect.poll(() => heard, { timeout: 20_000 }).toContain('✓');
    stop.abort();
    await listening;
    // Once in a while is enough.
    expect((await post(url, '/look')).headers.get('location')).toContain('said=wait');
    expect(await (await show(url, '?said=wait')).text()).toContain('can be looked at again from');
    await stage.world.advance(3 * 60_000);
    expect((await post(url, '/look')).headers.get('location')).not.toContain('said=wait');
    await expect.poll(() => linesOf('shared.look'), { timeout: 10_000 }).toHaveLength(2);
  });

  it('sends word, as it was said, and no more of it than anybody would', async () => {
    const { url, id } = await make({ language: 'de', word: 'Hafenwirt' });
    expect((await post(url, '/word', { kind: 'cannot' })).headers.get('location')).toContain('said=why');
    const says = 'Der Vertrag\u001b[31m läuft <b>aus</b>\r\nbald. '.repeat(200);
    expect((await post(url, '/word', { kind: 'cannot', says })).headers.get('location')).toContain(
      'said=thanks',
    );
    expect(await (await show(url, '?said=thanks')).text()).toContain('Vielen Dank');
    const word = (await state(id))?.uses[0];
    expect(word?.says?.length).toBeLessThanOrEqual(1_000);
    expect(word?.says).toMatch(/^Der Vertrag \[31m läuft <b>aus<\/b> bald\./u);
    for (let at = 0; at < 19; at += 1) await post(url, '/word', { kind: 'cannot', says: 'nochmal' });
    expect((await post(url, '/word', { kind: 'done' })).headers.get('location')).toContain('said=enough');
    expect(
      (
        await fetch(`${url}/word`, {
          method: 'POST',
          body: new URLSearchParams({ says: 'x'.repeat(40_000) }),
        })
      ).status,
    ).toBe(413);
    expect((await state(id))?.uses).toHaveLength(20);
  });

  it('is not come upon by guessing, from one address or from many, and stays open to whoever has it', async () => {
    const { url } = await make();
    const from = (ip: string) => ({ headers: { 'x-forwarded-for': ip } });
    const statuses = new Map<number, number>();
    let left = GUESSES;
    const guess = async (): Promise<void> => {
      while (left > 0) {
        left -= 1;
        // Half of them are one person’s network, however many addresses that has (RFC 6177).
        const ip =
          left % 2 === 0
            ? `2001:db8:1:2::${(left % 0xffff).toString(16)}`
            : `10.${String((left >> 8) & 255)}.${String(left & 255)}.1`;
        const one = url.replace(/[\w-]{27}$/u, randomBytes(20).toString('base64url'));
        const { status } = await fetch(one, from(ip));
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
      }
    };
    await Promise.all(Array.from({ length: 16 }, guess));
    expect([...statuses.keys()].sort()).toEqual([404, 429]);
    expect(statuses.get(429)).toBeGreaterThan(GUESSES / 2 - 200);
    expect((await fetch(url, from('192.0.2.7'))).status).toBe(200);
  });

  it('is for its client alone while it is put away no more', async () => {
    const { url } = await make({ property: 'bakery' });
    expect((await show(url)).status).toBe(200);
    await stage.marit.archiveProperty({ params: { property: 'bakery' } });
    await expect.poll(async () => (await show(url)).status, { timeout: 10_000 }).toBe(404);
    expect(stage.world.file.now().getTime()).toBeGreaterThan(DAY);
  });
});
