import { parse } from 'csv-parse/sync';
import { strFromU8, unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Handover } from '../../src/api/documents.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

const DAY = 24 * 3_600_000;

describe('a client is handed over', () => {
  let stage: Stage;
  const show = (): Promise<Handover> => stage.marit.showHandover({ params: { client: 'saltmarsh' } });
  const itemOf = async (name: string) => (await show()).items.find(({ item }) => item === name);

  beforeAll(async () => {
    stage = await openStage();
    const { marit } = stage;
    const enrolments = await takeOnFerries(stage);
    for (const { placements } of enrolments) for (const one of placements) await stage.order(orderFor(one));
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    await stage.results(marit.claim({ body: { enrolments: ['ferries'] } }));
    // Another client under the same accounts, of which nothing may be told.
    await marit.addClient({ body: { name: 'Pebble Rye Bakery', handle: 'pebble' } });
    const { job } = await marit.addProperty({
      body: { client: 'pebble', address: 'www.pebble-rye.example', handle: 'bakery' },
    });
    await marit.finished({ id: job });
    await stage.results(marit.enrol({ body: { properties: ['bakery'], engines: ['veldrane'] } }));
  });
  afterAll(() => stage.close());

  it('says what has to stay, and what nothing rests on any more', async () => {
    const shown = await show();
    const held = shown.enrolments.filter(({ badge }) => badge === 'held');
    expect(held.length).toBeGreaterThan(2);
    expect([...new Set(shown.stays.map(({ enrolment }) => enrolment))].sort()).toEqual(
      held.map(({ enrolment }) => enrolment).sort(),
    );
    // What stands beside the one by which it was claimed may be held by too: nothing is named as free to go.
    expect(shown.mayGo).toEqual([]);
    expect(shown.accounts.find(({ engine }) => engine.id === 'veldrane')?.shared).toBe(true);
  });

  it('sees what somebody else has placed for an engine, beside ours, and says whom to ask', async () => {
    expect((await show()).foreign).toEqual([]);
    await stage.order({
      do: 'txt',
      name: 'saltmarsh-ferries.example',
      value: 'veldrane-mooring=ffffffffffffffffffffffff',
    });
    await stage.order({
      do: 'meta',
      host: 'www.saltmarsh-ferries.example',
      tag: '<meta name="veldrane-mooring" content="eeeeeeeeeeeeeeeeeeeeeeee">',
    });
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    const { foreign } = await show();
    expect(foreign.map(({ what }) => what).sort()).toEqual([
      '<meta name="veldrane-mooring" content="eeeeeeeeeeeeeeeeeeeeeeee">',
      'veldrane-mooring=ffffffffffffffffffffffff',
    ]);
    expect(foreign[0]?.says).toContain('Ask the client who placed it for Veldrane');
  });

  it('asks the engines who else holds it, page by page, and notes by hand where none can be asked', async () => {
    const { marit } = stage;
    const first = await stage.results(marit.askHolders({ params: { client: 'saltmarsh' } }));
    expect(first.map(({ says }) => says).join(' ')).toContain('knows of nobody else');
    const address = (await marit.listEnrolments({ query: { property: 'ferries' } })).items.find(
      ({ name }) => name === 'ferries@veldrane:address' || name === 'ferries@veldrane',
    );
    for (const who of ['saga-of-saltmarsh', 'an-agency-before-us'])
      await stage.order({
        do: 'engine-holder',
        engine: 'veldrane',
        target: address?.target,
        who,
        method: 'dns',
      });
    expect((await itemOf(`holder ${address?.name ?? ''}`))?.done).toBeNull();
    await stage.results(marit.askHolders({ params: { client: 'saltmarsh' } }));
    const known = (await show()).enrolments.find(({ enrolment }) => enrolment === address?.name)?.holders;
    expect(known?.items.map(({ account, own }) => [account, own])).toEqual([
      ['agency', true],
      ['saga-of-saltmarsh', false],
      ['an-agency-before-us', false],
    ]);
    // The client holds it by itself: that is done, without anybody ticking it off.
    expect((await itemOf(`holder ${address?.name ?? ''}`))?.done).not.toBeNull();
    await marit.noteHolders({
      params: { enrolment: address?.name ?? '' },
      body: { says: 'Saga, as its pages show.' },
    });
    expect(
      (await show()).enrolments.find(({ enrolment }) => enrolment === address?.name)?.holders?.says,
    ).toContain('Saga');
    await expect(marit.askHolders({ params: { client: 'pebble' } })).rejects.toMatchObject({
      problem: { code: 'nobody-to-ask' },
    });
  });

  it('gives the client its part of the records, which opens without us, and nothing of anybody else', async () => {
    const files = unzipSync(await stage.marit.clientArchive('saltmarsh'));
    const text = (name: string): string => strFromU8(files[`saltmarsh/${name}`] ?? new Uint8Array());
    const rows = parse(text('enrolments.csv'), { columns: true }) as { property: string; engine: string }[];
    expect(rows.map(({ engine }) => engine).sort()).toEqual(['house', 'veldrane', 'veldrane']);
    const records = JSON.parse(text('records.json')) as {
      tokens: object[];
      journal: object[];
      checks: object[];
    };
    for (const some of [records.tokens, records.journal, records.checks])
      expect(some.length).toBeGreaterThan(3);
    expect(text('README.txt')).toContain('handover.json');
    expect(text('sheet.html')).toContain('<!doctype html>');
    const all = Object.values(files)
      .map((one) => strFromU8(one))
      .join('\n');
    for (const word of ['bakery', 'pebble', 'Pebble', stage.key])
      expect([word, all.includes(word)]).toEqual([word, false]);
  });

  it('is ticked off, ended when all is done, and told of when its records are due to go', async () => {
    const { marit } = stage;
    const params = { client: 'saltmarsh' };
    await expect(marit.tickHandover({ params, body: { item: 'tokens' } })).rejects.toMatchObject({
      problem: { code: 'no-handover' },
    });
    await marit.beginHandover({ params });
    await expect(marit.tickHandover({ params, body: { item: 'the moon' } })).rejects.toMatchObject({
      problem: { code: 'no-such-item' },
    });
    await expect(marit.endHandover({ params, body: {} })).rejects.toMatchObject({
      problem: { code: 'handover-open' },
    });
    for (const { item, done } of (await show()).items)
      if (!done) await marit.tickHandover({ params, body: { item, note: 'by telephone' } });
    const again = await marit.tickHandover({ params, body: { item: 'tokens', undo: true } });
    expect(again.items.filter(({ done }) => done === null).map(({ item }) => item)).toEqual(['tokens']);
    await marit.tickHandover({ params, body: { item: 'tokens' } });
    const { client: jonas } = await stage.person('jonas', 'consultant');
    await expect(jonas.endHandover({ params, body: {} })).rejects.toMatchObject({
      problem: { code: 'not-allowed' },
    });
    const deleteOn = new Date(stage.world.file.now().getTime() + 3 * DAY).toISOString();
    const ended = await marit.endHandover({ params, body: { deleteOn } });
    expect(ended.begun).toMatchObject({ deleteOn, by: 'marit' });
    expect((await marit.listProperties({ query: { client: 'pebble' } })).items).toHaveLength(1);
    await expect(marit.showClient({ params })).rejects.toMatchObject({ problem: { code: 'no-such-client' } });
    await stage.world.advance(4 * DAY);
    await expect
      .poll(async () => (await marit.journal({ query: { kind: 'handover.delete' } })).items.length, {
        timeout: 20_000,
      })
      .toBe(1);
    expect((await show()).begun?.endedAt).not.toBeNull();
  });
});
