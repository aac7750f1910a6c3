import type { Gathering } from '../../../api/documents.js';
import { paceSays } from '../../../api/making/words.js';
import { When } from '../../parts/when.js';

const number = (value: number) => value.toLocaleString('en');

const ENDS: Readonly<Record<NonNullable<Gathering['ended']>, string>> = {
  all: 'there was no more to look at',
  pages: 'it met its bound of pages',
  minutes: 'it met its bound of time',
  megabytes: 'it met its bound of bytes',
};

/** How far a gathering is: found, read, waiting and left out, as numbers and as one bar. */
export function Progress({ gathering }: { gathering: Gathering }) {
  const { found, read, waiting, leftOut, seconds, bytes, ended, endedAt, state } = gathering;
  const counts = [
    ['found', found],
    ['read', read],
    ['waiting', waiting],
    ['left out', leftOut],
  ] as const;
  const isOver = state === 'ended';
  const part = found === 0 ? 0 : (100 * (found - waiting)) / found;
  return (
    <section aria-label="The gathering" className="mb-5 border border-rule bg-sheet p-3">
      <p className="text-sm" role="status">
        {isOver ? (
          <>
            Ended <When time={endedAt} />
            {ended !== null && `: ${ENDS[ended]}`}.
          </>
        ) : (
          <strong>Under way, since {number(seconds)} seconds.</strong>
        )}{' '}
        <span className="text-faint">
          {(bytes / 1e6).toFixed(1)} MB fetched in {number(seconds)} s. {paceSays(gathering)}
        </span>
      </p>
      <dl className="mt-2 grid grid-cols-2 gap-x-6 sm:grid-cols-4">
        {counts.map(([title, count]) => (
          <div key={title}>
            <dt className="text-sm text-faint">{title}</dt>
            <dd className="text-xl tabular-nums">{number(count)}</dd>
          </div>
        ))}
      </dl>
      {!isOver && (
        <span aria-hidden="true" className="mt-2 block h-2 border border-rule bg-paper">
          <span className="block h-full bg-accent" style={{ width: `${part.toFixed(1)}%` }} />
        </span>
      )}
    </section>
  );
}
