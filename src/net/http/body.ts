import type { Readable } from 'node:stream';
import { TextDecoder } from 'node:util';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import type { Body } from '../../core/badge/look/evidence.js';

const UNPACKERS: Readonly<Record<string, () => NodeJS.ReadWriteStream>> = {
  gzip: createGunzip,
  'x-gzip': createGunzip,
  deflate: createInflate,
  br: createBrotliDecompress,
};

/** A body as it came unpacked, piece by piece, and whether the bound was met. */
export interface Bounded {
  readonly bytes: number;
  readonly cut: boolean;
}

/**
 * Hands on a body piece by piece, unpacked, and stops at the bound: a compression bomb costs no more than the bound.
 * @param encoding the Content-Encoding header (RFC 9110 §8.4); one that is not known is handed on as it is
 * @param limit bytes, unpacked
 * @param take gets each piece; says false when it wants no more
 * @throws what the network or the unpacking throws
 */
export async function pump(
  source: Readable,
  encoding: string,
  limit: number,
  take: (piece: Uint8Array) => boolean,
): Promise<Bounded> {
  const makeUnpacker = UNPACKERS[encoding.trim().toLowerCase()];
  const unpacked = makeUnpacker ? source.pipe(makeUnpacker()) : source;
  if (makeUnpacker)
    source.on('error', (error) => {
      (unpacked as Readable).destroy(error);
    });
  let bytes = 0;
  try {
    for await (const piece of unpacked as AsyncIterable<Uint8Array>) {
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
    (unpacked as Readable).destroy();
  }
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
