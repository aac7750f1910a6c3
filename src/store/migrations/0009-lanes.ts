/** Work for many: lanes, counters on the job's own row, hosts and engines that pieces go to, stops by a person. */
export const lanes = {
  name: '0009-lanes',
  up: [
    `ALTER TABLE jobs ADD COLUMN lane TEXT NOT NULL DEFAULT 'person' CHECK (lane IN ('person','bulk','long'))`,
    `ALTER TABLE jobs ADD COLUMN total INTEGER NOT NULL DEFAULT 0`,
    `ALTER TABLE jobs ADD COLUMN finished INTEGER NOT NULL DEFAULT 0`,
    `ALTER TABLE jobs ADD COLUMN resting INTEGER NOT NULL DEFAULT 0`,
    `ALTER TABLE jobs ADD COLUMN stoppedAt TEXT`,
    `UPDATE jobs SET total = (SELECT COUNT(*) FROM job_items WHERE jobId = jobs.id),
       finished = (SELECT COUNT(*) FROM job_items WHERE jobId = jobs.id AND state IN ('done','failed')),
       resting = (SELECT COUNT(*) FROM job_items WHERE jobId = jobs.id AND state = 'waiting' AND dueAt IS NOT NULL)`,
    `UPDATE jobs SET lane = 'bulk' WHERE total > 20`,
    `ALTER TABLE job_items ADD COLUMN host TEXT`,
    `ALTER TABLE job_items ADD COLUMN engine TEXT`,
    `CREATE INDEX job_items_next ON job_items (jobId, state, seq)`,
    `CREATE INDEX jobs_person ON jobs (personId, createdAt, id)`,
  ],
};
