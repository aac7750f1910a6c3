import type { Sitemap, Submission } from '../../../api/documents.js';
import { When } from '../../parts/when.js';
import { RecordCounts } from './record-counts.js';
import { ByName, Compared } from './words.js';

function Bar({ title, count, most }: { title: string; count: number | null; most: number }) {
  const part = count === null || most === 0 ? 0 : (100 * count) / most;
  return (
    <div className="grid grid-cols-[4rem_1fr_4.5rem] items-center gap-2">
      <span className="text-sm text-faint">{title}</span>
      <span aria-hidden="true" className="h-3 border border-rule bg-paper">
        <span className="block h-full bg-accent" style={{ width: `${part.toFixed(2)}%` }} />
      </span>
      <span className="text-right tabular-nums">{count ?? '–'}</span>
    </div>
  );
}

/** The three counts of one engine side by side: ours, what it found, what it lists. */
function AtEngine({
  one,
  ours,
  most,
  mayWork,
}: {
  one: Submission;
  ours: number | null;
  most: number;
  mayWork: boolean;
}) {
  const { engineReading } = one;
  return (
    <section aria-label={`Counts at ${one.engine.title}`} className="border border-rule bg-sheet p-3">
      <h3 className="flex flex-wrap items-baseline justify-between gap-x-3">
        <span>
          {one.engine.title}
          <ByName submission={one} />
        </span>
        <span className="font-mono text-[13px] font-normal break-all text-faint">{one.sentAsForPeople}</span>
      </h3>
      <div className="my-2 space-y-1">
        <Bar title="Ours" count={ours} most={most} />
        <Bar title="Found" count={engineReading?.found ?? null} most={most} />
        <Bar title="Listed" count={engineReading?.listed ?? null} most={most} />
      </div>
      <p className="text-sm">
        <Compared submission={one} />
      </p>
      <p className="text-[13px] text-faint">
        submitted <When time={one.submittedAt} />, last there <When time={engineReading?.readAt ?? null} />
        {engineReading?.recordedBy != null && `, recorded by ${engineReading.recordedBy}`}
      </p>
      {mayWork && one.byHand && (
        <div className="mt-2">
          <RecordCounts submission={one} />
        </div>
      )}
    </section>
  );
}

/** The counts of a sitemap at every engine that knows it. All bars have one measure. */
export function Counts({ sitemap, mayWork }: { sitemap: Sitemap; mayWork: boolean }) {
  const { reading, submissions } = sitemap;
  const ours = reading?.kind == null ? null : reading.addresses;
  const most = Math.max(
    ours ?? 0,
    ...submissions.flatMap(({ engineReading }) => [engineReading?.found ?? 0, engineReading?.listed ?? 0]),
  );
  if (submissions.length === 0)
    return <p className="text-sm text-faint">No engine knows it yet: submit it, once a badge is held.</p>;
  return (
    <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
      {submissions.map((one) => (
        <AtEngine key={one.id} one={one} ours={ours} most={most} mayWork={mayWork} />
      ))}
    </div>
  );
}
