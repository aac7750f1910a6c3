import type { Sitemap } from '../../../api/documents.js';
import { worstFirst } from '../../../api/worst-first.js';
import { FindingView } from '../../parts/finding-view.js';

/** What was found in a sitemap and at the engines, the worst first. What an engine shows is ours to see to, not the developer's. */
export function SitemapFindings({ sitemap }: { sitemap: Pick<Sitemap, 'reading' | 'submissions'> }) {
  const theirs = sitemap.submissions.flatMap(({ findings }) => findings);
  return (
    <ul className="space-y-2 text-sm">
      {worstFirst([...(sitemap.reading?.findings ?? []), ...theirs]).map((one) => (
        <FindingView
          key={one.code + one.says}
          one={one}
          tells={['stops', 'harms', 'note']}
          isOurs={theirs.includes(one)}
        />
      ))}
    </ul>
  );
}
