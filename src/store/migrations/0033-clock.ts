/** The latest time that the service has seen, by which it notices that its clock was ahead. */
export const clock = {
  name: '0033-clock',
  up: ['CREATE TABLE clock_seen (id INTEGER PRIMARY KEY CHECK (id = 1), at TEXT NOT NULL)'],
};
