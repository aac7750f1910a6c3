import { createSocket } from 'node:dgram';
import { once } from 'node:events';
import { createServer, type Server, type Socket } from 'node:net';
import { decode, encode, streamDecode, streamEncode, type Packet, type Question } from 'dns-packet';
import type { AddressInfo } from 'node:net';
import type { WorldFile, WorldState } from '../state.js';
import { registryAnswer, resolverAnswer, zoneAnswer, type Role, type Said } from './records.js';

/** What fits a datagram when the asker did not say more (RFC 1035 §4.2.1). */
const PLAIN_UDP = 512;

const FAILS: Said = { rcode: 2, answers: [], authorities: [], additionals: [], authoritative: false };

/** What one of the rehearsal's name servers says, or null where it keeps silent. */
export function answerFor(state: WorldState, now: Date, asked: Role, question: Question): Said | null {
  if (asked === 'ours' && state.names.oursFails === true) return FAILS;
  // Ours says what every resolver says.
  const role = asked === 'ours' ? 'resolver' : asked;
  const name = question.name.toLowerCase().replace(/\.$/, '');
  const fault = state.names.fails.find(
    (one) =>
      (one.name === name || name.endsWith(`.${one.name}`)) &&
      (one.at === role || (one.at === 'both' && role !== 'registry')),
  );
  const nothing = { answers: [], authorities: [], additionals: [], authoritative: false };
  switch (fault?.how) {
    case 'silent':
      return null;
    case 'servfail':
      return { ...nothing, rcode: 2 };
    case 'refused':
      return { ...nothing, rcode: 5 };
    case undefined:
      break;
  }
  if (role === 'resolver') return resolverAnswer(state, now, question, name);
  return role === 'registry'
    ? registryAnswer(state, question, name)
    : zoneAnswer(state, role, question, name);
}

function respond(world: Pick<WorldFile, 'state' | 'now'>, role: Role, query: Packet): Packet | null {
  const [question] = query.questions ?? [];
  const said = question ? answerFor(world.state, world.now(), role, question) : null;
  if (question && said === null) return null;
  // 0x8000 response, 0x0400 authoritative, 0x0080 recursion available, 0x0100 recursion desired as asked.
  const flags =
    0x8000 |
    (said?.authoritative === true ? 0x0400 : 0) |
    (role === 'resolver' ? 0x0180 : 0) |
    (said?.rcode ?? 1);
  return {
    type: 'response',
    id: query.id ?? 0,
    flags,
    questions: query.questions ?? [],
    answers: said?.answers ?? [],
    authorities: said?.authorities ?? [],
    additionals: said?.additionals ?? [],
  };
}

export interface NameServer {
  readonly port: number;
  close(): Promise<void>;
}

/** How many ports are tried that the system chose for TCP and that somebody has over UDP. */
const PORTS_TRIED = 20;

/**
 * A name server over UDP and TCP on one port. Answers that do not fit a datagram are marked truncated.
 * @param port 0 for one that the system chooses
 */
export async function startNameServer(
  world: Pick<WorldFile, 'state' | 'now'>,
  role: Role,
  port: number,
): Promise<NameServer> {
  for (let tried = 1; ; tried += 1)
    try {
      return await startOnPort(world, role, port);
    } catch (error) {
      if (port !== 0 || tried === PORTS_TRIED || !isTaken(error)) throw error;
    }
}

function isTaken(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
}

async function startOnPort(
  world: Pick<WorldFile, 'state' | 'now'>,
  role: Role,
  port: number,
): Promise<NameServer> {
  const tcp: Server = createServer((socket) => {
    serveTcp(world, role, socket);
  });
  await new Promise<void>((resolve, reject) => {
    tcp.once('error', reject);
    tcp.listen(port, '127.0.0.1', resolve);
  });
  const bound = (tcp.address() as AddressInfo).port;
  const udp = createSocket('udp4');
  udp.on('message', (message, from) => {
    const reply = udpReply(world, role, message);
    if (reply) udp.send(reply, from.port, from.address);
  });
  try {
    udp.bind(bound, '127.0.0.1');
    await once(udp, 'listening');
  } catch (error) {
    tcp.close();
    throw error;
  }
  return {
    port: bound,
    close: async () => {
      udp.close();
      await new Promise((resolve) => tcp.close(resolve));
    },
  };
}

function udpReply(world: Pick<WorldFile, 'state' | 'now'>, role: Role, message: Buffer): Buffer | null {
  try {
    const query = decode(message);
    const opt = (query.additionals ?? []).find((record) => record.type === 'OPT') as
      { udpPayloadSize?: number } | undefined;
    const response = respond(world, role, query);
    if (response === null) return null;
    const whole = encode(response);
    if (whole.length <= Math.max(PLAIN_UDP, opt?.udpPayloadSize ?? 0)) return whole;
    return encode({
      ...response,
      flags: (response.flags ?? 0) | 0x0200,
      answers: [],
      authorities: [],
      additionals: [],
    });
  } catch {
    return null;
  }
}

function serveTcp(world: Pick<WorldFile, 'state' | 'now'>, role: Role, socket: Socket): void {
  let held = Buffer.alloc(0);
  socket.on('error', () => {
    socket.destroy();
  });
  socket.on('data', (piece) => {
    held = Buffer.concat([held, piece]);
    if (held.length < 2 || held.length < 2 + held.readUInt16BE(0)) return;
    try {
      const query = streamDecode(held);
      const response = query && respond(world, role, query);
      if (response) socket.end(streamEncode(response));
    } catch {
      socket.destroy();
    }
  });
}
