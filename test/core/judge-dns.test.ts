import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import type { DnsEvidence, NearbyKind, ServerSeen } from '../../src/core/badge/probe/evidence.js';
import { judge } from '../../src/core/badge/judge/judge.js';
import type { KnownToken } from '../../src/core/badge/token/known-token.js';
import { examine } from '../../src/core/badge/probe/examine.js';
import { placementOf, type DnsPlacement } from '../../src/core/badge/placement.js';
import { dns, nameServer } from '../support/evidence.js';
import { ostrime, veldrane } from '../support/profiles.js';

const TOKEN = 'abcdef0123456789abcdef01';
const AT = new Date('2026-11-20T08:00:00Z');
const VALUE = `veldrane-mooring=${TOKEN}`;

function placed(profile = veldrane): DnsPlacement {
  const found = placementOf(profile, parseScope('address', 'https://quay.example/'), 'dns', TOKEN);
  if (found?.method !== 'dns') throw new Error('no record');
  return found;
}
const txt = (...values: string[]) => values.map((value) => ({ value, ttl: 300 }));
const server = (name: string, values: string[], more: Partial<ServerSeen> = {}) =>
  nameServer(name, txt(...values), more);
const judged = (evidence: Partial<DnsEvidence>, placement = placed()) => judge(placement, dns(evidence), AT);
const codes = (evidence: Partial<DnsEvidence>, placement = placed()) =>
  judged(evidence, placement).findings.map(({ code }) => code);

it('knows the TTL of what stands beside a record by the zone’s own servers, not by what is left of it at a resolver', () => {
  const beside = (servers: ServerSeen[]) =>
    judged({ records: [{ value: 'v=spf1', ttl: 12 }], servers }).findings[0]?.evidence['ttlBeside'];
  expect(beside([server('a', ['v=spf1'])])).toBe(300);
  expect(beside([server('a', ['v=spf1'], { role: 'former' }), server('b', [])])).toBeNull();
});

describe('how the servers of a zone stand to a record', () => {
  test.each<[string, Partial<DnsEvidence>, string[], 'accept' | 'refuse' | 'unsure', string | null]>([
    [
      'all have it, the resolver too',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [VALUE])] },
      ['dns.stands'],
      'accept',
      null,
    ],
    ['none has it', { servers: [server('a', []), server('b', [])] }, ['dns.no-record'], 'refuse', null],
    [
      'one lags, the resolver asked the other',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [], { serial: 6 })] },
      ['dns.servers-disagree', 'dns.stands'],
      'unsure',
      '2026-11-20T09:00:00.000Z',
    ],
    [
      'one lags, and the resolver asked it',
      { servers: [server('a', [VALUE]), server('b', [], { serial: 6 })] },
      ['dns.servers-disagree', 'dns.no-record'],
      'unsure',
      '2026-11-20T09:00:00.000Z',
    ],
    [
      'all have it, the resolver remembers an old one',
      { records: [{ value: 'v=spf1', ttl: 120 }], servers: [server('a', [VALUE])] },
      ['dns.remembered', 'dns.absent'],
      'unsure',
      '2026-11-20T08:02:00.000Z',
    ],
    [
      'all have it, the resolver remembers that there was nothing',
      { rcode: 'NXDOMAIN', negativeTtl: 45, servers: [server('a', [VALUE])] },
      ['dns.remembered', 'dns.no-name'],
      'unsure',
      '2026-11-20T08:00:45.000Z',
    ],
    [
      'all have it, and the resolver fails: it remembers nothing',
      { rcode: 'SERVFAIL', servers: [server('a', [VALUE])] },
      ['dns.server-fails'],
      'refuse',
      null,
    ],
    [
      'only the resolver still has it',
      { records: txt(VALUE), servers: [server('a', [])] },
      ['dns.going-stale', 'dns.stands'],
      'unsure',
      null,
    ],
    [
      'a server that the zone names besides has it',
      { servers: [server('a', []), server('z', [VALUE], { role: 'self-named' })] },
      ['dns.wrong-host', 'dns.no-record'],
      'refuse',
      null,
    ],
    [
      'a server that was left has it',
      { servers: [server('a', []), server('z', [VALUE], { role: 'former' })] },
      ['dns.wrong-host', 'dns.no-record'],
      'refuse',
      null,
    ],
    [
      'one is lame',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [], { authoritative: false })] },
      ['dns.server-lame', 'dns.stands'],
      'accept',
      null,
    ],
    [
      'one refuses',
      { records: txt(VALUE), servers: [server('a', [VALUE]), server('b', [], { rcode: 'REFUSED' })] },
      ['dns.server-lame', 'dns.stands'],
      'accept',
      null,
    ],
    [
      'one keeps silent',
      {
        records: txt(VALUE),
        servers: [server('a', [VALUE]), server('b', [], { rcode: null, failure: 'timed-out' })],
      },
      ['dns.server-lame', 'dns.stands'],
      'accept',
      null,
    ],
    [
      'all fail',
      { rcode: 'SERVFAIL', servers: [server('a', [], { rcode: 'SERVFAIL' })] },
      ['dns.server-fails'],
      'refuse',
      null,
    ],
    [
      'all keep silent, the resolver too',
      {
        rcode: null,
        failure: 'timed-out',
        servers: [server('a', [], { rcode: null, failure: 'timed-out' })],
      },
      ['dns.no-answer'],
      'refuse',
      null,
    ],
    [
      'only the resolver keeps silent, and nobody else was asked',
      { rcode: null, failure: 'timed-out' },
      ['dns.no-answer'],
      'unsure',
      null,
    ],
  ])('%s', (_, evidence, expected, forecast, until) => {
    const judgement = judged(evidence);
    expect(judgement.findings.map(({ code }) => code)).toEqual(expected);
    expect(judgement.forecast).toBe(forecast);
    expect(judgement.visibleAt?.toISOString() ?? null).toBe(until);
    for (const { says, remedy } of judgement.findings) expect(says + remedy).not.toMatch(/\{\w+\}/);
  });

  it('are named with their serials where they disagree', () => {
    const [first] = judged({
      servers: [server('ns1.quay.example', [VALUE]), server('ns2.quay.example', [], { serial: 6 })],
    }).findings;
    expect(first?.says).toContain(
      'ns1.quay.example (serial 7) has the record, ns2.quay.example (serial 6) has not',
    );
  });
});

describe('what stands at a name in place of the record', () => {
  test.each<[string, string[], string]>([
    ['quotes inside', [`"${VALUE}"`], 'dns.quotes'],
    ['the whole line', [`quay.example. IN TXT "${VALUE}"`], 'dns.whole-line'],
    ['no prefix', [TOKEN], 'dns.prefix-missing'],
    ['two prefixes', [`veldrane-mooring=${VALUE}`], 'dns.prefix-doubled'],
    ['a part', [VALUE.slice(0, -4)], 'dns.cut'],
    ['two parts', [VALUE.slice(0, 24), VALUE.slice(24)], 'dns.parted'],
    ['quotes and a gap in the middle', [`${VALUE.slice(0, 24)}" "${VALUE.slice(24)}`], 'dns.split'],
    ['capitals', [VALUE.toUpperCase()], 'dns.case'],
    ['another value of the same form', ['veldrane-mooring=other'], 'dns.other-value'],
    ['nothing of the kind', ['v=spf1 -all', 'other=1'], 'dns.absent'],
    ['the nearest of several', ['veldrane-mooring=other', `“${VALUE}”`], 'dns.quotes'],
  ])('%s', (_, values, code) => {
    expect(codes({ records: txt(...values) })[0]).toBe(code);
  });

  test.each<[string, Date | null, string]>([
    ['sundrel', null, 'dns.other-token'],
    ['veldrane', new Date('2026-05-03T08:00:00Z'), 'dns.replaced-token'],
    ['veldrane', null, 'dns.other-token'],
  ])('is known to be a token of %s, replaced %s', (engine, replacedAt, code) => {
    const value = '99887766554433221100ffee';
    const known: KnownToken = {
      value,
      method: 'dns',
      engine,
      engineTitle: engine,
      property: replacedAt ? 'own' : 'clocks',
      replacedAt,
      inUse: replacedAt === null,
    };
    const evidence = dns({ records: txt(`veldrane-mooring=${value}`) });
    const context = { own: { engine: 'veldrane', property: 'own' }, known: [known] };
    const [first] = judge(placed(), evidence, AT, examine(placed(), evidence), context).findings;
    expect(first?.code).toBe(code);
  });

  test.each<[NearbyKind, string]>([
    ['doubled', 'dns.doubled-name'],
    ['www', 'dns.at-www'],
    ['parent', 'dns.at-parent'],
    ['other-label', 'dns.wrong-label'],
    ['no-label', 'dns.no-label'],
  ])('stands at another name: %s', (kind, code) => {
    const nearby = [{ name: 'elsewhere.quay.example', kind, records: txt(VALUE) }];
    expect(codes({ rcode: 'NXDOMAIN', nearby })).toEqual([code, 'dns.no-name']);
  });

  it('is hidden by an alias, and a wildcard is told where no alias is', () => {
    expect(codes({ aliases: ['shops.example'] })).toEqual(['dns.alias-hides', 'dns.no-record']);
    expect(codes({ records: txt('v=spf1'), wildcard: true }, placed(ostrime))).toEqual([
      'dns.wildcard',
      'dns.absent',
    ]);
    expect(
      codes({ records: txt('v=spf1'), wildcard: true, aliases: ['x.example'] }, placed(ostrime)),
    ).toEqual(['dns.alias-hides', 'dns.absent']);
  });

  it('is not asked for where the host hangs on a wildcard', () => {
    const nearby = [{ name: 'elsewhere.quay.example', kind: 'parent' as const, records: txt(VALUE) }];
    expect(codes({ rcode: 'NXDOMAIN', wildAddresses: ['192.0.2.80'], nearby })).toEqual([
      'dns.host-by-wildcard',
    ]);
  });

  it('came over TCP, among many, which is no harm', () => {
    const records = txt(VALUE, ...Array.from({ length: 12 }, (_, at) => `other-${String(at)}`));
    const judgement = judged({ records, via: 'tcp' });
    expect(judgement.findings.map(({ code, grade }) => [code, grade])).toEqual([
      ['dns.stands', 'note'],
      ['dns.over-tcp', 'note'],
      ['dns.many-records', 'note'],
    ]);
    expect(judgement.forecast).toBe('accept');
  });
});
