import { Children, type ReactNode } from 'react';

interface ListedProps {
  title: string;
  /** What is said where there is nothing. */
  none: string;
  /** What can be done with the list. */
  act?: ReactNode;
  children: readonly ReactNode[];
}

/** A short list under its title, with what can be done about it. */
export function Listed({ title, none, act, children }: ListedProps) {
  return (
    <section aria-label={title} className="mb-6">
      <div className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="mr-auto text-lg">{title}</h2>
        {act}
      </div>
      {Children.count(children) === 0 ? (
        <p className="border-y border-rule bg-sheet px-3 py-2 text-faint">{none}</p>
      ) : (
        <ul className="border-b border-rule bg-sheet">{children}</ul>
      )}
    </section>
  );
}

/** One of it: its name, what is said of it, and what can be done with it. */
export function ListedLine({ name, act, children }: { name: string; act: ReactNode; children: ReactNode }) {
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule px-3 py-2">
      <span className="font-semibold wrap-anywhere">{name}</span>
      <span className="mr-auto wrap-anywhere">{children}</span>
      <span className="flex flex-wrap gap-2">{act}</span>
    </li>
  );
}
