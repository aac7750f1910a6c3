import { createSocket } from 'node:dgram';
import { createServer, type Server, type Socket } from 'node:net';
import {
  decode,
  encode,
  streamDecode,
  streamEncode,
  type Answer,
  type Packet,
  type Question,
} from 'dns-packet';
import type { AddressInfo } from 'node:net';
import { engineAddress, SITE_ADDRESS } from './scenario.js';
import type { WorldState } from './state.js';

const TTL = 300;
const NEGATIVE_TTL = 60;
/** What fits a datagram when the asker did not say more (RFC 1035 §4.2.1). */
const PLAIN_UDP = 512;

function knownHosts(state: WorldState): Map<string, string> {
  const hosts = new Map<string, string>();
  for (const site of state.sites)
    for (const host of [site.host, ...site.aliases]) hosts.set(host, SITE_ADDRESS);
  for (const engine of Object.keys(state.engines)) hosts.set(`link.${engine}.example`, engineAddress(engine));
  return hosts;
}

function zoneOf(name: string): string {
  return name.split('.').slice(-2).join('.');
}

/** Answers for every zone of the rehearsal, as a resolver that asks them would. */
export function answerFor(
  state: WorldState,
  question: Question,
): Pick<Packet, 'answers' | 'authorities'> & { rcode: number } {
  const name = question.name.toLowerCase().replace(/\.$/, '');
  const hosts = knownHosts(state);
  const texts = state.txt.filter((record) => record.name === name);
  const address = hosts.get(name);
  const answers: Answer[] = [];
  if (question.type === 'A' && address !== undefined)
    answers.push({ type: 'A', name, ttl: TTL, data: address });
  if (question.type === 'TXT')
    answers.push(
      ...texts.map((record): Answer => ({ type: 'TXT', name, ttl: TTL, data: strings(record.value) })),
    );
  if (answers.length > 0) return { answers, authorities: [], rcode: 0 };
  const zone = zoneOf(name);
  const isZone = [...hosts.keys()].some((host) => zoneOf(host) === zone);
  const below = [...hosts.keys(), ...state.txt.map((record) => record.name)].some(
    (one) => one === name || one.endsWith(`.${name}`),
  );
  const soa: Answer = {
    type: 'SOA',
    name: isZone ? zone : 'example',
    ttl: NEGATIVE_TTL,
    data: {
      mname: `ns1.${zone}`,
      rname: `hostmaster.${zone}`,
      serial: 2026112401,
      refresh: 3600,
      retry: 600,
      expire: 86400,
      minimum: NEGATIVE_TTL,
    },
  };
  return { answers: [], authorities: [soa], rcode: below ? 0 : 3 };
}

function strings(value: string): string[] {
  return value.match(/[\s\S]{1,255}/g) ?? [''];
}

function respond(state: WorldState, query: Packet): Packet {
  const [question] = query.questions ?? [];
  const { answers, authorities, rcode } = question
    ? answerFor(state, question)
    : { answers: [], authorities: [], rcode: 1 };
  // 0x8000 response, 0x0080 recursion available, 0x0100 recursion desired as asked.
  return {
    type: 'response',
    id: query.id ?? 0,
    flags: 0x8180 | rcode,
    questions: query.questions ?? [],
    answers: answers ?? [],
    authorities: authorities ?? [],
  };
}

export interface NameServer {
  readonly port: number;
  close(): Promise<void>;
}

/** A name server over UDP and TCP on one port. Answers that do not fit a datagram are marked truncated. */
export async function startNameServer(state: WorldState, port: number): Promise<NameServer> {
  const tcp: Server = createServer((socket) => {
    serveTcp(state, socket);
  });
  await new Promise<void>((resolve, reject) => {
    tcp.once('error', reject);
    tcp.listen(port, '127.0.0.1', resolve);
  });
  const bound = (tcp.address() as AddressInfo).port;
  const udp = createSocket('udp4');
  udp.on('message', (message, from) => {
    const reply = udpReply(state, message);
    if (reply) udp.send(reply, from.port, from.address);
  });
  await new Promise<void>((resolve, reject) => {
    udp.once('error', reject);
    udp.bind(bound, '127.0.0.1', resolve);
  });
  return {
    port: bound,
    close: async () => {
      udp.close();
      await new Promise((resolve) => tcp.close(resolve));
    },
  };
}

function udpReply(state: WorldState, message: Buffer): Buffer | null {
  try {
    const query = decode(message);
    const opt = (query.additionals ?? []).find((record) => record.type === 'OPT') as
      { udpPayloadSize?: number } | undefined;
    const response = respond(state, query);
    const whole = encode(response);
    if (whole.length <= Math.max(PLAIN_UDP, opt?.udpPayloadSize ?? 0)) return whole;
    return encode({ ...response, flags: (response.flags ?? 0) | 0x0200, answers: [], authorities: [] });
  } catch {
    return null;
  }
}

function serveTcp(state: WorldState, socket: Socket): void {
  let held = Buffer.alloc(0);
  socket.on('error', () => {
    socket.destroy();
  });
  socket.on('data', (piece) => {
    held = Buffer.concat([held, piece]);
    if (held.length < 2 || held.length < 2 + held.readUInt16BE(0)) return;
    try {
      const query = streamDecode(held);
      if (query) socket.end(streamEncode(respond(state, query)));
    } catch {
      socket.destroy();
    }
  });
}
