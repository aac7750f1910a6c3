import type { Counts } from '../../api/documents.js';
import { counted } from '../../api/plural.js';
import type { Context } from '../context.js';
import { placeTyped } from '../options.js';
import { paint, paragraph, plain } from './text.js';

/** What a list is of. */
export interface Shown {
  /** How many lines of it are shown. */
  readonly shown: number;
  /** How many there are in all; as many as are shown where nobody says. */
  readonly all?: number;
  /** What one of them is called, and several, where that is not told by the one. */
  readonly one: string;
  readonly many?: string;
  /** Of what they are, such as ` of saltmarsh`; nothing for all there are. */
  readonly of?: string;
  /** How many there are of each kind, in words. */
  readonly kinds?: string;
  /** Where the next page begins; null for the last one. */
  readonly next?: string | null;
}

/** Under a list: how many of how many of what it showed, as whom, and how to see more. Nothing with `--json`, which is for programs. */
export async function sayShown(context: Context, list: Shown): Promise<void> {
  const { shown, all = shown, one, of = '', kinds = '', next = null } = list;
  const { many = pluralOf(one) } = list;
  if (context.json || all === 0) return;
  const { person } = await context.client.whoAmI();
  const what = shown === all ? counted(all, one, many) : `${String(shown)} of ${counted(all, one, many)}`;
  const more = next === null ? '' : ` --limit N or --after ${placeTyped(next)} shows more.`;
  paragraph(
    '',
    plain(`${what}${of}${kinds === '' ? '' : `: ${kinds}`}; as ${person.name} sees them.${more}`),
    paint.dim,
  );
}

function pluralOf(one: string): string {
  return one.endsWith('y') ? `${one.slice(0, -1)}ies` : `${one}s`;
}

/** Counts as a sentence has them, without what there is none of. */
export function inWords(counts: Counts): string {
  return Object.entries(counts)
    .filter(([, count]) => count > 0)
    .map(([kind, count]) => `${String(count)} ${kind}`)
    .join(', ');
}
