import { foldChildren, type FileReading } from '../../core/sitemap/reading.js';
import type { Finding } from '../../core/findings/finding.js';
import { SitemapSession } from '../../readers/sitemap-session.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { agentsOf } from '../context/robots.js';
import type { Desk } from '../context/desk.js';
import { variantsOf } from '../sitemaps/variants-of.js';

/** Pieces in which a file is handed to the reader, in bytes. */
const PIECE = 256 * 1024;

/** What our own reader finds in files that were made, as if they stood where they belong. @param at the address of the first */
export async function proofread(
  desk: Desk,
  property: PropertyRow,
  at: string,
  files: AsyncGenerator<{ name: string; bytes: Buffer }>,
): Promise<Finding[]> {
  const session = await SitemapSession.open({
    now: desk.clock.now(),
    agents: agentsOf(desk),
    door: await variantsOf(property),
    sample: 0,
    seed: 0,
    keeps: -1,
  });
  try {
    const readings: FileReading[] = [];
    let place = 0;
    for await (const { name, bytes } of files) {
      const file = await session.file(new URL(name, at).href, 'application/xml', place);
      // A feed beside it lists pages that the sitemap lists too, and is none of its files.
      place = name.startsWith('recent.') ? 0 : place + 1;
      for (let from = 0; from < bytes.length; from += PIECE)
        await file.write(bytes.subarray(from, from + PIECE));
      readings.push((await file.end()).reading);
    }
    return foldChildren(readings.map(({ findings }) => findings));
  } finally {
    await session.close();
  }
}
