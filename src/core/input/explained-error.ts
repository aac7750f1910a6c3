/** An error whose message says what is the matter to whoever ran the program: what to mend, and how. Nothing of ours is broken. */
export class Explained extends Error {}
