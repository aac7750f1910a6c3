/** The robots.txt that was written for a property and is to be carried there. */
export const robotsKept = {
  name: '0019-robots-kept',
  up: [
    `CREATE TABLE robots_kept (propertyId TEXT PRIMARY KEY, text TEXT NOT NULL, sum TEXT NOT NULL, over TEXT, at TEXT NOT NULL, personId TEXT)`,
  ],
};
