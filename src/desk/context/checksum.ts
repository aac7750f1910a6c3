import { createHash } from 'node:crypto';

/** The SHA-256 of some bytes, in hexadecimal digits. */
export function checksum(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}
