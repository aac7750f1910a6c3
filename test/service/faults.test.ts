import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import type { Client } from '../../src/client/client.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const DAY = 86_400_000;

/** What goes wrong on the way: at the client's website, at the engine, with time. None of it loses a record. */
describe('when things go wrong', () => {
  let stage: Stage;
  let marit: Client;
  const engine = (more: object = {}) => stage.order({ do: 'engine', engine: 'veldrane', ...more });
  const check = async (enrolment: string, method: 'meta' | 'file' | 'dns') => {
    const [result] = await stage.results(marit.check({ body: { enrolments: [enrolment], method } }));
    return { forecast: result?.check?.forecast, codes: result?.check?.findings.map(({ code }) => code) };
  };
  const step = async (enrolment: string) => {
    const { items } = await marit.worklist({ query: { property: 'ferries' } });
    return items.find(({ enrolments }) => enrolments.some(({ name }) => name === enrolment))?.step;
  };

  beforeAll(async () => {
    stage = await openStage();
    marit = stage.marit;
    await placeAll(stage, await takeOnFerries(stage));
  });
  afterAll(() => stage.close());

  test.each([
    ['errors', 'reach.server-error', 'refuse'],
    ['down', 'reach.cut', 'refuse'],
    ['pages', 'meta.stands', 'accept'],
  ])('a website that serves %s', async (serves, code, forecast) => {
    await stage.order({ do: 'site', host: HOST, serves });
    expect(await check('ferries@veldrane:address', 'meta')).toEqual({ forecast, codes: [code] });
  });

  it('a file with other words, a themed page in its place, and the file again', async () => {
    const { placements } = await marit.showEnrolment({ params: { enrolment: 'ferries@house:address' } });
    const file = placements.find(({ method }) => method === 'file')?.put;
    if (file?.kind !== 'file') throw new Error('no file');
    const upload = (content: string) => stage.order({ do: 'file', host: HOST, path: file.path, content });
    await upload('yardbadge-proof=another');
    expect((await check('ferries@house:address', 'file')).codes).toEqual(['file.taken']);
    await upload('<!doctype html><html><body>Ferries</body></html>');
    expect((await check('ferries@house:address', 'file')).codes).toEqual(['file.page-instead']);
    await upload(`\n${file.content}\n`);
    expect((await check('ferries@house:address', 'file')).codes).toEqual(['file.stands']);
  });

  it('two tags of one name, of which one is right', async () => {
    await stage.order({
      do: 'meta',
      host: HOST,
      tag: '<meta name="veldrane-mooring" content="an-older-one">',
    });
    expect(await check('ferries@veldrane:address', 'meta')).toEqual({
      forecast: 'accept',
      codes: ['meta.stands', 'meta.repeated'],
    });
  });

  it('records that are gone are to be placed, and what a resolver remembers is to be waited for', async () => {
    const { names } = stage.world.file.state;
    await stage.order({ do: 'clear', host: HOST, what: 'txt' });
    const [gone] = await stage.results(marit.check({ body: { enrolments: ['ferries@veldrane:name'] } }));
    expect(gone?.check).toMatchObject({ forecast: 'refuse', seen: false, visibleAt: null });
    expect(await step('ferries@veldrane:name')).toMatchObject({ kind: 'place' });
    const [placement] = (await marit.showEnrolment({ params: { enrolment: 'ferries@veldrane:name' } }))
      .placements;
    if (placement?.put.kind !== 'dns') throw new Error('no record');
    await stage.order({ do: 'txt', name: placement.place, value: placement.put.value });
    const until = new Date(stage.world.file.now().getTime() + 600_000).toISOString();
    names.remembered.push({ name: placement.place, values: [], until });
    const [waits] = await stage.results(marit.check({ body: { enrolments: ['ferries@veldrane:name'] } }));
    expect(waits?.check).toMatchObject({ forecast: 'unsure', findings: [{ code: 'dns.remembered' }, {}] });
    const { visibleAt } = waits?.check ?? {};
    expect(Math.abs(Date.parse(visibleAt ?? '') - Date.parse(until))).toBeLessThan(3000);
    expect(await step('ferries@veldrane:name')).toMatchObject({ kind: 'wait', until: visibleAt });
    await stage.world.advance(601_000);
    expect((await check('ferries@veldrane:name', 'dns')).codes).toEqual(['dns.stands']);
  });

  it('an engine that fails a few times does its work in the end', async () => {
    await engine({ failStatus: 500, failTimes: 2 });
    const [result] = await stage.results(
      marit.getTokens({ body: { enrolments: ['ferries@veldrane:name'] } }),
    );
    expect(result).toMatchObject({ stops: false, says: 'The tokens are known already.' });
  });

  it('an engine that is out of order loses nothing, is told as the engine’s failure, and stops no other engine', async () => {
    await engine({ failStatus: 500, failTimes: 1000 });
    const results = await stage.results(marit.claim({ body: { ready: true } }));
    const byName = Object.fromEntries(results.map((one) => [one.enrolment ?? 'none', one]));
    expect(byName['ferries@house:address']?.claim?.verdict).toBe('confirmed');
    expect(results.filter(({ problem }) => problem?.code === 'engine-unreached')).toHaveLength(2);
    expect(results.find(({ problem }) => problem)?.says).toContain('Veldrane answered 500');
    expect(await step('ferries@veldrane:name')).toMatchObject({ kind: 'ask-engine' });
  });

  it('a claim without an answer is asked about, and sent only because it never arrived', async () => {
    await engine();
    expect(stage.world.file.state.engines['veldrane']?.claimsJudged).toEqual([]);
    const results = await stage.results(marit.claim({ body: { enrolments: ['ferries@veldrane'] } }));
    expect(results.map(({ claim }) => claim?.verdict)).toEqual(['confirmed', 'confirmed']);
    expect(stage.world.file.state.engines['veldrane']?.claimsJudged).toHaveLength(2);
    const { items } = await marit.journal({ query: { property: 'ferries', limit: 500 } });
    expect(items.filter(({ kind }) => kind === 'claim.sent')).toHaveLength(3);
  });

  it('a sitemap that breaks: a finding, a next step, and the engine’s trouble beside it', async () => {
    const { id } = await marit.addSitemap({ body: { property: 'ferries', address: '/sitemap.xml' } });
    await stage.results(
      marit.submitSitemap({ body: { sitemap: id, enrolments: ['ferries@veldrane:address'] } }),
    );
    const [missing] = await stage.results(
      marit.submitSitemap({ body: { sitemap: id, enrolments: ['ferries@house'] } }),
    );
    expect(missing?.problem?.detail).toContain('takes no sitemaps');
    await stage.order({ do: 'site', host: HOST, serves: 'errors' });
    await stage.world.advance(4 * DAY);
    const [read] = await stage.results(marit.readSitemaps({ body: { sitemap: id } }));
    expect(read).toMatchObject({ stops: true });
    const [sitemap] = (await marit.listSitemaps({ query: { property: 'ferries' } })).items;
    expect(sitemap).toMatchObject({
      state: 'unreachable',
      submissions: [{ counts: { state: 'broken' }, engineReading: { trouble: 'could not be read' } }],
    });
    expect(sitemap?.reading?.findings[0]?.code).toBe('sitemap.not-reached');
    expect(await step('ferries@veldrane:address')).toMatchObject({ kind: 'mend-sitemap' });
  });

  it('a count that grows here and is old there is told as a gap', async () => {
    await stage.order({ do: 'site', host: HOST, serves: 'pages' });
    await stage.world.advance(4 * DAY);
    await stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/harbours.xml', addresses: 50 });
    await stage.results(marit.readSitemaps({ body: { all: true } }));
    const [sitemap] = (await marit.listSitemaps({ query: { property: 'ferries' } })).items;
    expect(sitemap?.submissions[0]).toMatchObject({
      // It was read here before the engine was told of it: what the engine found was right then.
      counts: { state: 'behind', gap: 12 },
      engineReading: { found: 162, listed: 155 },
    });
  });

  it('an empty child of an index does not stop the others', async () => {
    await stage.order({ do: 'sitemap', host: HOST, path: '/sitemaps/harbours.xml', addresses: 0 });
    await stage.results(marit.readSitemaps({ body: { all: true } }));
    const [sitemap] = (await marit.listSitemaps({ query: { property: 'ferries' } })).items;
    expect(sitemap?.reading).toMatchObject({ addresses: 124, children: 2 });
    expect(sitemap?.reading?.findings.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['sitemap.child-fails', 'sitemap.empty']),
    );
  });

  it('a submission is withdrawn once, and can be made again', async () => {
    const [sitemap] = (await marit.listSitemaps({ query: { property: 'ferries' } })).items;
    const id = sitemap?.submissions[0]?.id ?? '';
    const [first] = await stage.results(marit.withdrawSitemap({ params: { id } }));
    const [again] = await stage.results(marit.withdrawSitemap({ params: { id } }));
    expect([first?.says, again?.says]).toEqual([
      'Withdrawn from Veldrane.',
      '/sitemap.xml was withdrawn already.',
    ]);
    const [made] = await stage.results(
      marit.submitSitemap({ body: { sitemap: sitemap?.id ?? '', enrolments: ['ferries@veldrane:address'] } }),
    );
    expect(made?.says).toBe('Submitted to Veldrane as /sitemap.xml.');
  });

  it('a house token that nobody claims with expires, is renewed, and what was placed is told to be old', async () => {
    const { job } = await marit.addProperty({
      body: { client: 'saltmarsh', address: 'button-museum.example', handle: 'buttons' },
    });
    await marit.finished({ id: job });
    await stage.results(marit.enrol({ body: { properties: ['buttons'], engines: ['house'] } }));
    await stage.results(marit.getTokens({ body: { enrolments: ['buttons@house'], method: 'file' } }));
    const before = await marit.showEnrolment({ params: { enrolment: 'buttons@house' } });
    await placeAll(stage, [before]);
    await stage.world.advance(31 * DAY);
    const [refused] = await stage.results(marit.claim({ body: { enrolments: ['buttons@house'] } }));
    expect(refused?.problem?.detail).toContain('was renewed: what was placed is out of date');
    await stage.results(marit.getTokens({ body: { enrolments: ['buttons@house'], method: 'file' } }));
    const after = await marit.showEnrolment({ params: { enrolment: 'buttons@house' } });
    expect(after.placements[0]?.token).not.toBe(before.placements[0]?.token);
    expect(await check('buttons@house', 'file')).toMatchObject({ forecast: 'refuse' });
    const { items } = await marit.journal({ query: { property: 'buttons' } });
    expect(items.map(({ kind }) => kind)).toContain('token.replaced');
  });

  it('a website that nobody answers for is taken on all the same, and cannot be enrolled by address yet', async () => {
    const { job } = await marit.addProperty({
      body: { client: 'saltmarsh', address: 'nowhere.example', handle: 'nowhere' },
    });
    const looked = await marit.finished({ id: job });
    expect(looked.items[0]?.result).toMatchObject({
      stops: true,
      says: 'No variant of https://nowhere.example/ can be opened (the name does not exist).',
    });
    const [refused] = await stage.results(
      marit.enrol({ body: { properties: ['nowhere'], engines: ['house'] } }),
    );
    expect(refused?.problem?.detail).toContain('Where visitors of nowhere end up is not known');
    const [byHand] = await stage.results(
      marit.enrol({
        body: { properties: ['nowhere'], engines: ['house'], address: 'http://www.nowhere.example' },
      }),
    );
    expect(byHand?.says).toContain('http://www.nowhere.example/');
  });
});
