import { randomBytes } from 'node:crypto';

const ALPHABET = '0123456789abcdefghjkmnpqrstvwxyz';

/** A new record's identifier: 80 random bits in 16 characters that are safe in paths and easy to read out. */
export function newId(): string {
  return [...randomBytes(16)].map((byte) => ALPHABET[byte & 31]).join('');
}
