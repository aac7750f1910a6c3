/** Reports that clients were sent, or that were written for them, each kept as it was. */
export const clientReports = {
  name: '0024-client-reports',
  up: [
    `CREATE TABLE client_reports (id TEXT PRIMARY KEY, clientId TEXT NOT NULL, spanFrom TEXT NOT NULL, spanTo TEXT NOT NULL, at TEXT NOT NULL, personId TEXT,
       sentTo TEXT, messageId TEXT, title TEXT NOT NULL, html TEXT NOT NULL, markdown TEXT NOT NULL, report TEXT NOT NULL)`,
    `CREATE INDEX client_reports_client ON client_reports (clientId, at)`,
    // What changed in a stretch of time, of one client.
    `CREATE INDEX IF NOT EXISTS journal_client_at ON journal (clientId, at)`,
  ],
};
