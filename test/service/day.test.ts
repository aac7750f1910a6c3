import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Enrolment } from '../../src/api/documents.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

/** The whole way of one property, by the client, in the order in which a consultant goes it. */
describe('a consultant’s day', () => {
  let stage: Stage;
  let enrolments: Enrolment[];
  const badges = async () => {
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    return Object.fromEntries(items.map(({ name, badge }) => [name.replace('ferries@', ''), badge]));
  };

  beforeAll(async () => {
    stage = await openStage();
    enrolments = await takeOnFerries(stage);
  });
  afterAll(() => stage.close());

  it('takes the property on and finds its front door', async () => {
    const property = await stage.marit.showProperty({ params: { property: 'saltmarsh-f' } });
    expect(property).toMatchObject({
      handle: 'ferries',
      address: 'https://saltmarsh-ferries.example/',
      frontDoor: { address: 'https://www.saltmarsh-ferries.example/' },
    });
  });

  it('enrols by address and by name, and again changes nothing', async () => {
    expect(enrolments.map(({ name, target }) => [name, target])).toEqual([
      ['ferries@house:address', 'https://www.saltmarsh-ferries.example/'],
      ['ferries@veldrane:address', 'https://www.saltmarsh-ferries.example/'],
      ['ferries@veldrane:name', 'saltmarsh-ferries.example'],
    ]);
    const [again] = await stage.results(
      stage.marit.enrol({ body: { properties: ['ferries'], engines: ['veldrane'] } }),
    );
    expect(again?.says).toContain('enrolled already');
    expect(stage.world.file.state.engines['veldrane']?.enrolments).toHaveLength(2);
  });

  it('has a token by every method that the reach allows, and asking again gives the same', async () => {
    expect(enrolments.map(({ placements }) => placements.map(({ method }) => method))).toEqual([
      ['meta', 'file', 'dns'],
      ['meta', 'file', 'dns'],
      ['dns'],
    ]);
    await stage.results(stage.marit.getTokens({ body: { all: true } }));
    const { items } = await stage.marit.listEnrolments({ query: { property: 'ferries' } });
    expect(items.flatMap((one) => one.placements.map(({ token }) => token))).toEqual(
      enrolments.flatMap((one) => one.placements.map(({ token }) => token)),
    );
  });

  it('says whose a token is that somebody came upon, in whatever form, and finds its property by it', async () => {
    const { placements } = await stage.marit.showEnrolment({
      params: { enrolment: 'ferries@veldrane:address' },
    });
    expect(placements.map(({ method }) => method)).toContain('file');
    for (const { method, token, put } of placements) {
      const found = [
        token,
        put.kind === 'meta' ? put.tag : put.kind === 'file' ? put.path : put.zoneLine,
        put.kind === 'dns' ? put.value : put.kind === 'file' ? put.content : put.content,
      ];
      for (const text of found) {
        const { items } = await stage.marit.whoseToken({ query: { text } });
        expect(items).toContainEqual(
          expect.objectContaining({ enrolment: 'ferries@veldrane:address', method, token, replacedAt: null }),
        );
        const { items: rows } = await stage.marit.yard({ query: { match: text } });
        expect(rows.map(({ property }) => property.handle)).toEqual(['ferries']);
      }
    }
    const none = await stage.marit.whoseToken({
      query: { text: '<meta name="a" content="0123456789abcdef">' },
    });
    expect(none.items).toEqual([]);
    expect((await stage.marit.yard({ query: { match: '0123456789abcdef' } })).items).toEqual([]);
  });

  it('spends no claim on what cannot succeed', async () => {
    const [spared] = await stage.results(
      stage.marit.claim({ body: { enrolments: ['ferries@veldrane:address'], method: 'meta' } }),
    );
    expect(spared?.problem?.code).toBe('forecast-refuses');
    expect(stage.world.file.state.engines['veldrane']?.claimsJudged).toEqual([]);
  });

  it('claims anyway when told to, and shows the refusal beside the finding', async () => {
    const [refused] = await stage.results(
      stage.marit.claim({ body: { enrolments: ['ferries@veldrane:address'], method: 'meta', anyway: true } }),
    );
    expect(refused?.claim).toMatchObject({ verdict: 'refused', reason: 'tag not found' });
    const enrolment = await stage.marit.showEnrolment({ params: { enrolment: 'ferries@veldrane:address' } });
    expect(enrolment).toMatchObject({ badge: 'issued', claim: { verdict: 'refused' } });
    expect(enrolment.placements[0]?.check?.findings[0]?.code).toBe('meta.absent');
  });

  it('sees the tokens once they are placed', async () => {
    await placeAll(stage, enrolments);
    const results = await stage.results(stage.marit.check({ body: { all: true } }));
    expect(results.map(({ check }) => check?.forecast)).toEqual(Array(7).fill('accept'));
    expect(await badges()).toEqual({
      'house:address': 'in-place',
      'veldrane:address': 'in-place',
      'veldrane:name': 'in-place',
    });
  });

  it('claims all that is ready, and holds the badges', async () => {
    const results = await stage.results(stage.marit.claim({ body: { ready: true } }));
    expect(results.map(({ claim }) => claim?.verdict)).toEqual(['confirmed', 'confirmed', 'confirmed']);
    expect(await badges()).toEqual({
      'house:address': 'held',
      'veldrane:address': 'held',
      'veldrane:name': 'held',
    });
    const [again] = await stage.results(
      stage.marit.claim({ body: { enrolments: ['ferries@veldrane:name'] } }),
    );
    expect(again?.says).toContain('held already');
  });

  it('submits the sitemap in the form that each enrolment wants, and waits for the engine', async () => {
    const { id } = await stage.marit.addSitemap({ body: { property: 'ferries', address: 'sitemap.xml' } });
    const both = { sitemap: id, enrolments: ['ferries@veldrane'] };
    await stage.results(stage.marit.submitSitemap({ body: both }));
    await stage.results(stage.marit.submitSitemap({ body: both }));
    await stage.results(stage.marit.readSitemaps({ body: { sitemap: id } }));
    const [sitemap] = (await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items;
    expect(sitemap).toMatchObject({
      state: 'clean',
      reading: { kind: 'index', addresses: 162, children: 2 },
    });
    expect(sitemap?.submissions.map(({ sentAs, counts }) => [sentAs, counts.state])).toEqual([
      ['/sitemap.xml', 'waiting'],
      ['https://www.saltmarsh-ferries.example/sitemap.xml', 'waiting'],
    ]);
  });

  it('compares the counts once the engine has read', async () => {
    await stage.world.advance(86_400_000);
    await stage.results(stage.marit.readSitemaps({ body: { property: 'ferries' } }));
    const [sitemap] = (await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items;
    expect(
      sitemap?.submissions.map(({ counts, engineReading }) => [
        counts.state,
        counts.gap,
        engineReading?.found,
      ]),
    ).toEqual([
      ['equal', 0, 162],
      ['equal', 0, 162],
    ]);
    const { items } = await stage.marit.worklist();
    // It was made known by name and by address: once is enough.
    const left = items.filter(({ engines }) => engines.some(({ id }) => ['house', 'veldrane'].includes(id)));
    expect(left.map(({ step, enrolments }) => [step.kind, enrolments[0]?.name])).toEqual([
      ['withdraw-sitemap', 'ferries@veldrane:name'],
    ]);
    expect(left[0]?.step.says).toContain('by another enrolment as well');
  });

  it('tells of a lost token before the engine acts, and of the engine’s withdrawal after', async () => {
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'meta' });
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries@veldrane:address'] } }));
    expect((await badges())['veldrane:address']).toBe('slipping');
    const [first] = (await stage.marit.worklist()).items;
    expect(first).toMatchObject({
      enrolments: [{ name: 'ferries@veldrane:address' }],
      step: { kind: 'repair' },
    });
    await stage.world.advance(5 * 86_400_000);
    await stage.world.advance(3 * 86_400_000);
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries@veldrane:address'] } }));
    expect(await badges()).toMatchObject({ 'veldrane:address': 'lost', 'veldrane:name': 'held' });
  });

  it('has journalled all of it, with who', async () => {
    const { items } = await stage.marit.journal({ query: { property: 'ferries', limit: 500 } });
    const kinds = new Set(items.map(({ kind }) => kind));
    for (const kind of [
      'property.added',
      'front-door',
      'enrolled',
      'token.issued',
      'check',
      'claim.sent',
      'claim.refused',
      'claim.confirmed',
      'sitemap.submitted',
      'sitemap.engine-read',
      'ownership.withdrawn',
    ]) {
      expect(kinds).toContain(kind);
    }
    expect(new Set(items.map(({ who }) => who))).toEqual(new Set(['marit']));
  });
});
