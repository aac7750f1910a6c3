/** The orders in which the addresses of a sitemap are shown: as they stand there, by their letters, by when they changed. */
export const ENTRY_ORDERS = ['place', 'address', 'newest', 'oldest'] as const;
export type EntryOrder = (typeof ENTRY_ORDERS)[number];

/** Which of them: asked about at an engine that lists them, at one that does not, or asked about at all. */
export const ENTRY_ASKED = ['listed', 'unlisted', 'any'] as const;
export type EntryAsked = (typeof ENTRY_ASKED)[number];
