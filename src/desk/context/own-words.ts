import { wordingOf, type OwnWords, type Wording } from '../../core/wording/wording.js';
import type { SheetLanguage } from '../../core/sheet/sentences.js';
import type { Desk } from './desk.js';

/** The sentences that the agency says in words of its own: a few dozen at most. */
export function ownWords({ store }: Pick<Desk, 'store'>): Promise<OwnWords[]> {
  return store.select<OwnWords>('SELECT language, part, name, says FROM wordings');
}

/**
 * All sentences of a language as the agency says them.
 * @param tried one that is only tried
 */
export async function wordsIn(
  desk: Desk,
  language: SheetLanguage,
  tried: readonly OwnWords[] = [],
): Promise<Wording> {
  return wordingOf(language, [...(await ownWords(desk)), ...tried]);
}
