import { afterAll, beforeAll, beforeEach, describe, expect, it, test } from 'vitest';
import type { Enrolment, JobResult } from '../../src/api/documents.js';
import type { Client } from '../../src/client/client.js';
import { openStage, placeAll, type Stage } from '../support/stage.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Each engine has a website of its own here, so that what it does to one is not seen at another. */
const GROUND = {
  veldrane: { handle: 'buttons', address: 'button-museum.example', host: 'www.button-museum.example' },
  ostrime: { handle: 'clocks', address: 'tidewell-clocks.example', host: 'tidewell-clocks.example' },
  sundrel: { handle: 'ropes', address: 'bollard-ropes.example', host: 'www.bollard-ropes.example' },
};
type Linked = keyof typeof GROUND;
const LINKED = Object.keys(GROUND) as Linked[];

/** How long an answer is waited for here: as long as a busy machine needs for one, and no longer. */
const PATIENCE_MS = 1_500;
const SLOWER_MS = 1_800;

/** What an engine can be told to do, and how it is then told of: never as a failure of the client's site. */
const FAULTS = {
  'slow, but in time': { order: { slowMs: 60 }, code: null },
  'slower than anybody waits': { order: { slowMs: SLOWER_MS }, code: 'engine-unreached' },
  'status 500, for good': { order: { failStatus: 500, failTimes: 1000 }, code: 'engine-unreached' },
  'status 500, twice': { order: { failStatus: 500, failTimes: 2 }, code: null },
  'status 429 with a short Retry-After': {
    order: { failStatus: 429, failTimes: 1, retryAfter: 1 },
    code: null,
  },
  'status 429 with a long Retry-After': {
    order: { failStatus: 429, failTimes: 1000, retryAfter: 3600 },
    code: 'engine-waits',
  },
  'status 503 with Retry-After': {
    order: { failStatus: 503, failTimes: 1000, retryAfter: 7200 },
    code: 'engine-waits',
  },
  'status 503 without Retry-After': { order: { failStatus: 503, failTimes: 1000 }, code: 'engine-waits' },
  'connections cut before the answer': { order: { cutTimes: 1000 }, code: 'engine-unreached' },
  'one connection cut': { order: { cutTimes: 1 }, code: null },
  'answers of another shape': { order: { oddTimes: 1000 }, code: 'engine-unreached' },
} as const;

describe('engines that misbehave', () => {
  let stage: Stage;
  let marit: Client;
  const engine = (name: string, more: object = {}) => stage.order({ do: 'engine', engine: name, ...more });
  const show = (enrolment: string): Promise<Enrolment> => marit.showEnrolment({ params: { enrolment } });

  beforeAll(async () => {
    stage = await openStage({
      'net.bounds.hopMs': String(PATIENCE_MS),
      'net.bounds.connectMs': String(PATIENCE_MS),
    });
    marit = stage.marit;
    await marit.addClient({ body: { name: 'Bollard', handle: 'bollard', audience: ['LV'] } });
    for (const { handle, address } of Object.values(GROUND)) {
      const { job } = await marit.addProperty({ body: { client: 'bollard', address, handle } });
      await marit.finished({ id: job });
      await marit.addSitemap({ body: { property: handle, address: 'sitemap.xml' } });
    }
    await marit.editProperty({
      params: { property: 'ropes' },
      body: { facts: { kind: 'shop', languages: 'lv' } },
    });
  });
  afterAll(() => stage.close());
  beforeEach(async () => {
    for (const name of LINKED) await engine(name);
  });

  /** The steps of one enrolment's life, as a consultant asks for them. */
  const steps = (name: Linked): (() => Promise<JobResult[]>)[] => {
    const { handle, host } = GROUND[name];
    const enrolments = [`${handle}@${name}`];
    return [
      () => stage.results(marit.enrol({ body: { properties: [handle], engines: [name] } })),
      () => stage.results(marit.getTokens({ body: { enrolments, method: 'file' } })),
      async () => {
        await stage.order({ do: 'clear', host, what: 'files' });
        await placeAll(stage, [await show(enrolments[0] ?? '')]);
        return stage.results(marit.check({ body: { enrolments } }));
      },
      () => stage.results(marit.claim({ body: { enrolments } })),
      async () => {
        const [sitemap] = (await marit.listSitemaps({ query: { property: handle } })).items;
        return stage.results(marit.submitSitemap({ body: { sitemap: sitemap?.id ?? '', enrolments } }));
      },
    ];
  };

  /** What there is in the end, here and at the engine, without what is by chance. */
  const endState = async (name: Linked): Promise<object> => {
    const { handle } = GROUND[name];
    const { badge, placements, claim, ownership, step } = await show(`${handle}@${name}`);
    const state = stage.world.file.state.engines[name];
    const [sitemap] = (await marit.listSitemaps({ query: { property: handle } })).items;
    return {
      badge,
      placements: placements.map(({ method, check, before }) => [method, check?.forecast, before]),
      claim: claim?.verdict,
      ownership: ownership?.kind,
      step: step.kind,
      submissions: sitemap?.submissions.map(({ sentAs }) => sentAs),
      there: state?.enrolments.map((one) => [
        one.target,
        one.ownership.state,
        one.sitemaps.length,
        Object.keys(one.claims).length,
      ]),
      judged: state?.claimsJudged.length,
    };
  };

  const clean = async (name: Linked) => {
    const { handle, host } = GROUND[name];
    await stage.results(marit.endEnrolment({ params: { enrolment: `${handle}@${name}` } }));
    await stage.order({ do: 'clear', host, what: 'files' });
    const state = stage.world.file.state.engines[name];
    if (state) Object.assign(state, { claimsJudged: [], accountTokens: {} });
  };

  const baseline = new Map<Linked, object>();
  test.each(LINKED)('%s, without faults', async (name) => {
    for (const step of steps(name)) expect((await step()).every(({ stops }) => !stops)).toBe(true);
    const state = await endState(name);
    expect(state).toMatchObject({ badge: 'held', judged: 1, step: 'wait' });
    baseline.set(name, state);
    await clean(name);
  });

  // The engines by the side of each other, since most of it is waiting; to wait in vain takes long, so that one engine does for all.
  test.each(Object.keys(FAULTS) as (keyof typeof FAULTS)[])(
    'each engine: %s – nothing lost, told as the engine’s, the same in the end',
    async (fault) => {
      const engines = fault === 'slower than anybody waits' ? (['veldrane'] as const) : LINKED;
      await liveThrough(engines, fault);
      for (const name of engines) {
        expect(await endState(name)).toEqual(baseline.get(name));
        await clean(name);
      }
    },
  );

  /** The life of one enrolment at each engine, with a fault at each step. */
  async function liveThrough(engines: readonly Linked[], fault: keyof typeof FAULTS): Promise<void> {
    const { order, code } = FAULTS[fault];
    const lives = engines.map((name) => ({ name, steps: steps(name) }));
    for (let at = 0; at < 5; at += 1) {
      const failed = await Promise.all(
        lives.map(async (life) => {
          await engine(life.name, order);
          const results = (await life.steps[at]?.()) ?? [];
          const problems = results.flatMap(({ problem }) => (problem ? [problem] : []));
          if (code === null) expect(problems).toEqual([]);
          for (const problem of problems) {
            expect(problem.code).toBe(code);
            expect(problem.detail.toLowerCase()).toContain(life.name);
          }
          await engine(life.name);
          return problems;
        }),
      );
      // What the engine asked to wait for is waited for: by the clock, not by asking again and again.
      if (failed.flat().some((problem) => problem.code === 'engine-waits'))
        await stage.world.advance(3 * HOUR);
      await Promise.all(
        lives.map(async (life, which) => {
          if (failed[which]?.length !== 0)
            expect((await life.steps[at]?.())?.map(({ problem }) => problem)).toEqual([undefined]);
        }),
      );
    }
  }

  it('one engine that is out of order stops no work with the others', async () => {
    await engine('ostrime', { failStatus: 500, failTimes: 1000 });
    const engines = ['ostrime', 'house', 'veldrane', 'sundrel', 'brindle'];
    const results = await stage.results(marit.enrol({ body: { properties: ['ropes'], engines } }));
    expect(results.map(({ problem }) => problem?.code ?? 'done')).toEqual([
      'engine-unreached',
      'done',
      'done',
      'done',
      'done',
    ]);
    expect(results[0]?.says).toContain('nothing is wrong with the site');
    const { items } = await marit.listEngines();
    const links = items.find(({ id }) => id === 'ostrime')?.accounts[0]?.links;
    expect(links?.find(({ work }) => work === 'enrol')).toMatchObject({ state: 'unreached' });
    await engine('ostrime');
    await stage.results(marit.enrol({ body: { properties: ['ropes'], engines } }));
    const after = (await marit.listEngines()).items.find(({ id }) => id === 'ostrime')?.accounts[0]?.links;
    expect(after?.find(({ work }) => work === 'enrol')).toMatchObject({ state: 'answers' });
  });

  describe('an enrolment that the engine has lost', () => {
    const name = 'ropes@veldrane';
    const target = 'https://www.bollard-ropes.example/';
    const held = async () => {
      await stage.results(marit.getTokens({ body: { enrolments: [name], method: 'meta' } }));
      const { placements } = await show(name);
      await stage.order({ do: 'clear', host: 'www.bollard-ropes.example', what: 'meta' });
      await placeAll(stage, [
        { ...(await show(name)), placements: placements.filter(({ method }) => method === 'meta') },
      ]);
      const [claimed] = await stage.results(marit.claim({ body: { enrolments: [name], method: 'meta' } }));
      expect(claimed?.claim?.verdict).toBe('confirmed');
      return placements[0]?.token;
    };

    it('is noticed at the next check, told as the engine’s doing, and made good', async () => {
      const before = await held();
      await stage.order({ do: 'engine-loses', engine: 'veldrane', target });
      const [checked] = await stage.results(marit.check({ body: { enrolments: [name], method: 'meta' } }));
      expect(checked?.check?.forecast).toBe('accept');
      const lost = await show(name);
      expect(lost).toMatchObject({ badge: 'lost', step: { kind: 'enrol-again' } });
      expect(lost.missingSince).not.toBeNull();
      expect(lost.step.says).toContain('nothing is wrong with the site');
      const [token] = await stage.results(marit.getTokens({ body: { enrolments: [name] } }));
      expect(token?.problem?.code).toBe('enrolment-missing');
      const [again] = await stage.results(
        marit.enrol({ body: { properties: ['ropes'], engines: ['veldrane'] } }),
      );
      expect(again?.says).toContain('Enrolled again at Veldrane');
      expect(await held()).not.toBe(before);
      const back = await show(name);
      expect(back).toMatchObject({ id: lost.id, badge: 'held', missingSince: null });
      expect(back.placements[0]?.before).toMatchObject({ token: before, why: 'changed' });
    });

    it('is found out before a claim is spent on it', async () => {
      await stage.results(marit.getTokens({ body: { enrolments: ['ropes@sundrel'], method: 'meta' } }));
      await stage.order({ do: 'engine-loses', engine: 'sundrel', target });
      const judged = stage.world.file.state.engines['sundrel']?.claimsJudged.length;
      const [claimed] = await stage.results(
        marit.claim({ body: { enrolments: ['ropes@sundrel'], anyway: true } }),
      );
      expect(claimed?.problem?.code).toBe('enrolment-missing');
      expect(claimed?.says).toContain('no claim was spent');
      expect(stage.world.file.state.engines['sundrel']?.claimsJudged.length).toBe(judged);
    });
  });

  describe('a function that is switched off for weeks', () => {
    it('is a wait with a date, is not asked for again, and the rest goes on', async () => {
      await engine('veldrane', { suspend: { work: 'sitemaps', ms: 20 * DAY } });
      const sitemaps = (await marit.listSitemaps({ query: { property: 'ropes' } })).items;
      const submit = () =>
        stage.results(
          marit.submitSitemap({ body: { sitemap: sitemaps[0]?.id ?? '', enrolments: ['ropes@veldrane'] } }),
        );
      const [off] = await submit();
      expect(off?.problem).toMatchObject({ code: 'engine-waits' });
      expect(off?.says).toContain('A wait, not a failure: until');
      const enrolment = await show('ropes@veldrane');
      expect(enrolment.step).toMatchObject({ kind: 'wait' });
      expect(enrolment.suspended).toMatchObject([{ work: 'sitemaps', state: 'waits' }]);
      expect(Date.parse(enrolment.step.until ?? '') - stage.world.file.now().getTime()).toBeGreaterThan(
        19.9 * DAY,
      );
      // It has come back, but it said until when: it is taken at its word for a day.
      await engine('veldrane');
      expect((await submit())[0]?.problem?.code).toBe('engine-waits');
      const [checked] = await stage.results(
        marit.check({ body: { enrolments: ['ropes@veldrane'], method: 'meta' } }),
      );
      expect(checked?.check?.forecast).toBe('accept');
      await stage.world.advance(DAY + HOUR);
      expect((await submit())[0]).toMatchObject({ stops: false });
      expect((await show('ropes@veldrane')).suspended).toEqual([]);
    });

    it('is kept in mind over a restart', async () => {
      const { LinkStates } = await import('../../src/desk/engine-book/link-states.js');
      const { items } = await marit.listAccounts();
      const id = items.find(({ engine: at }) => at === 'veldrane')?.id ?? '';
      const clock = { now: () => stage.world.file.now() };
      const states = new LinkStates(null as never, clock);
      await states.load();
      expect(states.of(id).map(({ work }) => work)).toContain('sitemaps');
    });
  });
});
