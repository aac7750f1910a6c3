import { escaped } from '../text/escaped.js';
import type { Counted, SitemapCounts } from './report.js';

const WIDTH = 620;
const HEIGHT = 120;
const LEFT = 56;
const RIGHT = 110;
const TOP = 10;
const BOTTOM = 22;
/** Told apart without colour. */
const DASHES = ['', '6 3', '2 3', '9 3 2 3', '1 2'];

/** The counts of a sitemap over a stretch of time: ours as a firm line, what engines found as broken ones, each with its name. */
export function plotOf(
  { url, ours, engines }: SitemapCounts,
  from: string,
  to: string,
  itsAddresses = 'its addresses',
): string {
  const lines = [
    { name: itsAddresses, points: ours },
    ...engines.map(({ engine, found }) => ({ name: engine, points: found })),
  ].filter(({ points }) => points.length > 0);
  const counts = lines.flatMap(({ points }) => points.map(({ count }) => count));
  const most = Math.max(1, ...counts);
  const [start, end] = [Date.parse(from), Date.parse(to)];
  const x = (at: string): number => {
    const time = Math.min(end, Math.max(start, Date.parse(at)));
    return LEFT + ((time - start) / Math.max(1, end - start)) * (WIDTH - LEFT - RIGHT);
  };
  const y = (count: number): number => TOP + (1 - count / most) * (HEIGHT - TOP - BOTTOM);
  const drawn = lines.map(({ name, points }, at) => {
    const last = points.at(-1)?.count ?? 0;
    return {
      path: `<path d="${stepped(points, x, y, WIDTH - RIGHT)}" fill="none" stroke="currentColor" stroke-width="${at === 0 ? '2' : '1.3'}"${DASHES[at % DASHES.length] === '' ? '' : ` stroke-dasharray="${DASHES[at % DASHES.length] ?? ''}"`}/>`,
      label: { y: y(last) + 4, text: `${name} ${number(last)}` },
    };
  });
  const labels = apart(drawn.map(({ label }) => label))
    .map(
      (label) =>
        `<text x="${String(WIDTH - RIGHT + 6)}" y="${label.y.toFixed(1)}">${escaped(label.text)}</text>`,
    )
    .join('');
  const says = lines
    .map(
      ({ name, points }) =>
        `${name}: ${number(points[0]?.count ?? 0)} to ${number(points.at(-1)?.count ?? 0)}`,
    )
    .join('; ');
  return `<svg viewBox="0 0 ${String(WIDTH)} ${String(HEIGHT)}" role="img" aria-label="${escaped(`${url}: ${says}`)}" font-size="11" fill="currentColor">
<line x1="${String(LEFT)}" x2="${String(WIDTH - RIGHT)}" y1="${String(HEIGHT - BOTTOM)}" y2="${String(HEIGHT - BOTTOM)}" stroke="currentColor" stroke-width="0.6"/>
<text x="${String(LEFT - 6)}" y="${String(TOP + 8)}" text-anchor="end">${number(most)}</text><text x="${String(LEFT - 6)}" y="${String(HEIGHT - BOTTOM)}" text-anchor="end">0</text>
<text x="${String(LEFT)}" y="${String(HEIGHT - 6)}">${from.slice(0, 10)}</text><text x="${String(WIDTH - RIGHT)}" y="${String(HEIGHT - 6)}" text-anchor="end">${to.slice(0, 10)}</text>
${drawn.map(({ path }) => path).join('')}${labels}
</svg>`;
}

/** A number holds until the next one. */
function stepped(
  points: readonly Counted[],
  x: (at: string) => number,
  y: (count: number) => number,
  end: number,
): string {
  const parts = points.map(({ at, count }, index) =>
    index === 0
      ? `M${x(at).toFixed(1)} ${y(count).toFixed(1)}`
      : `H${x(at).toFixed(1)}V${y(count).toFixed(1)}`,
  );
  return `${parts.join('')}H${end.toFixed(1)}`;
}

const LINE = 12;

/** Labels moved so far that none lies on another. */
function apart<Label extends { readonly y: number }>(labels: readonly Label[]): Label[] {
  const sorted = [...labels].sort((a, b) => a.y - b.y);
  let last = -Infinity;
  const moved = sorted.map((label) => {
    last = Math.max(label.y, last + LINE);
    return { ...label, y: last };
  });
  const over = Math.max(0, last - (HEIGHT - 4));
  return moved.map((label) => ({ ...label, y: label.y - over }));
}

/** With a thin space between thousands (ISO 80000-1 §7.3.1). */
export function number(count: number): string {
  return String(count).replace(/\B(?=(?:\d{3})+$)/gu, '\u202F');
}
