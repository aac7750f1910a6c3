/** The documents that requests and answers are made of. Times are RFC 3339 in UTC; durations ISO 8601. */
export type * from './parts/document.js';
export type * from './people/document.js';
export type * from './clients/document.js';
export type * from './properties/document.js';
export type * from './variants/document.js';
export type * from './engines/document.js';
export type * from './enrolments/document.js';
export type * from './tokens/document.js';
export type * from './checks/document.js';
export type * from './claims/document.js';
export type * from './sitemaps/document.js';
export type * from './single-pages/document.js';
export type * from './standing/document.js';
export type * from './history/document.js';
export type * from './journal/document.js';
export type * from './jobs/document.js';
