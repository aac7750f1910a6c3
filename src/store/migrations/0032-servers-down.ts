/** Websites that are out of reach at one address are told as one alert: that of their server. */
export const serversDown = {
  name: '0032-servers-down',
  up: [
    // The address at which a website was out of reach; null for other cases, and where none was dialled.
    `ALTER TABLE cases ADD COLUMN place TEXT`,
    `CREATE INDEX cases_place ON cases (place, propertyId) WHERE place IS NOT NULL AND endedAt IS NULL`,
    `CREATE INDEX cases_server ON cases (cause, endedAt) WHERE kind = 'server-down'`,
  ],
};
