/**
 * Is told what a look met before that is recorded: whether it failed in a way that may be ours. So an outage of our own is known before
 * anything is held against a website.
 */
export type Met = (outOfReach: boolean) => Promise<void>;

/** For looks that a person asks for: nobody is told. */
export const UNTOLD: Met = () => Promise.resolve();
