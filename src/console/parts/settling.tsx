import { createContext, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { sayError } from '../api.js';
import { Button } from './button.js';

/** What came of something that was done about a row. */
export interface Outcome {
  readonly says: string;
  readonly stops?: boolean;
  /** Takes it back, where that is possible without harm. */
  readonly undo?: () => Promise<unknown>;
}

const Reporting = createContext<((outcome: Outcome) => void) | null>(null);

/** Tells the list that a row is in what came of the row; does nothing outside of such a list. */
export function useReporting(): (outcome: Outcome) => void {
  return useContext(Reporting) ?? nobody;
}

function nobody(): void {
  // Outside of a list the outcome stands beside its button.
}

interface Settled {
  readonly key: string;
  readonly at: number;
  readonly title: string;
  readonly outcome: Outcome;
}

interface SettlingListProps<Row> {
  rows: readonly Row[];
  keyOf: (row: Row) => string;
  /** What a row that is done is called. */
  titleOf: (row: Row) => string;
  /** What stands there where nothing does. */
  none: ReactNode;
  children: (row: Row) => ReactNode;
}

/**
 * A list of things to do. A row that is done and gone leaves a line in its place that says what came of it, with a way to take it back
 * where there is one; the focus goes there, and the outcome is announced.
 */
export function SettlingList<Row>({ rows, keyOf, titleOf, none, children }: SettlingListProps<Row>) {
  const [settled, setSettled] = useState<readonly Settled[]>([]);
  const [announced, setAnnounced] = useState('');
  const shown: ReactNode[] = rows.map((row, at) => {
    const key = keyOf(row);
    const report = (outcome: Outcome) => {
      setAnnounced(`${titleOf(row)}: ${outcome.says}`);
      setSettled((before) => [
        ...before.filter((one) => one.key !== key),
        { key, at, title: titleOf(row), outcome },
      ]);
    };
    return (
      <Reporting key={key} value={report}>
        {children(row)}
      </Reporting>
    );
  });
  const there = new Set(rows.map(keyOf));
  // From the last on, so that each stands where it was among those that are still there.
  for (const one of [...settled].sort((a, b) => b.at - a.at)) {
    if (there.has(one.key) && !one.outcome.undo) continue;
    const forget = () => {
      setSettled((before) => before.filter(({ key }) => key !== one.key));
    };
    shown.splice(one.at, 0, <SettledLine key={`done ${one.key}`} settled={one} forget={forget} />);
  }
  return (
    <>
      <p role="status" className="sr-only">
        {announced}
      </p>
      {shown.length === 0 ? none : <ol className="border-b border-rule bg-sheet">{shown}</ol>}
    </>
  );
}

function SettledLine({ settled, forget }: { settled: Settled; forget: () => void }) {
  const line = useRef<HTMLLIElement>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [isUndoing, setUndoing] = useState(false);
  const { says, stops = false, undo } = settled.outcome;
  useEffect(() => {
    // After whatever closes has given the focus back to what is gone.
    const timer = setTimeout(() => line.current?.focus(), 0);
    return () => {
      clearTimeout(timer);
    };
  }, []);
  const takeBack = () => {
    if (!undo) return;
    setUndoing(true);
    undo().then(forget, (error: unknown) => {
      setFailed(sayError(error));
      setUndoing(false);
    });
  };
  return (
    <li
      ref={line}
      tabIndex={-1}
      className="flex flex-wrap items-baseline gap-x-4 border-t border-rule bg-paper px-3 py-2 text-sm"
    >
      <span className={stops ? 'text-stops' : 'text-faint'}>{stops ? '✗' : '✓'}</span>
      <span className="font-semibold">{settled.title}</span>
      <span className={`flex-1 wrap-anywhere ${stops ? 'text-stops' : ''}`}>{failed ?? says}</span>
      {undo && (
        <Button look="quiet" disabled={isUndoing} onClick={takeBack}>
          Undo
        </Button>
      )}
      <Button look="quiet" onClick={forget} aria-label={`Hide what came of ${settled.title}`}>
        Hide
      </Button>
    </li>
  );
}
