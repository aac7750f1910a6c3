import type { SheetPlaceKind } from '../../core/sheet/sheet.js';

/** What somebody did by a shared link: had us look, said that it is done, or why it cannot be. */
export const SHARED_USES = ['look', 'done', 'cannot'] as const;

export interface SharedUse {
  at: string;
  kind: (typeof SHARED_USES)[number];
  /** In their own words; null where they gave none. */
  says: string | null;
}

/** A link by which a sheet is seen without signing in. The link itself is shown once, when it is made. */
export interface SharedLink {
  id: string;
  /** The handles; `property` is null where it is for all of the client. */
  client: string;
  property: string | null;
  /** By which it is told from others, such as whom it was given to. */
  word: string | null;
  language: 'en' | 'de';
  /** The enrolments and the places that it shows; null for all. */
  enrolments: string[] | null;
  places: SheetPlaceKind[] | null;
  /** Whether whoever made it is told that it was opened, used, or has expired. */
  tells: boolean;
  createdAt: string;
  by: string | null;
  expiresAt: string;
  state: 'open' | 'expired' | 'ended';
  /** How often it was opened, counted once a minute, and when last. */
  opened: number;
  openedAt: string | null;
  /** The newest first. */
  uses: SharedUse[];
}

export interface NewSharedLink {
  property?: string;
  client?: string;
  word?: string;
  language?: 'en' | 'de';
  /** Only the tokens of these enrolments, and only what goes to these places. */
  enrolments?: string[];
  places?: SheetPlaceKind[];
  /** For how long it works: ISO 8601; two weeks where nothing is said. */
  lasts?: string;
  tells?: boolean;
}

/** A link as it is made; nobody sees the address again. */
export interface MadeLink extends SharedLink {
  url: string;
}
