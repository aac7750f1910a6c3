import { Agency } from './agency.js';

const FERRIES = 'www.saltmarsh-ferries.example';
const MUSEUM = 'www.button-museum.example';
const TEA = 'compass-tea.example';
const BAKERY = 'www.pebble-rye.example';
const SITEMAP = 'http://www.sitemaps.org/schemas/sitemap/0.9';

function urlset(locations: readonly string[]): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="${SITEMAP}">\n${locations.map((one) => `  <url><loc>${one}</loc></url>\n`).join('')}</urlset>\n`;
}

function numbered(count: number, make: (at: number) => string): string[] {
  return Array.from({ length: count }, (_, at) => make(at + 1));
}

/** What becomes of the clients' sitemaps in the demo's story. */
export class SitemapScenes extends Agency {
  protected async noted(property: string, address: string): Promise<string> {
    return (await this.jonas.addSitemap({ body: { property, address } })).id;
  }

  protected async submitted(sitemap: string, ...enrolments: string[]): Promise<void> {
    await this.jonas.finished(await this.jonas.submitSitemap({ body: { sitemap, enrolments } }));
  }

  /** @param sample how many pages to try: in the past few, so that nobody waits for the demo to begin */
  protected async read(property: string, sample = 0): Promise<void> {
    await this.jonas.finished(await this.jonas.readSitemaps({ body: { property, sample } }));
  }

  /** Somebody submits one of the index's sitemaps first, then the index, and the feed of news beside it. */
  protected async ferriesSubmitted(): Promise<void> {
    const news = numbered(
      12,
      (at) =>
        `<item><title>Tide ${String(at)}</title><link>https://${FERRIES}/news/page-${String(at)}</link></item>`,
    );
    await this.order({
      do: 'file',
      host: FERRIES,
      path: '/news.rss',
      content: `<?xml version="1.0" encoding="UTF-8"?>\n<rss version="2.0"><channel><title>News</title><link>https://${FERRIES}/</link>${news.join('\n')}</channel></rss>\n`,
      type: 'application/rss+xml',
    });
    const veldrane = 'ferries@veldrane:address';
    await this.submitted(await this.noted('ferries', '/sitemaps/crossings.xml'), veldrane);
    await this.submitted(await this.noted('ferries', 'sitemap.xml'), veldrane, 'ferries@ostrime');
    await this.submitted(await this.noted('ferries', 'news.rss'), veldrane);
    await this.read('ferries');
  }

  /** Every season the ferry line adds crossings, and now and then drops one. */
  protected async ferriesGrow(crossings: number): Promise<void> {
    await this.order({ do: 'sitemap', host: FERRIES, path: '/sitemaps/crossings.xml', addresses: crossings });
    await this.read('ferries');
  }

  /** The museum has an index, one of whose sitemaps does not answer. */
  protected async museumNoted(): Promise<void> {
    for (const [path, addresses] of [
      ['/sitemaps/halls.xml', 40],
      ['/sitemaps/collection.xml', 412],
      ['/sitemaps/loans.xml', 18],
    ] as const)
      await this.order({ do: 'sitemap', host: MUSEUM, path, addresses });
    const answer = { path: '/sitemaps/loans.xml', status: 500, body: 'the cupboard is bare' };
    await this.order({ do: 'odd', host: MUSEUM, answer });
    await this.noted('buttons', 'sitemap.xml');
  }

  /** Half of the tearooms' addresses are written in a way that the engine's reader passes over. */
  protected async teaSubmitted(): Promise<void> {
    const plain = numbered(31, (at) => `https://${TEA}/teas/page-${String(at)}`);
    const wrapped = numbered(27, (at) => `<![CDATA[https://${TEA}/cakes/page-${String(at)}]]>`);
    await this.order({
      do: 'file',
      host: TEA,
      path: '/sitemap.xml',
      content: urlset([...plain, ...wrapped]),
      type: 'application/xml',
    });
    await this.submitted(await this.noted('tea', 'sitemap.xml'), 'tea@ostrime');
    await this.read('tea');
  }

  /** The bakery moved; its sitemap still lists where it lived. */
  protected async bakeryNoted(): Promise<void> {
    const old = numbered(19, (at) => `http://pebble-rye.example/page-${String(at)}`);
    await this.order({
      do: 'file',
      host: BAKERY,
      path: '/sitemap.xml',
      content: urlset(old),
      type: 'application/xml',
    });
    await this.noted('bakery', 'sitemap.xml');
  }

  /** An update switched half of the seed growers' catalogue off. */
  protected async seedsFall(host: string): Promise<void> {
    await this.order({ do: 'sitemap', host, path: '/sitemap.xml', addresses: 41 });
  }
}
