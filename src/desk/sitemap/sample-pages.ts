import { keptFromUs } from '../../core/sitemap/forbidding.js';
import { judgePageOf, judgeSample, type SampledPage } from '../../core/sitemap/sample.js';
import type { Finding } from '../../core/findings/finding.js';
import type { EngineAgent } from '../../core/variants/keeping-out.js';
import type { Net } from '../../net/net.js';
import { robotsAt } from '../robots.js';

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
  const robots = new Map<string, Promise<ReturnType<typeof keptFromUs>>>();
  const pages: SampledPage[] = [];
  const waiting = addresses.filter((address) => URL.canParse(address)).reverse();
  const lane = async (): Promise<void> => {
    for (let address = waiting.pop(); address !== undefined; address = waiting.pop()) {
      const { origin, pathname, search, protocol } = new URL(address);
      if (!protocol.startsWith('http')) continue;
      const kept = robots.get(origin) ?? robotsAt((one) => net.page(one), address).then(keptFromUs);
      robots.set(origin, kept);
      if ((await kept)?.(pathname + search) === true) continue;
      pages.push(judgePageOf(address, await net.page(address), agents));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
  // In the order of the sitemap, whichever answered first.
  pages.sort((a, b) => addresses.indexOf(a.address) - addresses.indexOf(b.address));
  return { tried: pages.length, findings: judgeSample(url, pages) };
}
