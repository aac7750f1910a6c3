import { Readable, type Duplex } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate, createInflateRaw } from 'node:zlib';
import type { Body } from '../../core/badge/probe/evidence.js';
import { mediaTypeOf } from '../../core/html/media-type.js';
import { pageEncoding } from '../../core/html/encoding.js';

type Unpacker = (first: Uint8Array) => Duplex;

const UNPACKERS: ReadonlyMap<string, Unpacker> = new Map<string, Unpacker>([
  ['gzip', () => createGunzip()],
  ['x-gzip', () => createGunzip()],
  ['deflate', (first) => (isZlib(first) ? createInflate() : createInflateRaw())],
  ['br', () => createBrotliDecompress()],
]);

/** More codings upon one another than these nobody means: the rest is handed on as it came. */
const MOST_CODINGS = 3;

/**
 * What a body is packed with, outermost first (RFC 9110 §8.4: they are named in the order in which they were applied). One
 * that is not known ends the list: what it packed cannot be read.
 */
function codingsOf(encoding: string): Unpacker[] {
  const names = encoding
    .split(',')
    .map((name) => name.trim().toLowerCase())
    .filter((name) => name !== '' && name !== 'identity')
    .reverse()
    .slice(0, MOST_CODINGS);
  const known: Unpacker[] = [];
  for (const name of names) {
    const unpacker = UNPACKERS.get(name);
    if (!unpacker) break;
    known.push(unpacker);
  }
  return known;
}

/** Whether `deflate` is what the standard says, zlib's format (RFC 1950 §2.2), and not the bare stream (RFC 1951) that some send. */
function isZlib([method = 0, flags = 0]: Uint8Array): boolean {
  return (method & 0x0f) === 8 && ((method << 8) | flags) % 31 === 0;
}

/** A body as it came unpacked, piece by piece, and whether the bound was met. */
export interface Bounded {
  readonly bytes: number;
  readonly cut: boolean;
}

/** How a body may be packed besides what its Content-Encoding says: told by its first bytes. */
export type IsPacked = (head: Uint8Array) => boolean;

/**
 * Hands on a body piece by piece, unpacked, and stops at the bound: a compression bomb costs no more than the bound.
 * @param encoding the Content-Encoding header (RFC 9110 §8.4), one coding or several; one that is not known is handed on as it is
 * @param limit bytes, unpacked
 * @param take gets each piece; says false when it wants no more
 * @param isGzip whether the content itself is a gzip file, by its first bytes; such a one is unpacked too
 * @throws what the network or the unpacking throws
 */
export async function pump(
  source: Readable,
  encoding: string,
  limit: number,
  take: (piece: Uint8Array) => boolean | Promise<boolean>,
  isGzip: IsPacked = () => false,
): Promise<Bounded> {
  const opened: (Readable | Duplex)[] = [source];
  let bytes = 0;
  try {
    let plain = await begin(source);
    for (const unpacker of codingsOf(encoding)) {
      const unpacked = through(Readable.from(plain.rest), unpacker(plain.first));
      opened.push(unpacked);
      plain = await begin(unpacked);
    }
    const inner = isGzip(plain.first) ? through(Readable.from(plain.rest), createGunzip()) : null;
    if (inner) opened.push(inner);
    const unpacked: AsyncIterable<Uint8Array> = inner ?? plain.rest;
    for await (const piece of unpacked) {
      const room = limit - bytes;
      if (piece.length > room) {
        await take(piece.subarray(0, room));
        return { bytes: limit, cut: true };
      }
      bytes += piece.length;
      const goesOn = take(piece);
      if (!(typeof goesOn === 'boolean' ? goesOn : await goesOn)) return { bytes, cut: false };
    }
    return { bytes, cut: false };
  } finally {
    for (const stream of opened) stream.destroy();
  }
}

/** Pipes with the source's errors handed on, which a pipe alone does not do. */
function through(source: Readable, into: Duplex): Duplex {
  source.on('error', (error) => {
    into.destroy(error);
  });
  return source.pipe(into);
}

/** The first bytes of a stream, enough to tell what it is, and the whole of it from the beginning. */
async function begin(stream: Readable): Promise<{ first: Uint8Array; rest: AsyncIterable<Uint8Array> }> {
  const pieces = stream[Symbol.asyncIterator]() as AsyncIterator<Uint8Array>;
  let first: Uint8Array = new Uint8Array();
  let isOver = false;
  while (first.length < 2 && !isOver) {
    const next = await pieces.next();
    isOver = next.done === true;
    if (!isOver) first = first.length === 0 ? next.value : Buffer.concat([first, next.value]);
  }
  async function* all(): AsyncGenerator<Uint8Array> {
    if (first.length > 0) yield first;
    for (;;) {
      const next = isOver ? null : await pieces.next();
      if (!next || next.done === true) return;
      yield next.value;
    }
  }
  return { first, rest: all() };
}

/**
 * Reads a whole page or file. A page is to be decoded as the HTML standard has it, whatever stands in it; anything else by
 * the charset of its media type, else UTF-8.
 */
export async function readBody(
  source: Readable,
  headers: Readonly<Record<string, string>>,
  limit: number,
): Promise<Body> {
  const { pieces, bytes, cut } = await piecesOf(source, headers['content-encoding'] ?? '', limit);
  const type = headers['content-type'] ?? null;
  const mediaType = mediaTypeOf(type)?.essence ?? null;
  const raw = Buffer.concat(pieces);
  const base = { raw, bytes, cut, mediaType };
  if (mediaType !== null && !mediaType.includes('html')) return { ...base, charset: charsetOf(type) };
  const encoding = pageEncoding(raw, type);
  return { ...base, charset: encoding.name, encoding };
}

interface Pieces extends Bounded {
  readonly pieces: readonly Uint8Array[];
}

/** A body in pieces, unpacked, up to a bound. Throws as `pump` does. */
async function piecesOf(source: Readable, encoding: string, limit: number): Promise<Pieces> {
  if (codingsOf(encoding).length === 0) return listened(source, limit);
  const pieces: Uint8Array[] = [];
  const bounded = await pump(source, encoding, limit, (piece) => {
    pieces.push(piece);
    return true;
  });
  return { pieces, ...bounded };
}

/** What is not packed is only listened to: an iterator over it costs more than all else that is done with most pages. */
function listened(source: Readable, limit: number): Promise<Pieces> {
  return new Promise((done, failed) => {
    const pieces: Uint8Array[] = [];
    let bytes = 0;
    source.on('data', (piece: Uint8Array) => {
      const room = limit - bytes;
      pieces.push(piece.length > room ? piece.subarray(0, room) : piece);
      bytes += Math.min(piece.length, room);
      if (piece.length <= room) return;
      done({ pieces, bytes, cut: true });
      source.destroy();
    });
    source.once('end', () => {
      done({ pieces, bytes, cut: false });
    });
    source.once('error', failed);
    source.once('close', () => {
      failed(new Error('the connection was closed before the end'));
    });
  });
}

/** The charset that a media type names, else UTF-8. */
function charsetOf(contentType: string | null): string {
  return mediaTypeOf(contentType)?.charset ?? 'utf-8';
}
