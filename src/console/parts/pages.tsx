import { keepPreviousData, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useState } from 'react';
import { Button } from './button.js';
import { given } from '../../api/given.js';

interface PageOf {
  readonly items: readonly unknown[];
  readonly next: string | null;
}

export interface Pages<T extends PageOf> {
  readonly query: UseQueryResult<T>;
  /** Which page is shown, from 1. */
  readonly number: number;
  readonly back: (() => void) | null;
  readonly on: (() => void) | null;
}

/**
 * A list that is read page by page: no more than one page is held, however long the list is. Another list begins with its
 * first page.
 * @param name what is listed, with everything that it is narrowed to
 * @param again milliseconds after which it is read again by itself; never where it is not given
 */
export function usePages<T extends PageOf>(
  name: readonly unknown[],
  read: (after: string | undefined) => Promise<T>,
  again?: number,
): Pages<T> {
  const list = JSON.stringify(name);
  const [turned, setTurned] = useState<{ list: string; places: readonly string[] }>({ list, places: [] });
  const places = turned.list === list ? turned.places : [];
  const setPlaces = (some: readonly string[]) => {
    setTurned({ list, places: some });
  };
  const after = places.at(-1);
  const query = useQuery({
    queryKey: [...name, after],
    queryFn: () => read(after),
    placeholderData: keepPreviousData,
    ...given({ refetchInterval: again }),
  });
  const next = query.data?.next ?? null;
  return {
    query,
    number: places.length + 1,
    back:
      places.length === 0
        ? null
        : () => {
            setPlaces(places.slice(0, -1));
          },
    on:
      next === null || query.isPlaceholderData
        ? null
        : () => {
            setPlaces([...places, next]);
          },
  };
}

/** To the page before and the page after; nothing where there is but one. */
export function PageTurner<T extends PageOf>({ pages }: { pages: Pages<T> }) {
  const { number, back, on } = pages;
  if (back === null && on === null) return null;
  const turn = (how: (() => void) | null) => () => {
    how?.();
    window.scrollTo({ top: 0 });
  };
  return (
    <nav aria-label="Pages of the list" className="mt-3 flex items-center gap-3 text-sm">
      <Button onClick={turn(back)} disabled={back === null}>
        Back
      </Button>
      <span className="text-faint">Page {number}</span>
      <Button onClick={turn(on)} disabled={on === null}>
        Further
      </Button>
    </nav>
  );
}
