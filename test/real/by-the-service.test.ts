import { execFileSync, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { parse } from 'yaml';
import type { NewTarget } from '../../src/api/publishing/document.js';
import { Authority } from '../../src/rehearsal/authority.js';
import { SERVERS, SITE_ADDRESS } from '../../src/rehearsal/scenario.js';
import { machineClock } from '../../src/net/time/machine-clock.js';
import { removed } from '../support/removed.js';
import { openStage, registerByHand, type Stage } from '../support/stage.js';
import {
  FILE_PASSWORD,
  FILE_USER,
  serveFtps,
  serveSftp,
  serveWebDav,
  serveZone,
  sshKeys,
} from './file-servers.js';
import { freePort, program, Programs } from './programs.js';

const ZONE = 'saltmarsh-ferries.example';
const HOST = `www.${ZONE}`;
const params = { property: 'ferries' };
const KEY = { name: 'yard', secret: Buffer.from('lantern-at-the-quay-lantern-at-the-quay') };
const REACHES = ['address', 'name'] as const;

/**
 * The whole way through the service, with servers that others wrote in the place of the rehearsal's: a zone at Knot behind Unbound,
 * web roots behind ProFTPD, nginx and OpenSSH. What is put there is looked at by the service's own checks.
 */
describe('through the service, to real servers', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-by-service-'));
  const keys = join(folder, 'ssh');
  const programs = new Programs();
  const ports = { zone: 0, resolver: 0, control: 0, sftp: 0, ftps: 0, webdav: 0 };
  let stage: Stage;
  let root: string;
  let ssh: ReturnType<typeof serveSftp>;

  const enrolments = async () => (await stage.marit.listEnrolments({ query: params })).items;
  const zoneIsFound = () =>
    vi.waitFor(
      () => {
        const args = ['+short', '-p', String(ports.resolver), '@127.0.0.1', 'NS', ZONE];
        expect(execFileSync(program('dig'), args).toString()).toContain('ns1.');
      },
      { timeout: 30_000, interval: 200 },
    );

  /** How the service reaches what stands here: the zone at both of its name servers, each port of a host at the same of this machine. */
  const inWorld = (config: string) => {
    const { net } = parse(config) as { net: { resolver: string; connect: { from: string; to: string }[] } };
    const [, port = ''] = net.resolver.split(':');
    writeFileSync(
      join(folder, 'unbound.conf'),
      `server:\n  interface: 127.0.0.1\n  port: ${String(ports.resolver)}\n  do-daemonize: no\n  username: ""\n  chroot: ""\n  directory: "${folder}"\n  pidfile: "${folder}/unbound.pid"\n  use-syslog: no\n  do-not-query-localhost: no\n  module-config: "iterator"\n  local-zone: "example." nodefault\nremote-control:\n  control-enable: yes\n  control-use-cert: no\n  control-interface: 127.0.0.1\n  control-port: ${String(ports.control)}\nstub-zone:\n  name: "${ZONE}"\n  stub-addr: 127.0.0.1@${String(ports.zone)}\nforward-zone:\n  name: "."\n  forward-addr: 127.0.0.1@${port}\n`,
    );
    const here = (from: string, to: number) => ({ from, to: `127.0.0.1:${String(to)}` });
    const connect = [
      here(`${SERVERS.ns1.address}:53`, ports.zone),
      here(`${SERVERS.ns2.address}:53`, ports.zone),
      ...[ports.sftp, ports.ftps, ports.webdav].map((own) => here(`*:${String(own)}`, own)),
      ...net.connect,
    ];
    return {
      'net.resolver': `127.0.0.1:${String(ports.resolver)}`,
      'net.connect': JSON.stringify(connect),
    };
  };

  beforeAll(async () => {
    for (const name of Object.keys(ports) as (keyof typeof ports)[]) ports[name] = await freePort();
    const { ns1, ns2 } = SERVERS;
    serveZone(programs, join(folder, 'knot'), ports.zone, {
      name: ZONE,
      // Nothing is remembered of what was not there: who looks again sees it.
      records: `@ SOA ${ns1.name}. hostmaster 1 7200 600 86400 0\n@ NS ${ns1.name}.\n@ NS ${ns2.name}.\n@ A ${SITE_ADDRESS}\nwww A ${SITE_ADDRESS}`,
      key: KEY.name,
      secret: KEY.secret,
    });
    stage = await openStage({}, [], inWorld);
    programs.start('unbound', '-c', join(folder, 'unbound.conf'));
    await zoneIsFound();
    root = join(stage.folder, 'web/ferries');
    mkdirSync(root, { recursive: true });
    await stage.order({ do: 'web-root', host: HOST, folder: root });
    const authority = await Authority.open(folder, machineClock);
    for (const way of ['ftps', 'webdav'] as const) {
      const home = join(folder, way);
      mkdirSync(home);
      const { cert, key } = await authority.issue([HOST], 'self-signed');
      writeFileSync(join(home, 'cert.pem'), cert);
      writeFileSync(join(home, 'key.pem'), key, { mode: 0o600 });
      (way === 'ftps' ? serveFtps : serveWebDav)(programs, home, ports[way], root);
    }
    mkdirSync(keys);
    sshKeys(keys, ['one', 'other', 'login']);
    ssh = serveSftp(programs, keys, ports.sftp, { hostKey: 'one', login: 'login' });
    const { marit } = stage;
    await marit.addClient({ body: { name: 'Saltmarsh Ferry Line', handle: 'saltmarsh' } });
    const { job } = await marit.addProperty({
      body: { client: 'saltmarsh', address: HOST, handle: 'ferries' },
    });
    await marit.finished({ id: job });
    for (const reach of REACHES)
      for (const engine of ['house', 'veldrane', 'ostrime', 'sundrel', 'brindle'])
        // Not every engine has every reach.
        await stage
          .results(marit.enrol({ body: { properties: ['ferries'], engines: [engine], reach } }))
          .catch(() => []);
    await stage.results(marit.getTokens({ body: { enrolments: ['ferries'] } }));
    await registerByHand(stage, 'ferries', 'brindle');
    await stage.order({ do: 'pages', host: HOST, count: 12 });
    await stage.results(marit.makeSitemap({ params, body: {} }));
  });
  afterAll(async () => {
    await stage.close();
    await programs.stop();
    await removed(folder);
  });

  afterEach(async () => {
    for (const { id } of (await stage.marit.listTargets({ params })).items)
      await stage.marit.endTarget({ params: { target: id } });
  });

  /** Looks at every placement of one method. @returns what each forecast is, by enrolment */
  const forecasts = async (method: 'dns' | 'file') => {
    const asked = (await enrolments()).filter(({ placements }) =>
      placements.some((one) => one.method === method),
    );
    await stage.results(stage.marit.check({ body: { enrolments: asked.map(({ name }) => name), method } }));
    return (await enrolments()).flatMap(({ placements }) =>
      placements.filter((one) => one.method === method).map(({ check }) => check?.forecast),
    );
  };
  const publish = async (body: { plan?: boolean; takeAway?: boolean } = {}) => {
    const [result] = await stage.results(stage.marit.publish({ params, body }));
    return result;
  };
  const nsupdate = (script: string) => {
    const input = `server 127.0.0.1 ${String(ports.zone)}\n${script}\n`;
    const signed = `hmac-sha256:${KEY.name}:${KEY.secret.toString('base64')}`;
    const told = spawnSync(program('nsupdate'), ['-y', signed], { input, encoding: 'utf8' });
    expect([told.status, told.stderr]).toEqual([0, '']);
  };
  const acts = (result: Awaited<ReturnType<typeof publish>>) =>
    result?.publication?.steps.map(({ act, done }) => `${act}${done ? ' done' : ''}`) ?? [];

  const fileServer = (way: 'sftp' | 'ftps' | 'webdav'): NewTarget => ({
    way,
    host: HOST,
    port: ports[way],
    root: way === 'webdav' ? '/' : root,
    ...(way === 'sftp'
      ? { user: userInfo().username, secret: readFileSync(join(keys, 'login'), 'utf8') }
      : { user: FILE_USER, secret: FILE_PASSWORD }),
  });

  it('a sheet’s script for nsupdate puts every record of every engine and reach where a check finds it at the first look', async () => {
    await stage.marit.editProperty({
      params,
      body: { access: { zone: 'yes', files: 'no', pages: 'no' } },
    });
    const { markdown } = await stage.marit.showSheet({ query: params });
    const [, script = ''] = /nsupdate[^]*?```\n([^]*?)\n```/u.exec(markdown) ?? [];
    expect(script).toContain(`zone ${ZONE}`);
    nsupdate(script);
    const seen = await forecasts('dns');
    expect(seen.length).toBeGreaterThan(3);
    expect(new Set(seen)).toEqual(new Set(['accept']));
    expect((await stage.marit.showSheet({ query: params })).open).toBe(0);
  });

  it('records are published by signed updates, and found by the checks at the first look', async () => {
    await stage.marit.addTarget({
      params,
      body: {
        way: 'dns',
        host: SERVERS.ns1.name,
        // As zone files write it.
        zone: `${ZONE.toUpperCase()}.`,
        keyName: KEY.name,
        secret: KEY.secret.toString('base64'),
      },
    });
    // Those of the sheet stand there already.
    expect(new Set(acts(await publish()))).toEqual(new Set(['leave']));
    const names = (await enrolments()).flatMap(({ placements }) =>
      placements.flatMap((one) => (one.method === 'dns' ? [one.place] : [])),
    );
    nsupdate(
      [
        `zone ${ZONE}`,
        ...names.map((name) => `update delete ${name} TXT`),
        `update add ${ZONE} 90 TXT "of somebody else"`,
        'send',
      ].join('\n'),
    );
    const put = await publish();
    expect(new Set(acts(put))).toEqual(new Set(['put done']));
    expect(put?.stops).toBe(false);
    expect(new Set(await forecasts('dns'))).toEqual(new Set(['accept']));
    const said = execFileSync(program('dig'), [
      '@127.0.0.1',
      '-p',
      String(ports.zone),
      '+noall',
      '+answer',
      ZONE,
      'TXT',
    ]);
    const ttls = said
      .toString()
      .trim()
      .split('\n')
      .map((line) => line.split(/\s+/u)[1]);
    expect([ttls.length > 1, new Set(ttls)]).toEqual([true, new Set(['90'])]);
  });

  describe.each(['sftp', 'ftps', 'webdav'] as const)('by %s', (way) => {
    const clear = () => {
      for (const name of readdirSync(root)) rmSync(join(root, name), { recursive: true });
    };

    it('files and a sitemap are shown first, published, found by the checks at the first look, replaced and taken away', async () => {
      clear();
      await stage.marit.editRecipe({ params, body: { exclude: [], gzip: false, mostFall: 100 } });
      await stage.marit.writeSitemap({ params, body: {} });
      const { id } = await stage.marit.addTarget({ params, body: fileServer(way) });
      const planned = await publish({ plan: true });
      expect(acts(planned).length).toBeGreaterThan(2);
      expect(new Set(acts(planned))).toEqual(new Set(['put']));
      expect(readdirSync(root)).toEqual([]);
      const done = await publish();
      expect(new Set(acts(done))).toEqual(new Set(['put done']));
      expect(done).toMatchObject({ stops: false });
      expect(new Set(await forecasts('file'))).toEqual(new Set(['accept']));
      expect(new Set(acts(await publish()))).toEqual(new Set(['leave']));
      const { items } = await stage.marit.listTargets({ params });
      expect(items.find((one) => one.id === id)?.pin).toMatch(/^SHA256:/u);
      const made = readFileSync(join(root, 'sitemap.xml'), 'utf8');
      await stage.marit.editRecipe({ params, body: { exclude: ['/tides/*'] } });
      await stage.marit.writeSitemap({ params, body: {} });
      expect(acts(await publish())).toContain('replace done');
      expect(readFileSync(join(root, 'sitemap.xml'), 'utf8')).not.toBe(made);
      await stage.marit.editRecipe({ params, body: { exclude: [], gzip: true } });
      await stage.marit.writeSitemap({ params, body: {} });
      expect(acts(await publish({ takeAway: true }))).toEqual(
        expect.arrayContaining(['put done', 'take-away done']),
      );
      expect(existsSync(join(root, 'sitemap.xml'))).toBe(false);
      expect(existsSync(join(root, 'sitemap.xml.gz'))).toBe(true);
    });
  });

  it('a host that shows another key than at first is sent nothing until somebody trusts it', async () => {
    for (const name of readdirSync(root)) rmSync(join(root, name), { recursive: true });
    const { id } = await stage.marit.addTarget({ params, body: fileServer('sftp') });
    expect(acts(await publish())).toContain('put done');
    for (const name of readdirSync(root)) rmSync(join(root, name), { recursive: true });
    ssh.kill();
    await new Promise((done) => ssh.once('exit', done));
    serveSftp(programs, keys, ports.sftp, { hostKey: 'other', login: 'login' });
    const told = await vi.waitFor(async () => {
      const result = await publish();
      expect(result?.problem?.detail).toContain('SHA256:');
      return result?.problem;
    });
    expect(told?.code).toBe('publish-failed');
    expect(readdirSync(root)).toEqual([]);
    const [trust = ''] =
      execFileSync(program('ssh-keygen'), ['-lf', join(keys, 'other.pub')])
        .toString()
        .match(/SHA256:\S+/u) ?? [];
    expect(told?.detail).toContain(trust);
    await stage.marit.editTarget({ params: { target: id }, body: { trust } });
    expect(acts(await publish())).toContain('put done');
  });
});
