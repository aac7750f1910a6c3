import type { Person } from '../../../api/documents.js';
import { SitemapBook } from './book.js';
import { SitemapPage } from './page.js';

/** The pages about sitemaps, loaded together when one of them is first opened. */
export function SitemapPages({ person, which }: { person: Person; which: 'all' | 'one' }) {
  const mayWork = person.role !== 'onlooker';
  return which === 'all' ? <SitemapBook mayWork={mayWork} /> : <SitemapPage mayWork={mayWork} />;
}
