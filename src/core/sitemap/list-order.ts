/** Orders that a list of sitemaps can have: what is farthest apart, longest unread, fell most; or by property. */
export const SITEMAP_ORDERS = ['gap', 'age', 'fall', 'property'] as const;
export type SitemapOrder = (typeof SITEMAP_ORDERS)[number];
