import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { JobItemRow, JobRow } from '../../src/store/models/jobs.js';
import { ClaimRow, OwnershipRow } from '../../src/store/models/enrolments.js';
import { PageAskRow } from '../../src/store/models/page-lookups.js';
import { ReplayRow } from '../../src/store/models/people.js';
import { serve } from '../../src/service/serve.js';
import { loadSettings } from '../../src/service/settings/load.js';
import { Killable } from '../support/killable.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const DAY = 86_400_000;

/** What must happen once, and what must not be lost, while the service lives. */
describe('nothing happens twice', () => {
  let stage: Stage;
  const engine = () => {
    const state = stage.world.file.state.engines['veldrane'];
    if (!state) throw new Error('no engine');
    return state;
  };
  const raw = (method: string, path: string, body?: object, headers: Record<string, string> = {}) =>
    fetch(`${stage.url}/api/v1${path}`, {
      method,
      headers: {
        authorization: `Bearer ${stage.key}`,
        ...(body ? { 'content-type': 'application/json' } : {}),
        ...headers,
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });

  beforeAll(async () => {
    stage = await openStage();
    await placeAll(stage, await takeOnFerries(stage));
  });
  afterAll(() => stage.close());

  it('a claim that an engine puts off stays open, and is the same one when it is asked for again', async () => {
    const claim = () =>
      stage.results(
        stage.marit.claim({ body: { enrolments: ['ferries@veldrane:address'], method: 'meta' } }),
      );
    await stage.order({ do: 'engine', engine: 'veldrane', suspend: { work: 'claims', ms: 3 * DAY } });
    const [first] = await claim();
    expect(first).toMatchObject({ stops: true, claim: { verdict: null, answeredAt: null } });
    await stage.order({ do: 'engine', engine: 'veldrane' });
    await stage.world.advance(4 * DAY);
    const [second] = await claim();
    expect(second?.claim).toMatchObject({ id: first?.claim?.id, verdict: 'confirmed' });
    expect(engine().claimsJudged).toHaveLength(1);
  });

  it('racing claims are one claim and one ownership', async () => {
    const results = (
      await Promise.all(
        Array.from({ length: 6 }, () =>
          stage.results(stage.marit.claim({ body: { enrolments: ['ferries@veldrane:name'] } })),
        ),
      )
    ).flat();
    expect(results.filter(({ problem }) => problem?.code === 'internal')).toEqual([]);
    const { id } = await stage.marit.showEnrolment({ params: { enrolment: 'ferries@veldrane:name' } });
    expect(await ClaimRow.count({ where: { enrolmentId: id } })).toBe(1);
    expect(await OwnershipRow.count({ where: { enrolmentId: id } })).toBe(1);
  });

  it('racing enrolments and submissions are told as being there, not as a fault', async () => {
    await stage.marit.addSitemap({ body: { property: 'ferries', address: 'sitemap.xml' } });
    const [sitemap] = (await stage.marit.listSitemaps({ query: { property: 'ferries' } })).items;
    const results = (
      await Promise.all(
        Array.from({ length: 4 }, () => [
          stage.results(stage.marit.enrol({ body: { properties: ['ferries'], engines: ['ostrime'] } })),
          stage.results(
            stage.marit.submitSitemap({
              body: { sitemap: sitemap?.id ?? '', enrolments: ['ferries@veldrane:address'] },
            }),
          ),
        ]).flat(),
      )
    ).flat();
    expect(results.map(({ problem }) => problem?.code).filter((code) => code === 'internal')).toEqual([]);
    expect(
      (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items.filter(
        ({ engine }) => engine.id === 'ostrime',
      ),
    ).toHaveLength(1);
  });

  it('eight pieces at once do not count the same place of a ration', async () => {
    const visits = Array.from(
      { length: 14 },
      (_, at) => `https://www.saltmarsh-ferries.example/p${String(at)}`,
    );
    const results = await stage.results(
      stage.marit.askVisit({ body: { addresses: visits, engine: 'veldrane' } }),
    );
    expect(results.filter(({ problem }) => problem === undefined)).toHaveLength(10);
    expect(results.filter(({ problem }) => problem?.code === 'ration-spent')).toHaveLength(4);
    expect(await PageAskRow.count({ where: { kind: 'visit', answeredAt: null } })).toBe(0);
  });

  it('what is not written is written later, and does not stay under way', async () => {
    const original = JobItemRow.update.bind(JobItemRow);
    let failures = 0;
    const spy = vi
      .spyOn(JobItemRow, 'update')
      .mockImplementation((...given: Parameters<typeof JobItemRow.update>) => {
        if ((given[0] as { state?: string }).state === 'done' && failures < 3) {
          failures += 1;
          return Promise.reject(new Error('the disk is full'));
        }
        return original(...given);
      });
    const started = await stage.marit.check({ body: { enrolments: ['ferries@house'], method: 'meta' } });
    const job = await stage.marit.finished(started);
    spy.mockRestore();
    expect([failures, job.state]).toEqual([3, 'done']);
  });

  it('what changes something takes no part of a name', async () => {
    await stage.marit.addProperty({
      body: { client: 'saltmarsh', address: 'ferries-shop.example', handle: 'ferries-shop' },
    });
    expect((await raw('DELETE', '/properties/ferries-sh')).status).toBe(404);
    expect((await raw('DELETE', '/properties/ferries-shop')).status).toBe(204);
    const again = await raw('DELETE', '/properties/ferries-shop');
    expect([again.status, ((await again.json()) as { code: string }).code]).toEqual([
      404,
      'no-such-property',
    ]);
    expect((await stage.marit.showProperty({ params: { property: 'ferr' } })).handle).toBe('ferries');
    expect((await raw('PATCH', '/properties/ferr', { handle: 'other' })).status).toBe(404);
    expect((await raw('DELETE', '/enrolments/ferr@house')).status).toBe(404);
    expect((await raw('POST', '/claims', { enrolments: ['ferr@house'] })).status).toBe(404);
  });

  it('an edit against another version is refused however that is said', async () => {
    const edit = (tag: string) =>
      raw('PATCH', '/clients/saltmarsh', { contact: 'harbour office' }, { 'if-match': tag });
    const { version } = await stage.marit.showClient({ params: { client: 'saltmarsh' } });
    for (const tag of [`W/"${String(version)}"`, '', 'junk', '"98", "99"', '"', '"1" "2"'])
      expect([tag, (await edit(tag)).status]).toEqual([tag, 412]);
    expect((await edit(`"98", "${String(version)}"`)).status).toBe(200);
    expect((await edit('*')).status).toBe(200);
  });

  it('pages skip no row of the same instant', async () => {
    const at = stage.world.file.now().toISOString();
    const ids = Array.from({ length: 7 }, (_, nth) => `tie-${String(nth)}`);
    await JobRow.bulkCreate(
      ids.map((id) => ({ id, kind: 'check', state: 'done', createdAt: at, finishedAt: at })),
    );
    const seen: string[] = [];
    let after: string | undefined;
    do {
      const page = await stage.marit.listJobs({
        query: { limit: 2, ...(after === undefined ? {} : { after }) },
      });
      seen.push(...page.items.map(({ id }) => id));
      after = page.next ?? undefined;
    } while (after !== undefined);
    expect(seen.filter((id) => id.startsWith('tie-')).sort()).toEqual(ids);
    expect(new Set(seen).size).toBe(seen.length);
  });

  it('a repeated request is known for a day, by nothing that tells what it was; a key that was made is not kept', async () => {
    const key = { 'idempotency-key': 'lantern-one' };
    const first = await (await raw('POST', '/clients', { name: 'Lantern' }, key)).json();
    const again = await raw('POST', '/clients', { name: 'Lantern' }, key);
    expect([await again.json(), again.headers.get('idempotency-replayed')]).toEqual([first, 'true']);
    expect((await raw('POST', '/clients', { name: 'Beacon' }, key)).status).toBe(422);
    const made = (await (
      await raw('POST', '/keys', { label: 'x' }, { 'idempotency-key': 'lantern-two' })
    ).json()) as { key: string };
    const kept = JSON.stringify(await ReplayRow.findAll());
    expect(kept).not.toContain(made.key);
    expect(await ReplayRow.count({ where: { key: 'lantern-two' } })).toBe(0);
    await stage.world.advance(DAY + 1000);
    expect((await raw('POST', '/clients', { name: 'Lantern' }, key)).status).toBe(409);
  });

  it('answers to one person are kept by nobody, and under no other name', async () => {
    expect((await raw('GET', '/yard')).headers.get('cache-control')).toBe('no-store');
    const { port } = new URL(stage.url);
    const status = await new Promise((done) =>
      request(
        { host: '127.0.0.1', port, path: '/api/v1/health', headers: { host: 'elsewhere.example' } },
        (answer) => {
          answer.resume();
          done(answer.statusCode);
        },
      ).end(),
    );
    expect(status).toBe(421);
  });
});

describe('after kill -9', () => {
  let service: Killable;
  beforeAll(async () => {
    service = await Killable.open();
    await service.startWithClocks();
  });
  afterAll(() => service.close());

  it('the same request with the same key is the same job', async () => {
    await service.client.finished(
      await service.client.enrol({ body: { properties: ['clocks'], engines: ['veldrane'] } }),
    );
    const ask = () =>
      service.client.getTokens({ body: { enrolments: ['clocks'] } }, { idempotencyKey: 'clocks-tokens-1' });
    const first = await ask();
    await service.kill();
    await service.start();
    const again = await ask();
    expect(again.id).toBe(first.id);
    await service.client.finished(again);
    const jobs = await service.client.listJobs({});
    expect(jobs.items.filter(({ kind }) => kind === 'token')).toHaveLength(1);
  });

  it('a second service on the same records is told who has them, and does nothing', async () => {
    const { settings } = await loadSettings(service.world.config, {}, { 'listen.port': '0' });
    await expect(serve(settings, { ...process.env, ...service.world.env })).rejects.toThrow(
      'in use by another service',
    );
    expect((await service.client.health()).faults).toBe(0);
  });
});
