import { escaped } from '../text/escaped.js';
import { pageOf } from '../sheet/page.js';

/** A letter in somebody's own words as a page: each paragraph one, whatever is in it. */
export function asPage(subject: string, text: string, language: string): string {
  const body = text
    .trim()
    .split(/\n{2,}/u)
    .map((paragraph) => `<p>${escaped(paragraph).replaceAll('\n', '<br>')}</p>`)
    .join('\n');
  return pageOf({ title: subject, language, body });
}
