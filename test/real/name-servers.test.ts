import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { placementOf, zoneStrings, type DnsPlacement } from '../../src/core/badge/placement.js';
import { probe } from '../../src/desk/engine-book/probe.js';
import { Net } from '../../src/net/net.js';
import { DEFAULT_BOUNDS } from '../../src/net/settings.js';
import { ostrime, veldrane } from '../support/profiles.js';
import { removed } from '../support/removed.js';
import { freePort, program, Programs } from './programs.js';
import { STAGE_TIME } from '../support/time.js';

const TOKEN = '84da61f31aa466b6b1022a45';
const OLD = '0000000000000000000000ff';
const ZONE = 'quay.example';
const SHOP = 'shop.quay.example';

/**
 * Our own look at a record, against servers that others wrote: a registry, a primary, a secondary that learns of changes
 * by zone transfer only when it asks, and a resolver with a cache.
 */
describe('a record at real name servers', () => {
  const folder = mkdtempSync(join(tmpdir(), 'yardbadge-names-'));
  const programs = new Programs();
  let net: Net;
  let serial = 1;
  const primary = join(folder, 'primary');

  const record = (profile = veldrane, name = ZONE): DnsPlacement => {
    const target = profile === ostrime ? parseScope('address', `https://${name}/`) : parseScope('name', name);
    const found = placementOf(profile, target, 'dns', TOKEN);
    if (found?.method !== 'dns') throw new Error('no placement');
    return found;
  };
  const zoneFile = (records: string) =>
    `$ORIGIN ${ZONE}.\n$TTL 120\n@ SOA ns1 hostmaster ${String(serial)} 7200 600 86400 45\n@ NS ns1\n@ NS ns2\nns1 A 192.0.2.53\nns2 A 192.0.2.54\n@ A 192.0.2.80\nwww A 192.0.2.80\n${records}\n`;
  /** Writes the zone anew at the primary and has it loaded. The secondary learns of it only when it asks. */
  const edit = (records: string) => {
    serial += 1;
    writeFileSync(join(primary, `${ZONE}.zone`), zoneFile(records));
    execFileSync(program('knotc'), ['-b', '-s', join(primary, 'knot.sock'), 'zone-reload', ZONE]);
  };
  const catchUp = () => {
    execFileSync(program('knotc'), [
      '-b',
      '-s',
      join(folder, 'secondary/knot.sock'),
      'zone-retransfer',
      ZONE,
    ]);
  };
  const forget = () => {
    execFileSync(program('unbound-control'), ['-c', join(folder, 'unbound.conf'), 'flush_zone', ZONE]);
  };
  const look = (placement = record(), at = STAGE_TIME) =>
    probe(net, { now: () => at }, placement, { otherLabels: ['_yardbadge-proof'] });
  const codes = async (placement = record()) =>
    (await look(placement)).judgement.findings.map(({ code }) => code);
  const txt = (name: string, value: string) => `${name} TXT ${zoneStrings(value)}`;

  beforeAll(async () => {
    const ports = {
      registry: await freePort(),
      primary: await freePort(),
      secondary: await freePort(),
      resolver: await freePort(),
      control: await freePort(),
    };
    const knot = (name: 'registry' | 'primary' | 'secondary', zone: string, more: string) => {
      mkdirSync(join(folder, name), { recursive: true });
      const config = join(folder, `${name}.conf`);
      writeFileSync(
        config,
        `server:\n    rundir: ${folder}/${name}\n    listen: 127.0.0.1@${String(ports[name])}\ndatabase:\n    storage: ${folder}/${name}\n${more}\ntemplate:\n  - id: default\n    storage: ${folder}/${name}\n    file: "%s.zone"\n${zone}`,
      );
      programs.start('knotd', '-c', config);
    };
    const remote = (id: string, port: number) =>
      `remote:\n  - id: ${id}\n    address: 127.0.0.1@${String(port)}\n`;
    const acl = (action: string) => `acl:\n  - id: all\n    address: 127.0.0.1\n    action: ${action}\n`;
    mkdirSync(join(folder, 'registry'));
    writeFileSync(
      join(folder, 'registry/example.zone'),
      `$ORIGIN example.\n$TTL 300\n@ SOA ns hostmaster 1 3600 600 86400 60\n@ NS ns\nns A 192.0.2.50\nquay NS ns1.quay\nquay NS ns2.quay\nns1.quay A 192.0.2.53\nns2.quay A 192.0.2.54\n`,
    );
    mkdirSync(primary);
    writeFileSync(join(primary, `${ZONE}.zone`), zoneFile(txt('@', 'v=spf1 -all')));
    // A zone of its own on its parent's servers: nobody refers to it. The second server has an older state of it.
    const shop = (records: string) =>
      `$ORIGIN ${SHOP}.\n$TTL 120\n@ SOA ns1.${ZONE}. hostmaster 7 7200 600 86400 45\n@ NS ns1.${ZONE}.\n@ NS ns2.${ZONE}.\n@ A 192.0.2.80\n${records}\n`;
    mkdirSync(join(folder, 'secondary'), { recursive: true });
    writeFileSync(join(primary, `${SHOP}.zone`), shop(txt('@', `veldrane-mooring=${TOKEN}`)));
    writeFileSync(join(folder, 'secondary', `${SHOP}.zone`), shop(txt('@', 'v=spf1 -all')));
    knot('registry', 'zone:\n  - domain: example\n', '');
    knot(
      'primary',
      `zone:\n  - domain: ${ZONE}\n    acl: all\n    zonefile-load: whole\n  - domain: ${SHOP}\n`,
      acl('transfer'),
    );
    knot(
      'secondary',
      `zone:\n  - domain: ${ZONE}\n    master: first\n  - domain: ${SHOP}\n`,
      remote('first', ports.primary),
    );
    const stub = (zone: string, port: number) =>
      `stub-zone:\n  name: "${zone}"\n  stub-addr: 127.0.0.1@${String(port)}\n`;
    writeFileSync(
      join(folder, 'unbound.conf'),
      `server:\n  interface: 127.0.0.1\n  port: ${String(ports.resolver)}\n  do-daemonize: no\n  username: ""\n  chroot: ""\n  directory: "${folder}"\n  pidfile: "${folder}/unbound.pid"\n  use-syslog: no\n  do-not-query-localhost: no\n  module-config: "iterator"\n  local-zone: "example." nodefault\nremote-control:\n  control-enable: yes\n  control-use-cert: no\n  control-interface: 127.0.0.1\n  control-port: ${String(ports.control)}\n${stub('example', ports.registry)}${stub(ZONE, ports.primary)}`,
    );
    programs.start('unbound', '-c', join(folder, 'unbound.conf'));
    net = new Net({
      resolver: `127.0.0.1:${String(ports.resolver)}`,
      allow: ['192.0.2.0/24'],
      connect: [
        { from: '192.0.2.50:53', to: `127.0.0.1:${String(ports.registry)}` },
        { from: '192.0.2.53:53', to: `127.0.0.1:${String(ports.primary)}` },
        { from: '192.0.2.54:53', to: `127.0.0.1:${String(ports.secondary)}` },
      ],
      ca: null,
      agent: 'test',
      bounds: { ...DEFAULT_BOUNDS, dnsMs: 1_500 },
    });
    await vi.waitFor(
      async () => {
        const { servers } = await net.zone(ZONE);
        expect(servers.map(({ authoritative }) => authoritative)).toEqual([true, true]);
        expect((await net.txt(ZONE)).rcode).toBe('NOERROR');
      },
      { timeout: 30_000, interval: 200 },
    );
  });
  afterAll(async () => {
    await net.close();
    await programs.stop();
    await removed(folder);
  });

  it('is looked for at every server, found by walking the delegation', async () => {
    const { evidence, judgement } = await look();
    expect(evidence).toMatchObject({
      zone: ZONE,
      servers: [
        { name: 'ns1.quay.example', role: 'delegated', serial: 1, refresh: 7200 },
        { name: 'ns2.quay.example', role: 'delegated', serial: 1 },
      ],
    });
    expect(judgement).toMatchObject({ forecast: 'refuse', visibleAt: null });
    expect(judgement.findings[0]?.code).toBe('dns.absent');
  });

  it('is looked for at the servers of its own zone, also where that lies on its parent’s servers', async () => {
    const { evidence, judgement } = await look(record(veldrane, SHOP));
    expect(evidence).toMatchObject({
      zone: SHOP,
      servers: [
        { name: 'ns1.quay.example', serial: 7, records: [{ value: `veldrane-mooring=${TOKEN}` }] },
        { name: 'ns2.quay.example', serial: 7, records: [{ value: 'v=spf1 -all' }] },
      ],
    });
    expect(judgement.forecast).not.toBe('accept');
  });

  it('is at the primary, not yet at the lagging secondary, and not for a resolver that remembers', async () => {
    edit(`${txt('@', 'v=spf1 -all')}\n${txt('@', record().value)}`);
    const first = await look();
    expect(first.judgement).toMatchObject({ forecast: 'unsure' });
    expect(first.judgement.findings[0]).toMatchObject({
      code: 'dns.servers-disagree',
      evidence: { with: 'ns1.quay.example (serial 2)', without: 'ns2.quay.example (serial 1)' },
    });
    catchUp();
    await vi.waitFor(async () => {
      expect((await net.zone(ZONE)).servers.map(({ serial: one }) => one)).toEqual([2, 2]);
    });
    const remembered = await look();
    expect(remembered.judgement.findings[0]?.code).toBe('dns.remembered');
    const wait = (remembered.judgement.visibleAt?.getTime() ?? 0) - remembered.checkedAt.getTime();
    // The TTL that the resolver counts down: the old answer's, of which some seconds may have gone by.
    expect(wait).toBeGreaterThan(60_000);
    expect(wait).toBeLessThanOrEqual(120_000);
    forget();
    expect(await codes()).toEqual(['dns.stands']);
  });

  it.each<[string, () => string, string]>([
    ['the zone’s name twice', () => txt(`${ZONE}`, record().value), 'dns.doubled-name'],
    ['at www', () => txt('www', record().value), 'dns.at-www'],
    ['under another label', () => txt('_yardbadge-proof', record(ostrime).value), 'dns.wrong-label'],
    ['quoted twice', () => `@ TXT "\\"${record().value}\\""`, 'dns.quotes'],
    [
      'parted into two records',
      () => `${txt('@', record().value.slice(0, 20))}\n${txt('@', record().value.slice(20))}`,
      'dns.parted',
    ],
    ['cut', () => txt('@', record().value.slice(0, -6)), 'dns.cut'],
    ['an older value', () => txt('@', `veldrane-mooring=${OLD}`), 'dns.other-value'],
  ])('is told for what it is: %s', async (_, records, code) => {
    edit(`${txt('@', 'v=spf1 -all')}\n${records()}`);
    forget();
    const placement = code === 'dns.wrong-label' ? record(ostrime) : record();
    catchUp();
    await vi.waitFor(async () => {
      expect(new Set((await net.zone(ZONE)).servers.map(({ serial: one }) => one)).size).toBe(1);
    });
    expect((await codes(placement))[0]).toBe(code);
  });

  it('is hidden by an alias, and not the wildcard’s doing', async () => {
    edit('_ostrime-challenge CNAME www');
    forget();
    expect((await codes(record(ostrime))).slice(-2)[0]).toBe('dns.alias-hides');
    edit('* TXT "v=spf1 -all"');
    forget();
    expect(await codes(record(ostrime))).toContain('dns.wildcard');
  });

  it('is not asked for where it would take the website off its wildcard, and where the host has addresses of its own it is', async () => {
    edit('*.blue A 192.0.2.80\nown.blue A 192.0.2.80\n* A 192.0.2.81');
    forget();
    // Below a host that only the wildcard knows, a label makes that name exist, too (RFC 4592 §2.2.2).
    for (const host of [`red.${ZONE}`, `any.blue.${ZONE}`]) {
      const { judgement } = await look(record(ostrime, host));
      const [found] = judgement.findings;
      expect([host, found?.code]).toEqual([host, 'dns.host-by-wildcard']);
      expect(found?.remedy).toContain(`Please put nothing at _ostrime-challenge.${host} yet`);
      expect(judgement.forecast).toBe('refuse');
    }
    expect(await codes(record(ostrime, `www.${ZONE}`))).not.toContain('dns.host-by-wildcard');
    expect(await codes(record())).not.toContain('dns.host-by-wildcard');
  });

  it('is found among so many that the answer needs TCP, and in strings of its own', async () => {
    const many = Array.from({ length: 90 }, (_, at) => txt('@', `filler-${String(at)}-${'x'.repeat(80)}`));
    const own = record().value;
    edit([...many, `@ TXT "${own.slice(0, 9)}" "${own.slice(9)}"`].join('\n'));
    catchUp();
    forget();
    await vi.waitFor(async () => {
      expect(await codes()).toEqual(
        expect.arrayContaining(['dns.stands', 'dns.over-tcp', 'dns.many-records']) as string[],
      );
    });
    const { evidence } = await look();
    if (evidence.kind !== 'dns') throw new Error('not a DNS look');
    expect(evidence.servers.map(({ via }) => via)).toEqual(['tcp', 'tcp']);
    expect(evidence.records).toHaveLength(91);
  });
});
