import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { sayError } from '../api.js';
import { Notice } from './notice.js';

/** What a query has so far: lines to come that take the room of the rows, the error in words, or the page. */
export function QueryView<T>({
  query,
  rows = 6,
  children,
}: {
  query: UseQueryResult<T>;
  rows?: number;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.error) return <Notice kind="stops">{sayError(query.error)}</Notice>;
  return (
    <div role="status" aria-busy="true" aria-label="Loading">
      {Array.from({ length: rows }, (_, at) => (
        <div key={at} className="waiting mb-2 h-9 bg-wash" />
      ))}
    </div>
  );
}
