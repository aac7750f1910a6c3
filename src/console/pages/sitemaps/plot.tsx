import { scaleLinear, scaleTime } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import type { SitemapDetail } from '../../../api/documents.js';

const WIDTH = 640;
const HEIGHT = 220;
const EDGE = { left: 52, right: 12, top: 12, bottom: 26 };

interface Point {
  readonly at: Date;
  readonly count: number;
}

/** Each engine's marks have a shape of their own, so that none is told by its colour alone. */
const SHAPES = ['M0,-5 5,0 0,5 -5,0Z', 'M-4.5,-4.5h9v9h-9Z', 'M0,-5.5 5.5,4.5 -5.5,4.5Z', 'M-5,0h10M0,-5v10'];

function day(time: Date): string {
  return time.toISOString().slice(5, 10);
}

/** How the count went: ours as a line of steps, what each engine found as marks. The table below says the same in figures. */
export function CountPlot({ sitemap }: { sitemap: SitemapDetail }) {
  const ours = sitemap.readings
    .filter(({ kind }) => kind !== null)
    .flatMap(({ at, firstAt, addresses }): Point[] =>
      [...new Set([at, firstAt])].map((time) => ({ at: new Date(time), count: addresses })),
    )
    .reverse();
  const engines = new Map<string, Point[]>();
  for (const { engine, readAt, found } of sitemap.engineReadings)
    if (readAt !== null && found !== null)
      engines.set(engine.title, [
        ...(engines.get(engine.title) ?? []),
        { at: new Date(readAt), count: found },
      ]);
  const all = [...ours, ...[...engines.values()].flat()];
  const first = Math.min(...all.map(({ at }) => at.getTime()));
  const last = Math.max(...all.map(({ at }) => at.getTime()));
  if (all.length < 2 || first === last)
    return <p className="text-sm text-faint">One reading so far: the plot begins with the second.</p>;
  const x = scaleTime([new Date(first), new Date(last)], [EDGE.left, WIDTH - EDGE.right]);
  const most = Math.max(...all.map(({ count }) => count));
  const y = scaleLinear([0, most], [HEIGHT - EDGE.bottom, EDGE.top]).nice(4);
  const path = line<Point>()
    .x(({ at }) => x(at))
    .y(({ count }) => y(count))
    .curve(curveStepAfter)(ours);
  const titles = [...engines.keys()];
  const says = `Addresses over time: ours from ${String(ours[0]?.count ?? 0)} to ${String(ours.at(-1)?.count ?? 0)}, at most ${String(most)}.`;
  return (
    <figure>
      <svg viewBox={`0 0 ${String(WIDTH)} ${String(HEIGHT)}`} role="img" aria-label={says} className="w-full">
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={EDGE.left} x2={WIDTH - EDGE.right} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
            <text x={EDGE.left - 8} y={y(tick) + 4} textAnchor="end" className="fill-faint text-[11px]">
              {tick}
            </text>
          </g>
        ))}
        {x.ticks(5).map((tick) => (
          <text
            key={tick.getTime()}
            x={x(tick)}
            y={HEIGHT - 8}
            textAnchor="middle"
            className="fill-faint text-[11px]"
          >
            {day(tick)}
          </text>
        ))}
        <path d={path ?? ''} fill="none" className="stroke-ink" strokeWidth="2" />
        {ours.map(({ at, count }) => (
          <circle key={at.getTime()} cx={x(at)} cy={y(count)} r="2.5" className="fill-ink" />
        ))}
        {titles.map((title, nth) =>
          (engines.get(title) ?? []).map(({ at, count }) => (
            <path
              key={title + at.toISOString()}
              d={SHAPES[nth % SHAPES.length]}
              transform={`translate(${String(x(at))},${String(y(count))})`}
              fill="none"
              className="stroke-accent"
              strokeWidth="1.8"
            >
              <title>{`${title} found ${String(count)} on ${day(at)}`}</title>
            </path>
          )),
        )}
      </svg>
      <figcaption className="flex flex-wrap gap-x-5 text-sm text-faint">
        <span>
          <svg width="22" height="10" aria-hidden="true" className="mr-1 inline">
            <path d="M0,5h22" className="stroke-ink" strokeWidth="2" />
          </svg>
          ours
        </span>
        {titles.map((title, nth) => (
          <span key={title}>
            <svg width="14" height="14" viewBox="-7 -7 14 14" aria-hidden="true" className="mr-1 inline">
              <path d={SHAPES[nth % SHAPES.length]} fill="none" className="stroke-accent" strokeWidth="1.8" />
            </svg>
            found by {title}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
