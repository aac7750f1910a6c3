import { finding } from '../src/core/findings/catalogue.js';
import { Store } from '../src/store/store.js';
import { numbers } from '../test/support/numbers.js';

/** Engines with their account, as the rehearsal's profiles know them. */
const ENGINES = ['house', 'veldrane', 'ostrime', 'brindle', 'sundrel'];
const CLIENT_EACH = 10;
const DAY = 86_400_000;
/** Where the years of these records begin. */
const BEGIN = Date.UTC(2026, 0, 5, 9);

type Row = Record<string, string | number | null>;

/** The token of a property at an engine, as its website has to show it. */
export function tokenAt(property: number, engine: string): string {
  return `tokenep${String(property)}${engine}`;
}

/**
 * The records of an agency: clients, properties at five engines each, looks, ownerships, sitemaps. The same for the same seed.
 * @param scheme of the properties' addresses, which are at `www.quay-N.example`
 */
export async function makeAgency(
  file: string,
  properties: number,
  {
    seed = 13,
    scheme = 'https',
    held,
  }: {
    seed?: number;
    scheme?: 'http' | 'https';
    /** Where given, every token was seen at the time that it says of what is watched, and there are no sitemaps. */
    held?: (watched: string) => string;
  } = {},
): Promise<void> {
  const random = numbers(seed);
  const time = (days: number) => new Date(BEGIN + Math.floor(days * DAY)).toISOString();
  const tables = new Map<string, Row[]>();
  const put = (table: string, row: Row) => {
    const rows = tables.get(table) ?? [];
    tables.set(table, rows);
    rows.push(row);
  };
  for (const engine of ENGINES)
    put('accounts', { id: `a-${engine}`, engine, name: 'agency', createdAt: time(0) });
  for (let at = 0; at < properties; at += 1) {
    const client = `c${String(Math.floor(at / CLIENT_EACH))}`;
    if (at % CLIENT_EACH === 0)
      put('clients', {
        id: client,
        handle: `client-${client}`,
        name: `Client ${client}`,
        audience: random() < 0.3 ? '["FI"]' : '[]',
        version: 1,
        createdAt: time(at / properties),
      });
    makeProperty(put, { id: `p${String(at)}`, client, at, random, time, scheme, held });
  }
  const store = await Store.open(file);
  try {
    for (const [table, rows] of tables)
      for (let from = 0; from < rows.length; from += 5_000)
        await store.write((transaction) => store.insert(table, rows.slice(from, from + 5_000), transaction));
  } finally {
    await store.close();
  }
}

/** What findings about a tag at a page are said with. */
export function valuesAt(url: string): Readonly<Record<string, string | number>> {
  return { url, name: 'quay-proof', tag: '<meta>', content: 'token', tags: 1, line: 3, column: 1 };
}

interface Making {
  readonly id: string;
  readonly client: string;
  readonly at: number;
  readonly random: () => number;
  readonly time: (days: number) => string;
  readonly scheme: 'http' | 'https';
  readonly held: ((watched: string) => string) | undefined;
}

function makeProperty(
  put: (table: string, row: Row) => void,
  { id, client, at, random, time, scheme, held }: Making,
): void {
  const host = `quay-${String(at)}.example`;
  const address = `${scheme}://www.${host}/`;
  const takenOn = time(1 + random() * 100);
  put('properties', {
    id,
    clientId: client,
    handle: `quay-${String(at)}`,
    address,
    host: `www.${host}`,
    frontDoor: address,
    frontDoorSays: 'Answers.',
    frontDoorAt: takenOn,
    variantsAt: held?.(`variants ${id}`) ?? takenOn,
    version: 1,
    createdAt: takenOn,
  });
  const hasSitemap = random() < 0.7 && held === undefined;
  if (hasSitemap) {
    put('sitemaps', { id: `s${id}`, propertyId: id, url: `${address}sitemap.xml`, createdAt: takenOn });
    put('readings', {
      id: `r${id}`,
      sitemapId: `s${id}`,
      at: time(101 + random() * 20),
      kind: 'urlset',
      addresses: Math.floor(random() * 500),
      children: 0,
      findings: '[]',
    });
  }
  for (const engine of ENGINES) {
    if (random() < 0.1) continue;
    const enrolment = `e${id}${engine}`;
    put('enrolments', {
      id: enrolment,
      propertyId: id,
      engine,
      accountId: `a-${engine}`,
      reach: 'address',
      target: address,
      ref: enrolment,
      createdAt: takenOn,
    });
    put('tokens', {
      id: `t${enrolment}`,
      enrolmentId: enrolment,
      method: 'meta',
      value: tokenAt(at, engine),
      issuedAt: takenOn,
    });
    const seen = random() < 0.8 || held !== undefined;
    const values = valuesAt(address);
    const lookedAt = held?.(`placement t${enrolment}`) ?? time(102 + random() * 20);
    put('checks', {
      id: `k${enrolment}`,
      enrolmentId: enrolment,
      tokenId: `t${enrolment}`,
      method: 'meta',
      place: address,
      checkedAt: lookedAt,
      firstAt: lookedAt,
      times: 1,
      seen: seen ? 1 : 0,
      seenSince: lookedAt,
      told: seen ? 'seen' : 'gone',
      toldSince: lookedAt,
      forecast: seen ? 'accept' : 'refuse',
      findings: JSON.stringify([finding(seen ? 'meta.stands' : 'meta.absent', values)]),
    });
    if (random() > 0.7) continue;
    put('ownerships', {
      id: `o${enrolment}`,
      enrolmentId: enrolment,
      at: time(101),
      kind: 'confirmed',
      method: 'meta',
    });
    if (!hasSitemap || engine === 'house') continue;
    put('submissions', {
      id: `u${enrolment}`,
      sitemapId: `s${id}`,
      enrolmentId: enrolment,
      sentAs: `${address}sitemap.xml`,
      ref: enrolment,
      submittedAt: time(102),
    });
  }
}
