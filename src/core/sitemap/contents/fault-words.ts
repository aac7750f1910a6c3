import type { FindingCode } from '../../findings/catalogue.js';

/** What is found of single entries, in few words for a table; the findings of the whole say more. */
export const FAULT_WORDS: Readonly<Partial<Record<FindingCode, string>>> = {
  'sitemap.twice': 'listed twice in its file',
  'sitemap.in-two': 'in another file too',
  'sitemap.forbidden-addresses': 'kept from engines by the robots.txt',
  'sitemap.not-at-door': 'not at the front door',
  'sitemap.other-host': 'on another host',
  'sitemap.other-scheme': 'under another scheme',
  'sitemap.outside': 'outside of the sitemap’s folder',
  'sitemap.too-long': 'too long',
  'sitemap.relative': 'no whole address',
  'sitemap.not-an-address': 'cannot be read as an address',
  'sitemap.unescaped': 'characters that are not escaped',
  'sitemap.no-location': 'without an address',
  'sitemap.bad-date': 'a date that is none',
  'sitemap.future-date': 'a date in the future',
  'sitemap.bad-priority': 'a priority that is none',
  'sitemap.bad-frequency': 'a frequency that is none',
};

export function faultWords(code: string): string {
  return FAULT_WORDS[code as FindingCode] ?? code;
}
