/** What is to be placed for one property or client, for whoever holds the keys, in every form. */
export interface PlacementSheet {
  title: string;
  language: 'en' | 'de';
  /** As it stood then. */
  at: string;
  /** How many things are to be done, and how many are. */
  open: number;
  done: number;
  markdown: string;
  /** For a mail. */
  text: string;
  /** A page of its own, to be opened, sent on and printed. */
  html: string;
  /** The files that are to be uploaded, by their path. */
  files: { path: string; content: string; sha256: string }[];
  /** Enrolments of which nothing is on it, since no token of them is known yet. */
  missing: string[];
}
