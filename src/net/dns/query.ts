import { createSocket } from 'node:dgram';
import { randomInt } from 'node:crypto';
import { connect } from 'node:net';
import { decode, encode, streamDecode, streamEncode, type DecodedPacket, type RecordType } from 'dns-packet';
import type { Endpoint } from '../settings.js';

export interface DnsAnswer {
  readonly packet: DecodedPacket;
  readonly rcode: string;
  readonly via: 'udp' | 'tcp';
}

export class DnsFailure extends Error {
  constructor(
    readonly kind: 'timed-out' | 'unreachable',
    message: string,
  ) {
    super(message);
  }
}

/** Payload that we say we can take over UDP: the size that passes every common path unfragmented (RFC 9715). */
const UDP_PAYLOAD = 1232;

/**
 * Asks one server one question: over UDP with EDNS(0) (RFC 6891), again over TCP when the answer was truncated (RFC 7766).
 * @param timeoutMs for each of the two
 * @param recursion whether the server is to find out by itself; a zone's own servers are asked without
 * @throws DnsFailure when no answer came
 */
export async function ask(
  server: Endpoint,
  name: string,
  type: RecordType,
  timeoutMs: number,
  recursion = true,
): Promise<DnsAnswer> {
  const question = {
    type: 'query' as const,
    id: randomInt(0x10000),
    flags: recursion ? 0x0100 : 0,
    questions: [{ type, name }],
    additionals: [
      { type: 'OPT' as const, name: '.' as const, udpPayloadSize: UDP_PAYLOAD, flags: 0, options: [] },
    ],
  };
  const first = await overUdp(server, encode(question as never), question.id, timeoutMs);
  if (!first.flag_tc) return { packet: first, rcode: rcodeOf(first), via: 'udp' };
  const whole = await overTcp(server, streamEncode(question as never), timeoutMs);
  return { packet: whole, rcode: rcodeOf(whole), via: 'tcp' };
}

function rcodeOf(packet: DecodedPacket): string {
  return (packet as DecodedPacket & { rcode?: string }).rcode ?? 'NOERROR';
}

function overUdp(server: Endpoint, message: Buffer, id: number, timeoutMs: number): Promise<DecodedPacket> {
  return new Promise((resolve, reject) => {
    const socket = createSocket(server.host.includes(':') ? 'udp6' : 'udp4');
    const finish = (settle: () => void) => {
      clearTimeout(timer);
      clearTimeout(again);
      socket.close();
      settle();
    };
    const timer = setTimeout(() => {
      finish(() => {
        reject(late(server));
      });
    }, timeoutMs);
    // A lost datagram is common; one more before giving up.
    const again = setTimeout(() => {
      socket.send(message);
    }, timeoutMs / 2);
    socket.on('error', (error) => {
      finish(() => {
        reject(new DnsFailure('unreachable', error.message));
      });
    });
    socket.on('message', (data) => {
      const packet = tryDecode(() => decode(data));
      if (packet?.id === id)
        finish(() => {
          resolve(packet);
        });
    });
    // Connected, so that only answers of this server come in.
    socket.connect(server.port, server.host, () => {
      socket.send(message);
    });
  });
}

function overTcp(server: Endpoint, message: Buffer, timeoutMs: number): Promise<DecodedPacket> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host: server.host, port: server.port });
    let held = Buffer.alloc(0);
    const finish = (settle: () => void) => {
      clearTimeout(timer);
      socket.destroy();
      settle();
    };
    const timer = setTimeout(() => {
      finish(() => {
        reject(late(server));
      });
    }, timeoutMs);
    socket.on('error', (error) => {
      finish(() => {
        reject(new DnsFailure('unreachable', error.message));
      });
    });
    socket.on('end', () => {
      finish(() => {
        reject(new DnsFailure('unreachable', 'the server closed before answering'));
      });
    });
    socket.on('data', (piece) => {
      held = Buffer.concat([held, piece]);
      // Two bytes of length go before the message (RFC 1035 §4.2.2), so no answer is larger than 64 KiB.
      if (held.length < 2 || held.length < 2 + held.readUInt16BE(0)) return;
      // streamDecode gives the same packet as decode, but is typed without its flags.
      const packet = tryDecode(() => streamDecode(held) as DecodedPacket);
      finish(() => {
        if (packet) resolve(packet);
        else reject(new DnsFailure('unreachable', 'the answer could not be read'));
      });
    });
    socket.write(message);
  });
}

function late(server: Endpoint): DnsFailure {
  return new DnsFailure('timed-out', `${server.host} did not answer in time`);
}

function tryDecode(decodeIt: () => DecodedPacket | null): DecodedPacket | null {
  try {
    return decodeIt();
  } catch {
    return null;
  }
}
