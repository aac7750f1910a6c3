import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { VARIANTS } from '../../src/core/findings/rows/variants.js';
import { ROLES } from '../../src/core/variants/roles.js';
import type { Variants } from '../../src/api/documents.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, type Stage } from '../support/stage.js';

/** What has to be found on each website of the rehearsal that shows something wrong with variants. */
const SHOWN: Readonly<Record<string, readonly string[]>> = {
  'tar-barrel.example': ['variants.temporary', 'variants.by-refresh', 'variants.by-script'],
  'slack-water.example': ['variants.no-https', 'variants.downgrade', 'variants.dark'],
  'capstan-crew.example': ['variants.downgrade', 'variants.long-way'],
  'twin-lights.example': ['variants.same-page', 'variants.no-hsts'],
  'spray-hood.example': ['variants.same-page-named', 'variants.spelt-twice-named'],
  'mudflat-walks.example': ['variants.other-page', 'variants.closed'],
  'eel-trap.example': [
    'variants.leads-elsewhere',
    'variants.leads-away',
    'variants.place-of-its-own',
    'variants.sitemap-elsewhere',
  ],
  'winch-works.example': ['variants.moved-away'],
  'cork-float.example': ['variants.framed', 'variants.canonical-elsewhere', 'variants.sibling-elsewhere'],
  'ballast-bikes.example': ['variants.canonical-away'],
  'storm-cone.example': [
    'variants.certificate-ends',
    'variants.broken-certificate',
    'variants.hsts-shuts-out',
  ],
  'low-tide-radio.example': ['variants.circle', 'variants.spelt-twice'],
  'pages.harbour-hosting.example/skiffs': ['variants.slash-lost'],
  'pages.harbour-hosting.example/dories': ['variants.slash-differs'],
  'shop.net-loft.example': ['variants.dark-unused'],
  'glass-float.example': ['variants.only-a-frame'],
  'fog-bell.example': ['variants.all-dark'],
  'puffin-print.example': ['reach.keeps-out-robots'],
  'skerry-school.example': ['reach.keeps-out-header'],
  'kelp-soap.example': ['reach.keeps-out-tag'],
  'bilge-pumps.example': ['reach.robots-fails'],
};

describe('variants, on the rehearsal', () => {
  let stage: Stage;
  const told = new Set<string>();
  const roles = new Set<string>();
  const show = async (property: string): Promise<Variants> => {
    const variants = await stage.marit.showVariants({ params: { property } });
    for (const { code } of [...variants.findings, ...variants.mended]) told.add(code);
    for (const { role } of variants.items) roles.add(role);
    return variants;
  };
  const codes = ({ findings }: Variants) => findings.map(({ code }) => code);
  const look = (property: string) =>
    stage.results(stage.marit.lookAtVariants({ body: { properties: [property] } }));
  const takeOn = async (address: string, handle: string) => {
    const { job } = await stage.marit.addProperty({
      body: { client: 'harbour', address, handle, anyway: true },
    });
    await stage.marit.finished({ id: job });
  };
  const roleOf = ({ items }: Variants, address: string) => items.find((one) => one.address === address)?.role;

  beforeAll(async () => {
    stage = await openStage();
    await stage.marit.addClient({ body: { name: 'Harbour', handle: 'harbour' } });
  });
  afterAll(() => stage.close());

  it.each(Object.entries(SHOWN))('%s', async (address, expected) => {
    const handle = address.replace(/\W/gu, '-');
    await takeOn(address, handle);
    const variants = await show(handle);
    expect(codes(variants)).toEqual(expect.arrayContaining([...expected]));
    for (const { says, remedy } of variants.findings) expect(says + remedy).not.toMatch(/\{\w+\}/);
  });

  it('asks for no address twice, and for nothing but hops, ways of writing, robots.txt and a made-up file', async () => {
    const asked: string[] = [];
    const listen = (url: string) => void asked.push(url.replace(/yb[0-9a-f]{8}/u, 'made-up'));
    stage.world.listeners.add(listen);
    await look('capstan-crew-example');
    stage.world.listeners.delete(listen);
    const own = asked.filter((url) => url.includes('capstan-crew')).sort();
    expect(own).toEqual([
      'http://capstan-crew.example/',
      'http://www.capstan-crew.example/',
      'https://capstan-crew.example/',
      'https://capstan-crew.example/index.html',
      'https://capstan-crew.example/made-up.txt',
      'https://capstan-crew.example/robots.txt',
      'https://www.capstan-crew.example/',
    ]);
  });

  describe('a bakery that moves to https and www', () => {
    const http = 'http://tar-kiln.example/';
    const www = 'https://www.tar-kiln.example/';
    const origin = (url: string) => url.slice(0, -1);

    it('is taken on where it lives, and held there', async () => {
      // Before the move, only http answers.
      await stage.order({
        do: 'new-site',
        host: 'tar-kiln.example',
        title: 'Tar Kiln Bakery',
        aliases: ['www.tar-kiln.example'],
      });
      for (const which of [http, 'https://tar-kiln.example/', 'http://www.tar-kiln.example/', www])
        await stage.order(
          which === http
            ? { do: 'odd-variant', origin: origin(which), how: 'page' }
            : { do: 'odd-variant', origin: origin(which), how: 'redirect', to: http },
        );
      await takeOn('tar-kiln.example', 'kiln');
      expect((await show('kiln')).door.address).toBe(http);
      await stage.results(stage.marit.enrol({ body: { properties: ['kiln'], engines: ['veldrane'] } }));
      await stage.results(stage.marit.getTokens({ body: { enrolments: ['kiln'], method: 'meta' } }));
      const [enrolment] = (await stage.marit.listEnrolments({ query: { property: 'kiln' } })).items;
      for (const placement of enrolment?.placements ?? []) await stage.order(orderFor(placement));
      const [claim] = await stage.results(stage.marit.claim({ body: { enrolments: ['kiln'] } }));
      expect(claim?.claim?.verdict).toBe('confirmed');
      expect((await show('kiln')).cover.flatMap(({ missed }) => missed)).toEqual([]);
    });

    it('is told once, with what follows', async () => {
      for (const which of [http, 'https://tar-kiln.example/', 'http://www.tar-kiln.example/'])
        await stage.order({ do: 'odd-variant', origin: origin(which), how: 'redirect', to: www });
      await stage.order({ do: 'odd-variant', origin: origin(www), how: 'page' });
      await look('kiln');
      await look('kiln');
      const variants = await show('kiln');
      expect(variants.door.address).toBe(www);
      expect(variants.move).toMatchObject({ from: http, to: www });
      expect(variants.move?.says).toContain('http to https, the bare name to www');
      expect(variants.move?.follows.map(({ kind, done }) => [kind, done])).toEqual([
        ['enrol', false],
        ['prove', false],
        ['submit', false],
      ]);
      expect(codes(variants)).toEqual(
        expect.arrayContaining(['variants.held-misses', 'variants.enrolled-on-redirect']),
      );
      const { items } = await stage.marit.journal({ query: { property: 'kiln' } });
      expect(items.filter(({ kind }) => kind === 'moved')).toHaveLength(1);
    });

    it('keeps what was so before', async () => {
      const { history, mended } = await show('kiln');
      expect(history.find(({ address }) => address === http)).toMatchObject({ role: 'front-door' });
      expect(mended.map(({ code }) => code)).toContain('variants.no-https');
    });

    it('stands in the yard and among the next steps', async () => {
      const yard = await stage.marit.yard({ query: { match: 'kiln' } });
      expect(yard.items[0]?.variants.missed).toEqual([
        { engine: { id: 'veldrane', title: 'Veldrane' }, address: www },
      ]);
      const steps = (await stage.marit.worklist({ query: { property: 'kiln' } })).items;
      expect(steps.map(({ step, engines }) => [step.kind, engines[0]?.id])).toContainEqual([
        'enrol-door',
        'veldrane',
      ]);
    });

    it('is followed by the plan, until nothing is left', async () => {
      const plan = (await stage.marit.fit({ params: { property: 'kiln' } })).items.find(
        ({ engine }) => engine.id === 'veldrane',
      )?.plan;
      expect(plan?.map(({ target, there }) => [target, there])).toEqual([[www, null]]);
      await stage.results(stage.marit.enrol({ body: { properties: ['kiln'], fitting: true } }));
      const { items } = await stage.marit.listEnrolments({ query: { property: 'kiln' } });
      const added = items.find(({ target, engine }) => target === www && engine.id === 'veldrane');
      if (!added) throw new Error('not enrolled by the plan');
      await stage.results(stage.marit.getTokens({ body: { enrolments: [added.id], method: 'meta' } }));
      const placements = (await stage.marit.showEnrolment({ params: { enrolment: added.id } })).placements;
      for (const placement of placements) await stage.order(orderFor(placement));
      await stage.results(stage.marit.claim({ body: { enrolments: [added.id] } }));
      await stage.order({ do: 'sitemap', host: 'tar-kiln.example', path: '/sitemap.xml', addresses: 4 });
      const sitemap = await stage.marit.addSitemap({
        body: { property: 'kiln', address: `${www}sitemap.xml` },
      });
      await stage.results(
        stage.marit.submitSitemap({ body: { sitemap: sitemap.id, enrolments: [added.id] } }),
      );
      const variants = await show('kiln');
      expect(
        variants.move?.follows.filter(({ engine }) => engine.id === 'veldrane').every(({ done }) => done),
      ).toBe(true);
      expect(codes(variants)).not.toContain('variants.held-misses');
      const steps = (await stage.marit.worklist({ query: { property: 'kiln' } })).items;
      expect(
        steps.filter(
          ({ engines, step }) => engines.some(({ id }) => id === 'veldrane') && step.kind === 'enrol-door',
        ),
      ).toEqual([]);
    });

    it('does not move when its front door is dark for a while', async () => {
      await stage.order({ do: 'odd-variant', origin: origin(www), how: 'down' });
      const [result] = await look('kiln');
      expect(result?.stops).toBe(true);
      const variants = await show('kiln');
      expect(variants.door.address).toBe(www);
      expect(codes(variants)).toContain('variants.door-dark');
      expect((await stage.marit.worklist({ query: { property: 'kiln' } })).items[0]).toMatchObject({
        engines: [],
        step: { kind: 'mend-site' },
      });
      // What is enrolled where nothing answers any more.
      await stage.order({ do: 'odd-variant', origin: origin(http), how: 'down' });
      await stage.order({ do: 'odd-variant', origin: origin(www), how: 'page' });
      await look('kiln');
      expect(codes(await show('kiln'))).toContain('variants.enrolled-in-the-dark');
    });
  });

  it('tells what no enrolment covers, and what overlaps', async () => {
    await takeOn('twin-lights.example', 'lights').catch(() => undefined);
    const property = 'twin-lights-example';
    const enrol = (address: string) =>
      stage.results(
        stage.marit.enrol({
          body: { properties: [property], engines: ['veldrane'], reach: 'address', address },
        }),
      );
    await enrol('https://www.twin-lights.example/');
    expect(codes(await show(property))).toContain('variants.uncovered');
    await stage.results(
      stage.marit.enrol({ body: { properties: [property], engines: ['veldrane'], reach: 'name' } }),
    );
    const variants = await show(property);
    expect(codes(variants)).not.toContain('variants.uncovered');
    expect(codes(variants)).toContain('variants.overlap');
  });

  it('looks at hosts that are told, and no more at those that are taken off', async () => {
    const property = 'net-loft';
    await takeOn('net-loft.example', property);
    await stage.marit.finished(
      await stage.marit.addHost({ params: { property }, body: { host: 'Shop.Net-Loft.example' } }),
    );
    expect(roleOf(await show(property), 'https://shop.net-loft.example/')).toBe('leads');
    await expect(
      stage.marit.addHost({ params: { property }, body: { host: 'shop.net-loft.example' } }),
    ).rejects.toThrow('already');
    await stage.marit.finished(
      await stage.marit.dropHost({ params: { property, host: 'shop.net-loft.example' } }),
    );
    expect(roleOf(await show(property), 'https://shop.net-loft.example/')).toBeUndefined();
    await expect(
      stage.marit.dropHost({ params: { property, host: 'shop.net-loft.example' } }),
    ).rejects.toThrow('not a host');
  });

  it('has shown every role and every finding of variants', () => {
    expect([...roles].sort()).toEqual([...ROLES].sort());
    expect(Object.keys(VARIANTS).filter((code) => !told.has(code))).toEqual([]);
  });
});
