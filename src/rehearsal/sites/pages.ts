import type { SiteState } from '../state.js';

/** The page that a website shows at its front door. */
export function homePage(site: SiteState): string {
  return `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <title>${site.title}</title>
${site.head.map((tag) => `    ${tag}\n`).join('')}  </head>
  <body>
    <h1>${site.title}</h1>
    <p>${site.words}</p>
${site.body.map((tag) => `    ${tag}\n`).join('')}  </body>
</html>
`;
}

/** What a website says where it has nothing. */
export function notFound(site: SiteState): string {
  return `<!doctype html>\n<html><head><title>Not found – ${site.title}</title></head><body><h1>Nothing at this mooring</h1></body></html>\n`;
}

/** One of a website's sitemaps; an index where it has others beside it. Its pages are of the month before. */
export function sitemapText(site: SiteState, path: string, count: number, now: Date): string {
  const month = new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() - 1)).toISOString().slice(0, 7);
  const origin = `https://${site.host}`;
  const others = Object.keys(site.sitemaps).filter((one) => one !== path);
  const open = (root: string) =>
    `<?xml version="1.0" encoding="UTF-8"?>\n<${root} xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n`;
  if (path === '/sitemap.xml' && others.length > 0) {
    return `${open('sitemapindex')}${others.map((one) => `  <sitemap><loc>${origin}${one}</loc></sitemap>\n`).join('')}</sitemapindex>\n`;
  }
  // Each sitemap has pages of its own: those of crossings.xml are in crossings/.
  const folder = path === '/sitemap.xml' ? '/' : `${path.replace(/\.\w+$/, '')}/`;
  const lines = Array.from({ length: count }, (_, at) => {
    const day = String(1 + (at % 28)).padStart(2, '0');
    return `  <url><loc>${origin}${folder}page-${String(at + 1)}</loc><lastmod>${month}-${day}</lastmod></url>\n`;
  });
  return `${open('urlset')}${lines.join('')}</urlset>\n`;
}

/** A page that sends its visitors on after a moment, as some hosts do in place of a redirect. */
export function refreshPage(to: string): string {
  return `<!doctype html>\n<html><head><title>One moment</title><meta http-equiv="refresh" content="0; url=${to}"></head><body></body></html>\n`;
}

/** The same by a script. */
export function scriptPage(to: string): string {
  return `<!doctype html>\n<html><head><title>One moment</title><script>window.location.replace("${to}");</script></head><body></body></html>\n`;
}

/** A domain that is forwarded inside a frame. */
export function framePage(site: SiteState, to: string): string {
  return `<!doctype html>\n<html><head><title>${site.title}</title></head><frameset rows="100%"><frame src="${to}"></frameset></html>\n`;
}
