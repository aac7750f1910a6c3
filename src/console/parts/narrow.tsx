import { useEffect, useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';

/** What a list is narrowed to, kept in the page's address. */
export interface Narrowing {
  readonly get: (name: string) => string | undefined;
  readonly set: (name: string, value: string) => void;
}

export function useNarrowing(): Narrowing {
  const [search, setSearch] = useSearchParams();
  return {
    get: (name) => search.get(name) ?? undefined,
    set: (name, value) => {
      const next = new URLSearchParams(search);
      if (value === '') next.delete(name);
      else next.set(name, value);
      setSearch(next, { replace: true });
    },
  };
}

/** What is chosen, under the names that the service knows. */
export function chosen<Name extends string>(
  narrowing: Narrowing,
  names: readonly Name[],
): Partial<Record<Name, string>> {
  const values: Partial<Record<Name, string>> = {};
  for (const name of names) {
    const value = narrowing.get(name);
    if (value !== undefined) values[name] = value;
  }
  return values;
}

interface PickProps {
  narrowing: Narrowing;
  name: string;
  label: string;
  /** What is chosen where nothing is. */
  all: string;
  options: readonly { readonly id: string; readonly title: string }[];
}

/** Narrows a list to one of some kinds. */
export function Pick({ narrowing, name, label, all, options }: PickProps) {
  return (
    <label className="flex items-center gap-2 text-sm">
      <span className="text-faint">{label}</span>
      <select
        value={narrowing.get(name) ?? ''}
        onChange={(event) => {
          narrowing.set(name, event.target.value);
        }}
        className="rounded-sm border border-faint bg-sheet px-2 py-1"
      >
        <option value="">{all}</option>
        {options.map(({ id, title }) => (
          <option key={id} value={id}>
            {title}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Milliseconds after the last letter before the list is read again. */
const REST_MS = 200;

interface FindProps {
  narrowing: Narrowing;
  hint?: string;
  /** What is said beside it of what was typed. */
  whose?: (text: string) => ReactNode;
}

/** Narrows a list to what has some text. */
export function Find({ narrowing, hint, whose }: FindProps) {
  const [text, setText] = useState(narrowing.get('match') ?? '');
  const { set } = narrowing;
  useEffect(() => {
    const timer = setTimeout(() => {
      if ((narrowing.get('match') ?? '') !== text) set('match', text);
    }, REST_MS);
    return () => {
      clearTimeout(timer);
    };
  });
  return (
    <span className="flex flex-wrap items-center gap-x-2 text-sm">
      <label className="flex items-center gap-2">
        <span className="text-faint">Find</span>
        <input
          type="search"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
          }}
          placeholder={hint}
          className="w-52 rounded-sm border border-faint bg-sheet px-2 py-1"
        />
      </label>
      {whose?.(narrowing.get('match') ?? '')}
    </span>
  );
}
