import type { WordingPart } from '../../core/wording/wording.js';

/** One sentence that an agency may say in words of its own. */
export interface Sentence {
  language: 'en' | 'de';
  part: WordingPart;
  name: string;
  /** As it is said, and as it is said where nobody has changed it. */
  says: string;
  usual: string;
  isOwn: boolean;
}

export interface SentenceInput {
  language: 'en' | 'de';
  part: WordingPart;
  name: string;
  /** Null takes the usual words back. */
  says: string | null;
}

/** How it reads on real data. */
export interface WordingPreview {
  sheet: string;
  /** Of the letters that would be written; empty where none would be. */
  letters: { subject: string; text: string }[];
}
