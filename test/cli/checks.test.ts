import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Check, Placement } from '../../src/api/documents.js';
import { cliAt, PROGRAM } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const ZONE = 'saltmarsh-ferries.example';

describe('looking at placements from the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
  const cli = cliAt(() => stage, home);
  const put = async <Kind extends Placement['put']['kind']>(enrolment: string, kind: Kind) => {
    const { placements } = await stage.marit.showEnrolment({ params: { enrolment } });
    const found = placements.find((one) => one.put.kind === kind)?.put;
    if (!found) throw new Error(`no ${kind}`);
    return found as Extract<Placement['put'], { kind: Kind }>;
  };
  const order = async (...args: string[]) => {
    const ran = await cli('rehearsal', ...args);
    expect(ran).toMatchObject({ status: 0 });
  };

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  it('tells the cause, the sentence to send, and what merely follows', async () => {
    const { value } = await put('ferries@veldrane:name', 'dns');
    await order('txt', `${ZONE}.${ZONE}`, value);
    const { out, status } = await cli('check', 'ferries@veldrane:name');
    expect(status).toBe(1);
    expect(out.split('\n').slice(0, 4)).toEqual([
      '✗ refuse  ferries@veldrane:name by dns',
      `    The record stands at ${ZONE}.${ZONE}: the panel put the zone’s name behind a name that had it already.`,
      `    → Please enter the TXT record in the zone ${ZONE} once more, with the name @ alone: the panel adds the rest by itself. Value: ${value}. (The one at ${ZONE}.${ZONE} does no harm.)`,
      `      so also: No TXT record at ${ZONE} is ours (others there: 1).`,
    ]);
  });

  it('explains with every server’s own answer, and until when to wait', async () => {
    const { value } = await put('ferries@veldrane:name', 'dns');
    await order('odd-name', ZONE, '--remember', '3h');
    await order('txt', ZONE, value);
    const { out } = await cli('check', 'ferries@veldrane:name', '--explain');
    expect(out).toContain('still remembers the old answer, until 2033-05-18 12:00 UTC');
    expect(out).toMatch(/wait until \d{4}-\d\d-\d\d \d\d:\d\d UTC, then check again/);
    expect(out).toMatch(/ns1\.harbour-names\.example +192\.0\.2\.53 +NOERROR +2026112401/);
    await order('odd-name', ZONE, '--none');
    expect((await cli('check', 'ferries@veldrane:name')).out).toContain('✓ accept');
  });

  it('shows what should stand beside what stands, the way, and the lines around it', async () => {
    const { content, name } = await put('ferries@veldrane:address', 'meta');
    await order('meta', HOST, `<meta name="${name}" content="“${content}”">`);
    const { out } = await cli('check', 'ferries@veldrane:address', '--method', 'meta', '--explain');
    expect(out).toContain(`should  ${content}`);
    expect(out).toContain(`stands  ⟦“⟧${content}⟦”⟧`);
    expect(out).toMatch(/1\. https:\/\/www\.saltmarsh-ferries\.example\/ \[192\.0\.2\.10\] 200/);
    expect(out).toMatch(/certificate for .*, by Rehearsal Authority/);
    expect(out).toMatch(/6 │ <meta name="veldrane-mooring"/);
  });

  it('keeps short what nobody tried, and prints all of it as documents', async () => {
    const { out } = await cli('check', 'ferries@veldrane:address');
    expect(out).toContain('· spare   ferries@veldrane:address by file: not placed\n');
    const { checks } = JSON.parse((await cli('check', 'ferries@veldrane:address', '--json')).out) as {
      checks: Check[];
    };
    expect(checks.map(({ method, tried }) => [method, tried])).toEqual([
      ['meta', true],
      ['file', false],
      ['dns', false],
    ]);
    expect(checks[0]?.findings[0]).toMatchObject({ code: 'meta.quotes', grade: 'stops', follows: null });
  });

  it('tells a website that is odd in each of the ways', async () => {
    const first = async () =>
      (await cli('check', 'ferries@veldrane:address', '--method', 'meta')).out.split('\n')[1]?.trim();
    await order('odd', HOST, '--certificate', 'other-name');
    expect(await first()).toBe(`The certificate shown for ${HOST} is for parking.harbour-hosting.example.`);
    await order('odd', HOST, '--none');
    await order('odd', HOST, '--wall');
    expect(await first()).toContain('answers 403 to us and 200 to a browser');
    await order('odd', HOST, '--none');
    await order('odd', HOST, '--answer', '/', '--status', '302', '--location', 'https://elsewhere.example/');
    expect(await first()).toContain('another domain, where the engine does not follow');
    await order('odd', HOST, '--none');
  });

  it('says nothing more when its reader has seen enough', async () => {
    const env = { ...process.env, YARDBADGE_URL: stage.url, YARDBADGE_KEY: stage.key };
    const line = `"${process.execPath}" "${PROGRAM}" check ferries --explain --json | true`;
    const shell = spawn('sh', ['-c', line], { env, stdio: ['ignore', 'ignore', 'pipe'] });
    let said = '';
    shell.stderr.on('data', (piece: Buffer) => {
      said += piece.toString();
    });
    await new Promise((done) => shell.once('close', done));
    expect(said).toBe('');
  });

  it('asks nobody where nobody is there, and claims against no forecast', async () => {
    const { out, status } = await cli('claim', 'ferries@veldrane:address', '--method', 'meta');
    expect(status).toBe(1);
    expect(out).toContain('--anyway claims all the same.');
    expect(stage.world.file.state.engines['veldrane']?.claimsJudged).toEqual([]);
  });

  it('advises on the method, and asks for what is not known', async () => {
    const before = await cli('advice', 'ferries@veldrane:address');
    expect(before.out).toMatch(/★ best +dns[\s\S]*· works +file[\s\S]*· works +meta/);
    expect(before.out).toContain('property edit ferries --pages yes|no --files yes|no --zone yes|no');
    expect(await cli('property', 'edit', 'ferries', '--zone', 'perhaps')).toMatchObject({ status: 2 });
    expect(await cli('property', 'edit', 'ferries', '--zone', 'no')).toMatchObject({ status: 0 });
    expect((await cli('advice', 'ferries@veldrane:address')).out).toContain(
      'Nobody at the client can get at the DNS zone.',
    );
  });
});
