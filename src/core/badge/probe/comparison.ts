import type { Comparison } from '../../profile/profile.js';
import { readAsUtf8 } from './text-bytes.js';

/** Whether what was found equals what should stand, by the engine's way of comparing. */
export function same(compare: Comparison, found: string, wanted: string): boolean {
  return compare === 'exact' ? found === wanted : found.trim() === wanted.trim();
}

/** The same for the bytes of a file. */
export function sameBytes(compare: Comparison, found: Uint8Array, wanted: string): boolean {
  if (compare === 'trimmed') return same(compare, readAsUtf8(found), wanted);
  const bytes = new TextEncoder().encode(wanted);
  return bytes.length === found.length && bytes.every((byte, at) => byte === found[at]);
}
