/** A token as an engine (or the house) gave it, for one method. */
export interface Token {
  readonly value: string;
}

/** How many random bytes a token of the house has: 20 bytes are 160 bits, well above the 128 that it must have. */
export const HOUSE_TOKEN_BYTES = 20;

const ALPHABET = '0123456789abcdefghjkmnpqrstvwxyz';

/**
 * The house's token for given random bytes, in base 32 without the letters that are read wrongly (i, l, o, u).
 * @param bytes at least 16 (128 bits); throws RangeError on fewer
 */
export function houseToken(bytes: Uint8Array): string {
  if (bytes.length < 16) throw new RangeError('a house token needs at least 128 random bits');
  let bits = 0;
  let held = 0;
  let text = '';
  for (const byte of bytes) {
    held = (held << 8) | byte;
    bits += 8;
    while (bits >= 5) {
      bits -= 5;
      text += ALPHABET[(held >> bits) & 31] ?? '';
    }
  }
  return bits > 0 ? text + (ALPHABET[(held << (5 - bits)) & 31] ?? '') : text;
}
