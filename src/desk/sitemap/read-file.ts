import type { Readable } from 'node:stream';
import { finding } from '../../core/findings/catalogue.js';
import { excerpt } from '../../core/findings/excerpt.js';
import { judgeStatus } from '../../core/badge/judge/reach.js';
import { isGzip } from '../../core/sitemap/encoding.js';
import type { Beside } from '../../core/sitemap/read/beside.js';
import { MAX_BYTES } from '../../core/sitemap/read/limits.js';
import { SitemapBytesReader } from '../../core/sitemap/bytes-reader.js';
import { NO_EXTENSIONS, type FileReading } from '../../core/sitemap/reading.js';
import type { Net } from '../../net/net.js';
import { pump } from '../../net/http/body.js';

const NOTHING = {
  kind: null,
  entries: 0,
  children: [],
  newestLastmod: null,
  extensions: NO_EXTENSIONS,
  onOtherHosts: [],
};

/** Fetches and reads one sitemap file; what stands in the way becomes a finding. */
export async function readFile(net: Net, url: string, now: Date, beside: Beside = {}): Promise<FileReading> {
  const seen = await net.stream(url, (source, headers) => readBody(source, headers, url, now, beside));
  const last = seen.hops.at(-1);
  const refusal = last && judgeStatus(last);
  if (seen.end !== 'answered' || !seen.body || refusal) {
    const reason = refusal?.says ?? (last?.failure ? `${last.failure}: ${last.detail ?? ''}` : seen.end);
    return notReached(url, reason);
  }
  return seen.body;
}

/** The reading of a file that could not be fetched. */
export function notReached(url: string, reason: string): FileReading {
  return { ...NOTHING, findings: [finding('sitemap.not-reached', { url, reason })] };
}

/** Reads a body as it comes, unpacked where its first bytes say that it is packed. */
async function readBody(
  source: Readable,
  headers: Readonly<Record<string, string>>,
  url: string,
  now: Date,
  beside: Beside,
): Promise<FileReading> {
  const reader = new SitemapBytesReader(url, headers['content-type'] ?? null, now, beside);
  try {
    const { cut } = await pump(
      source,
      headers['content-encoding'] ?? '',
      MAX_BYTES,
      (piece) => {
        reader.write(piece);
        return !reader.finished;
      },
      isGzip,
    );
    const reading = reader.end();
    // What is cut in the middle cannot be well-formed; the size is the cause and the only thing told.
    return cut
      ? { ...reading, findings: [finding('sitemap.too-large', { url, limit: MAX_BYTES })] }
      : reading;
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    if (!code.startsWith('Z_')) throw error;
    const detail = excerpt(error instanceof Error ? error.message : code);
    return { ...NOTHING, findings: [finding('sitemap.gzip-broken', { url, detail })] };
  }
}
