import { readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, test } from 'vitest';
import type { Enrolment, JobResult } from '../../src/api/documents.js';
import { ApiProblem, type Client } from '../../src/client/client.js';
import { openStage, placeAll, type Stage } from '../support/stage.js';

const DAY = 86_400_000;
const TARGETS = {
  ferries: 'https://www.saltmarsh-ferries.example/',
  clocks: 'https://tidewell-clocks.example/',
  tea: 'https://compass-tea.example/',
};

/** Five engines that agree on nothing, and the house, in one agency's hands. */
describe('several engines', () => {
  let stage: Stage;
  let marit: Client;
  const show = (enrolment: string): Promise<Enrolment> => marit.showEnrolment({ params: { enrolment } });
  const problem = async (asked: Promise<unknown>): Promise<ApiProblem['problem']> => {
    const error: unknown = await asked.then(() => null).catch((one: unknown) => one);
    if (error instanceof ApiProblem) return error.problem;
    throw new Error(`expected a problem, got ${String(error)}`);
  };
  const takeOn = async (handle: string, address: string, audience: string[]) => {
    await marit.addClient({ body: { name: handle, handle, audience } });
    const { job } = await marit.addProperty({ body: { client: handle, address, handle } });
    await marit.finished({ id: job });
  };
  const enrol = (properties: string[], engines: string[], more: object = {}): Promise<JobResult[]> =>
    stage.results(marit.enrol({ body: { properties, engines, ...more } }));
  const tokens = (enrolment: string) => stage.results(marit.getTokens({ body: { enrolments: [enrolment] } }));

  beforeAll(async () => {
    stage = await openStage();
    marit = stage.marit;
    await takeOn('ferries', 'saltmarsh-ferries.example', ['FI', 'EE']);
    await takeOn('clocks', 'tidewell-clocks.example', []);
    await takeOn('tea', 'compass-tea.example', ['CH']);
  });
  afterAll(() => stage.close());

  describe('rules in words', () => {
    test.each([
      ['veldrane', 'Looks again every 5 days; withdraws after 2 days without the token.'],
      ['veldrane', 'Registers by name (a whole name with every host and scheme under it), proven by dns.'],
      ['ostrime', 'One token for all the sites of an account: the next site needs no new one.'],
      ['ostrime', 'DNS TXT record under the label _ostrime-challenge.'],
      ['sundrel', 'Looks again every 3 days; withdraws at once when the token is gone.'],
      ['sundrel', 'An unclaimed token expires after 14 days.'],
      ['sundrel', 'Takes no proof by dns.'],
      ['sundrel', '50 lookups and no visit requests a day.'],
      ['brindle', 'How often it looks again is not known.'],
      ['kelpwise', 'Shows Ostrime’s results: nothing is to be done here but with Ostrime.'],
      ['house', 'Takes no sitemaps.'],
    ])('%s: %s', async (engine, rule) => {
      const { items } = await marit.listEngines();
      expect(items.find(({ id }) => id === engine)?.rules).toContain(rule);
    });
  });

  describe('fit', () => {
    const fits = async (property: string) =>
      Object.fromEntries(
        (await marit.fit({ params: { property } })).items.map((one) => [one.engine.id, one]),
      );
    it('follows the audience, and says why', async () => {
      const ferries = await fits('ferries');
      expect(
        Object.values(ferries)
          .filter((one) => one.fits)
          .map((one) => one.engine.id),
      ).toEqual(['house', 'veldrane', 'ostrime', 'sundrel']);
      expect(ferries['sundrel']?.why).toBe(
        'Matters in FI, EE, where its audience is (8 % in FI, 14 % in EE).',
      );
      expect(ferries['sundrel']?.wants.map(({ id }) => id)).toEqual(['kind', 'languages']);
      expect(ferries['kelpwise']?.why).toContain('Ostrime’s results');
      expect((await fits('tea'))['brindle']?.fits).toBe(true);
      expect((await fits('clocks'))['brindle']?.why).toContain('not narrowed to any country');
    });

    it('asks for facts once per property, refuses what is not an answer, and remembers', async () => {
      const [asked] = await enrol(['ferries'], ['sundrel']);
      expect(asked?.problem).toMatchObject({ code: 'facts-wanted' });
      expect(asked?.says).toContain('kind: shop, office');
      const odd = (facts: Record<string, string>) =>
        problem(marit.enrol({ body: { properties: ['ferries'], engines: ['sundrel'], facts } }));
      expect((await odd({ kind: 'ship' })).detail).toContain('expected one of shop');
      expect((await odd({ colour: 'blue' })).detail).toContain('No engine asks for “colour”');
      expect((await odd({ languages: 'Fnnish' })).detail).toContain('such as “fi en”; “Fnnish” is none');
      // By names, in English or German, too: what is kept and sent are the codes.
      const [done] = await enrol(['ferries'], ['sundrel'], {
        facts: { kind: 'Transport', languages: 'Finnish, Englisch' },
      });
      expect(done?.stops).toBe(false);
      expect((await marit.showProperty({ params: { property: 'ferries' } })).facts).toEqual({
        kind: 'transport',
        languages: 'fi en',
      });
      expect((await fits('ferries'))['sundrel']?.wants).toEqual([]);
    });

    it('enrols with all that fit, and once more changes nothing', async () => {
      const fitting = () => stage.results(marit.enrol({ body: { properties: ['ferries'], fitting: true } }));
      expect((await fitting()).map(({ enrolment }) => enrolment)).toEqual([
        'ferries@house:address',
        'ferries@veldrane:address',
        'ferries@ostrime:address',
        'ferries@sundrel:address',
      ]);
      expect((await fitting()).every(({ says }) => says.includes('enrolled already'))).toBe(true);
      const yard = await marit.yard({ query: { match: 'ferries' } });
      expect(yard.engines.map(({ id, from }) => (from ? `${id} as ${from.id}` : id))).toEqual([
        'house',
        'veldrane',
        'ostrime',
        'sundrel',
        'kelpwise as ostrime',
      ]);
    });

    it('proposes no enrolment with an engine that does not matter, and refuses a borrowed one', async () => {
      const { items } = await marit.worklist({ query: { property: 'ferries' } });
      expect(items.flatMap(({ engines }) => engines.map(({ id }) => id))).not.toContain('brindle');
      expect(
        (await problem(marit.enrol({ body: { properties: ['ferries'], engines: ['kelpwise'] } }))).detail,
      ).toContain('nothing is to be done with it but with Ostrime');
    });
  });

  describe('one token for all the sites of an account', () => {
    it('is known for the second site without asking, and names no other client’s', async () => {
      await tokens('ferries@ostrime');
      const ferries = await show('ferries@ostrime');
      await placeAll(stage, [
        { ...ferries, placements: ferries.placements.filter(({ method }) => method === 'file') },
      ]);
      await stage.results(marit.check({ body: { enrolments: ['ferries@ostrime'], method: 'file' } }));
      const [enrolled] = await enrol(['clocks'], ['ostrime']);
      expect(enrolled?.says).toContain('Its token is the one of the account, known already');
      const clocks = await show('clocks@ostrime');
      expect(clocks.badge).toBe('issued');
      const file = clocks.placements.find(({ method }) => method === 'file');
      expect(file?.token).toBe(ferries.placements[0]?.token);
      expect(file).toMatchObject({ ofAccount: true, standsAt: [] });
      expect(JSON.stringify(clocks)).not.toContain('ferries');
    });

    it('changes for every site when the engine hands out another, shown old against new', async () => {
      const before = await show('ferries@ostrime');
      await stage.order({ do: 'engine-renews', engine: 'ostrime', target: TARGETS.ferries, method: 'file' });
      const [changed] = await tokens('clocks@ostrime');
      expect(changed).toMatchObject({ stops: true });
      expect(changed?.says).toContain('another token than before');
      for (const name of ['ferries@ostrime', 'clocks@ostrime']) {
        const placement = (await show(name)).placements.find(({ method }) => method === 'file');
        expect(placement?.before).toMatchObject({ token: before.placements[0]?.token, why: 'changed' });
        expect(placement?.token).not.toBe(before.placements[0]?.token);
      }
    });
  });

  describe('tokens that are void unclaimed', () => {
    it('are renewed by the next check, with a warning, and the old one beside the new', async () => {
      await tokens('ferries@sundrel');
      const before = await show('ferries@sundrel');
      expect(
        Date.parse(before.placements[0]?.expiresAt ?? '') - Date.parse(before.placements[0]?.issuedAt ?? ''),
      ).toBeGreaterThan(13.9 * DAY);
      await placeAll(stage, [before]);
      await stage.world.advance(15 * DAY);
      const { items } = await marit.worklist({ query: { property: 'ferries' } });
      expect(
        items.find(({ enrolments }) => enrolments.some(({ name }) => name === 'ferries@sundrel:address'))
          ?.step.kind,
      ).toBe('renew-token');
      const results = await stage.results(marit.check({ body: { enrolments: ['ferries@sundrel'] } }));
      expect(results.some(({ warning }) => warning?.includes('What was placed is old now') === true)).toBe(
        true,
      );
      const after = await show('ferries@sundrel');
      expect(after.placements.map(({ before: old }) => [old?.token, old?.why])).toEqual(
        before.placements.map(({ token }) => [token, 'expired']),
      );
      expect(results.every(({ check }) => check?.forecast === 'refuse')).toBe(true);
    });

    it('are held byte by byte, without redirects, and withdrawn without grace', async () => {
      const { placements } = await show('ferries@sundrel');
      const file = placements.find(({ method }) => method === 'file')?.put;
      if (file?.kind !== 'file') throw new Error('no file');
      const upload = (content: string) =>
        stage.order({ do: 'file', host: 'www.saltmarsh-ferries.example', path: file.path, content });
      const check = async () =>
        (await stage.results(marit.check({ body: { enrolments: ['ferries@sundrel'], method: 'file' } })))[0]
          ?.check?.forecast;
      await upload(`${file.content}\n`);
      expect(await check()).toBe('refuse');
      await upload(file.content);
      expect(await check()).toBe('accept');
      const [claimed] = await stage.results(
        marit.claim({ body: { enrolments: ['ferries@sundrel'], method: 'file' } }),
      );
      expect(claimed?.claim?.verdict).toBe('confirmed');
      await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'files' });
      await stage.world.advance(3 * DAY + 3_600_000);
      await stage.results(marit.check({ body: { enrolments: ['ferries@sundrel'], method: 'file' } }));
      expect(await show('ferries@sundrel')).toMatchObject({
        badge: 'lost',
        ownership: { reason: 'file not found' },
      });
    });
  });

  describe('a manual engine', () => {
    const page = async (visit: object) => {
      const response = await fetch(`${stage.world.control.url}/orders`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ do: 'page', engine: 'brindle', visit: { target: TARGETS.tea, ...visit } }),
      });
      return ((await response.json()) as { says: string }).says;
    };
    const paste = (text: string, method?: 'meta' | 'file' | 'dns') =>
      marit.pasteToken({
        params: { enrolment: 'tea@brindle' },
        body: { text, ...(method ? { method } : {}) },
      });
    let shown = '';

    it('is enrolled here, and tells what to do there', async () => {
      const [enrolled] = await enrol(['tea'], ['brindle']);
      expect(enrolled?.says).toContain('paste the token that it shows');
      const [token] = await tokens('tea@brindle');
      expect(token?.problem?.code).toBe('by-hand');
      expect((await show('tea@brindle')).step).toMatchObject({ kind: 'get-token' });
      shown = await page({ ask: 'register' });
      expect(shown).toContain('<meta name="brindle-plank"');
    });

    it('reads the token out of what its page shows, whole or line by line', async () => {
      const lines = shown.split('\n').slice(1);
      for (const [at, method] of (['meta', 'file', 'dns'] as const).entries())
        expect((await paste(lines[at] ?? '')).items).toMatchObject([{ method, news: 'first' }]);
      expect((await paste(shown)).items).toMatchObject(
        (['meta', 'file', 'dns'] as const).map((method) => ({ method, news: 'same' })),
      );
      const { placements } = await show('tea@brindle');
      expect(placements.map(({ method, recordedBy }) => [method, recordedBy])).toEqual([
        ['meta', 'marit'],
        ['file', 'marit'],
        ['dns', 'marit'],
      ]);
    });

    it('says what it cannot read, and what an engine with a link would rather say itself', async () => {
      expect(await problem(paste('see attachment'))).toMatchObject({ code: 'not-read' });
      const linked = marit.pasteToken({
        params: { enrolment: 'clocks@ostrime' },
        body: { text: '0123456789abcdef0123456789abcdef', method: 'file' },
      });
      expect((await problem(linked)).detail).toContain('is another file token than the one it handed out');
    });

    it('is claimed by hand once our check sees the token, and not before', async () => {
      const claim = () =>
        stage.results(marit.claim({ body: { enrolments: ['tea@brindle'], method: 'meta' } }));
      expect((await claim())[0]?.problem?.code).toBe('forecast-refuses');
      await placeAll(stage, [await show('tea@brindle')]);
      const [ready] = await claim();
      expect(ready).toMatchObject({ stops: false });
      expect(ready?.says).toContain('then record what it said');
      expect(await page({ ask: 'claim', method: 'meta' })).toBe('Brindle: confirmed.');
    });

    it('has its verdicts recorded with who and when', async () => {
      const record = (body: Parameters<Client['recordVerdict']>[0]['body']) =>
        marit.recordVerdict({ params: { enrolment: 'tea@brindle' }, body });
      expect((await problem(record({ verdict: 'refused' }))).detail).toContain('Give the reason');
      expect((await problem(record({ verdict: 'withdrawn', reason: 'gone' }))).detail).toContain(
        'no badge to withdraw',
      );
      const future = new Date(stage.world.file.now().getTime() + DAY).toISOString();
      expect((await problem(record({ verdict: 'confirmed', at: future }))).detail).toContain('still to come');
      expect(await record({ verdict: 'refused', reason: 'try tomorrow' })).toMatchObject({
        badge: 'in-place',
        claim: { verdict: 'refused', reason: 'try tomorrow', recordedBy: 'marit' },
      });
      const at = stage.world.file.now().toISOString();
      expect(await record({ verdict: 'confirmed', method: 'meta', at })).toMatchObject({
        badge: 'held',
        badgeSince: at,
        ownership: { kind: 'confirmed', recordedBy: 'marit' },
      });
      const linked = marit.recordVerdict({
        params: { enrolment: 'clocks@ostrime' },
        body: { verdict: 'confirmed' },
      });
      expect((await problem(linked)).detail).toContain('not a manual engine');
    });

    it('is not held by a method that nobody meant, and a verdict by mistake goes with what followed', async () => {
      const record = (body: Parameters<Client['recordVerdict']>[0]['body']) =>
        marit.recordVerdict({ params: { enrolment: 'tea@brindle' }, body });
      const { badge } = await marit.takeBackVerdict({ params: { enrolment: 'tea@brindle' } });
      expect(badge).toBe('in-place');
      expect((await show('tea@brindle')).claim).toMatchObject({ verdict: 'refused' });
      // Nothing was placed by file: that is asked about, and can be recorded all the same.
      const token = (await show('tea@brindle')).placements[0]?.token ?? '';
      await marit.pasteToken({
        params: { enrolment: 'tea@brindle' },
        body: { text: `brindle-plank=${token}` },
      });
      expect((await problem(record({ verdict: 'confirmed', method: 'dns' }))).code).toBe('nothing-stands');
      const wrong = await record({ verdict: 'confirmed', method: 'dns', anyway: true });
      expect(wrong.ownership?.method).toBe('dns');
      await stage.world.advance(DAY);
      await stage.results(marit.check({ body: { enrolments: ['tea@brindle'] } }));
      expect((await show('tea@brindle')).badge).toBe('slipping');
      await marit.takeBackVerdict({ params: { enrolment: 'tea@brindle' } });
      // More than one stands: nobody guesses which of them it was.
      expect((await problem(record({ verdict: 'confirmed' }))).code).toBe('which-method');
      expect((await record({ verdict: 'confirmed', method: 'meta' })).badge).toBe('held');
    });

    it('is not given the token of another property unasked', async () => {
      const token = (await show('tea@brindle')).placements[0]?.token ?? '';
      const paste = (anyway?: boolean) =>
        marit.pasteToken({
          params: { enrolment: 'clocks@brindle' },
          body: { text: `<meta name="brindle-plank" content="${token}">`, ...(anyway ? { anyway } : {}) },
        });
      await stage.results(marit.enrol({ body: { properties: ['clocks'], engines: ['brindle'] } }));
      const asked = await problem(paste());
      expect(asked.code).toBe('token-of-another');
      expect(asked.detail).toContain('gave tea, not clocks@brindle');
    });

    it('has its counts recorded, compared with ours', async () => {
      const { id } = await marit.addSitemap({ body: { property: 'tea', address: 'sitemap.xml' } });
      const [submitted] = await stage.results(
        marit.submitSitemap({ body: { sitemap: id, enrolments: ['tea@brindle'] } }),
      );
      expect(submitted?.says).toContain('on Brindle’s own pages');
      await stage.results(marit.readSitemaps({ body: { sitemap: id } }));
      const [sitemap] = (await marit.listSitemaps({ query: { property: 'tea' } })).items;
      const submission = sitemap?.submissions[0]?.id ?? '';
      const record = (body: { found?: number; listed?: number; trouble?: string }) =>
        marit.recordReading({ params: { id: submission }, body });
      expect((await problem(record({ found: 3, listed: 9 }))).detail).toContain('no more than were found');
      expect((await record({ found: 29, listed: 20 })).submissions[0]).toMatchObject({
        counts: { state: 'apart', gap: 2 },
        engineReading: { found: 29, listed: 20, recordedBy: 'marit' },
      });
      expect((await record({ trouble: 'not reachable' })).submissions[0]?.engineReading).toMatchObject({
        trouble: 'not reachable',
        recordedBy: 'marit',
      });
    });

    it('has its badge withdrawn by hand', async () => {
      const lost = await marit.recordVerdict({
        params: { enrolment: 'tea@brindle' },
        body: { verdict: 'withdrawn', reason: 'plank gone' },
      });
      expect(lost).toMatchObject({ badge: 'lost', ownership: { reason: 'plank gone', recordedBy: 'marit' } });
    });
  });

  describe('accounts', () => {
    it('keep a key sealed, and tell it to nobody', async () => {
      const key = stage.world.keys['ostrime']?.['client'] ?? '';
      const added = await marit.addAccount({ body: { engine: 'ostrime', name: 'tea-own', key } });
      expect(added.key).toEqual({ from: 'sealed', variable: null, ready: true });
      const file = join(stage.folder, 'yardbadge.key');
      expect(statSync(file).mode & 0o777).toBe(0o600);
      const stored = readFileSync(join(stage.folder, 'yardbadge.sqlite')).toString('latin1');
      const journal = JSON.stringify(await marit.journal({ query: { limit: 500 } }));
      for (const text of [
        stored,
        journal,
        JSON.stringify(await marit.listAccounts()),
        readFileSync(file, 'utf8'),
      ])
        expect(text).not.toContain(key);
      await enrol(['tea'], ['ostrime'], { account: 'tea-own' });
      expect(
        stage.world.file.state.engines['ostrime']?.enrolments.find(({ target }) => target === TARGETS.tea)
          ?.account,
      ).toBe('client');
    });

    it('without a key are told as such, and stop nobody else', async () => {
      await marit.addAccount({ body: { engine: 'veldrane', name: 'keyless' } });
      const [none] = await enrol(['tea'], ['veldrane'], { account: 'keyless' });
      expect(none?.problem).toMatchObject({ code: 'no-engine-key' });
      await marit.editAccount({
        params: { account: 'veldrane/keyless' },
        body: { keyFrom: 'YARDBADGE_KEY_NOWHERE' },
      });
      const [unset] = await enrol(['tea'], ['veldrane'], { account: 'keyless' });
      expect(unset?.says).toContain('YARDBADGE_KEY_NOWHERE of the service, which is not set');
      await marit.editAccount({ params: { account: 'veldrane/keyless' }, body: { key: 'a-wrong-key' } });
      const [wrong] = await enrol(['tea'], ['veldrane'], { account: 'keyless' });
      expect(wrong).toMatchObject({ problem: { code: 'engine-refused' }, says: 'Veldrane: key not known' });
    });

    it('that were passed on take nothing new, until they are the agency’s again', async () => {
      const pass = (passedOnTo: string | null) =>
        marit.editAccount({ params: { account: 'ostrime/tea-own' }, body: { passedOnTo } });
      expect((await pass('tea')).passedOn?.to.handle).toBe('tea');
      const refused = marit.enrol({
        body: { properties: ['clocks'], engines: ['ostrime'], account: 'tea-own' },
      });
      expect((await problem(refused)).detail).toContain('passed on');
      const again = await enrol(['tea'], ['ostrime']);
      expect(again[0]?.says).toContain('enrolled already under another account');
      expect((await pass(null)).passedOn).toBeNull();
    });

    test.each([
      [{ engine: 'house', name: 'x', key: 'some-key' }, 'need no key'],
      [{ engine: 'ostrime', name: 'agency' }, 'already'],
      [{ engine: 'kelpwise', name: 'x' }, 'Ostrime’s results'],
      [{ engine: 'ostrime', name: 'x', key: 'k', keyFrom: 'V' }, 'key'],
    ])('%j is refused: %s', async (body, says) => {
      expect((await problem(marit.addAccount({ body }))).detail).toContain(says);
    });

    it('are changed by leads only, against the version that was seen', async () => {
      const { client } = await stage.person('jonas', 'consultant');
      expect(await problem(client.addAccount({ body: { engine: 'ostrime', name: 'y' } }))).toMatchObject({
        status: 403,
      });
      const edit = marit.editAccount(
        { params: { account: 'ostrime/tea-own' }, body: { name: 'tea-own-2' } },
        { ifMatch: 1 },
      );
      expect(await problem(edit)).toMatchObject({ code: 'changed-meanwhile' });
    });
  });

  describe('what is enrolled at an engine already', () => {
    const adopt = async (take: boolean) => {
      const [result] = await stage.results(marit.adopt({ body: { engine: 'veldrane', take } }));
      return Object.fromEntries((result?.met ?? []).map((one) => [one.target, one]));
    };
    beforeAll(async () => {
      const state = stage.world.file.state.engines['veldrane'];
      const at = stage.world.file.now().toISOString();
      const base = {
        account: 'agency',
        reach: 'address' as const,
        tokens: {},
        lastLook: at,
        missingSince: null,
        claims: {},
        sitemaps: [],
      };
      state?.enrolments.push(
        {
          ...base,
          id: 've-old',
          target: TARGETS.clocks,
          ownership: { state: 'held', since: at, method: 'meta' },
          tokens: { meta: { value: 'a'.repeat(24), expiresAt: null } },
          sitemaps: [
            {
              id: 's-old',
              address: '/sitemap.xml',
              url: `${TARGETS.clocks}sitemap.xml`,
              submittedAt: at,
              tries: 1,
              triedAt: at,
              readAt: at,
              found: 57,
              listed: 50,
              trouble: null,
            },
          ],
        },
        { ...base, id: 've-stray', target: 'https://strangers.example/', ownership: { state: 'none' } },
      );
    });

    it('is shown beside ours, and nothing is changed by looking', async () => {
      const met = await adopt(false);
      expect(met[TARGETS.clocks]).toMatchObject({
        state: 'new',
        ownership: 'held',
        property: { handle: 'clocks' },
      });
      expect(met['https://strangers.example/']).toMatchObject({ state: 'no-property' });
      expect(met[TARGETS.ferries]).toMatchObject({ state: 'known' });
      expect(await problem(show('clocks@veldrane'))).toMatchObject({ code: 'no-such-enrolment' });
    });

    it('is taken over with ownership, tokens and sitemaps, and known from then on', async () => {
      expect((await adopt(true))[TARGETS.clocks]).toMatchObject({ state: 'taken-over' });
      const clocks = await show('clocks@veldrane');
      expect(clocks).toMatchObject({ badge: 'held', ref: 've-old' });
      expect(clocks.placements.find(({ method }) => method === 'meta')?.token).toBe('a'.repeat(24));
      const [sitemap] = (await marit.listSitemaps({ query: { property: 'clocks' } })).items;
      expect(sitemap?.submissions.map(({ enrolmentName, sentAs }) => [enrolmentName, sentAs])).toEqual([
        ['clocks@veldrane:address', '/sitemap.xml'],
      ]);
      expect((await adopt(true))[TARGETS.clocks]).toMatchObject({ state: 'known' });
    });

    it('tells what differs, and what is missing there, and writes over nothing', async () => {
      const state = stage.world.file.state.engines['veldrane'];
      const ferries = state?.enrolments.find(({ target }) => target === TARGETS.ferries);
      if (!state || !ferries) throw new Error('no ferries at Veldrane');
      ferries.ownership = { state: 'held', since: stage.world.file.now().toISOString(), method: 'dns' };
      const met = await adopt(true);
      expect(met[TARGETS.ferries]).toMatchObject({
        state: 'differs',
        says: 'The engine says held, our record bare.',
      });
      expect((await show('ferries@veldrane')).badge).toBe('bare');
      state.enrolments = state.enrolments.filter((one) => one !== ferries);
      expect((await adopt(true))[TARGETS.ferries]).toMatchObject({ state: 'missing' });
    });

    it('cannot be looked for where there is no link', async () => {
      const [byHand] = await stage.results(marit.adopt({ body: { engine: 'brindle' } }));
      expect(byHand?.problem?.code).toBe('by-hand');
    });
  });

  it('ends an enrolment at the engine, and keeps its records', async () => {
    await stage.results(marit.endEnrolment({ params: { enrolment: 'clocks@veldrane' } }));
    expect(stage.world.file.state.engines['veldrane']?.enrolments.some(({ id }) => id === 've-old')).toBe(
      false,
    );
    expect(await problem(show('clocks@veldrane'))).toMatchObject({ code: 'no-such-enrolment' });
    const { items } = await marit.journal({ query: { property: 'clocks' } });
    expect(items[0]).toMatchObject({ kind: 'enrolment.ended', who: 'marit' });
  });

  const PLAIN_PROFILE =
    'id: gull\ntitle: Gull\nworked: { how: link, base: "http://HOST/" }\nreaches: [address]\ntoken: { per: enrolment }\nmethods: { meta: { name: gull } }\n';

  it('profiles of ten thousand keys are told by the first faults alone', async () => {
    const keys = Array.from({ length: 8_000 }, (_, at) => `k${String(at)}: 1`).join('\n');
    const refused = await problem(marit.addEngine({ body: { profile: keys, file: 'gull.yaml' } }));
    expect(refused).toMatchObject({ code: 'bad-profile' });
    expect(JSON.stringify(refused).length).toBeLessThan(20_000);
  });

  describe('profiles that are added', () => {
    const add = (profile: string, replace = false) =>
      marit.addEngine({ body: { profile, file: 'gull.yaml', ...(replace ? { replace } : {}) } });
    test.each([
      ['id: [', 'gull.yaml: line 1, column'],
      ['title: Gull\n', 'gull.yaml: “id” is missing'],
      [
        'id: gull\ntitle: Gull\nworked: { how: pigeon }\n',
        'gull.yaml: “pigeon” does not fit “worked.how”; expected',
      ],
      [
        'id: gull\ntitle: Gull\nworked: { how: hand, base: "http://x.example/" }\n',
        '“worked.base” is nothing that is asked for here',
      ],
      ['id: gull\ntitle: Gull\nworked: { how: link, base: "http://x.example" }\n', 'worked.base'],
      [
        'id: gull\ntitle: Gull\nworked: { how: borrowed, from: nobody }\n',
        'gull.yaml: worked.from: there is no engine “nobody”',
      ],
      [
        'id: gull\ntitle: Gull\nworked: { how: borrowed, from: kelpwise }\n',
        'shows another engine’s results itself',
      ],
      [
        'id: gull\ntitle: Gull\nworked: { how: borrowed, from: ostrime }\nreaches: [address]\n',
        'gull.yaml: “reaches” is nothing that is asked for here',
      ],
      [
        'id: house\ntitle: Second\nworked: { how: hand }\nreaches: [address]\ntoken: { per: enrolment }\nmethods: { meta: { name: x } }\n',
        'there is only one',
      ],
      [
        'id: ostrime\ntitle: Gull\nworked: { how: borrowed, from: veldrane }\n',
        'gull.yaml: id: “ostrime” is taken',
      ],
      ['a: &a [x]\nb: *a\n', 'gull.yaml'],
      [
        PLAIN_PROFILE.replace('HOST', 'link.gull.test'),
        'worked.base: link.gull.test is spoken to without TLS (http:)',
      ],
    ])('%j is refused with file and key: %s', async (profile, says) => {
      const refused = await problem(add(profile));
      expect(refused).toMatchObject({ code: 'bad-profile', status: 400 });
      expect(refused.detail).toContain(says);
    });

    it('are kept with the others, replaced only when told to, and never so that enrolments become impossible', async () => {
      const gull = 'id: gull\ntitle: Gull\nworked: { how: borrowed, from: ostrime }\n';
      expect(await add(gull)).toMatchObject({ id: 'gull', from: { id: 'ostrime' } });
      expect(readFileSync(join(stage.folder, 'engines', 'gull.yaml'), 'utf8')).toBe(gull);
      expect((await problem(add(gull))).detail).toContain('taken');
      expect(await add(gull.replace('Gull', 'Herring Gull'), true)).toMatchObject({ title: 'Herring Gull' });
      const brindle = readFileSync(join(stage.folder, 'engines', 'brindle.yaml'), 'utf8');
      const byName = brindle
        .replace('reaches: [address]', 'reaches: [name]')
        .replace('reaches: [address] }', 'reaches: [name] }');
      expect((await problem(add(byName, true))).detail).toContain('properties are enrolled by address');
      expect((await marit.listEngines()).items.map(({ id }) => id)).toContain('gull');
    });

    it('are for leads to add', async () => {
      const { client } = await stage.person('odile', 'onlooker');
      expect(await problem(client.addEngine({ body: { profile: 'id: x' } }))).toMatchObject({ status: 403 });
    });
  });
});

it('a key file that others can read is refused, and so is another one than sealed with', async () => {
  const { Vault } = await import('../../src/engines/vault.js');
  const { mkdtempSync, chmodSync, rmSync } = await import('node:fs');
  const { tmpdir } = await import('node:os');
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-vault-'));
  const file = join(folder, 'key');
  const vault = new Vault(file);
  const base = 'https://link.veldrane.example';
  const sealed = vault.seal('hawser', 'account-1', base);
  expect(vault.seal('hawser', 'account-1', base)).not.toBe(sealed);
  expect(new Vault(file).open(sealed, 'account-1', base)).toBe('hawser');
  expect(() => new Vault(file).open(sealed, 'account-2', base)).toThrow('cannot be opened');
  expect(() => new Vault(file).open(sealed, 'account-1', 'https://elsewhere.example')).toThrow(
    'sealed for another address',
  );
  expect(() => new Vault(file).open(sealed.slice(0, -2), 'account-1', base)).toThrow('cannot be opened');
  expect(() => new Vault(file).open('plain', 'account-1', base)).toThrow('another version');
  expect(() => new Vault(join(folder, 'none')).open(sealed, 'account-1', base)).toThrow('is not there');
  chmodSync(file, 0o640);
  expect(() => new Vault(file).open(sealed, 'account-1', base)).toThrow('mode 640');
  writeFileSync(file, 'c2hvcnQ', { mode: 0o600 });
  chmodSync(file, 0o600);
  expect(() => new Vault(file).open(sealed, 'account-1', base)).toThrow('must hold 32 bytes');
  rmSync(folder, { recursive: true });
});
