import { finding } from '../core/findings/catalogue.js';
import type { Finding } from '../core/findings/finding.js';
import { judgeStatus } from '../core/badge/judge/reach.js';
import { MAX_ADDRESSES, MAX_BYTES, SitemapReader } from '../core/sitemap/reader.js';
import type { FileReading, WholeReading } from '../core/sitemap/reading.js';
import type { Net } from '../net/net.js';
import { decoderFor, pump } from '../net/http/body.js';

/** Children of one index that are read at the same time. Politeness bounds it again for each host. */
const CHILDREN_AT_ONCE = 4;

/** Fetches and reads one sitemap file; what stands in the way becomes a finding. */
async function readFile(net: Net, url: string): Promise<FileReading> {
  const seen = await net.stream(url, async (source, headers) => {
    const reader = new SitemapReader(url);
    const decoder = decoderFor(headers['content-type'] ?? null);
    const { cut } = await pump(source, headers['content-encoding'] ?? '', MAX_BYTES, (piece) => {
      reader.write(decoder.decode(piece, { stream: true }));
      return !reader.finished;
    });
    return { reading: reader.end(), cut };
  });
  const last = seen.hops.at(-1);
  const refusal = last && judgeStatus(last);
  if (seen.end !== 'answered' || !seen.body || refusal) {
    const reason = refusal?.says ?? (last?.failure ? `${last.failure}: ${last.detail ?? ''}` : seen.end);
    return {
      kind: null,
      entries: 0,
      children: [],
      newestLastmod: null,
      findings: [finding('sitemap.not-reached', { url, reason })],
    };
  }
  const { reading, cut } = seen.body;
  // What is cut in the middle cannot be well-formed; the size is the cause and the only thing told.
  return cut ? { ...reading, findings: [finding('sitemap.too-large', { url, limit: MAX_BYTES })] } : reading;
}

/** Reads a sitemap, with the sitemaps that it lists when it is an index. A broken child does not stop the others. */
export async function readWhole(net: Net, url: string): Promise<WholeReading> {
  const top = await readFile(net, url);
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
  const readings = await readChildren(net, url, children);
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
  const counted = readings.filter(({ reading }) => reading.kind === 'urlset');
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
): Promise<{ child: string; reading: FileReading }[]> {
  const readings: { child: string; reading: FileReading }[] = [];
  const lanes = Array.from({ length: CHILDREN_AT_ONCE }, async (_, lane) => {
    for (let at = lane; at < children.length; at += CHILDREN_AT_ONCE) {
      const child = children[at] ?? '';
      readings[at] = {
        child,
        reading: URL.canParse(child) ? await readFile(net, child) : unreadable(index, child),
      };
    }
  });
  await Promise.all(lanes);
  return readings;
}

function unreadable(index: string, child: string): FileReading {
  const reason = `“${child.slice(0, 80)}” in ${index} is not a whole address.`;
  return {
    kind: null,
    entries: 0,
    children: [],
    newestLastmod: null,
    findings: [finding('sitemap.not-reached', { url: child, reason })],
  };
}
