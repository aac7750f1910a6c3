import { Problem } from '../../api/problems.js';
import { nearest } from '../../core/address/nearest.js';
import type { EngineBook } from '../engine-book/book.js';

/** The id of an engine by its id or title, in whatever case. Throws Problem `no-such-engine`, with the nearest name and all there are. */
export function engineIdOf({ book }: { readonly book: EngineBook }, ref: string): string {
  const all = book.all();
  if (all.has(ref)) return ref;
  const wanted = ref.trim().toLowerCase();
  const found = [...all.values()].find(
    ({ id, title }) => id.toLowerCase() === wanted || title.toLowerCase() === wanted,
  );
  if (found) return found.id;
  const near = nearest(
    ref,
    [...all.values()].flatMap(({ id, title }) => [id, title]),
  );
  throw new Problem('no-such-engine', {
    ref,
    near: near === null ? '.' : `. Did you mean ${near}?`,
    known: [...all.keys()].join(', '),
  });
}
