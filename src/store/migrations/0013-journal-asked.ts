/** The journal is asked for what one kind of work came to, what one person did, and what was between two times. */
export const journalAsked = {
  name: '0013-journal-asked',
  up: [
    `CREATE INDEX journal_kind ON journal (kind, seq)`,
    `CREATE INDEX journal_person ON journal (personId, seq)`,
    `CREATE INDEX journal_at ON journal (at, seq)`,
  ],
};
