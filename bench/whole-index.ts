import { said, start, withRecords } from './children.js';

export interface IndexMeasured {
  readonly addresses: number;
  readonly findings: readonly string[];
  readonly seconds: number;
  /** Of the process that reads, everything in it. */
  readonly peakMegabytes: number;
  /** How many addresses were kept, and what they take in the records. */
  readonly keptAddresses: number;
  readonly keptMegabytes: number;
}

/** Reads an index of 200 sitemaps of 50,000 addresses each, in a process of its own. @param kept addresses at most */
export async function measureIndex(kept: number): Promise<IndexMeasured> {
  const server = start('index-server.ts');
  const { http, dns, url } = await said<{ http: number; dns: number; url: string }>(server);
  try {
    return await withRecords((folder) =>
      said<IndexMeasured>(start('index-reader.js', [String(http), String(dns), url, String(kept), folder])),
    );
  } finally {
    server.disconnect();
  }
}

export interface InsideMeasured {
  readonly entries: number;
  readonly seconds: number;
  /** Each question as a multiple of one bare pass over all rows, in time. */
  readonly ratios: Readonly<Record<string, number>>;
}

/** Looks inside an index of 20 sitemaps of 50,000 addresses each, and asks for pages of it. */
export async function measureInside(): Promise<InsideMeasured> {
  const server = start('index-server.ts', ['20']);
  const { http, dns, url } = await said<{ http: number; dns: number; url: string }>(server);
  try {
    return await said<InsideMeasured>(start('inside-reader.js', [String(http), String(dns), url]));
  } finally {
    server.disconnect();
  }
}
