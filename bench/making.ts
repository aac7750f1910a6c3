import { said, start, withRecords } from './children.js';

export interface MakingMeasured {
  /** Pages a second over those of the bare loop, the median of the turns. */
  readonly speed: number;
  readonly pagesASecond: number;
  readonly pages: number;
  readonly addresses: number;
  readonly writingMs: number;
  readonly peakMegabytes: number;
}

interface Told {
  readonly turns: readonly { bare: { rate: number } | null; ours: { rate: number; pages: number } }[];
  readonly addresses: number;
  readonly findings: readonly string[];
  readonly writingMs: number;
  readonly peakMegabytes: number;
}

/** Makes a sitemap of a website of so many pages. @param turns with the bare loop beside; 0 for ours alone, once */
export async function measureMaking(count: number, turns: number): Promise<MakingMeasured> {
  const server = start('many-pages-server.ts', [String(count)]);
  const { http, dns, url } = await said<{ http: number; dns: number; url: string }>(server);
  try {
    const args = [String(http), String(dns), url, String(Math.max(turns, 1)), turns > 0 ? 'yes' : 'no'];
    const told = await withRecords((folder) => said<Told>(start('making-loop.js', [...args, folder])));
    if (told.findings.length > 0) throw new Error(told.findings.join());
    const speeds = told.turns.map(({ bare, ours }) => ours.rate / (bare?.rate ?? NaN)).sort((a, b) => a - b);
    const last = told.turns.at(-1)?.ours;
    return {
      speed: speeds[Math.floor(speeds.length / 2)] ?? NaN,
      pagesASecond: last?.rate ?? NaN,
      pages: last?.pages ?? 0,
      addresses: told.addresses,
      writingMs: told.writingMs,
      peakMegabytes: told.peakMegabytes,
    };
  } finally {
    server.disconnect();
  }
}
