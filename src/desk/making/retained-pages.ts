import type { Store } from '../../store/store.js';
import type { MakingRow } from '../../store/models/making.js';

/** What a page is by the gathering before, for one that could not be read now. */
const AS_BEFORE = ['kind', 'folder', 'title', 'modified', 'header', 'seenAt', 'face', 'more'] as const;

/** Whether anything of a gathering failed, so that pages may be missing which only what failed leads to. */
export async function hasFailures(store: Store, makingId: string): Promise<boolean> {
  const rows = await store.select(
    `SELECT 1 FROM made_pages INDEXED BY made_pages_state WHERE makingId = $makingId AND state = 'out' AND why IN ('refused', 'no-answer') LIMIT 1`,
    { makingId },
  );
  return rows.length > 0;
}

/** Pages that stood in the gathering before and were not met in this one, piece by piece. */
export async function* unmet(store: Store, makingId: string, formerId: string): AsyncGenerator<string> {
  for (let from = ''; ;) {
    const rows = await store.select<{ url: string }>(
      `SELECT f.url FROM made_pages f WHERE f.makingId = $formerId AND f.state = 'in' AND f.url > $from
         AND NOT EXISTS (SELECT 1 FROM made_pages p WHERE p.makingId = $makingId AND p.url = f.url) ORDER BY f.url LIMIT 2000`,
      { makingId, formerId, from },
    );
    for (const { url } of rows) yield url;
    const last = rows.at(-1);
    if (!last) return;
    from = last.url;
  }
}

/**
 * Keeps the pages that stood in the gathering before and could not be read in this one: one that does not answer as it should stays until it
 * does; one that is not there any more (404, 410) stays once, and goes when it is not there the next time either; one to which a gathering
 * did not come that ended at its bound stays too. Safe to be done again.
 */
export async function retainPages(store: Store, making: MakingRow, formerId: string): Promise<void> {
  const ids = { makingId: making.id, formerId };
  await store.writeQuietly(async (transaction) => {
    await store.run(
      `UPDATE made_pages AS p SET state = 'in', kept = coalesce(p.detail, 'not looked at'), gone = p.why IS 'gone', why = NULL,
         ${AS_BEFORE.map((column) => `${column} = f.${column}`).join(', ')}
       FROM made_pages AS f
       WHERE p.makingId = $makingId AND f.makingId = $formerId AND f.url = p.url AND f.state = 'in'
         AND (p.state = 'waiting' OR (p.state = 'out' AND (p.why IN ('refused', 'no-answer') OR (p.why = 'gone' AND f.gone = 0))))`,
      ids,
      transaction,
    );
    if (making.ended === 'all') return;
    await store.run(
      `INSERT INTO made_pages (makingId, seq, url, state, depth, run, foundBy, kept, ${AS_BEFORE.join(', ')})
       SELECT $makingId, (SELECT max(seq) FROM made_pages WHERE makingId = $makingId) + row_number() OVER (ORDER BY f.seq),
         f.url, 'in', f.depth, f.run, f.foundBy, 'not looked at', ${AS_BEFORE.map((column) => `f.${column}`).join(', ')}
       FROM made_pages f WHERE f.makingId = $formerId AND f.state = 'in'
         AND NOT EXISTS (SELECT 1 FROM made_pages p WHERE p.makingId = $makingId AND p.url = f.url)`,
      ids,
      transaction,
    );
  });
}
