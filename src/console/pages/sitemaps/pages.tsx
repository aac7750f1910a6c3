import type { Person } from '../../../api/documents.js';
import { ContentsPage } from '../contents/page.js';
import { PlainPage } from '../contents/plain.js';
import { SitemapBook } from './book.js';
import { SitemapPage } from './page.js';

/** The pages about sitemaps, loaded together when one of them is first opened. */
export function SitemapPages({
  person,
  which,
}: {
  person: Person;
  which: 'all' | 'one' | 'contents' | 'plain';
}) {
  const mayWork = person.role !== 'onlooker';
  switch (which) {
    case 'all':
      return <SitemapBook mayWork={mayWork} />;
    case 'one':
      return <SitemapPage mayWork={mayWork} />;
    case 'contents':
      return <ContentsPage />;
    case 'plain':
      return <PlainPage />;
  }
}
