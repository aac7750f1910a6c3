import { counted } from '../plural.js';
import type { Gathering } from './document.js';

export { KIND_SAYS, LEFT_OUT_SAYS } from '../../core/sitemap/make/words.js';

/** How far a gathering is, in one line. */
export function progressOf({ found, read, waiting, leftOut, seconds }: Gathering): string {
  return `found ${number(found)}, read ${number(read)}, waiting ${number(waiting)}, left out ${number(leftOut)}, ${String(seconds)} s`;
}

function number(value: number): string {
  return value.toLocaleString('en');
}

/** How fast a website is gone through, in one sentence. */
export function paceSays({ atOnce, delay }: Pick<Gathering, 'atOnce' | 'delay'>): string {
  if (delay === null) return `Pace: ${counted(atOnce, 'page', 'pages')} at once.`;
  return `Pace: one page every ${String(delay)} s, as the robots.txt asks (Crawl-delay).`;
}
