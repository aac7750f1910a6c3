export { writtenDay, writtenMinute } from '../core/time/time-formats.js';

/** The handle as it was: what is put away keeps a mark behind it, so that another may have it. */
export function plainHandle(handle: string): string {
  return handle.split('~')[0] ?? handle;
}
