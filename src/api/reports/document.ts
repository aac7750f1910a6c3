import type { ReportRhythm } from '../../core/alerts/digest-time.js';

/** A report that is sent by itself. */
export interface ReportOrder {
  id: string;
  /** The handle; null for all clients. */
  client: string | null;
  /** Whom it goes to: a person, by name, or the address of one of the client's people. */
  person: string | null;
  email: string | null;
  every: ReportRhythm;
  /** At which hour of which zone; on Monday, or on the first of a month. */
  at: string;
  zone: string;
  /** Up to when it has told. */
  upTo: string;
  nextAt: string;
  createdAt: string;
}

/** What a report would say if it were sent now. */
export interface ReportShown {
  id: string;
  subject: string;
  text: string;
  html: string;
}

export interface NewReport {
  client?: string;
  /** A name, or `me`. */
  person?: string;
  email?: string;
  /** Whether it goes to the client's contact on record, where that has an address. */
  contact?: boolean;
  every: ReportRhythm;
  at?: string;
  zone?: string;
}
