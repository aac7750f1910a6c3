import { ATOM } from '../read/limits.js';
import { escaped } from './write.js';

/** One page of a feed. */
export interface FeedItem {
  readonly url: string;
  readonly title: string;
  /** RFC 3339, or a day. */
  readonly changedAt: string;
}

/** How many pages a feed of the most recent ones has. */
export const MOST_RECENT = 50;

/** A feed of pages as Atom (RFC 4287). @param own the address of the feed itself */
export function atomText(own: string, title: string, items: readonly FeedItem[]): string {
  const entries = items.map(
    (one) =>
      `  <entry><id>${escaped(one.url)}</id><title>${escaped(one.title)}</title><link href="${escaped(one.url)}"/><updated>${moment(one.changedAt)}</updated></entry>\n`,
  );
  const updated = moment(items[0]?.changedAt ?? '1970-01-01');
  return `<?xml version="1.0" encoding="UTF-8"?>
<feed xmlns="${ATOM}">
  <id>${escaped(own)}</id>
  <title>${escaped(title)}</title>
  <author><name>${escaped(new URL(own).hostname)}</name></author>
  <link rel="self" href="${escaped(own)}"/>
  <updated>${updated}</updated>
${entries.join('')}</feed>
`;
}

/** The same as RSS 2.0. */
export function rssText(own: string, title: string, items: readonly FeedItem[]): string {
  const entries = items.map(
    (one) =>
      `  <item><title>${escaped(one.title)}</title><link>${escaped(one.url)}</link><guid>${escaped(one.url)}</guid><pubDate>${new Date(one.changedAt).toUTCString().replace('GMT', '+0000')}</pubDate></item>\n`,
  );
  const home = new URL('/', own).href;
  return `<?xml version="1.0" encoding="UTF-8"?>
<rss version="2.0"><channel>
  <title>${escaped(title)}</title>
  <link>${escaped(home)}</link>
  <description>${escaped(title)}</description>
${entries.join('')}</channel></rss>
`;
}

/** A day as the moment at which it begins: feeds want one (RFC 3339 §5.6). */
function moment(date: string): string {
  return /^\d{4}-\d\d-\d\d$/u.test(date) ? `${date}T00:00:00Z` : date;
}
