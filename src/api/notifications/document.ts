import type { Counts, Page } from '../parts/document.js';

/** Something that slipped, was lost or will be: one cause, with what it touches. */
export interface Alert {
  id: string;
  kind: string;
  /** Handles; null where it is this service itself. */
  property: string | null;
  client: string | null;
  since: string;
  says: string;
  /** What is to be done; empty where nothing is. */
  remedy: string;
  acts: 'us' | 'client' | 'engine' | 'time';
  /** When an engine may act on it; null where that cannot be told. */
  until: string | null;
  /** Names of enrolments, or addresses of sitemaps. */
  touches: string[];
  /** The last good evidence beside the present one, line by line; empty where that tells nothing. */
  difference: string[];
  openedAt: string;
  endedAt: string | null;
  /** Whether it ended well; null while it is open. */
  mended: boolean | null;
  /** When people were notified; null where they were not, or not yet. */
  notifiedAt: string | null;
}

export interface Alerts extends Page<Alert> {
  /** How many alerts there are of each kind. */
  counts: Counts;
}

/** What a person is notified of, and how. */
export interface Recipient {
  person: string;
  /** Null where they get no mail. */
  email: string | null;
  /** IANA name of their time zone, and the hour of their digest in it. */
  zone: string;
  digestAt: string;
  atOnce: boolean;
  digest: boolean;
  /** Handles; null for all clients. */
  clients: string[] | null;
}

/** An address that gets alerts as signed requests. */
export interface Webhook {
  id: string;
  url: string;
  client: string | null;
  createdAt: string;
}

export interface NewWebhook extends Webhook {
  /** By which requests are signed; shown this once. */
  secret: string;
}

/** A message: to whom, and whether it was sent. */
export interface SentMessage {
  id: string;
  way: 'mail' | 'hook';
  to: string;
  subject: string;
  state: 'sent' | 'waiting' | 'dead';
  createdAt: string;
  /** When it was sent, is tried next, or was given up. */
  at: string;
  tries: number;
  fault: string | null;
}

export interface WholeMessage extends SentMessage {
  text: string;
}
