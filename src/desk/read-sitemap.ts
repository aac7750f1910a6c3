import type { Readable } from 'node:stream';
import { TextDecoder } from 'node:util';
import { finding } from '../core/findings/catalogue.js';
import { excerpt } from '../core/findings/excerpt.js';
import type { Finding } from '../core/findings/finding.js';
import { judgeStatus } from '../core/badge/judge/reach.js';
import { encodingOf, isGzip } from '../core/sitemap/encoding.js';
import { MAX_ADDRESSES, MAX_BYTES } from '../core/sitemap/read/limits.js';
import { SitemapReader } from '../core/sitemap/reader.js';
import { NO_EXTENSIONS, type FileReading, type WholeReading } from '../core/sitemap/reading.js';
import type { Net } from '../net/net.js';
import { pump } from '../net/http/body.js';

/** Children of one index that are read at the same time. Politeness bounds it again for each host. */
const CHILDREN_AT_ONCE = 4;

const NOTHING = { kind: null, entries: 0, children: [], newestLastmod: null, extensions: NO_EXTENSIONS };

/** Fetches and reads one sitemap file; what stands in the way becomes a finding. */
export async function readFile(net: Net, url: string, now: Date): Promise<FileReading> {
  const seen = await net.stream(url, (source, headers) => readBody(source, headers, url, now));
  const last = seen.hops.at(-1);
  const refusal = last && judgeStatus(last);
  if (seen.end !== 'answered' || !seen.body || refusal) {
    const reason = refusal?.says ?? (last?.failure ? `${last.failure}: ${last.detail ?? ''}` : seen.end);
    return { ...NOTHING, findings: [finding('sitemap.not-reached', { url, reason })] };
  }
  return seen.body;
}

/** Reads a body as it comes: unpacked where its first bytes say that it is packed, decoded by what it declares. */
async function readBody(
  source: Readable,
  headers: Readonly<Record<string, string>>,
  url: string,
  now: Date,
): Promise<FileReading> {
  const reader = new SitemapReader(url, now);
  let decoder: TextDecoder | null = null;
  try {
    const { cut } = await pump(
      source,
      headers['content-encoding'] ?? '',
      MAX_BYTES,
      (piece) => {
        decoder ??= new TextDecoder(encodingOf(piece, headers['content-type'] ?? null).label);
        reader.write(decoder.decode(piece, { stream: true }));
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

/** Reads a sitemap, with the sitemaps that it lists when it is an index. A broken child does not stop the others. */
export async function readWhole(net: Net, url: string, now: Date): Promise<WholeReading> {
  const top = await readFile(net, url, now);
  if (top.kind !== 'index') {
    return {
      kind: top.kind,
      addresses: top.entries,
      children: 0,
      newestLastmod: top.newestLastmod,
      findings: top.findings,
    };
  }
  const children = top.children.slice(0, MAX_ADDRESSES);
  const readings = await readChildren(net, url, children, now);
  const broken = readings.filter(({ reading }) => reading.findings.some((one) => one.grade === 'stops'));
  const nested = readings.find(({ reading }) => reading.kind === 'index');
  const findings: Finding[] = [...top.findings];
  if (broken[0])
    findings.push(
      finding('sitemap.child-fails', {
        url,
        count: broken.length,
        children: children.length,
        child: broken[0].child,
      }),
    );
  if (nested) findings.push(finding('sitemap.nested-index', { url, child: nested.child }));
  findings.push(
    ...readings.flatMap(({ reading }) => reading.findings.filter((one) => one.grade !== 'note')).slice(0, 20),
  );
  const counted = readings.filter(({ reading }) => reading.kind !== null && reading.kind !== 'index');
  const dates = [top, ...readings.map(({ reading }) => reading)].flatMap(({ newestLastmod }) =>
    newestLastmod === null ? [] : [newestLastmod],
  );
  return {
    kind: 'index',
    addresses: counted.reduce((sum, { reading }) => sum + reading.entries, 0),
    children: children.length,
    newestLastmod: dates.sort((a, b) => Date.parse(a) - Date.parse(b)).at(-1) ?? null,
    findings,
  };
}

async function readChildren(
  net: Net,
  index: string,
  children: readonly string[],
  now: Date,
): Promise<{ child: string; reading: FileReading }[]> {
  const readings: { child: string; reading: FileReading }[] = [];
  const lanes = Array.from({ length: CHILDREN_AT_ONCE }, async (_, lane) => {
    for (let at = lane; at < children.length; at += CHILDREN_AT_ONCE) {
      const child = children[at] ?? '';
      readings[at] = {
        child,
        reading: URL.canParse(child) ? await readFile(net, child, now) : unreadable(index, child),
      };
    }
  });
  await Promise.all(lanes);
  return readings;
}

function unreadable(index: string, child: string): FileReading {
  const reason = `“${child.slice(0, 80)}” in ${index} is not a whole address.`;
  return { ...NOTHING, findings: [finding('sitemap.not-reached', { url: child, reason })] };
}
