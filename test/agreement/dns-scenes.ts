import type { DnsGround } from './ground.js';
import type { Scene } from './scenes.js';
import { STAGE_TIME } from '../support/time.js';

type Dns = Scene<DnsGround>;

/** One record, at the right name or another, with the right value or another. */
const record = (
  what: string,
  first: Dns['first'],
  at: (ground: DnsGround) => readonly (readonly [name: string, value: string, strings?: string[]])[],
  more: Partial<Dns> = {},
): Dns => ({
  what,
  first,
  arrange: (ground) => {
    ground.site();
    for (const [name, value, strings] of at(ground)) ground.txt(name, value, strings);
  },
  ...more,
});

const valued = (
  what: string,
  first: string,
  value: (ground: DnsGround) => string,
  more: Partial<Dns> = {},
): Dns => record(what, first, (g) => [[g.placement.place, value(g)]], more);

const right = (g: DnsGround): readonly [string, string] => [g.placement.place, g.placement.value];
const half = (text: string) => text.slice(0, Math.ceil(text.length * 0.6));
const hasLabel = (g: DnsGround) => g.placement.place !== g.placement.owner;
const hasPrefix = (g: DnsGround) => g.placement.value !== g.token;
const valueOf = (g: DnsGround, token: string) => g.placement.value.replace(g.token, token);
const later = () => new Date(STAGE_TIME.getTime() + 3_600_000).toISOString();
/** A scene about the zone's servers: the record is right at the first of them, unless told otherwise. */
const servers = (what: string, first: string, odd: (ground: DnsGround) => void, placed = true): Dns => ({
  what,
  first,
  arrange: (g) => {
    g.site();
    if (placed) g.txt(...right(g));
    odd(g);
  },
});

export const DNS_SCENES: readonly Dns[] = [
  record('the record stands', 'dns.stands', (g) => [right(g)]),
  record('among others', 'dns.stands', (g) => [
    [g.placement.place, 'v=spf1 -all'],
    right(g),
    [g.placement.place, 'other=1'],
  ]),
  record('in two strings of one record', 'dns.stands', (g) => [
    [g.placement.place, g.placement.value, [g.placement.value.slice(0, 9), g.placement.value.slice(9)]],
  ]),
  record('among so many that the answer needs TCP', 'dns.stands', (g) => [
    ...Array.from(
      { length: 40 },
      (_, at) => [g.placement.place, `filler-${String(at)}-${'x'.repeat(60)}`] as const,
    ),
    right(g),
  ]),
  record(
    'nothing at all',
    (g) => (hasLabel(g) ? 'dns.no-name' : 'dns.no-record') as never,
    () => [],
  ),
  record('only other records', 'dns.absent', (g) => [[g.placement.place, 'v=spf1 -all']]),
  record('the zone’s name twice', 'dns.doubled-name', (g) => [
    [`${g.placement.place}.${g.placement.zone}`, g.placement.value],
  ]),
  record('at www', 'dns.at-www', (g) => [
    [g.placement.place.replace(g.bare, `www.${g.bare}`), g.placement.value],
  ]),
  record(
    'at the bare name in place of www',
    'dns.at-parent',
    (g) => [[g.placement.place.replace('www.', ''), g.placement.value]],
    { at: 'www' },
  ),
  record('without the label', 'dns.no-label', (g) => [[g.placement.owner, g.placement.value]], {
    fits: hasLabel,
  }),
  record(
    'under the label without its underscore',
    'dns.wrong-label',
    (g) => [[g.placement.place.replace(/^_/, ''), g.placement.value]],
    { fits: hasLabel },
  ),
  record('under another engine’s label', 'dns.wrong-label', (g) => [
    [`_other-label.${g.placement.owner}`, g.placement.value],
  ]),
  valued('quotes inside the value', 'dns.quotes', (g) => `"${g.placement.value}"`),
  valued('curly quotes inside the value', 'dns.quotes', (g) => `“${g.placement.value}”`),
  valued(
    'the whole line pasted',
    'dns.whole-line',
    (g) => `${g.placement.place}. 3600 IN TXT "${g.placement.value}"`,
  ),
  valued('the prefix missing', 'dns.prefix-missing', (g) => g.token, { fits: hasPrefix }),
  valued(
    'the prefix twice',
    'dns.prefix-doubled',
    (g) => g.placement.value.replace(g.token, '') + g.placement.value,
    { fits: hasPrefix },
  ),
  valued('cut short', 'dns.cut', (g) => g.placement.value.slice(0, -5)),
  record('parted into two records', 'dns.parted', (g) => [
    [g.placement.place, half(g.placement.value)],
    [g.placement.place, g.placement.value.slice(half(g.placement.value).length)],
  ]),
  valued(
    'strings wrongly split',
    'dns.split',
    (g) => `${half(g.placement.value)}" "${g.placement.value.slice(half(g.placement.value).length)}`,
  ),
  valued('in the other case', 'dns.case', (g) => g.placement.value.toUpperCase()),
  valued(
    'a space inside',
    'dns.spaces',
    (g) => `${half(g.placement.value)} ${g.placement.value.slice(half(g.placement.value).length)}`,
  ),
  valued('spaces around it', 'dns.stands', (g) => ` ${g.placement.value} `),
  valued(
    'a character nobody sees',
    'dns.invisible',
    (g) => `${half(g.placement.value)}\u200b${g.placement.value.slice(half(g.placement.value).length)}`,
  ),
  valued('two letters wrong', 'dns.typo', (g) => `${g.placement.value.slice(0, -2)}zz`),
  valued('more behind it', 'dns.extra', (g) => `${g.placement.value};`),
  valued('another engine’s token', 'dns.other-token', (g) => valueOf(g, g.foreign)),
  valued('an older token of ours', 'dns.replaced-token', (g) => valueOf(g, g.old)),
  valued('another property’s token', 'dns.other-token', (g) => valueOf(g, g.known[3]?.value ?? '')),
  {
    what: 'an alias hides it',
    at: 'www',
    first: 'dns.alias-hides',
    arrange: (g) => {
      g.site();
      g.txt(...right(g));
      g.state.names.aliases.push({ name: g.placement.place, to: `shops.hosting.example` });
    },
  },
  {
    what: 'an alias to a name that has it',
    at: 'www',
    first: 'dns.stands',
    arrange: (g) => {
      g.site();
      g.txt(`proof.${g.bare}`, g.placement.value);
      g.state.names.aliases.push({ name: g.placement.place, to: `proof.${g.bare}` });
    },
  },
  record('a wildcard answers for it', 'dns.wildcard', (g) => [[`*.${g.bare}`, 'v=spf1 -all']], {
    at: 'www',
    fits: hasLabel,
  }),
  record('a wildcard that is right', 'dns.stands', (g) => [[`*.${g.bare}`, g.placement.value]], {
    at: 'www',
    fits: hasLabel,
  }),
  servers('the second server lags behind', 'dns.servers-disagree', (g) => {
    g.state.names.lagging.push({ zone: g.bare, txt: [], serial: 2026112301 });
  }),
  servers(
    'edited at a host to which nobody is sent',
    'dns.wrong-host',
    (g) => {
      g.state.names.attic.push({
        zone: g.bare,
        txt: [{ name: g.placement.place, value: g.placement.value }],
      });
    },
    false,
  ),
  servers('the resolver remembers an old record', 'dns.remembered', (g) => {
    g.state.names.remembered.push({ name: g.placement.place, values: [valueOf(g, g.old)], until: later() });
  }),
  servers('the resolver remembers that there was nothing', 'dns.remembered', (g) => {
    g.state.names.remembered.push({ name: g.placement.place, values: [], until: later() });
  }),
  servers(
    'only the resolver still has it',
    'dns.going-stale',
    (g) => {
      g.state.names.remembered.push({ name: g.placement.place, values: [g.placement.value], until: later() });
    },
    false,
  ),
  servers('all servers fail', 'dns.server-fails', (g) => {
    g.state.names.fails.push(
      { name: g.bare, how: 'servfail', at: 'resolver' },
      { name: g.bare, how: 'servfail', at: 'both' },
    );
  }),
  servers('all servers keep silent', 'dns.no-answer', (g) => {
    g.state.names.fails.push(
      { name: g.bare, how: 'silent', at: 'resolver' },
      { name: g.bare, how: 'silent', at: 'both' },
    );
  }),
  servers('all servers refuse', 'dns.server-fails', (g) => {
    g.state.names.fails.push(
      { name: g.bare, how: 'refused', at: 'resolver' },
      { name: g.bare, how: 'refused', at: 'both' },
    );
  }),
  servers('one server is lame', 'dns.server-lame', (g) => {
    g.state.names.fails.push({ name: g.bare, how: 'refused', at: 'ns2' });
  }),
  servers('one server keeps silent', 'dns.server-lame', (g) => {
    g.state.names.fails.push({ name: g.bare, how: 'silent', at: 'ns2' });
  }),
];
