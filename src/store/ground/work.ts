/** Jobs, the watch, and what people are told. */
export const work: readonly string[] = [
  `CREATE TABLE jobs (id TEXT PRIMARY KEY, kind TEXT NOT NULL, state TEXT NOT NULL, personId TEXT REFERENCES persons(id), createdAt
     TEXT NOT NULL, finishedAt TEXT, lane TEXT NOT NULL DEFAULT 'person' CHECK (lane IN ('person','bulk','long')), total INTEGER
     NOT NULL DEFAULT 0, finished INTEGER NOT NULL DEFAULT 0, resting INTEGER NOT NULL DEFAULT 0, stoppedAt TEXT)`,
  `CREATE INDEX jobs_state ON jobs (state)`,
  `CREATE INDEX jobs_newest ON jobs (createdAt, id)`,
  `CREATE INDEX jobs_person ON jobs (personId, createdAt, id)`,
  `CREATE INDEX jobs_age ON jobs (finishedAt) WHERE finishedAt IS NOT NULL`,
  `CREATE INDEX jobs_kind ON jobs (kind, state)`,
  `CREATE INDEX jobs_ordered ON jobs (createdAt, id) WHERE kind NOT IN ('watch', 'watch-read')`,
  `CREATE TABLE job_items (id TEXT PRIMARY KEY, jobId TEXT NOT NULL REFERENCES jobs(id), seq INTEGER NOT NULL, subject TEXT NOT
     NULL, input TEXT NOT NULL, state TEXT NOT NULL, begun INTEGER NOT NULL, result TEXT, finishedAt TEXT, dueAt TEXT, host
     TEXT, engine TEXT)`,
  `CREATE INDEX job_items_job ON job_items (jobId, seq)`,
  `CREATE INDEX job_items_due ON job_items (state, dueAt)`,
  `CREATE INDEX job_items_next ON job_items (jobId, state, seq)`,
  `CREATE TABLE pauses (id TEXT PRIMARY KEY, propertyId TEXT, clientId TEXT, why TEXT NOT NULL, since TEXT NOT NULL, until TEXT,
     personId TEXT, endedAt TEXT)`,
  `CREATE INDEX pauses_open ON pauses (endedAt, propertyId, clientId)`,
  `CREATE TABLE watch_tries (id TEXT PRIMARY KEY, fails INTEGER NOT NULL, notBefore TEXT NOT NULL)`,
  `CREATE TABLE outages (id TEXT PRIMARY KEY, since TEXT NOT NULL, until TEXT, says TEXT NOT NULL)`,
  `CREATE INDEX outages_open ON outages (until)`,
  `CREATE TABLE cases (id TEXT PRIMARY KEY, propertyId TEXT, clientId TEXT, kind TEXT NOT NULL, cause TEXT NOT NULL, since TEXT NOT
     NULL, says TEXT NOT NULL, remedy TEXT NOT NULL, acts TEXT NOT NULL, until TEXT, touches TEXT NOT NULL, atOnce INTEGER NOT
     NULL, openedAt TEXT NOT NULL, endedAt TEXT, mended INTEGER, toldAt TEXT, endToldAt TEXT, difference TEXT NOT NULL DEFAULT
     '[]', place TEXT)`,
  `CREATE INDEX cases_open ON cases (propertyId, endedAt)`,
  `CREATE INDEX cases_untold ON cases (openedAt) WHERE toldAt IS NULL`,
  `CREATE INDEX cases_end_untold ON cases (endedAt) WHERE endedAt IS NOT NULL AND endToldAt IS NULL`,
  `CREATE INDEX cases_now ON cases (kind) WHERE endedAt IS NULL`,
  `CREATE INDEX cases_opened ON cases (openedAt, id)`,
  `CREATE INDEX cases_ended ON cases (endedAt, id)`,
  `CREATE INDEX cases_client ON cases (clientId, openedAt)`,
  `CREATE INDEX cases_place ON cases (place, propertyId) WHERE place IS NOT NULL AND endedAt IS NULL`,
  `CREATE INDEX cases_server ON cases (cause, endedAt) WHERE kind = 'server-down'`,
  `CREATE TABLE news (id TEXT PRIMARY KEY, propertyId TEXT NOT NULL REFERENCES properties(id) ON DELETE CASCADE, clientId TEXT NOT
     NULL REFERENCES clients(id) ON DELETE CASCADE, kind TEXT NOT NULL, enrolment TEXT NOT NULL, says TEXT NOT NULL, at TEXT NOT
     NULL, toldAt TEXT)`,
  `CREATE INDEX news_untold ON news (at) WHERE toldAt IS NULL`,
  `CREATE INDEX news_at ON news (at)`,
  `CREATE INDEX news_property ON news (propertyId)`,
  `CREATE INDEX news_client ON news (clientId)`,
  `CREATE TABLE tellings (personId TEXT PRIMARY KEY, email TEXT, zone TEXT NOT NULL, digestAt TEXT NOT NULL, atOnce INTEGER NOT
     NULL, digest INTEGER NOT NULL, clients TEXT, upTo TEXT NOT NULL)`,
  `CREATE TABLE hooks (id TEXT PRIMARY KEY, url TEXT NOT NULL, secret TEXT NOT NULL, clientId TEXT, createdAt TEXT NOT NULL,
     personId TEXT, endedAt TEXT)`,
  `CREATE TABLE messages (id TEXT PRIMARY KEY, way TEXT NOT NULL CHECK (way IN ('mail','hook')), personId TEXT, hookId TEXT, sentTo
     TEXT NOT NULL, subject TEXT NOT NULL, body TEXT NOT NULL, createdAt TEXT NOT NULL, nextAt TEXT, tries INTEGER NOT NULL,
     sentAt TEXT, deadAt TEXT, fault TEXT)`,
  `CREATE INDEX messages_due ON messages (nextAt) WHERE nextAt IS NOT NULL`,
  `CREATE INDEX messages_dead ON messages (deadAt) WHERE deadAt IS NOT NULL`,
  `CREATE INDEX messages_newest ON messages (createdAt, id)`,
  `CREATE TABLE step_marks (propertyId TEXT NOT NULL, engine TEXT NOT NULL, enrolmentId TEXT NOT NULL, kind TEXT NOT NULL, personId
     TEXT, putOffUntil TEXT, why TEXT, putOffBy TEXT, PRIMARY KEY (propertyId, engine, enrolmentId, kind)) WITHOUT ROWID`,
  `CREATE INDEX step_marks_person ON step_marks (personId) WHERE personId IS NOT NULL`,
];
