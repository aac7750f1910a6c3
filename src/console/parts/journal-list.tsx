import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, sayError } from '../api.js';
import { Button } from './button.js';
import { Notice } from './notice.js';
import { When } from './when.js';
import { given } from '../../api/given.js';

/** The journal of everything or of one property, by its identifier, newest first. */
export function JournalList({ property }: { property?: string }) {
  const journal = useInfiniteQuery({
    queryKey: ['journal', property],
    queryFn: ({ pageParam }) =>
      api.journal({
        query: {
          limit: 50,
          ...given({ property }),
          ...(pageParam === null ? {} : { after: pageParam }),
        },
      }),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next,
  });
  if (journal.error) return <Notice kind="stops">{sayError(journal.error)}</Notice>;
  const entries = (journal.data?.pages ?? []).flatMap(({ items }) => items);
  if (journal.isPending) return <div className="waiting h-40 bg-wash" />;
  if (entries.length === 0) return <Notice kind="note">Nothing happened yet.</Notice>;
  return (
    <>
      <ol className="border-b border-rule bg-sheet">
        {entries.map((entry) => (
          <li
            key={entry.seq}
            className="grid gap-x-4 border-t border-rule px-3 py-1.5 md:grid-cols-[10rem_6rem_7rem_1fr]"
          >
            <span className="text-sm text-faint">
              <When time={entry.at} />
            </span>
            <span className="text-sm">{entry.who ?? 'service'}</span>
            <span className="text-sm">
              {entry.property !== null && <Link to={`/properties/${entry.property}`}>{entry.property}</Link>}
            </span>
            <span className="break-words">{entry.says}</span>
          </li>
        ))}
      </ol>
      {journal.hasNextPage && (
        <Button className="mt-3" onClick={() => void journal.fetchNextPage()}>
          Show earlier
        </Button>
      )}
    </>
  );
}
