import { useQuery } from '@tanstack/react-query';
import { useId, useState } from 'react';
import type { Badge, Property, PropertyHistory } from '../../../api/documents.js';
import { writtenMinute } from '../../../api/formats.js';
import { api } from '../../api.js';
import { Notice } from '../../parts/notice.js';
import { QueryView } from '../../parts/query-view.js';
import { TagMark } from '../../parts/tag-mark.js';
import { When } from '../../parts/when.js';

const DAY_MS = 86_400_000;
const DAYS = 90;
const WIDTH = 900;
const HEIGHT = 28;
const NARROWEST = 12;
/** How high the ink stands for each badge, of the whole height: the strip is read without its colours. */
const LEVEL: Readonly<Record<Badge, number>> = {
  bare: 0.08,
  issued: 0.3,
  'in-place': 0.6,
  held: 1,
  slipping: 1,
  lost: 0.3,
};
const TONE: Readonly<Record<Badge, string>> = {
  bare: 'text-faint',
  issued: 'text-accent',
  'in-place': 'text-accent',
  held: 'text-good',
  slipping: 'text-harms',
  lost: 'text-stops',
};

type Enrolment = PropertyHistory['enrolments'][number];
type Stretch = Enrolment['badges'][number];

function inWords({ badge, from, until }: Stretch): string {
  return `${badge} from ${writtenMinute(from)} ${until === null ? 'until now' : `to ${writtenMinute(until)}`}`;
}

/** One stretch of the strip: to be reached by pointer and keyboard, and told by both. */
function Segment({
  stretch,
  x,
  width,
  onTell,
}: {
  stretch: Stretch;
  x: number;
  width: number;
  onTell: (says: string | null) => void;
}) {
  const hatch = useId();
  const { badge } = stretch;
  const says = inWords(stretch);
  const ink = HEIGHT * LEVEL[badge];
  const isBroken = badge === 'slipping' || badge === 'lost';
  const tell = () => {
    onTell(says);
  };
  const hush = () => {
    onTell(null);
  };
  return (
    <g
      role="img"
      aria-label={says}
      tabIndex={0}
      onFocus={tell}
      onBlur={hush}
      onMouseEnter={tell}
      onMouseLeave={hush}
      className={`${TONE[badge]} outline-offset-2`}
    >
      {isBroken && (
        <pattern id={hatch} width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="8" fill="currentColor" />
        </pattern>
      )}
      <rect x={x} y="0" width={width} height={HEIGHT} fill="var(--sheet)" />
      <rect
        x={x}
        y={HEIGHT - ink}
        width={Math.max(1, width - 1)}
        height={ink}
        fill={isBroken ? `url(#${hatch})` : 'currentColor'}
      />
    </g>
  );
}

/** The badges of the past ninety days, and under them what each stretch was. */
function Strip({ enrolment, asOf }: { enrolment: Enrolment; asOf: string }) {
  const [told, setTold] = useState<string | null>(null);
  const end = Date.parse(asOf);
  const begin = end - DAYS * DAY_MS;
  const place = (time: number) => ((Math.min(Math.max(time, begin), end) - begin) / (end - begin)) * WIDTH;
  const shown = enrolment.badges
    .map((stretch) => {
      const until = place(stretch.until === null ? end : Date.parse(stretch.until));
      const from = place(Date.parse(stretch.from));
      // What is so now is seen, however short a time it has been.
      const x = stretch.until === null ? Math.min(from, WIDTH - NARROWEST) : from;
      return { stretch, x, width: until - x };
    })
    .filter(({ width }) => width > 0);
  const last = enrolment.badges.at(-1);
  return (
    <section aria-label={enrolment.name} className="mb-4 border border-rule bg-sheet p-4">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="text-lg">{enrolment.engine.title}</h2>
        {last && <TagMark badge={last.badge} label={enrolment.ended ? 'ended' : last.badge} />}
        <span className="ml-auto font-mono text-sm text-faint">{enrolment.name}</span>
      </div>
      <svg
        viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`}
        preserveAspectRatio="none"
        className="mt-2 h-7 w-full border border-rule"
      >
        {shown.map(({ stretch, x, width }) => (
          <Segment key={stretch.from} stretch={stretch} x={x} width={width} onTell={setTold} />
        ))}
      </svg>
      <p className="mt-1 flex justify-between text-sm text-faint">
        <span>
          <When time={new Date(begin).toISOString()} />
        </span>
        <span role="status" className="text-ink">
          {told}
        </span>
        <span>now</span>
      </p>
      <details className="mt-2">
        <summary className="cursor-pointer text-sm">Every stretch</summary>
        <ol className="mt-1 text-sm">
          {[...enrolment.badges].reverse().map((stretch) => (
            <li key={stretch.from} className="flex flex-wrap gap-x-3 border-t border-rule py-1">
              <TagMark badge={stretch.badge} />
              <span className="text-faint">
                from <When time={stretch.from} />
                {stretch.until === null ? ' until now' : ' to '}
                {stretch.until !== null && <When time={stretch.until} />}
              </span>
            </li>
          ))}
        </ol>
      </details>
    </section>
  );
}

function Times({ from, until }: { from: string; until: string | null }) {
  return (
    <span className="text-sm text-faint">
      from <When time={from} />
      {until === null ? ' until now' : ' to '}
      {until !== null && <When time={until} />}
    </span>
  );
}

/** How a property stood over its time: a strip for each enrolment, where its front door was, when it asked engines to stay away. */
export function HistoryView({ property }: { property: Property }) {
  const history = useQuery({
    queryKey: ['history', property.id],
    queryFn: () => api.history({ params: { property: property.id } }),
  });
  return (
    <QueryView query={history}>
      {({ enrolments, doors, away, asOf }) => (
        <>
          {enrolments.length === 0 && <Notice kind="note">It was never enrolled anywhere.</Notice>}
          {enrolments.map((one) => (
            <Strip key={`${one.name} ${one.badges[0]?.from ?? ''}`} enrolment={one} asOf={asOf} />
          ))}
          <section aria-label="Front doors" className="mb-4 border border-rule bg-sheet p-4">
            <h2 className="text-lg">Front door</h2>
            <ol className="mt-1">
              {doors.map((one) => (
                <li key={one.from} className="flex flex-wrap gap-x-3 border-t border-rule py-1">
                  <span className="font-mono text-sm break-all">{one.forPeople}</span>
                  <Times from={one.from} until={one.until} />
                </li>
              ))}
            </ol>
          </section>
          {away.length > 0 && (
            <section aria-label="Engines asked to stay away" className="border border-rule bg-sheet p-4">
              <h2 className="text-lg">Engines asked to stay away</h2>
              <ol className="mt-1">
                {away.map((one) => (
                  <li key={one.from + one.says} className="border-t border-rule py-1">
                    <p className="wrap-anywhere">{one.says}</p>
                    <Times from={one.from} until={one.until} />
                  </li>
                ))}
              </ol>
            </section>
          )}
        </>
      )}
    </QueryView>
  );
}
