import type { Lived } from '../../src/rehearsal/thirty-days.js';

/** Everything that people are told of in the thirty days, but for what an engine had withdrawn: the same whether or not the service was killed. */
export const TOLD = [
  'certificate tea',
  'cut-off ',
  'out-of-reach tea',
  'out-of-reach tea',
  'sitemap-unreachable seeds',
  'slipping clocks',
  'slipping ferries',
  'slipping ropes',
  'stays-away buttons',
];

/** What was told of, in the same form. */
export function toldOf({ cases }: Lived): string[] {
  return cases
    .filter(({ kind }) => kind !== 'lost')
    .map(({ kind, property }) => `${kind} ${property ?? ''}`)
    .sort();
}
