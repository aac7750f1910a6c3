import type { Lived } from '../../src/rehearsal/thirty-days.js';

/** Everything that people are told of at once in the thirty days, but for what an engine has withdrawn: whether or not the service was killed. */
export const TOLD = [
  'buttons: engines are asked to stay away',
  'clocks: token gone',
  'ferries: token gone',
  'nothing can be reached from here',
  'ropes: token gone',
  'seeds: sitemap out of reach',
  // A certificate that ran out, and a day without a website.
  'tea: out of reach',
  'tea: out of reach',
];

/** What people were sent of it. */
export function toldOf({ mails }: Lived): string[] {
  return mails
    .map(({ subject }) => subject)
    .filter((subject) => !/^Yard Badge today|over – |badge lost/u.test(subject))
    .sort();
}
