import { createHash } from 'node:crypto';
import { deflateRawSync, inflateRaw } from 'node:zlib';
import { promisify } from 'node:util';
import { addressesIn, type Chunk } from '../core/sitemap/set/chunks.js';

const unpack = promisify(inflateRaw);
/** A chunk's name: so many bytes of the SHA-256 of what is in it, in hexadecimal. */
const NAME_BYTES = 16;

/** A run of addresses as it is kept. */
export interface PackedChunk {
  readonly name: string;
  /** Its text, deflated (RFC 1951); null where it is kept already. */
  readonly packed: Uint8Array<ArrayBuffer> | null;
}

/** The addresses of one file, in chunks to keep. */
export interface CutAddresses {
  readonly count: number;
  readonly chunks: readonly PackedChunk[];
}

/**
 * Packs chunks one by one, each as soon as it is cut.
 * @param known names of chunks that are kept already; those that are packed are added
 */
export function packAll(chunks: Iterable<Chunk>, known: Set<string>): CutAddresses {
  const packed: PackedChunk[] = [];
  let all = 0;
  for (const { count, text } of chunks) {
    all += count;
    packed.push(pack(text, known));
  }
  return { count: all, chunks: packed };
}

function pack(text: string, known: Set<string>): PackedChunk {
  const bytes = Buffer.from(text);
  const name = createHash('sha256')
    .update(bytes)
    .digest('hex')
    .slice(0, NAME_BYTES * 2);
  if (known.has(name)) return { name, packed: null };
  known.add(name);
  // A copy of just what it needs, since it is sent to another thread with the memory in which it lies.
  return { name, packed: new Uint8Array(deflateRawSync(bytes)) };
}

/** The addresses of a chunk, in order. */
export async function unpackChunk(packed: Uint8Array): Promise<string[]> {
  return addressesIn((await unpack(packed)).toString());
}

/** The names in a row, as a reading keeps them. */
export function namesTogether(names: Iterable<string>): Buffer {
  return Buffer.from([...names].join(''), 'hex');
}

export function namesIn(together: Buffer): string[] {
  const names: string[] = [];
  for (let at = 0; at < together.length; at += NAME_BYTES)
    names.push(together.toString('hex', at, at + NAME_BYTES));
  return names;
}
