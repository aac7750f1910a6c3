/** Sentences that an agency says in words of its own. */
export const wording = {
  name: '0026-wording',
  up: [
    `CREATE TABLE wordings (language TEXT NOT NULL, part TEXT NOT NULL, name TEXT NOT NULL, says TEXT NOT NULL, at TEXT NOT NULL, personId TEXT,
       PRIMARY KEY (language, part, name)) WITHOUT ROWID`,
  ],
};
