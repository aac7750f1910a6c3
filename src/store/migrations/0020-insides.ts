/** Sitemaps whose addresses lie on a shelf of their own, to be looked at one by one. */
export const insides = {
  name: '0020-insides',
  up: [
    `CREATE TABLE insides (sitemapId TEXT PRIMARY KEY, id TEXT NOT NULL, at TEXT NOT NULL, usedAt TEXT NOT NULL, kind TEXT, entries INTEGER NOT NULL,
       files INTEGER NOT NULL, isCut INTEGER NOT NULL)`,
    `CREATE INDEX page_asks_enrolment ON page_asks (enrolmentId, at)`,
  ],
};
