/** Byte order marks and the encodings that they announce (the Encoding standard, §6). */
const MARKS: readonly (readonly [encoding: string, bytes: readonly number[]])[] = [
  ['utf-8', [0xef, 0xbb, 0xbf]],
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]],
];

/** The encoding that a byte order mark at the beginning announces; null where there is none. */
export function byteOrderMark(raw: Uint8Array): string | null {
  return MARKS.find(([, bytes]) => bytes.every((byte, at) => raw[at] === byte))?.[0] ?? null;
}

/** Bytes as UTF-8, the mark kept: where every byte counts, it counts too. */
export function readAsUtf8(raw: Uint8Array): string {
  return new TextDecoder('utf-8', { ignoreBOM: true }).decode(raw);
}

/** Bytes by the encoding that they seem to be in, where that is not UTF-8: announced by a mark, or with every other byte zero. */
export function readOtherwise(raw: Uint8Array): { encoding: string; text: string } | null {
  const marked = byteOrderMark(raw);
  const zeros = raw.subarray(0, 64).filter((byte) => byte === 0).length;
  const guessed = zeros * 3 > Math.min(64, raw.length) ? (raw[0] === 0 ? 'utf-16be' : 'utf-16le') : null;
  const encoding = marked !== null && marked !== 'utf-8' ? marked : guessed;
  return encoding === null ? null : { encoding, text: new TextDecoder(encoding).decode(raw) };
}
