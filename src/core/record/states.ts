/** Words of the records that the store keeps, the desk sets and the API tells. */

/** How far a job is; `stopped` by a person, until it is resumed. */
export const JOB_STATES = ['waiting', 'running', 'stopped', 'done'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** How far one piece of a job is. */
export const ITEM_STATES = ['waiting', 'running', 'done', 'failed'] as const;
export type ItemState = (typeof ITEM_STATES)[number];

/** What an engine said to a claim. */
export const VERDICTS = ['confirmed', 'refused'] as const;
export type VerdictKind = (typeof VERDICTS)[number];

/** How a link to an engine stands for one kind of work. */
export const LINK_STATES = ['answers', 'waits', 'unreached'] as const;
export type LinkStateKind = (typeof LINK_STATES)[number];

/** Why a token was put in place of another. */
export const REPLACED_WHYS = ['expired', 'changed', 'forgotten'] as const;
export type ReplacedWhy = (typeof REPLACED_WHYS)[number];

/** Who makes a claim once our check foresees that it is accepted: a person, or nobody. */
export const CLAIMS_BY = ['by-person', 'by-themselves'] as const;
export type ClaimsBy = (typeof CLAIMS_BY)[number];
