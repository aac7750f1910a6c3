import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { NAMESPACE } from '../src/core/sitemap/read/limits.js';
import { SitemapReader } from '../src/core/sitemap/reader.js';
import { SaxesParser } from 'saxes';
import { measureAnswers } from './agency.js';
import { measureBeside } from './beside.js';
import { measureByCpu, type ByCpu } from './by-cpu.js';
import { measureChecks } from './checks.js';
import { measureMaking } from './making.js';
import { measureWatched } from './watched.js';
import { measureIndex, measureInside } from './whole-index.js';
import { measureYear } from './year.js';

/** A figure, and its bound. */
type Row = [what: string, found: string, bound: string];

/** Every figure is a ratio to a bare baseline that is measured in the same run, turn by turn. */
function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;
}

function timed(work: () => void): number {
  const started = performance.now();
  work();
  return performance.now() - started;
}

/**
 * Runs both in turn, so that a slow moment of the machine meets both; each turn is a ratio of its own.
 * @returns ours over the baseline, in time
 */
function ratio(ours: () => void, baseline: () => void, turns: number): number {
  return median(
    Array.from({ length: turns }, () => {
      const bare = timed(baseline);
      return timed(ours) / bare;
    }),
  );
}

const root = fileURLToPath(new URL('..', import.meta.url));

function start(...args: string[]): () => void {
  return () => void spawnSync(process.execPath, args, { cwd: root });
}

function sitemapText(addresses: number): string {
  const line = (at: number) =>
    `<url><loc>https://quay.example/page-${String(at)}</loc><lastmod>2026-10-01</lastmod></url>\n`;
  return `<urlset xmlns="${NAMESPACE}">${Array.from({ length: addresses }, (_, at) => line(at)).join('')}</urlset>`;
}

function readBare(text: string): void {
  const parser = new SaxesParser({ xmlns: true, position: true });
  for (let at = 0; at < text.length; at += 65_536) parser.write(text.slice(at, at + 65_536));
  parser.close();
}

function readOurs(text: string): void {
  const reader = new SitemapReader('https://quay.example/sitemap.xml', new Date('2026-11-25T00:00:00Z'));
  for (let at = 0; at < text.length; at += 65_536) reader.write(text.slice(at, at + 65_536));
  reader.end();
}

/** What the first page loads: script, style and the fonts that it shows, as they go over the wire. */
function firstLoadBytes(): number {
  const folder = join(root, 'dist/console/assets');
  const page = readFileSync(join(root, 'dist/console/index.html'), 'utf8');
  // What is loaded only when a tab is opened is not named in the page.
  const sent = readdirSync(folder).filter(
    (name) =>
      (name.endsWith('.br') && page.includes(name.slice(0, -3))) ||
      (name.endsWith('.woff2') && !name.includes('latin-ext')),
  );
  return sent.reduce((sum, name) => sum + statSync(join(folder, name)).size, 0);
}

/** What each page costs by the processor's time. */
function rowsByCpu(pages: ReadonlyMap<string, ByCpu>): Row[] {
  return [...pages].map(([path, { ms, ratio: found, kilobytes }]): Row => [
    `${path}, by CPU, ${ms.toFixed(2)} ms for ${kilobytes.toFixed(0)} kB, of a bare service’s`,
    found.toFixed(2),
    path === '/session' ? 'at most 2.00' : 'at most 3.00',
  ]);
}

function print(all: readonly Row[]): void {
  for (const [what, found, bound] of all)
    process.stdout.write(`${what.padEnd(62)} ${found.padStart(7)}   (${bound})\n`);
}

// The pages alone: some two minutes.
if (process.argv.includes('--pages')) {
  print(rowsByCpu(await measureByCpu(10_000)));
  process.exit();
}

const small = await measureAnswers(1_000);
const large = await measureAnswers(10_000);
const beside = await measureBeside();
const checks = await measureChecks();
const made = await measureMaking(5_000, 5);
const index = await measureIndex(1_000_000);
const inside = await measureInside();
if (index.addresses !== 10_000_000 || index.findings.join() !== 'sitemap.many-addresses')
  throw new Error(JSON.stringify(index));
const text = sitemapText(50_000);
const rows: Row[] = [
  [
    'yardbadge --version, in starts of a bare node',
    ratio(start('dist/cli/main.js', '--version'), start('-e', '0'), 11).toFixed(2),
    'at most 2.50',
  ],
  [
    'yardbadge yard --help, in starts of a bare node',
    ratio(start('dist/cli/main.js', 'yard', '--help'), start('-e', '0'), 7).toFixed(2),
    '–',
  ],
  [
    '50,000 addresses read and judged, speed of the bare parser',
    (
      1 /
      ratio(
        () => {
          readOurs(text);
        },
        () => {
          readBare(text);
        },
        21,
      )
    ).toFixed(2),
    'at least 1.50',
  ],
  ['checks a second, of a bare loop that fetches and parses', checks.speed.toFixed(2), 'at least 1.00'],
  ['the same, as a number for this machine', checks.checksASecond.toFixed(0), '–'],
  [
    'making a sitemap of 5,000 pages, of a bare loop that fetches and parses',
    made.speed.toFixed(2),
    'at least 0.70',
  ],
  ['the same, pages a second on this machine', made.pagesASecond.toFixed(0), '–'],
  ['live memory after 10,000 checks, of that after 1,000', checks.memory.toFixed(2), 'at most 1.10'],
  ['index of 200 × 50,000 addresses: peak memory, megabytes', index.peakMegabytes.toFixed(0), 'under 200'],
  ['the same, seconds on this machine', index.seconds.toFixed(0), '–'],
  ...Object.entries(inside.ratios).map(([name, ratio]): [string, string, string] => [
    `a million addresses: ${name} over a bare pass`,
    ratio.toFixed(2),
    'under 8',
  ]),
  [
    'a million addresses kept, megabytes in the records',
    ((index.keptMegabytes * 1_000_000) / index.keptAddresses).toFixed(1),
    '–',
  ],
  ['console’s first load, kB compressed', (firstLoadBytes() / 1000).toFixed(0), 'under 200'],
];
rows.push(...rowsByCpu(await measureByCpu(10_000)));
for (const [path, { p50, p95, ms }] of large.ratios) {
  const most = path === '/session' ? '2.00' : '4.00';
  rows.push(
    [`10,000 properties: ${path}, median, of a bare service’s`, p50.toFixed(2), `at most ${most}`],
    ['  the same, 95th of a hundred', p95.toFixed(2), 'at most 8.00'],
    [
      '  its median over that at 1,000',
      (ms / (small.ratios.get(path)?.ms ?? NaN)).toFixed(2),
      'at most 1.30',
    ],
  );
}
rows.push(
  [
    '10,000 properties: peak memory with eight clients, megabytes',
    large.peakMegabytes.toFixed(0),
    'under 400',
  ],
  ['  seconds until everything is derived for the first time', (large.firstMs / 1000).toFixed(1), '–'],
);
rows.push(
  [
    `beside a sweep of ${String(beside.placements)}, a hundred requests a second: failed`,
    String(beside.failed),
    'none',
  ],
  ['  the same, milliseconds of 99 in a hundred', beside.p99.toFixed(0), 'under 250'],
  ['  somebody’s single check, of what it takes alone', beside.single.toFixed(2), 'at most 3.00'],
  ['  placements checked a second on this machine all the while', beside.checksASecond.toFixed(0), '–'],
);
// It takes a quarter of an hour.
if (process.argv.includes('--year')) {
  const year = await measureYear();
  const what = `a year of daily looks at ${String(year.placements)} placements`;
  rows.push([`${what}, megabytes`, year.megabytes.toFixed(0), 'under 1000']);
  for (const [path, slower] of year.slower)
    rows.push([`  ${path} at its end, of what it took at its beginning`, slower.toFixed(2), 'about 1']);
}
// It takes some minutes.
if (process.argv.includes('--making')) {
  const many = await measureMaking(100_000, 0);
  rows.push([
    'peak memory of making one of 100,000 pages, of that of 5,000',
    (many.peakMegabytes / made.peakMegabytes).toFixed(2),
    'about 1',
  ]);
}
// It takes a quarter of an hour as well.
if (process.argv.includes('--day')) {
  const watched = await measureWatched();
  rows.push(
    [
      `a day of ${String(watched.placements)} watched placements: of one core, in per cent`,
      (watched.core * 100).toFixed(1),
      'under 10',
    ],
    ['  of that at rest', (watched.atRest * 100).toFixed(1), '–'],
    [
      `  its busiest hour, of the mean of ${String(watched.looks)} looks`,
      watched.busiest.toFixed(2),
      'at most 1.50',
    ],
    [
      '  99 in a hundred were no later than, in minutes of that day',
      (watched.late / 60).toFixed(1),
      'under 60',
    ],
  );
}
print(rows);
