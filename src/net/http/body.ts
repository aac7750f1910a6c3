import { Readable, type Duplex } from 'node:stream';
import { TextDecoder } from 'node:util';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import type { Body } from '../../core/badge/look/evidence.js';

const UNPACKERS: ReadonlyMap<string, () => Duplex> = new Map<string, () => Duplex>([
  ['gzip', createGunzip],
  ['x-gzip', createGunzip],
  ['deflate', createInflate],
  ['br', createBrotliDecompress],
]);

/** A body as it came unpacked, piece by piece, and whether the bound was met. */
export interface Bounded {
  readonly bytes: number;
  readonly cut: boolean;
}

/** How a body may be packed besides what its Content-Encoding says: told by its first bytes. */
export type IsPacked = (head: Uint8Array) => boolean;

/**
 * Hands on a body piece by piece, unpacked, and stops at the bound: a compression bomb costs no more than the bound.
 * @param encoding the Content-Encoding header (RFC 9110 §8.4); one that is not known is handed on as it is
 * @param limit bytes, unpacked
 * @param take gets each piece; says false when it wants no more
 * @param isGzip whether the content itself is a gzip file, by its first bytes; such a one is unpacked too
 * @throws what the network or the unpacking throws
 */
export async function pump(
  source: Readable,
  encoding: string,
  limit: number,
  take: (piece: Uint8Array) => boolean,
  isGzip: IsPacked = () => false,
): Promise<Bounded> {
  const makeUnpacker = UNPACKERS.get(encoding.trim().toLowerCase());
  const plain = makeUnpacker ? through(source, makeUnpacker()) : source;
  const { first, rest } = await begin(plain);
  const unpacked = isGzip(first) ? through(Readable.from(rest), createGunzip()) : rest;
  let bytes = 0;
  try {
    for await (const piece of unpacked) {
      const room = limit - bytes;
      if (piece.length > room) {
        take(piece.subarray(0, room));
        return { bytes: limit, cut: true };
      }
      bytes += piece.length;
      if (!take(piece)) return { bytes, cut: false };
    }
    return { bytes, cut: false };
  } finally {
    source.destroy();
    plain.destroy();
    if ('destroy' in unpacked) unpacked.destroy();
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

/** Reads a whole page or file into text, by the charset that it declares, else UTF-8. */
export async function readBody(
  source: Readable,
  headers: Readonly<Record<string, string>>,
  limit: number,
): Promise<Body> {
  const pieces: Uint8Array[] = [];
  const { bytes, cut } = await pump(source, headers['content-encoding'] ?? '', limit, (piece) => {
    pieces.push(piece);
    return true;
  });
  const type = headers['content-type'] ?? null;
  const raw = Buffer.concat(pieces);
  return {
    text: decoderFor(type).decode(raw),
    raw,
    bytes,
    cut,
    mediaType: type?.split(';')[0]?.trim().toLowerCase() ?? null,
  };
}

/** The decoder for a media type's charset parameter. A BOM is kept: for a file compared byte by byte it counts. */
export function decoderFor(contentType: string | null): TextDecoder {
  const charset = /charset\s*=\s*"?([^";\s]+)/i.exec(contentType ?? '')?.[1] ?? 'utf-8';
  try {
    return new TextDecoder(charset, { ignoreBOM: true });
  } catch {
    return new TextDecoder('utf-8', { ignoreBOM: true });
  }
}
