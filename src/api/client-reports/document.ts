import type { ClientReport } from '../../core/report/report.js';

export type { ClientReport };

/** A report for a client’s owner, in every form. */
export interface ReportWritten {
  title: string;
  html: string;
  markdown: string;
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
