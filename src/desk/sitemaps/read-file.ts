import type { ReachFailure } from '../../core/badge/probe/evidence.js';
import { failureSays } from '../../core/variants/roles.js';
import type { Readable } from 'node:stream';
import { finding } from '../../core/findings/catalogue.js';
import { excerpt } from '../../core/findings/excerpt.js';
import { judgeStatus } from '../../core/badge/judge/reach.js';
import { isGzip } from '../../core/sitemap/encoding.js';
import { MAX_BYTES } from '../../core/sitemap/read/limits.js';
import { NO_EXTENSIONS, type FileReading } from '../../core/sitemap/reading.js';
import type { Net } from '../../net/net.js';
import { pump } from '../../net/http/body.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import type { FileRead, SitemapOrder } from '../../readers/sitemap-protocol.js';
import { SitemapSession } from '../../readers/sitemap-session.js';

const NOTHING = {
  kind: null,
  entries: 0,
  children: [],
  newestLastmod: null,
  extensions: NO_EXTENSIONS,
  onOtherHosts: [],
};

/**
 * Fetches one sitemap file and has it read; what stands in the way becomes a finding.
 * @param session the thread that reads it, with the other files of the same sitemap
 * @param place its number in an index, from 1; 0 for the sitemap itself
 */
export async function readFile(net: Net, session: SitemapSession, url: string, place = 0): Promise<FileRead> {
  const seen = await net.stream(url, (source, headers) => readBody(session, source, headers, url, place));
  const last = seen.hops.at(-1);
  const refusal = last && judgeStatus(last);
  if (seen.end !== 'answered' || !seen.body || refusal) {
    const failure = last?.failure ?? null;
    const reason = refusal?.says ?? (failure === null ? seen.end : `${failureSays(failure)}.`);
    return { reading: notReached(url, reason, failure), kept: null };
  }
  return seen.body;
}

/** Reads files that have nothing to do with one another, one thread for all of them. */
export async function readEach(
  net: Net,
  urls: readonly string[],
  order: SitemapOrder,
): Promise<FileReading[]> {
  const session = await SitemapSession.open(order);
  try {
    return await Promise.all(urls.map(async (url) => (await readFile(net, session, url)).reading));
  } finally {
    await session.close();
  }
}

/** The reading of a file that could not be fetched. @param failure what the network met; null where it met none */
export function notReached(url: string, reason: string, failure: ReachFailure | null = null): FileReading {
  return { ...NOTHING, findings: [finding('sitemap.not-reached', { url, reason, failure })] };
}

/** Hands a body on as it comes, unpacked where its first bytes say that it is packed. */
async function readBody(
  session: SitemapSession,
  source: Readable,
  headers: Readonly<Record<string, string>>,
  url: string,
  place: number,
): Promise<FileRead> {
  try {
    const file = await session.file(url, headers['content-type'] ?? null, place);
    const { cut } = await pump(
      source,
      headers['content-encoding'] ?? '',
      MAX_BYTES,
      async (piece) => !(await file.write(piece)),
      isGzip,
    );
    const read = await file.end();
    // What is cut in the middle cannot be well-formed; the size is the cause and the only thing told.
    return cut ? { ...read, reading: tooLarge(url, read.reading) } : read;
  } catch (error) {
    if (error instanceof Overtaxed) return { reading: tooHeavy(url, error), kept: null };
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    if (!code.startsWith('Z_')) throw error;
    const detail = excerpt(error instanceof Error ? error.message : code);
    return {
      reading: { ...NOTHING, findings: [finding('sitemap.gzip-broken', { url, detail })] },
      kept: null,
    };
  }
}

function tooLarge(url: string, reading: FileReading): FileReading {
  const isTold = reading.findings.some(({ code }) => code === 'sitemap.too-heavy');
  return isTold
    ? reading
    : { ...reading, findings: [finding('sitemap.too-large', { url, limit: MAX_BYTES })] };
}

/** The reading of a file that took more than is allowed. */
export function tooHeavy(url: string, { tax }: Overtaxed): FileReading {
  return { ...NOTHING, findings: [finding('sitemap.too-heavy', { url, what: tax })] };
}
