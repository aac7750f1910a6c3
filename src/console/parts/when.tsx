import { writtenMinute } from '../../api/formats.js';
/** A time to the minute in UTC, as the journal keeps it; machines get the whole of it. */
export function When({ time }: { time: string | null }) {
  if (time === null) return <span className="text-faint">–</span>;
  return (
    <time dateTime={time} title={time} className="whitespace-nowrap tabular-nums">
      {writtenMinute(time)}
    </time>
  );
}
