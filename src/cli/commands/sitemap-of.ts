import type { Sitemap } from '../../api/documents.js';
import type { Context } from '../context.js';
import { Usage } from '../exit.js';

/** The sitemap of a property that is meant; the one that it has, where none is named. Throws Usage. */
export async function sitemapOf(
  context: Context,
  property: string,
  address: string | undefined,
): Promise<Sitemap> {
  const { items } = await context.client.listSitemaps({ query: { property } });
  const found = address === undefined ? items : items.filter(({ url }) => isMeant(url, address));
  const [only, second] = found;
  if (only && !second) return only;
  const known = items.map(({ url }) => new URL(url).pathname).join(', ');
  if (items.length === 0)
    throw new Usage(`${property} has no sitemap noted. “sitemap find ${property} --note” looks for one.`);
  throw new Usage(
    `${address === undefined ? `Name one of the sitemaps of ${property}` : `${property} has ${only ? 'more than one' : 'no'} sitemap “${address}”`}: ${known}.`,
  );
}

/** Whether a sitemap is called by its path, its file name or its address. */
export function isMeant(url: string, address: string): boolean {
  return url === address || url.endsWith(address.startsWith('/') ? address : `/${address}`);
}

/** A number as it was typed. Throws Usage. */
export function whole(text: string | undefined, name: string): number | undefined {
  if (text === undefined) return undefined;
  if (/^\d+$/.test(text)) return Number(text);
  throw new Usage(`${name} “${text}” is no number; expected such as 50.`);
}
