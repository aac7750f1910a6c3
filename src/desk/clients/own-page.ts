import { Problem } from '../../api/problems.js';
import { addressText } from '../../core/address/web-address.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { frontDoorOf } from '../context/front-door.js';

/**
 * A page of a property, from a path, a whole address, or one that only lacks its scheme.
 * @throws Problem where it lies elsewhere: other host, scheme or port, other robots.txt
 */
export function ownPage(property: PropertyRow, text: string): string {
  const door = addressText(frontDoorOf(property));
  const { origin, protocol, host } = new URL(door);
  const typed = text.trim();
  const isBare = typed.toLowerCase() === host || typed.toLowerCase().startsWith(`${host}/`);
  const whole = isBare ? `${protocol}//${typed}` : typed;
  const url = URL.canParse(whole, door) ? new URL(whole, door) : null;
  // Who signs in there, and where on the page one would begin to read, are no part of what a page is called.
  if (url?.origin === origin && url.username === '' && url.password === '') {
    url.hash = '';
    return url.href;
  }
  throw new Problem('bad-page-elsewhere', { text: text.slice(0, 80), door });
}
