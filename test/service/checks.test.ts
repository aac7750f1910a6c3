import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Check, CheckWithEvidence, Method, Placement } from '../../src/api/documents.js';
import type { Client } from '../../src/client/client.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const ZONE = 'saltmarsh-ferries.example';

describe('a check, through the service', () => {
  let stage: Stage;
  let marit: Client;

  const placement = async (enrolment: string, method: Method): Promise<Placement> => {
    const { placements } = await marit.showEnrolment({ params: { enrolment } });
    const found = placements.find((one) => one.method === method);
    if (!found) throw new Error(`${enrolment} has no ${method}`);
    return found;
  };
  const check = async (enrolment: string, method: Method): Promise<Check> => {
    const [result] = await stage.results(marit.check({ body: { enrolments: [enrolment], method } }));
    if (!result?.check) throw new Error(result?.says);
    return result.check;
  };
  const seen = async (enrolment: string, method: Method): Promise<CheckWithEvidence> => {
    await check(enrolment, method);
    const found = (await placement(enrolment, method)).check;
    if (!found) throw new Error('not checked');
    return found;
  };
  const takeOn = async (address: string, handle: string): Promise<void> => {
    const { job } = await marit.addProperty({ body: { client: 'harbour', address, handle } });
    await marit.finished({ id: job });
    const engines = ['veldrane', 'ostrime'];
    await stage.results(marit.enrol({ body: { properties: [handle], engines } }));
    await stage.results(marit.getTokens({ body: { enrolments: [handle] } }));
  };

  beforeAll(async () => {
    stage = await openStage();
    marit = stage.marit;
    await marit.addClient({ body: { name: 'Harbour', handle: 'harbour' } });
    await takeOn('saltmarsh-ferries.example', 'ferries');
    await takeOn('tidewell-clocks.example', 'clocks');
  });
  afterAll(() => stage.close());

  it('knows another property’s token, and another engine’s, and the one before', async () => {
    const own = await placement('ferries@veldrane', 'meta');
    const clocks = await placement('clocks@veldrane', 'meta');
    const other = await placement('ferries@ostrime', 'meta');
    const place = async (value: string) => {
      await stage.order({ do: 'clear', host: HOST, what: 'meta' });
      await stage.order({ do: 'meta', host: HOST, tag: `<meta name="veldrane-mooring" content="${value}">` });
      return (await check('ferries@veldrane', 'meta')).findings[0];
    };
    expect(await place(clocks.token)).toMatchObject({
      code: 'meta.other-token',
      evidence: { otherSite: 'clocks', owner: 'Veldrane’s meta token for another site' },
    });
    expect(await place(other.token)).toMatchObject({
      code: 'meta.other-token',
      evidence: { owner: 'Ostrime’s meta token for the same site' },
    });
    await stage.order({
      do: 'engine-renews',
      engine: 'veldrane',
      target: `https://${HOST}/`,
      method: 'meta',
    });
    await stage.results(marit.getTokens({ body: { enrolments: ['ferries@veldrane'], method: 'meta' } }));
    const today = stage.world.file.now().toISOString().slice(0, 10);
    expect(await place(own.token)).toMatchObject({
      code: 'meta.replaced-token',
      evidence: { owner: `the token that Veldrane replaced on ${today}` },
    });
  });

  it('keeps the evidence: the way, the certificate, the lines around the find, what should stand beside what stands', async () => {
    const { put } = await placement('ferries@veldrane', 'meta');
    if (put.kind !== 'meta') throw new Error('no tag');
    await stage.order({ do: 'clear', host: HOST, what: 'meta' });
    await stage.order({
      do: 'meta',
      host: HOST,
      tag: put.tag.replace(put.content, `${put.content.slice(0, 10)}`),
    });
    const { seenThere, marked, findings, tried } = await seen('ferries@veldrane', 'meta');
    expect(findings[0]).toMatchObject({ code: 'meta.cut', follows: null });
    expect(tried).toBe(true);
    expect(seenThere).toMatchObject({
      kind: 'page',
      hops: [{ status: 200, certificate: { issuer: 'Rehearsal Authority, Harbour Rehearsal' } }],
      fresh: { hops: [{ status: 200 }] },
      elsewhere: [{ url: `https://${ZONE}/`, kind: 'other-variant', status: 200 }],
    });
    if (seenThere?.kind !== 'page') throw new Error('no page');
    const { line, lines } = seenThere.around ?? { line: 0, lines: [] };
    expect(lines.find(({ number }) => number === line)?.text).toContain('<meta name="veldrane-mooring"');
    expect(marked?.stands).toEqual([{ text: put.content.slice(0, 10), same: true }]);
    expect(marked?.should.at(-1)).toEqual({ text: put.content.slice(10), same: false });
  });

  it('tells a cached copy from the page behind it, and until when it is kept', async () => {
    const wanted = await placement('ferries@veldrane', 'meta');
    await stage.order({ do: 'clear', host: HOST, what: 'meta' });
    await stage.order({ do: 'odd', host: HOST, keepMs: 7_200_000 });
    await stage.order(orderFor(wanted));
    const stale = await check('ferries@veldrane', 'meta');
    expect(stale.findings.map(({ code, follows }) => [code, follows])).toEqual([
      ['meta.stale-copy', null],
      ['meta.absent', 'meta.stale-copy'],
    ]);
    const wait = Date.parse(stale.visibleAt ?? '') - Date.parse(stale.checkedAt);
    expect(Math.abs(wait - 7_200_000)).toBeLessThan(5_000);
    // Looking again later does not move it on, and when the copy is gone all is well.
    await stage.world.advance(3_600_000);
    const again = await check('ferries@veldrane', 'meta');
    expect(Math.abs(Date.parse(again.visibleAt ?? '') - Date.parse(stale.visibleAt ?? ''))).toBeLessThan(
      5_000,
    );
    await stage.world.advance(3_700_000);
    expect(await check('ferries@veldrane', 'meta')).toMatchObject({ forecast: 'accept', visibleAt: null });
    await stage.order({ do: 'odd', host: HOST, none: true });
  });

  it('finds a record that was put at the host that was left, by what an earlier look knew', async () => {
    await stage.results(
      marit.enrol({ body: { properties: ['ferries'], engines: ['veldrane'], reach: 'name' } }),
    );
    await stage.results(marit.getTokens({ body: { enrolments: ['ferries@veldrane:name'] } }));
    const { put } = await placement('ferries@veldrane:name', 'dns');
    if (put.kind !== 'dns') throw new Error('no record');
    await stage.order({ do: 'odd-name', name: ZONE, attic: put.value });
    const { findings, seenThere } = await seen('ferries@veldrane:name', 'dns');
    expect(findings.map(({ code, follows }) => [code, follows])).toEqual([
      ['dns.wrong-host', null],
      ['dns.absent', 'dns.wrong-host'],
    ]);
    expect(findings[0]?.remedy).toContain('ns1.harbour-names.example');
    if (seenThere?.kind !== 'dns') throw new Error('no names');
    expect(seenThere.servers.map(({ name, role }) => `${role} ${name}`)).toEqual([
      'delegated ns1.harbour-names.example',
      'delegated ns2.harbour-names.example',
      'self-named ns1.attic-hosting.example',
    ]);
    await stage.order({ do: 'odd-name', name: ZONE, none: true });
  });

  it('is not claimed against, unless somebody insists, and the engine says what was forecast', async () => {
    const [spared] = await stage.results(marit.claim({ body: { enrolments: ['ferries@veldrane:name'] } }));
    expect(spared?.problem?.code).toBe('forecast-refuses');
    const [insisted] = await stage.results(
      marit.claim({ body: { enrolments: ['ferries@veldrane:name'], anyway: true } }),
    );
    expect(insisted?.claim).toMatchObject({ verdict: 'refused', reason: 'record not found' });
  });

  it('is claimed all that is forecast accept, by the method that stands', async () => {
    const file = await placement('clocks@ostrime', 'file');
    await stage.order(orderFor(file));
    await stage.results(marit.check({ body: { enrolments: ['clocks'] } }));
    const results = await stage.results(marit.claim({ body: { ready: true } }));
    expect(results.map(({ enrolment, claim }) => [enrolment, claim?.method, claim?.verdict])).toEqual(
      expect.arrayContaining([['clocks@ostrime:address', 'file', 'confirmed']]) as unknown[],
    );
    expect(results.some(({ claim }) => claim?.verdict === 'refused')).toBe(false);
  });

  it('does not search a client’s server for a file that nobody needs', async () => {
    await check('clocks@ostrime', 'file');
    const { seenThere } = await seen('clocks@ostrime', 'meta');
    expect(seenThere).toMatchObject({ kind: 'page', elsewhere: [] });
    const other = await seen('clocks@veldrane', 'file');
    expect(other.seenThere?.kind === 'page' && other.seenThere.elsewhere.length).toBeGreaterThan(3);
  });

  it('advises on the method by what the client’s people can get at, told once', async () => {
    const best = async () => {
      const { items } = await marit.advice({ params: { enrolment: 'clocks@veldrane' } });
      return [items[0]?.methods[0]?.method, items[0]?.unknown.join(' ')];
    };
    expect(await best()).toEqual(['dns', 'pages files zone']);
    await marit.editProperty({
      params: { property: 'clocks' },
      body: { access: { zone: 'no', pages: 'yes' } },
    });
    expect(await best()).toEqual(['meta', 'files']);
    const { access } = await marit.showProperty({ params: { property: 'clocks' } });
    expect(access).toEqual({ zone: 'no', pages: 'yes' });
    const { items } = await marit.journal({ query: { property: 'clocks' } });
    expect(items.map(({ says }) => says)).toContain('Told of clocks: zone no, pages yes.');
  });
});
