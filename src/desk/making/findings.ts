import { finding, type FindingCode } from '../../core/findings/catalogue.js';
import { worstFirst, type EvidenceValue, type Finding } from '../../core/findings/finding.js';
import { addressText } from '../../core/address/web-address.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { MakingRow, NamedWay } from '../../store/models/making.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';

const OF_WAYS: Readonly<Record<NamedWay['kind'], FindingCode>> = {
  session: 'making.sessions',
  idle: 'making.idle',
  endless: 'making.endless',
  parameters: 'making.parameters',
  variant: 'making.variants',
  alike: 'making.alike',
  identical: 'making.identical',
  missing: 'making.missing',
  frame: 'making.frames',
  nofollow: 'making.nofollow',
};

/** Reasons that are told of, besides being counted. */
const OF_REASONS: Readonly<Record<string, FindingCode>> = {
  gone: 'making.dead-ends',
  refused: 'making.refused',
  'no-answer': 'making.refused',
  redirect: 'making.redirects',
  double: 'making.doubles',
  repeating: 'making.repeating',
  'too-deep': 'making.too-deep',
};
/** So many pages that name another address as their own, and more than those that went in, are why most of a website is left out. */
const MANY_ELSEWHERE = 3;

type Bound = 'pages' | 'minutes' | 'megabytes';

interface Counted {
  readonly why: string;
  readonly count: number;
  readonly url: string;
  readonly detail: string | null;
  readonly fromUrl: string | null;
}

/** What showed on the way of a gathering that is of use to whoever looks after the website. */
export async function findingsOf(desk: Desk, property: PropertyRow, making: MakingRow): Promise<Finding[]> {
  const { store } = desk;
  const { id } = making;
  const findings: Finding[] = [];
  const [held] = await store.select<{ count: number }>(
    `SELECT count(*) AS count FROM made_pages INDEXED BY made_pages_state WHERE makingId = $id AND state = 'in'`,
    { id },
  );
  const inside = held?.count ?? 0;
  const linked = await store.select<Counted>(
    `SELECT p.why, c.count, p.url, p.detail, p.fromUrl FROM
       (SELECT why, count(*) AS count, min(seq) AS seq FROM made_pages WHERE makingId = $id AND state = 'out' AND fromUrl IS NOT NULL GROUP BY why) c
       JOIN made_pages p ON p.makingId = $id AND p.seq = c.seq`,
    { id },
  );
  for (const { why, count, url, detail, fromUrl } of linked) {
    const code = OF_REASONS[why];
    const values = { count, first: url, detail: detail ?? '', from: fromUrl ?? '' };
    if (code) findings.push(finding(code, { ...values, limit: making.recipe.reach.depth }));
    if (why === 'canonical' && count >= MANY_ELSEWHERE && count > inside)
      findings.push(finding('making.all-elsewhere', values));
  }
  const [unlinked] = await store.select<{ count: number; first: string | null }>(
    `SELECT count(*) AS count, min(url) AS first FROM made_pages INDEXED BY made_pages_state
       WHERE makingId = $id AND state = 'in' AND foundBy = 'sitemap'`,
    { id },
  );
  if (making.recipe.sources.includes('site') && unlinked?.first != null)
    findings.push(finding('making.unlinked', { count: unlinked.count, first: unlinked.first }));
  const [kept] = await store.select<{ count: number; first: string; detail: string }>(
    `SELECT count(*) AS count, min(url) AS first, kept AS detail FROM made_pages INDEXED BY made_pages_state
       WHERE makingId = $id AND state = 'in' AND kept IS NOT NULL HAVING count(*) > 0`,
    { id },
  );
  if (kept) findings.push(finding('making.kept', { ...kept }));
  const [many] = await store.select<{ count: number; first: string | null }>(
    `SELECT count(*) AS count, min(url) AS first FROM made_pages WHERE makingId = $id AND state = 'in' AND more->>'beyond' > 0`,
    { id },
  );
  if (many?.first != null)
    findings.push(finding('making.many-links', { count: many.count, first: many.first }));
  for (const { what, kind, count, first } of making.named)
    findings.push(
      finding(OF_WAYS[kind], {
        ...{ what, count, first, row: making.recipe.reach.row },
      } satisfies Record<string, EvidenceValue>),
    );
  if (making.ended != null && making.ended !== 'all') {
    const [left] = await store.select<{ count: number }>(
      `SELECT count(*) AS count FROM made_pages WHERE makingId = $id AND state = 'waiting'`,
      { id },
    );
    findings.push(
      finding('making.bounded', {
        limit: making.recipe.reach[making.ended as Bound],
        what: making.ended as Bound,
        waiting: left?.count ?? 0,
      }),
    );
  }
  if (making.ended != null && inside === 0)
    findings.push(await nothingFound(desk, id, addressText(frontDoorOf(property))));
  return worstFirst(findings);
}

/** Why there is nothing: the front door itself is kept from everybody or from us, or it has no page. */
async function nothingFound({ store }: Desk, id: string, door: string): Promise<Finding> {
  const [kept] = await store.select<{ detail: string | null }>(
    `SELECT detail FROM made_pages WHERE makingId = $id AND url = $door AND why = 'forbidden'`,
    { id, door },
  );
  return kept?.detail == null
    ? finding('making.nothing', { door })
    : finding('making.kept-out', { door, detail: kept.detail });
}
