import { createHmac, randomInt, timingSafeEqual } from 'node:crypto';
import type { Socket } from 'node:net';
import { TargetFault } from './file-target.js';

/** A key that a zone's primary server shares with us (RFC 8945). */
export interface TsigKey {
  readonly name: string;
  readonly algorithm: 'hmac-sha256' | 'hmac-sha384' | 'hmac-sha512';
  readonly secret: Buffer;
}

/** One change of a TXT record. */
export interface TxtChange {
  readonly act: 'add' | 'remove';
  /** Absolute, without the dot at its end. */
  readonly name: string;
  readonly value: string;
  /** Seconds for which others may remember it, of one that is added. */
  readonly ttl: number;
}

const TXT = 16;
const SOA = 6;
const TSIG = 250;
const IN = 1;
const ANY = 255;
/** The class that takes a single record away (RFC 2136 §2.5.4). */
const NONE = 254;
const UPDATE = 5 << 11;
/** How far clocks may be apart, in seconds (RFC 8945 §10). */
const FUDGE = 300;
const PATIENCE_MS = 10_000;

const RCODES: Readonly<Record<number, string>> = {
  1: 'cannot read what we sent (FORMERR)',
  2: 'failed by itself (SERVFAIL)',
  4: 'takes no updates (NOTIMP)',
  5: 'does not allow it (REFUSED)',
  9: 'is not responsible for the zone, or does not know the key (NOTAUTH)',
  10: 'says that a name is outside of the zone (NOTZONE)',
};
const TSIG_ERRORS: Readonly<Record<number, string>> = {
  16: 'the signature does not fit the key (BADSIG)',
  17: 'it does not know the key by that name (BADKEY)',
  18: 'its clock and ours are too far apart (BADTIME)',
};

/** A name as it goes over the wire (RFC 1035 §3.1), in lower case, as signatures want it. */
function wireName(name: string): Buffer {
  const labels = name === '' ? [] : name.toLowerCase().replace(/\.$/u, '').split('.');
  const parts = labels.map((label) => {
    const bytes = Buffer.from(label, 'ascii');
    if (bytes.length === 0 || bytes.length > 63)
      throw new TargetFault('refused', `“${name}” is no name of a record.`);
    return Buffer.concat([Buffer.from([bytes.length]), bytes]);
  });
  return Buffer.concat([...parts, Buffer.from([0])]);
}

function u16(...values: number[]): Buffer {
  const bytes = Buffer.alloc(values.length * 2);
  values.forEach((value, at) => bytes.writeUInt16BE(value, at * 2));
  return bytes;
}

function u32(value: number): Buffer {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32BE(value);
  return bytes;
}

/** Six bytes of seconds (RFC 8945 §4.2). */
function u48(value: number): Buffer {
  return Buffer.concat([u16(Math.floor(value / 2 ** 32)), u32(value % 2 ** 32)]);
}

/** The character strings of a TXT record (RFC 1035 §3.3.14). */
function txtData(value: string): Buffer {
  const bytes = Buffer.from(value);
  const parts: Buffer[] = [];
  for (let at = 0; at < bytes.length || at === 0; at += 255) {
    const part = bytes.subarray(at, at + 255);
    parts.push(Buffer.from([part.length]), part);
  }
  return Buffer.concat(parts);
}

function record({ act, name, value, ttl }: TxtChange): Buffer {
  const data = txtData(value);
  const isAdding = act === 'add';
  return Buffer.concat([
    wireName(name),
    u16(TXT, isAdding ? IN : NONE),
    u32(isAdding ? ttl : 0),
    u16(data.length),
    data,
  ]);
}

/** What a signature is made over besides the message (RFC 8945 §4.3.3). */
function variables(key: TsigKey, seconds: number, error = 0, other: Buffer = Buffer.alloc(0)): Buffer {
  return Buffer.concat([
    wireName(key.name),
    u16(ANY),
    u32(0),
    wireName(key.algorithm),
    u48(seconds),
    u16(FUDGE, error, other.length),
    other,
  ]);
}

function signed(message: Buffer, key: TsigKey, seconds: number): { bytes: Buffer; mac: Buffer } {
  const mac = createHmac(key.algorithm.slice(5), key.secret)
    .update(message)
    .update(variables(key, seconds))
    .digest();
  const data = Buffer.concat([
    wireName(key.algorithm),
    u48(seconds),
    u16(FUDGE, mac.length),
    mac,
    u16(message.readUInt16BE(0), 0, 0),
  ]);
  const tsig = Buffer.concat([wireName(key.name), u16(TSIG, ANY), u32(0), u16(data.length), data]);
  const bytes = Buffer.concat([message, tsig]);
  bytes.writeUInt16BE(message.readUInt16BE(10) + 1, 10);
  return { bytes, mac };
}

/**
 * Changes TXT records of a zone by one dynamic update (RFC 2136), signed (RFC 8945): all of it is done, or none.
 * @param socket connected to the zone's primary server
 * @param now by which the signature is dated
 * @throws CarryFault
 */
export async function updateZone(
  socket: Socket,
  zone: string,
  changes: readonly TxtChange[],
  key: TsigKey,
  now: Date,
): Promise<void> {
  const id = randomInt(0x10000);
  const updates = changes.map(record);
  const message = Buffer.concat([
    u16(id, UPDATE, 1, 0, updates.length, 0),
    wireName(zone),
    u16(SOA, IN),
    ...updates,
  ]);
  const seconds = Math.floor(now.getTime() / 1000);
  const { bytes, mac } = signed(message, key, seconds);
  const answer = await exchanged(socket, bytes);
  if (answer.length < 12 || answer.readUInt16BE(0) !== id)
    throw new TargetFault('refused', 'The answer was to another question.');
  const rcode = answer.readUInt16BE(2) & 15;
  const tsig = tsigOf(answer);
  if (rcode !== 0) {
    const more = tsig && TSIG_ERRORS[tsig.error] !== undefined ? `: ${TSIG_ERRORS[tsig.error] ?? ''}` : '';
    const isDenied = rcode === 5 || rcode === 9;
    throw new TargetFault(
      isDenied ? 'denied' : 'refused',
      `The name server ${RCODES[rcode] ?? `answers ${String(rcode)}`}${more}.`,
    );
  }
  if (!tsig || !isGenuine(answer, tsig, mac, key))
    throw new TargetFault(
      'other-key',
      'The answer of the name server was not signed with our key: it may be another’s.',
    );
}

interface TsigRead {
  /** Where the record begins in the answer. */
  readonly at: number;
  readonly seconds: number;
  readonly mac: Buffer;
  readonly error: number;
  readonly other: Buffer;
}

/** The signature at the end of an answer; null where there is none. */
function tsigOf(answer: Buffer): TsigRead | null {
  try {
    let at = 12;
    const past = (): void => {
      for (;;) {
        const length = answer.readUInt8(at);
        if (length >= 0xc0) {
          at += 2;
          return;
        }
        at += 1 + length;
        if (length === 0) return;
      }
    };
    const [zones = 0, before = 0, updates = 0, more = 0] = [4, 6, 8, 10].map((one) =>
      answer.readUInt16BE(one),
    );
    for (let nth = 0; nth < zones; nth += 1) {
      past();
      at += 4;
    }
    for (let nth = 0; nth < before + updates + more; nth += 1) {
      const begin = at;
      past();
      const type = answer.readUInt16BE(at);
      const length = answer.readUInt16BE(at + 8);
      at += 10;
      const end = at + length;
      if (type === TSIG) {
        past();
        const seconds = answer.readUIntBE(at, 6);
        const size = answer.readUInt16BE(at + 8);
        const mac = answer.subarray(at + 10, at + 10 + size);
        const rest = at + 10 + size;
        const error = answer.readUInt16BE(rest + 2);
        const otherSize = answer.readUInt16BE(rest + 4);
        return { at: begin, seconds, mac, error, other: answer.subarray(rest + 6, rest + 6 + otherSize) };
      }
      at = end;
    }
    return null;
  } catch {
    return null;
  }
}

function isGenuine(answer: Buffer, tsig: TsigRead, asked: Buffer, key: TsigKey): boolean {
  const plain = Buffer.from(answer.subarray(0, tsig.at));
  plain.writeUInt16BE(plain.readUInt16BE(10) - 1, 10);
  const mac = createHmac(key.algorithm.slice(5), key.secret)
    .update(u16(asked.length))
    .update(asked)
    .update(plain)
    .update(variables(key, tsig.seconds, tsig.error, tsig.other))
    .digest();
  return mac.length === tsig.mac.length && timingSafeEqual(mac, tsig.mac);
}

/** One message and its answer over TCP (RFC 7766): two bytes of length go before each. */
function exchanged(socket: Socket, bytes: Buffer): Promise<Buffer> {
  return new Promise<Buffer>((done, fail) => {
    const pieces: Buffer[] = [];
    const timer = setTimeout(() => {
      fail(new TargetFault('unreached', 'The name server did not answer in time.'));
    }, PATIENCE_MS);
    socket.on('error', (error) => {
      fail(new TargetFault('unreached', `The name server could not be spoken to: ${error.message}`));
    });
    socket.on('close', () => {
      clearTimeout(timer);
      fail(new TargetFault('unreached', 'The name server ended the connection without an answer.'));
    });
    socket.on('data', (piece: Buffer) => {
      pieces.push(piece);
      const all = Buffer.concat(pieces);
      if (all.length >= 2 && all.length >= 2 + all.readUInt16BE(0)) {
        clearTimeout(timer);
        done(all.subarray(2, 2 + all.readUInt16BE(0)));
      }
    });
    socket.write(Buffer.concat([u16(bytes.length), bytes]));
  }).finally(() => socket.destroy());
}
