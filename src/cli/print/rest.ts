import type { Counts } from '../../api/documents.js';
import { counted } from '../../api/counted.js';
import type { Context } from '../context.js';
import { paint, plain, say } from './text.js';

/** Says what is not shown: how many there are of each kind, and how to see more. */
export function sayRest(shown: number, all: number, kinds: string, next: string | null): void {
  if (all === 0) return;
  const more = next === null ? '' : ` --limit N or --after "${next}" shows more.`;
  say(paint.dim(plain(`${String(shown)} of ${String(all)}${kinds === '' ? '' : `: ${kinds}`}.${more}`)));
}

/** Says what can be done next, as it would be typed. */
export function sayNext(...commands: readonly string[]): void {
  say(paint.dim(plain(`Next: ${commands.join(' · ')}`)));
}

/** Under a list: how many of what it showed, and as whom. Nothing with `--json`, which is for programs. */
export async function sayShown(
  context: Context,
  shown: number,
  next: string | null,
  one: string,
  of = '',
): Promise<void> {
  if (context.json || shown === 0) return;
  const { person } = await context.client.whoAmI();
  const many = one.endsWith('y') ? `${one.slice(0, -1)}ies` : `${one}s`;
  const more = next === null ? '' : ', and more behind them';
  say(paint.dim(plain(`${counted(shown, one, many)}${of}${more}, as ${person.name} sees them.`)));
}

/** Counts as a sentence has them, without what there is none of. */
export function inWords(counts: Counts): string {
  return Object.entries(counts)
    .filter(([, count]) => count > 0)
    .map(([kind, count]) => `${String(count)} ${kind}`)
    .join(', ');
}
