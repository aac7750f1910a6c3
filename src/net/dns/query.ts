import { createSocket } from 'node:dgram';
import { randomInt } from 'node:crypto';
import { connect } from 'node:net';
import { decode, encode, type DecodedPacket, type RecordType } from 'dns-packet';
import type { Endpoint } from '../settings.js';
import { relevant } from './relevant.js';
import { plain } from './names.js';

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
/** Two bytes of length go before a message over TCP (RFC 1035 §4.2.2), so none is longer than this. */
const LENGTH_BYTES = 2;

interface Query {
  readonly id: number;
  readonly type: RecordType;
  readonly name: string;
  readonly flags: number;
}

/**
 * Asks one server one question: over UDP with EDNS(0) (RFC 6891), again over TCP when the answer was truncated (RFC 7766).
 * Only an answer to this very question is taken (RFC 5452 §9.1), and of it only what belongs to the name that was asked for.
 * @param timeoutMs for each of the two
 * @param recursion whether the server is to find out by itself; a zone's own servers are asked without
 * @throws DnsFailure when no answer came, whatever was the matter
 */
export async function ask(
  server: Endpoint,
  name: string,
  type: RecordType,
  timeoutMs: number,
  recursion = true,
): Promise<DnsAnswer> {
  const query: Query = { id: randomInt(0x10000), type, name, flags: recursion ? 0x0100 : 0 };
  const message = written(query);
  const first = await overUdp(server, message, query, timeoutMs);
  const isCut = first.flag_tc;
  const packet = isCut ? await overTcp(server, message, query, timeoutMs) : first;
  return { packet: relevant(packet, name), rcode: rcodeOf(packet), via: isCut ? 'tcp' : 'udp' };
}

function written({ id, type, name, flags }: Query): Buffer {
  try {
    return encode({
      type: 'query',
      id,
      flags,
      questions: [{ type, name }],
      additionals: [{ type: 'OPT', name: '.', udpPayloadSize: UDP_PAYLOAD, flags: 0, options: [] }],
    } as never);
  } catch (error) {
    throw new DnsFailure('unreachable', `“${name}” cannot be asked for: ${String(error)}`);
  }
}

function rcodeOf(packet: DecodedPacket): string {
  return (packet as DecodedPacket & { rcode?: string }).rcode ?? 'NOERROR';
}

/** Reads what came, if it is an answer to the question: same identifier, same name and type. */
function answerTo({ id, type, name }: Query, data: Buffer): DecodedPacket | null {
  const packet = tryDecode(data);
  if (packet?.id !== id || packet.type !== 'response') return null;
  const [question, ...more] = packet.questions ?? [];
  // A server that could not read the question has nothing to repeat.
  if (!question) return rcodeOf(packet) === 'FORMERR' ? packet : null;
  const isSame =
    more.length === 0 &&
    question.type === type &&
    plain(question.name) === plain(name) &&
    isInternet(question);
  return isSame ? packet : null;
}

function isInternet({ class: kind }: { class?: string | undefined }): boolean {
  return kind === undefined || kind === 'IN';
}

/** One answer or failure, whichever comes first; whatever an emitter throws later is swallowed with its socket. */
function once<T>(
  timeoutMs: number,
  server: Endpoint,
  begin: (done: (value: T) => void, fail: (error: Error) => void) => () => void,
): Promise<T> {
  return new Promise((resolve, reject) => {
    let isOver = false;
    let end: () => void = () => undefined;
    const over = (settle: () => void) => {
      if (isOver) return;
      isOver = true;
      clearTimeout(timer);
      settle();
      end();
    };
    const fail = (error: Error) => {
      over(() => {
        reject(error instanceof DnsFailure ? error : new DnsFailure('unreachable', error.message));
      });
    };
    const timer = setTimeout(() => {
      fail(new DnsFailure('timed-out', `${server.host} did not answer in time`));
    }, timeoutMs);
    try {
      end = begin((value) => {
        over(() => {
          resolve(value);
        });
      }, fail);
      if (isOver) end();
    } catch (error) {
      fail(error instanceof Error ? error : new Error(String(error)));
    }
  });
}

function overUdp(server: Endpoint, message: Buffer, query: Query, timeoutMs: number): Promise<DecodedPacket> {
  return once<DecodedPacket>(timeoutMs, server, (done, fail) => {
    const socket = createSocket(server.host.includes(':') ? 'udp6' : 'udp4');
    let isOpen = true;
    const send = () => {
      if (isOpen)
        socket.send(message, (error) => {
          if (error) fail(error);
        });
    };
    let again: NodeJS.Timeout | undefined;
    socket.on('error', fail);
    socket.on('message', (data) => {
      const packet = answerTo(query, data);
      if (packet) done(packet);
    });
    // Connected, so that only answers of this server come in. With a callback, a failure to connect would be handed to that
    // in place of the error event.
    socket.once('connect', () => {
      send();
      // A lost datagram is common; one more before giving up.
      again = setTimeout(send, timeoutMs / 2);
    });
    socket.connect(server.port, server.host);
    return () => {
      isOpen = false;
      clearTimeout(again);
      socket.close();
    };
  });
}

function overTcp(server: Endpoint, message: Buffer, query: Query, timeoutMs: number): Promise<DecodedPacket> {
  return once<DecodedPacket>(timeoutMs, server, (done, fail) => {
    const socket = connect({ host: server.host, port: server.port });
    const pieces: Buffer[] = [];
    let held = 0;
    let wanted: number | null = null;
    socket.on('error', fail);
    socket.on('end', () => {
      fail(new DnsFailure('unreachable', 'the server closed before answering'));
    });
    socket.on('data', (piece) => {
      pieces.push(piece);
      held += piece.length;
      if (wanted === null && held >= LENGTH_BYTES)
        wanted = LENGTH_BYTES + Buffer.concat(pieces).readUInt16BE(0);
      if (wanted === null || held < wanted) return;
      const packet = answerTo(query, Buffer.concat(pieces).subarray(LENGTH_BYTES, wanted));
      if (packet) done(packet);
      else fail(new DnsFailure('unreachable', 'the answer could not be read, or was to another question'));
    });
    const length = Buffer.alloc(LENGTH_BYTES);
    length.writeUInt16BE(message.length);
    socket.write(Buffer.concat([length, message]));
    return () => {
      // Destroying may still tell of an error, which nobody waits for any more.
      socket.on('error', () => undefined);
      socket.destroy();
    };
  });
}

function tryDecode(data: Buffer): DecodedPacket | null {
  try {
    return decode(data);
  } catch {
    return null;
  }
}
