import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { TokenOwner } from '../../api/documents.js';
import { api } from '../api.js';

/** What is shorter is no token. */
const SHORTEST = 12;
const SHOWN = 3;

function standsHow({ replacedAt, endedAt }: TokenOwner): string {
  if (endedAt !== null) return 'ended since';
  return replacedAt === null ? 'in force' : 'replaced since';
}

/** Whose token was pasted into a field that finds things; nothing where it is none that is known. */
export function WhoseToken({ text }: { text: string }) {
  const query = useQuery({
    queryKey: ['whose token', text],
    queryFn: () => api.whoseToken({ query: { text: text.slice(0, 4_000) } }),
    enabled: /[\w-]{12,}/u.test(text) && text.length >= SHORTEST,
  });
  const items = query.data?.items ?? [];
  return (
    <span role="status" className="empty:hidden">
      {items.slice(0, SHOWN).map((one) => (
        <span key={`${one.enrolment} ${one.method}`} className="mr-3">
          {one.engine.title}’s {one.method} token of{' '}
          <Link to={`/properties/${one.property}`}>{one.enrolment}</Link>, {standsHow(one)}
        </span>
      ))}
      {items.length > SHOWN && `and ${String(items.length - SHOWN)} more`}
    </span>
  );
}
