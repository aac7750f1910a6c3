/** Lists over all clients, newest first, without a look at every letter and link that there ever was. */
export const newestFirst = {
  name: '0027-newest-first',
  up: [
    `CREATE INDEX letters_newest ON letters (at DESC, id)`,
    `CREATE INDEX letters_open ON letters (at DESC, id) WHERE answeredAt IS NULL`,
    // Harms of one client, for a report of it.
    `CREATE INDEX cases_client ON cases (clientId, openedAt)`,
    `CREATE INDEX shared_links_newest ON shared_links (createdAt DESC, id)`,
  ],
};
