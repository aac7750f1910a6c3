import type { Badge, Forecast } from '../../api/documents.js';
import { paint } from './text.js';

const MARKS: Readonly<Record<Badge, string>> = {
  bare: '○',
  issued: '◔',
  'in-place': '◑',
  held: '●',
  slipping: '◍',
  lost: '✕',
};

/** A badge as its mark alone, for a strip under which the words stand. */
export function mark(badge: Badge): string {
  return MARKS[badge];
}

/** A badge as a mark and its word: never by colour alone. */
export function badge(badge: Badge): string {
  return `${MARKS[badge]} ${badge}`;
}

export function forecast(forecast: Forecast): string {
  if (forecast === 'accept') return paint.green('✓ accept');
  return forecast === 'refuse' ? paint.red('✗ refuse') : paint.magenta('? unsure');
}
