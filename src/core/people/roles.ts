/** What people may do: a lead everything, a consultant the daily work, an onlooker nothing but look. */
export const ROLES = ['lead', 'consultant', 'onlooker'] as const;
export type Role = (typeof ROLES)[number];
