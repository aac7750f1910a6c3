import type { Comparison } from '../profile/profile.js';

/** Whether what was found equals what should stand, by the engine's way of comparing. */
export function same(compare: Comparison, found: string, wanted: string): boolean {
  return compare === 'exact' ? found === wanted : found.trim() === wanted.trim();
}
