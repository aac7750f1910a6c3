import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SitemapFolder, SitemapOutline } from '../../../api/documents.js';
import { api } from '../../api.js';

interface Chosen {
  readonly sitemap: string;
  readonly chosen: string | undefined;
  readonly choose: (folder: string | null) => void;
}

/** What a folder is called below the one that holds it. */
function nameOf(folder: string, above: string): string {
  if (folder === '') return '(no whole address)';
  return above === '' ? folder.replace(/^https?:\/\//u, '') : folder.slice(above.length);
}

function FolderRow({
  folder,
  above,
  level,
  opensFirst,
  ...tree
}: Chosen & { folder: SitemapFolder; above: string; level: number; opensFirst: boolean }) {
  const [isOpen, setOpen] = useState(opensFirst);
  const isChosen = tree.chosen === folder.folder;
  const name = nameOf(folder.folder, above);
  return (
    <li>
      <div
        className={`flex items-baseline gap-1 ${isChosen ? 'bg-wash font-semibold' : ''}`}
        style={{ paddingLeft: `${String(level * 0.9)}rem` }}
      >
        {folder.hasBelow ? (
          <button
            type="button"
            aria-expanded={isOpen}
            aria-label={`Folders below ${name}`}
            onClick={() => {
              setOpen(!isOpen);
            }}
            className="min-h-6 w-6 shrink-0 text-faint"
          >
            {isOpen ? '−' : '+'}
          </button>
        ) : (
          <span className="w-6 shrink-0" />
        )}
        <button
          type="button"
          aria-pressed={isChosen}
          onClick={() => {
            tree.choose(isChosen ? null : folder.folder);
          }}
          className="min-h-6 min-w-0 grow text-left font-mono text-[13px] wrap-anywhere text-accent"
        >
          {name}
        </button>
        <span className="shrink-0 text-right tabular-nums">{folder.total.toLocaleString('en')}</span>
      </div>
      {isOpen && <Below {...tree} of={folder.folder} level={level + 1} />}
    </li>
  );
}

function Below({ of, level, ...tree }: Chosen & { of: string; level: number }) {
  const below = useQuery({
    queryKey: ['outline', tree.sitemap, of],
    queryFn: () => api.outlineSitemap({ params: { sitemap: tree.sitemap }, query: { folder: of } }),
  });
  if (!below.data) return <p className="waiting pl-8 text-sm text-faint">…</p>;
  return <Folders {...tree} outline={below.data} above={of} level={level} />;
}

function Folders({
  outline,
  above,
  level,
  ...tree
}: Chosen & { outline: SitemapOutline; above: string; level: number }) {
  return (
    <ul>
      {outline.folders.map((folder) => (
        <FolderRow
          key={folder.folder}
          {...tree}
          folder={folder}
          above={above}
          level={level}
          opensFirst={outline.folders.length === 1 && level < 3}
        />
      ))}
      {outline.more && <li className="pl-8 text-sm text-faint">… and more: find them by their letters.</li>}
    </ul>
  );
}

/** The folders of a sitemap with how many addresses are in each and below; one that is chosen narrows the table. */
export function FolderTree({ top, ...tree }: Chosen & { top: SitemapOutline }) {
  return (
    <>
      <h2 className="mb-1 text-base">Folders</h2>
      <Folders {...tree} outline={top} above="" level={0} />
    </>
  );
}
