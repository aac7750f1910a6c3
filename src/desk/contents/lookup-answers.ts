import type { SitemapUrl } from '../../api/documents.js';
import { profileOf, type Desk } from '../context/desk.js';

/** What engines said of single pages when they were last asked, by address. */
export type AskedAbout = ReadonlyMap<string, SitemapUrl['asked']>;

/** Answers that are looked through: what was asked of one property is some hundred a month. */
const MOST = 20_000;

/** What the engines at which a property is enrolled last said of pages of it. */
export async function askedAbout(desk: Desk, propertyId: string): Promise<AskedAbout> {
  const rows = await desk.store.select<{
    address: string;
    engine: string;
    listed: number | null;
    at: string;
    says: string | null;
  }>(
    `SELECT a.address, e.engine, a.listed, a.at, a.says FROM enrolments e JOIN page_asks a ON a.enrolmentId = e.id
      WHERE e.propertyId = $propertyId AND a.kind = 'lookup' AND a.answeredAt IS NOT NULL ORDER BY a.at DESC LIMIT ${String(MOST)}`,
    { propertyId },
  );
  const found = new Map<string, SitemapUrl['asked']>();
  for (const { address, engine, listed, at, says } of rows) {
    const { title } = profileOf(desk, engine);
    const known = found.get(address) ?? [];
    if (known.some((one) => one.engine === title)) continue;
    known.push({ engine: title, listed: listed === null ? null : Boolean(listed), at, says });
    found.set(address, known);
  }
  return found;
}
