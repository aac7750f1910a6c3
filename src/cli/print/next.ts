import { paint, paragraph, plain } from './text.js';

/** Says what can be done next, as it would be typed. */
export function sayNext(...commands: readonly string[]): void {
  if (commands.length > 0) paragraph('', plain(`Next: ${commands.join(' · ')}`), paint.dim);
}
