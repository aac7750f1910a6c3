/**
 * How what stands differs from what should, as far as people and their programs make such differences: mail programs,
 * word processors, content systems and DNS panels. The order is that in which they are told.
 */
export const DIFFERENCES = [
  'whole-tag',
  'whole-line',
  'prefix-missing',
  'prefix-doubled',
  'split',
  'cut',
  'extra',
  'quotes',
  'dashes',
  'invisible',
  'escaped',
  'look-alike',
  'case',
  'spaces',
  'typo',
] as const;
export type Difference = (typeof DIFFERENCES)[number];
