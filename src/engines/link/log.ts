import type { Work } from '../engine.js';

/** How the link to an engine stands for one kind of work, as of the last answer. */
export interface LinkNote {
  readonly kind: 'answers' | 'waits' | 'unreached';
  readonly says: string | null;
  /** When to ask again, where the engine said so. */
  readonly until: Date | null;
}

/** Where the link writes down how it goes, and reads what it must not ask for yet. */
export interface LinkLog {
  /** The engine's word that this work is switched off until later; null when it may be asked. */
  pending(work: Work): LinkNote | null;
  note(work: Work, note: LinkNote): Promise<void>;
}

/** For callers that keep no record. */
export const NO_LOG: LinkLog = { pending: () => null, note: () => Promise.resolve() };
