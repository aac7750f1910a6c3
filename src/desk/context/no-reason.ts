/** What stands as the reason where nobody gave one. */
export const NO_REASON = 'no reason given';
