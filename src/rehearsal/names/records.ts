import type { Answer, Packet, Question } from 'dns-packet';
import { engineAddress, SERVERS, SITE_ADDRESS } from '../scenario.js';
import type { TxtState, WorldState } from '../state.js';

/** Who answers: the resolver, the registry above the zones, one of the two servers of every zone, or the host that was left. */
export type Role = 'ours' | 'resolver' | 'registry' | 'ns1' | 'ns2' | 'attic';

export type Said = Pick<Packet, 'answers' | 'authorities' | 'additionals'> & {
  readonly rcode: number;
  /** Whether it answers for the zone itself. */
  readonly authoritative: boolean;
};

const TTL = 300;
const NEGATIVE_TTL = 60;
const SERIAL = 2026112401;
const REFRESH = 3600;
const REGISTRY_ZONE = 'example';
/** The zones in which the name servers themselves stand; the registry knows their addresses. */
const INFRASTRUCTURE = new Set(Object.values(SERVERS).map(({ name }) => name));

/** The zone of a name: in the rehearsal always the two last labels. */
export function zoneOf(name: string): string {
  return name.split('.').slice(-2).join('.');
}

/** Every host and its address. */
export function knownHosts(state: WorldState): Map<string, string> {
  const hosts = new Map<string, string>();
  for (const site of state.sites)
    for (const host of [site.host, ...site.aliases]) hosts.set(host, SITE_ADDRESS);
  for (const engine of Object.keys(state.engines)) hosts.set(`link.${engine}.example`, engineAddress(engine));
  for (const { name, address } of Object.values(SERVERS)) hosts.set(name, address);
  for (const { host, address } of state.names.hosts)
    if (address === null) hosts.set(host, '');
    else hosts.set(host, address);
  return hosts;
}

/** The TXT records of a zone as one of its servers has them. */
function recordsOf(state: WorldState, role: Role, zone: string): readonly TxtState[] {
  if (role === 'attic') return state.names.attic.find((one) => one.zone === zone)?.txt ?? [];
  const lag = state.names.lagging.find((one) => one.zone === zone);
  return role === 'ns2' && lag ? lag.txt : state.txt;
}

/** What a server that answers for a zone says. */
export function zoneAnswer(state: WorldState, role: Role, question: Question, name: string): Said {
  const zone = zoneOf(name);
  const hosts = knownHosts(state);
  const texts = recordsOf(state, role, zone);
  const alias = state.names.aliases.find((one) => one.name === name);
  const answered = (answers: Answer[]): Said => ({
    answers,
    authorities: [],
    additionals: [],
    rcode: 0,
    authoritative: true,
  });
  if (alias) {
    const to = zoneAnswer(state, role, question, alias.to);
    return answered([{ type: 'CNAME', name, ttl: TTL, data: alias.to }, ...(to.answers ?? [])]);
  }
  const soa = startOfAuthority(state, role, zone);
  if (name === zone && question.type === 'SOA') return answered([soa]);
  if (name === zone && question.type === 'NS') return answered(serversOf(state, zone, true));
  const address = hosts.get(name);
  if (question.type === 'A' && address !== undefined && address !== '')
    return answered([{ type: 'A', name, ttl: TTL, data: address }]);
  const own = texts.filter((record) => record.name === name);
  const all = [...hosts.keys(), ...texts.map((record) => record.name)];
  const exists = all.some((one) => one === name || one.endsWith(`.${name}`)) || name === zone;
  // A wildcard speaks for names that do not exist (RFC 4592 §2.2.1).
  const wild = exists
    ? []
    : texts.filter((record) => record.name.startsWith('*.') && name.endsWith(record.name.slice(1)));
  const found = own.length > 0 ? own : wild;
  if (question.type === 'TXT' && found.length > 0)
    return answered(found.map((record) => ({ type: 'TXT', name, ttl: TTL, data: strings(record) })));
  const isThere = exists || wild.length > 0;
  return { answers: [], authorities: [soa], additionals: [], rcode: isThere ? 0 : 3, authoritative: true };
}

/** The registry refers every zone to its servers, with their addresses (RFC 1034 §4.2.1). */
export function registryAnswer(state: WorldState, question: Question, name: string): Said {
  if (name === REGISTRY_ZONE && question.type === 'NS') {
    const answers: Answer[] = [{ type: 'NS', name, ttl: TTL, data: SERVERS.registry.name }];
    return { answers, authorities: [], additionals: glue(), rcode: 0, authoritative: true };
  }
  const zone = zoneOf(name);
  const isKnown = [...knownHosts(state).keys(), ...state.txt.map((record) => record.name)].some(
    (host) => zoneOf(host) === zone,
  );
  if (INFRASTRUCTURE.has(name)) return zoneAnswer(state, 'ns1', question, name);
  if (isKnown)
    return {
      answers: [],
      authorities: serversOf(state, zone, false),
      additionals: glue(),
      rcode: 0,
      authoritative: false,
    };
  const soa = startOfAuthority(state, 'ns1', REGISTRY_ZONE);
  return { answers: [], authorities: [soa], additionals: [], rcode: 3, authoritative: true };
}

/** @param isOwn whether the zone itself names its servers: one that was left long ago may still be among them */
function serversOf(state: WorldState, zone: string, isOwn: boolean): Answer[] {
  const names = [SERVERS.ns1.name, SERVERS.ns2.name];
  if (isOwn && state.names.attic.some((one) => one.zone === zone)) names.push(SERVERS.attic.name);
  return names.map((data) => ({ type: 'NS', name: zone, ttl: TTL, data }));
}

function glue(): Answer[] {
  return Object.values(SERVERS).map(({ name, address }) => ({ type: 'A', name, ttl: TTL, data: address }));
}

function startOfAuthority(state: WorldState, role: Role, zone: string): Answer {
  const lag = role === 'ns2' ? state.names.lagging.find((one) => one.zone === zone) : undefined;
  return {
    type: 'SOA',
    name: zone,
    ttl: NEGATIVE_TTL,
    data: {
      mname: SERVERS.ns1.name,
      rname: `hostmaster.${zone}`,
      serial: lag?.serial ?? SERIAL,
      refresh: REFRESH,
      retry: 600,
      expire: 86400,
      minimum: NEGATIVE_TTL,
    },
  };
}

function strings({ value, strings: own }: TxtState): string[] {
  return own ?? value.match(/[\s\S]{1,255}/g) ?? [''];
}

/** What the resolver says: what it remembers, else what the first server of the zone says, whoever asks. */
export function resolverAnswer(state: WorldState, now: Date, question: Question, name: string): Said {
  const kept = state.names.remembered.find((one) => one.name === name && new Date(one.until) > now);
  const base = { additionals: [], authoritative: false };
  if (kept && question.type === 'TXT') {
    const ttl = Math.max(1, Math.round((Date.parse(kept.until) - now.getTime()) / 1000));
    const answers = kept.values.map((value): Answer => ({
      type: 'TXT',
      name,
      ttl,
      data: strings({ name, value }),
    }));
    const soa = { ...startOfAuthority(state, 'ns1', zoneOf(name)), ttl } as Answer;
    if (answers.length > 0) return { ...base, answers, authorities: [], rcode: 0 };
    return {
      ...base,
      answers: [],
      authorities: [{ ...soa, data: { ...(soa as { data: object }).data, minimum: ttl } } as Answer],
      rcode: 3,
    };
  }
  if (name === REGISTRY_ZONE) return { ...registryAnswer(state, question, name), authoritative: false };
  const isAnyThere = [...knownHosts(state).keys()].some((host) => zoneOf(host) === zoneOf(name));
  const said = zoneAnswer(state, 'ns1', question, name);
  return {
    ...said,
    ...(isAnyThere || (said.answers ?? []).length > 0 ? {} : { rcode: 3 }),
    authoritative: false,
  };
}
