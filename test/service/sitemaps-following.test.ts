import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Sitemap } from '../../src/api/documents.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const ORIGIN = `https://${HOST}`;
const DAY = 86_400_000;

describe('sitemaps followed over time', () => {
  let stage: Stage;
  let id: string;
  const read = async (more: object = {}): Promise<Sitemap> => {
    const [result] = await stage.results(stage.marit.readSitemaps({ body: { sitemap: id, ...more } }));
    expect(result?.problem).toBeUndefined();
    return show();
  };
  const show = () => stage.marit.showSitemap({ params: { sitemap: id } });
  const compare = (query: { from?: string; to?: string; limit?: number } = {}) =>
    stage.marit.compareReadings({ params: { sitemap: id }, query });
  const crossings = (addresses: number) =>
    stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/crossings.xml', addresses });
  const codes = (sitemap: Sitemap) => sitemap.reading?.findings.map(({ code }) => code) ?? [];

  beforeAll(async () => {
    stage = await openStage({ 'sitemaps.keepAll': 'P5D', 'sitemaps.keepWeekly': 'P20D' });
    await placeAll(stage, await takeOnFerries(stage));
    await stage.results(stage.marit.claim({ body: { enrolments: ['ferries@veldrane'] } }));
    ({ id } = await stage.marit.addSitemap({ body: { property: 'ferries', address: 'sitemap.xml' } }));
  });
  afterAll(() => stage.close());

  it('cannot be compared before there are two readings', async () => {
    await expect(compare()).rejects.toThrow('never read');
    await read();
    await expect(compare()).rejects.toThrow('one reading only');
    expect(await show()).toMatchObject({
      reading: { before: null, tried: 50, extensions: { images: 0 } },
      children: [
        { url: `${ORIGIN}/sitemaps/crossings.xml`, addresses: 124, before: null, state: 'clean' },
        { url: `${ORIGIN}/sitemaps/harbours.xml`, addresses: 38 },
      ],
      childrenInAll: 2,
    });
  });

  it('tell what came and what went, by name', async () => {
    await stage.world.advance(DAY);
    await crossings(126);
    await read();
    const page = (at: number) => `${ORIGIN}/sitemaps/crossings/page-${String(at)}`;
    expect(await compare()).toMatchObject({
      added: 2,
      removed: 0,
      addedFirst: [page(125), page(126)],
      from: { addresses: 162 },
      to: { addresses: 164 },
    });
    const { readings, children } = await show();
    expect(children[0]).toMatchObject({ addresses: 126, before: 124 });
    const [newest, first] = readings;
    const back = await compare({ from: newest?.id ?? '', to: first?.id ?? '', limit: 1 });
    expect(back).toMatchObject({ added: 0, removed: 2, removedFirst: [page(125)] });
    const day = first?.at.slice(0, 10) ?? '';
    expect((await compare({ from: day })).from.id).toBe(first?.id);
    await expect(compare({ from: 'yesterday' })).rejects.toThrow(`Expected one of: `);
    await read();
    // What says the same once more lengthens the stretch; the newest is held against the last that held others.
    expect(await compare()).toMatchObject({ added: 2, removed: 0 });
    const [longer, before] = (await show()).readings;
    expect(longer).toMatchObject({ id: newest?.id, firstAt: newest?.at, times: 2, addresses: 164 });
    expect(before).toMatchObject({ id: first?.id, times: 1 });
    expect(longer?.fingerprint).not.toBe(before?.fingerprint);
    expect((await compare({ from: day, to: longer?.at.slice(0, 10) ?? '' })).to.id).toBe(longer?.id);
  });

  it('tell our count from the engine’s: behind, then equal, then apart since a day', async () => {
    await stage.results(
      stage.marit.submitSitemap({ body: { sitemap: id, enrolments: ['ferries@veldrane:address'] } }),
    );
    expect((await read()).submissions[0]?.counts).toMatchObject({ state: 'waiting', gap: null });
    await stage.world.advance(DAY);
    expect((await read()).submissions[0]?.counts).toMatchObject({ state: 'equal', gap: 0, since: null });
    await crossings(140);
    const behind = (await read()).submissions[0];
    expect(behind?.counts).toMatchObject({ state: 'behind', gap: 14 });
    expect(behind?.findings).toMatchObject([{ code: 'sitemap.engine-behind', grade: 'note' }]);
    const since = behind?.counts.since;
    expect(since).not.toBeNull();
    await stage.world.advance(DAY);
    expect((await read()).submissions[0]?.counts.since).toBe(since);
    await stage.world.advance(4 * DAY);
    expect((await read()).submissions[0]?.counts).toMatchObject({ state: 'equal', since: null });
    // An engine that reads it again and finds the same has said nothing new: its stretch is longer.
    const { engineReadings } = await show();
    await stage.world.advance(4 * DAY);
    await read();
    const later = (await show()).engineReadings;
    expect(later).toHaveLength(engineReadings.length);
    const [was, is] = [engineReadings.at(-1), later.at(-1)];
    expect(is).toMatchObject({ firstAt: was?.firstAt, found: was?.found, times: (was?.times ?? 0) + 1 });
    expect((is?.readAt ?? '') > (was?.readAt ?? '')).toBe(true);
  });

  it('end in a reason where our own reading shows why the engine cannot', async () => {
    await stage.order({
      do: 'odd',
      host: HOST,
      answer: { path: '/sitemap.xml', status: 200, body: '<urlset' },
    });
    const broken = await read();
    expect(broken.submissions[0]?.counts).toMatchObject({ state: 'broken' });
    expect(broken.submissions[0]?.counts.why).toContain('not well-formed');
    expect(broken.submissions[0]?.findings[0]?.code).toBe('sitemap.engine-kept');
    const { items } = await stage.marit.worklist({ query: { property: 'ferries' } });
    expect(items.some(({ step }) => step.kind === 'mend-sitemap')).toBe(true);
    await stage.order({ do: 'odd', host: HOST, none: true });
  });

  it('let old readings go, and what only they held', async () => {
    const before = (await show()).readings.length;
    await stage.world.advance(30 * DAY);
    await read();
    await crossings(141);
    await read();
    await read();
    const { readings } = await show();
    expect(before).toBeGreaterThan(3);
    expect(readings.map(({ addresses, times }) => [addresses, times])).toEqual([
      [179, 2],
      [178, 1],
    ]);
    expect(await compare()).toMatchObject({ added: 1, removed: 0 });
  });

  it('hold pages against the robots.txt and against themselves', async () => {
    const page = `${ORIGIN}/sitemaps/crossings/page-1`;
    await stage.order({
      do: 'file',
      host: HOST,
      path: '/robots.txt',
      content: 'User-agent: *\nDisallow: /sitemaps/harbours/',
    });
    await stage.order({
      do: 'file',
      host: HOST,
      path: '/sitemaps/crossings/page-1',
      content: '<meta name="robots" content="noindex">',
      type: 'text/html',
    });
    const asked: string[] = [];
    stage.world.listeners.add((url) => asked.push(url));
    const sitemap = await read({ sample: 1_000 });
    expect(codes(sitemap)).toEqual(
      expect.arrayContaining(['sitemap.forbidden-addresses', 'sitemap.pages-stay-away']),
    );
    const forbidden = sitemap.reading?.findings.find(({ code }) => code === 'sitemap.forbidden-addresses');
    expect(forbidden?.evidence).toMatchObject({ count: 38, rule: 'Disallow: /sitemaps/harbours/' });
    expect(sitemap.reading?.tried).toBe(141);
    expect(asked).toContain(page);
    // What everyone is kept from, we leave alone too.
    expect(asked.filter((url) => url.includes('/sitemaps/harbours/'))).toEqual([]);
    asked.length = 0;
    expect((await read({ sample: 0 })).reading?.tried).toBe(0);
    expect(asked.filter((url) => url.includes('/page-'))).toEqual([]);
    const picks = async (seed: number) => {
      asked.length = 0;
      await read({ sample: 5, seed });
      return asked.filter((url) => url.includes('/page-')).sort();
    };
    const once = await picks(7);
    expect(once).toHaveLength(5);
    expect(await picks(7)).toEqual(once);
    expect(await picks(8)).not.toEqual(once);
  });
});

describe('submitting and withdrawing', () => {
  let stage: Stage;
  const add = async (address: string) =>
    (await stage.marit.addSitemap({ body: { property: 'ferries', address } })).id;
  const submit = (sitemap: string, more: object = {}) =>
    stage.results(stage.marit.submitSitemap({ body: { sitemap, ...more } }));
  const list = async () => (await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items;
  let index: string;
  let child: string;

  beforeAll(async () => {
    stage = await openStage();
    const { marit } = stage;
    await takeOnFerries(stage);
    await stage.results(marit.enrol({ body: { properties: ['ferries'], engines: ['ostrime'] } }));
    await stage.results(marit.getTokens({ body: { enrolments: ['ferries@ostrime'] } }));
    await placeAll(stage, (await marit.listEnrolments({ query: { property: 'ferries' } })).items);
    child = await add('/sitemaps/crossings.xml');
    index = await add('/sitemap.xml');
  });
  afterAll(() => stage.close());

  it('is refused before the badge is held', async () => {
    await expect(submit(index)).rejects.toThrow('hold a badge that covers it first');
    const [refused] = await submit(index, { enrolments: ['ferries@veldrane:address'] });
    expect(refused?.says).toContain('takes sitemaps only once the badge is held');
  });

  it('goes to each engine once, and names the sitemaps that the index makes superfluous', async () => {
    await stage.results(stage.marit.claim({ body: { enrolments: ['ferries'] } }));
    const first = await submit(child);
    expect(first.map(({ enrolment }) => enrolment).sort()).toEqual([
      'ferries@ostrime:address',
      'ferries@veldrane:address',
    ]);
    await stage.results(stage.marit.readSitemaps({ body: { sitemap: index, sample: 0 } }));
    const [there] = await submit(index, { enrolments: ['ferries@veldrane:address'] });
    expect(there?.says).toContain(`It holds ${ORIGIN}/sitemaps/crossings.xml, submitted there as well`);
    const spare = (await list()).flatMap(({ submissions }) => submissions.filter(({ tooMany }) => tooMany));
    expect(spare).toMatchObject([
      { engine: { id: 'veldrane' }, tooMany: { why: 'index', by: `${ORIGIN}/sitemap.xml` } },
    ]);
    expect(spare[0]?.findings[0]?.says).toContain('beside the index');
  });

  it('takes several off in one go, and does not put a child beside its index again', async () => {
    const spare = (await list()).flatMap(({ submissions }) => submissions.filter(({ tooMany }) => tooMany));
    const results = await stage.results(
      stage.marit.withdrawSitemaps({ body: { submissions: spare.map(({ id }) => id) } }),
    );
    expect(results.map(({ says }) => says)).toEqual(['Withdrawn from Veldrane.']);
    const [refused] = await submit(child, { enrolments: ['ferries@veldrane:address'] });
    expect(refused?.problem?.code).toBe('in-known-index');
    expect(refused?.says).toContain('that is enough');
    const [taken] = await submit(child, { enrolments: ['ferries@veldrane:address'], anyway: true });
    expect(taken?.problem).toBeUndefined();
    const [known] = await submit(index, { enrolments: ['ferries@veldrane:name'] });
    expect(known?.problem?.code).toBe('known-already');
    await submit(index, { enrolments: ['ferries@veldrane:name'], anyway: true });
    const twice = (await list()).flatMap(({ submissions }) => submissions.filter(({ tooMany }) => tooMany));
    expect(twice.map(({ tooMany }) => tooMany?.why).sort()).toEqual(['index', 'twice']);
  });

  it('is to be done again where the engine has lost it', async () => {
    await stage.order({ do: 'engine-loses', engine: 'ostrime', target: `${ORIGIN}/`, sitemaps: true });
    const [read] = await stage.results(stage.marit.readSitemaps({ body: { sitemap: child, sample: 0 } }));
    expect(read?.says).toContain(
      `Ostrime does not know ${ORIGIN}/sitemaps/crossings.xml any more: submit it again.`,
    );
    const engines = async () =>
      (await list()).flatMap((one) => one.submissions.map(({ engine }) => engine.id));
    expect(await engines()).not.toContain('ostrime');
    const { items } = await stage.marit.worklist({ query: { property: 'ferries' } });
    const step = items.find(({ enrolments }) =>
      enrolments.some(({ name }) => name === 'ferries@ostrime:address'),
    )?.step;
    expect(step?.kind).toBe('submit-sitemap');
  });

  it('tells an engine that takes pings that a sitemap has changed', async () => {
    await submit(index, { enrolments: ['ferries@ostrime'] });
    await stage.world.advance(DAY);
    const found = async () => {
      await stage.results(stage.marit.readSitemaps({ body: { sitemap: index, sample: 0 } }));
      const all = (await list()).find(({ id }) => id === index)?.submissions ?? [];
      return all.find(({ engine }) => engine.id === 'ostrime')?.engineReading?.found;
    };
    expect(await found()).toBe(162);
    await stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/harbours.xml', addresses: 40 });
    const [pinged] = await submit(index, { enrolments: ['ferries@ostrime'] });
    expect(pinged?.says).toContain('was told by ping that it has changed');
    await stage.world.advance(60_000);
    expect(await found()).toBe(164);
    const [known] = await submit(index, { enrolments: ['ferries@veldrane:address'] });
    expect(known?.says).toBe('Veldrane knows /sitemap.xml already.');
  });
});

describe('the location rule across hosts', () => {
  it('is lifted by the robots.txt of the other host', async () => {
    const stage = await openStage();
    try {
      const { marit } = stage;
      await marit.addClient({ body: { name: 'Tidewell', handle: 'tidewell' } });
      const { job } = await marit.addProperty({
        body: { client: 'tidewell', address: 'tidewell-clocks.example', handle: 'clocks' },
      });
      await marit.finished({ id: job });
      const ropes = 'https://www.bollard-ropes.example';
      await stage.order({
        do: 'file',
        host: 'tidewell-clocks.example',
        path: '/all.xml',
        content: `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>${ropes}/</loc></url></urlset>`,
        type: 'application/xml',
      });
      const { id } = await marit.addSitemap({ body: { property: 'clocks', address: 'all.xml' } });
      const codes = async () => {
        await stage.results(marit.readSitemaps({ body: { sitemap: id } }));
        return (await marit.showSitemap({ params: { sitemap: id } })).reading?.findings.map(
          ({ code }) => code,
        );
      };
      expect(await codes()).toContain('sitemap.other-host');
      await stage.order({
        do: 'file',
        host: 'www.bollard-ropes.example',
        path: '/robots.txt',
        content: 'Sitemap: https://tidewell-clocks.example/all.xml',
      });
      const lifted = await codes();
      expect(lifted).not.toContain('sitemap.other-host');
      expect(lifted).toContain('sitemap.other-host-allowed');
    } finally {
      await stage.close();
    }
  });
});
