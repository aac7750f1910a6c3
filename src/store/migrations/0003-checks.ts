/** Checks that know other tokens, and what a client's people can get at. */
export const checks = {
  name: '0003-checks',
  up: [
    `CREATE INDEX tokens_value ON tokens (value)`,
    `CREATE INDEX checks_token ON checks (tokenId, checkedAt)`,
    `ALTER TABLE properties ADD COLUMN access TEXT NOT NULL DEFAULT '{}'`,
    `ALTER TABLE properties ADD COLUMN siteSeen TEXT`,
  ],
};
