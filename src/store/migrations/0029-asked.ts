/** By which method a client's people were asked to prove an enrolment, so that they are not asked for another thing the next time. */
export const asked = {
  name: '0029-asked',
  up: [
    `ALTER TABLE enrolments ADD COLUMN askedMethod TEXT`,
    `ALTER TABLE enrolments ADD COLUMN askedAt TEXT`,
  ],
};
