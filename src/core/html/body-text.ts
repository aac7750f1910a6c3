/** A body as far as its text goes: bytes, and by what they are to be read. */
export interface Bytes {
  readonly raw: Uint8Array;
  /** By the name that the Encoding standard has for it. */
  readonly charset: string;
}

/** Texts that were read, for as long as their bodies are of use. */
const texts = new WeakMap<Bytes, string>();

/**
 * The text of a body, decoded once and only where somebody wants it: bytes go to the threads that read them, and texts need not.
 * A byte order mark is kept, since for a file that is compared byte by byte it counts.
 */
export function textOf(body: Bytes): string {
  const known = texts.get(body) ?? decoderNamed(body.charset).decode(body.raw);
  texts.set(body, known);
  return known;
}

/** The decoder of a name; that of UTF-8 where nobody knows it. */
function decoderNamed(name: string): InstanceType<typeof TextDecoder> {
  try {
    return new TextDecoder(name, { ignoreBOM: true });
  } catch {
    return new TextDecoder('utf-8', { ignoreBOM: true });
  }
}
