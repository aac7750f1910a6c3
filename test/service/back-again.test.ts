import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import type { ProblemDocument } from '../../src/api/documents.js';
import { ApiProblem } from '../../src/client/client.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';

const problem = async (asked: Promise<unknown>): Promise<ProblemDocument> => {
  const error = await asked.then(
    () => new Error('it was not refused'),
    (refused: unknown) => refused,
  );
  if (error instanceof ApiProblem) return error.problem;
  throw error;
};

/** Names that tell, what is there already, and the way back from a mistake. */
describe('a first day', () => {
  let stage: Stage;
  const enrolments = async (property: string) =>
    (await stage.marit.listEnrolments({ query: { property } })).items;
  const enrol = (body: Parameters<Stage['marit']['enrol']>[0]['body']) =>
    stage.results(stage.marit.enrol({ body }));
  const names = async (property: string) => (await enrolments(property)).map(({ name }) => name);
  const steps = async (property: string) =>
    (await stage.marit.worklist({ query: { property } })).items.map(({ step, engines }) => [
      step.kind,
      engines.map(({ id }) => id).join(' '),
    ]);
  const takeOn = async (address: string, handle: string, client = 'saltmarsh') => {
    const { job } = await stage.marit.addProperty({ body: { client, address, handle } });
    await stage.marit.finished({ id: job });
  };

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    await stage.marit.addClient({
      body: { name: 'Pebble & Rye Bakery', handle: 'pebble', audience: ['FI'] },
    });
  });
  afterAll(() => stage.close());

  describe('what is named', () => {
    test.each([
      ['saltmarsh', 'saltmarsh'],
      ['Saltmarsh Ferry Line', 'saltmarsh'],
      ['ferry line', 'saltmarsh'],
      ['PEBBLE', 'pebble'],
    ])('the client %s is found', async (ref, handle) => {
      expect((await stage.marit.showClient({ params: { client: ref } })).handle).toBe(handle);
    });

    it('what is not there is proposed by the nearest name', async () => {
      const { marit } = stage;
      expect((await problem(marit.showClient({ params: { client: 'saltmarch' } }))).detail).toContain(
        'Did you mean saltmarsh?',
      );
      expect((await problem(marit.showProperty({ params: { property: 'feries' } }))).detail).toContain(
        'Did you mean ferries?',
      );
      expect(
        (await problem(marit.showEnrolment({ params: { enrolment: 'ferries@veldrain' } }))).detail,
      ).toContain('Did you mean veldrane?');
      expect(await problem(marit.showEnrolment({ params: { enrolment: 'ferries@Sundrel' } }))).toMatchObject({
        code: 'no-such-enrolment',
      });
      expect((await marit.showEnrolment({ params: { enrolment: 'ferries@HOUSE' } })).name).toBe(
        'ferries@house:address',
      );
      expect(
        (await problem(marit.showEnrolment({ params: { enrolment: 'ferries@house:nowhere' } }))).code,
      ).toBe('bad-reach');
    });

    it('what changes something takes no part of a name', async () => {
      const body = { client: 'ferry line', address: 'pebble-rye.example' };
      expect((await problem(stage.marit.addProperty({ body }))).code).toBe('no-such-client');
    });

    it('two enrolments of one reach are told apart by their addresses, everywhere', async () => {
      await enrol({
        properties: ['ferries'],
        engines: ['house'],
        address: 'http://saltmarsh-ferries.example',
      });
      const [door, other] = [
        'ferries@house:www.saltmarsh-ferries.example',
        'ferries@house:http://saltmarsh-ferries.example',
      ];
      expect((await names('ferries')).filter((name) => name.includes('@house'))).toEqual(
        expect.arrayContaining([door, other]),
      );
      const shown = await stage.marit.showEnrolment({ params: { enrolment: door ?? '' } });
      expect(shown.target).toBe('https://www.saltmarsh-ferries.example/');
      await stage.results(stage.marit.getTokens({ body: { enrolments: [other ?? ''], method: 'file' } }));
      const checked = await stage.marit.finished(
        await stage.marit.check({ body: { enrolments: [other ?? ''] } }),
      );
      expect(checked.items.map(({ subject }) => subject)).toEqual([`${other ?? ''} file`]);
      const ended = stage.marit.endEnrolment({ params: { enrolment: 'ferries@house:address' } });
      expect((await problem(ended)).code).toBe('ambiguous');
      await stage.results(stage.marit.endEnrolment({ params: { enrolment: other ?? '' } }));
      expect((await names('ferries'))[0]).toBe('ferries@house:address');
    });
  });

  describe('what is there already', () => {
    test.each([
      ['http://saltmarsh-ferries.example', 'ferries'],
      ['www.saltmarsh-ferries.example:8443', 'ferries'],
      ['„Saltmarsh-Ferries.example“,', 'ferries'],
      ['<https://www.saltmarsh-ferries.example/>.', 'ferries'],
    ])('%s is the same site', async (address, handle) => {
      const refused = await problem(stage.marit.addProperty({ body: { client: 'pebble', address } }));
      expect(refused).toMatchObject({
        code: expect.stringMatching(/^(same-site|already-there)$/u) as string,
        handle,
      });
    });

    it('a second client of one name is asked about, and added where that is wanted', async () => {
      const body = { name: 'pebble & rye bakery', handle: 'pebble-two' };
      expect((await problem(stage.marit.addClient({ body }))).code).toBe('same-name');
      expect(await stage.marit.addClient({ body: { ...body, anyway: true } })).toMatchObject({
        handle: 'pebble-two',
      });
      await stage.marit.archiveClient({ params: { client: 'pebble-two' } });
    });
  });

  describe('the way back', () => {
    it('a property goes into the archive and out of it, and its handle is free meanwhile', async () => {
      const { marit } = stage;
      await takeOn('tidewell-clocks.example', 'clocks');
      await marit.archiveProperty({ params: { property: 'clocks' } });
      await takeOn('pebble-rye.example', 'clocks', 'pebble');
      expect(await marit.restoreProperty({ params: { property: 'tidewell-clocks.example' } })).toMatchObject({
        handle: expect.stringMatching(/^clocks-/u) as string,
        archivedAt: null,
      });
      expect((await problem(marit.restoreProperty({ params: { property: 'clocks' } }))).code).toBe(
        'not-archived',
      );
      await marit.editProperty({ params: { property: 'clocks' }, body: { handle: 'bakery' } });
      await marit.editProperty({
        params: { property: 'https://tidewell-clocks.example/' },
        body: { handle: 'clocks', client: 'pebble' },
      });
      expect((await marit.showProperty({ params: { property: 'clocks' } })).client.handle).toBe('pebble');
    });

    it('a property that holds badges is archived only where that is said', async () => {
      const { marit } = stage;
      await placeAll(stage, (await enrolments('ferries')).slice(0, 1));
      await stage.results(marit.claim({ body: { enrolments: ['ferries@house'] } }));
      const refused = await problem(marit.archiveProperty({ params: { property: 'ferries' } }));
      expect(refused).toMatchObject({ code: 'holds-badges', held: ['ferries@house:address'] });
      await marit.archiveProperty({ params: { property: 'ferries' }, query: { anyway: true } });
      expect(await problem(marit.showProperty({ params: { property: 'ferries' } }))).toMatchObject({
        code: 'no-such-property',
      });
      await marit.restoreProperty({ params: { property: 'ferries' } });
      expect((await enrolments('ferries'))[0]).toMatchObject({
        name: 'ferries@house:address',
        badge: 'held',
      });
    });

    it('a client takes its properties along where that is said, and comes back', async () => {
      const { marit } = stage;
      expect(await problem(marit.archiveClient({ params: { client: 'pebble' } }))).toMatchObject({
        code: 'has-properties',
      });
      await marit.archiveClient({ params: { client: 'pebble' }, query: { anyway: true } });
      expect((await problem(marit.restoreProperty({ params: { property: 'bakery' } }))).code).toBe(
        'client-archived',
      );
      expect(await marit.restoreClient({ params: { client: 'pebble' } })).toMatchObject({
        handle: 'pebble',
      });
      await marit.restoreProperty({ params: { property: 'bakery' } });
      await marit.editClient({
        params: { client: 'pebble' },
        body: { audience: ['Suomi', 'UK'], contact: 'oona@pebble-rye.example' },
      });
      expect((await marit.showClient({ params: { client: 'pebble' } })).audience).toEqual(['FI', 'GB']);
    });

    it('a pasted token is forgotten again, and one that stands is not replaced without a word', async () => {
      const { marit } = stage;
      const paste = (text: string, anyway = false) =>
        marit.pasteToken({
          params: { enrolment: 'bakery@brindle' },
          body: { text, ...(anyway ? { anyway } : {}) },
        });
      await enrol({ properties: ['bakery'], engines: ['brindle'] });
      const page = `To prove it, place one of these:
        <meta name="brindle-plank" content="${'A'.repeat(20)}">
        the file brindle-${'B'.repeat(20)}.html, or
        TXT "brindle-plank=${'C'.repeat(20)}"`;
      expect((await paste(page)).items.map(({ method, news }) => [method, news])).toEqual([
        ['meta', 'first'],
        ['file', 'first'],
        ['dns', 'first'],
      ]);
      expect((await problem(paste(`${page}\nbrindle-plank=${'D'.repeat(20)}`))).detail).toContain(
        '2 tokens by dns',
      );
      await marit.forgetToken({ params: { enrolment: 'bakery@brindle', method: 'dns' } });
      const [bakery] = await enrolments('bakery');
      expect(bakery?.placements.map(({ method }) => method)).toEqual(['meta', 'file']);
      await placeAll(stage, bakery ? [bakery] : []);
      await stage.results(marit.check({ body: { enrolments: ['bakery@brindle'] } }));
      const other = `<meta name="brindle-plank" content="${'E'.repeat(20)}">`;
      expect((await problem(paste(other))).code).toBe('replaces-standing');
      expect((await paste(other, true)).items).toMatchObject([{ method: 'meta', news: 'changed' }]);
    });
  });

  describe('what is told truly', () => {
    it('by hand nothing has ended before a person says so', async () => {
      const { marit } = stage;
      const [asked] = await stage.results(marit.endEnrolment({ params: { enrolment: 'bakery@brindle' } }));
      expect(asked?.says).toContain('Nothing has ended at Brindle yet');
      expect(await steps('bakery')).toContainEqual(['end-there', 'brindle']);
      expect(await problem(marit.recordEnding({ params: { enrolment: 'ferries@house' } }))).toMatchObject({
        code: 'not-by-hand',
      });
      await marit.recordEnding({ params: { enrolment: 'bakery@brindle' } });
      expect(await enrolments('bakery')).toEqual([]);
      expect((await steps('bakery')).map(([kind]) => kind)).not.toContain('end-there');
    });

    it('nothing can be taken over from the house', async () => {
      expect((await problem(stage.marit.adopt({ body: { engine: 'house', take: true } }))).code).toBe(
        'nothing-to-adopt',
      );
    });

    it('what is held for the site covers its folders, and no longer than that', async () => {
      const { marit } = stage;
      await stage.order({
        do: 'file',
        host: 'www.saltmarsh-ferries.example',
        path: '/timetable/',
        content: '<!doctype html><title>Timetable</title><p>From the east quay on the hour.',
        type: 'text/html',
      });
      await takeOn('https://www.saltmarsh-ferries.example/timetable/', 'timetable');
      const wanted = async () => (await steps('timetable')).find(([kind]) => kind === 'enrol')?.[1];
      expect(await wanted()).toBe('veldrane ostrime');
      const { items } = await marit.yard({ query: { match: 'timetable' } });
      expect(items[0]?.above).toEqual([
        { engine: { id: 'house', title: 'House' }, enrolment: 'ferries@house:address' },
      ]);
      const fit = await marit.fit({ params: { property: 'timetable' } });
      expect(fit.items.find(({ engine }) => engine.id === 'house')?.plan).toMatchObject([
        { there: 'ferries@house:address' },
      ]);
      await marit.editProperty({ params: { property: 'ferries' }, body: { handle: 'ferry-line' } });
      expect((await marit.yard({ query: { match: 'timetable' } })).items[0]?.above).toMatchObject([
        { enrolment: 'ferry-line@house:address' },
      ]);
      await stage.results(marit.endEnrolment({ params: { enrolment: 'ferry-line@house' } }));
      expect(await wanted()).toBe('house veldrane ostrime');
    });
  });
});
