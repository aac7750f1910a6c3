import type { PageSeen } from '../../core/badge/probe/evidence.js';
import { judgeSample, type SampledPage } from '../../core/sitemap/sample.js';
import type { Finding } from '../../core/findings/finding.js';
import type { EngineAgent } from '../../core/variants/keeping-out.js';
import type { Net } from '../../net/net.js';
import { readOr } from '../../readers/readers.js';
import { robotsAt } from '../context/robots.js';

/** Pages of a sample that are asked for at once. Politeness bounds it again for each host. */
const AT_ONCE = 4;

/**
 * Tries some pages of a sitemap, and judges what answers. What the robots.txt keeps everyone from is left alone.
 * @param url the sitemap
 */
export async function samplePages(
  net: Net,
  url: string,
  addresses: readonly string[],
  agents: readonly EngineAgent[],
): Promise<{ tried: number; findings: Finding[] }> {
  const ask = net.sharing();
  const byOrigin = new Map<string, string[]>();
  for (const address of addresses) {
    if (!URL.canParse(address)) continue;
    const { origin, protocol } = new URL(address);
    if (protocol.startsWith('http')) byOrigin.set(origin, [...(byOrigin.get(origin) ?? []), address]);
  }
  const waiting = (await Promise.all([...byOrigin.values()].map((some) => allowed(ask, some))))
    .flat()
    .reverse();
  const pages: SampledPage[] = [];
  const lane = async (): Promise<void> => {
    for (let address = waiting.pop(); address !== undefined; address = waiting.pop()) {
      const heavy: SampledPage = {
        address,
        fault: { code: 'sitemap.pages-fail', values: { reason: 'more than can be read' } },
      };
      pages.push(await readOr('judgePageOf', heavy, address, await net.page(address), agents));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
  // In the order of the sitemap, whichever answered first.
  pages.sort((a, b) => addresses.indexOf(a.address) - addresses.indexOf(b.address));
  return { tried: pages.length, findings: judgeSample(url, pages) };
}

/** Those of some addresses of one origin that its robots.txt lets everyone fetch. */
async function allowed(
  ask: (url: string) => Promise<PageSeen>,
  addresses: readonly string[],
): Promise<string[]> {
  const paths = addresses.map((address) => {
    const { pathname, search } = new URL(address);
    return pathname + search;
  });
  const robots = await robotsAt(ask, addresses[0] ?? '');
  const kept = await readOr('keptFrom', [], robots, paths);
  return addresses.filter((_, at) => kept[at] !== true);
}
