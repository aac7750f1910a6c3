import type { SheetLanguage } from '../../core/sheet/sentences.js';
import type { ClientReport } from '../../core/report/report.js';

export type { ClientReport };

/** Of which days a report is, and in which language; as its receiver reads where none is said, English where nobody is known. */
export interface ReportAsked {
  from?: string;
  to?: string;
  language?: SheetLanguage;
}

/** A report that is to be kept, and sent where somebody is named; the same one twice in a day only with `anyway`. */
export interface NewKeptReport extends ReportAsked {
  email?: string;
  contact?: string;
  anyway?: boolean;
}

/** A report for a client’s owner, in every form. */
export interface ReportWritten {
  title: string;
  html: string;
  markdown: string;
  /** The mail that takes it to somebody: its subject, and its text without a page. */
  mail: { subject: string; text: string; html: string };
  report: ClientReport;
}

/** One that was kept, as it was. */
export interface ReportKept {
  id: string;
  client: string;
  from: string;
  to: string;
  at: string;
  by: string | null;
  /** Null where it was only kept. */
  sentTo: string | null;
  title: string;
}

export interface WholeReport extends ReportKept {
  html: string;
  markdown: string;
}
