import { randomBytes } from 'node:crypto';
import { registrableOf } from '../../core/address/host.js';
import { addressText, parseAddress, type WebAddress } from '../../core/address/web-address.js';
import type { SiteTraits } from '../../core/badge/advice.js';
import type { PageSeen } from '../../core/badge/probe/evidence.js';
import { followVariant, type Looked, type VariantSeen } from '../../core/variants/follow.js';
import { frontDoorOf } from '../../core/variants/front-door.js';
import type { Observation } from '../../core/variants/judge.js';
import { UNREAD_FACE, type PageFace } from '../../core/variants/page-face.js';
import { readOr } from '../../readers/readers.js';
import {
  isSameAddress,
  judgeSpelling,
  spellingsOf,
  type SpellingSeen,
} from '../../core/variants/spelling.js';
import { MOST_VARIANTS, variantsToTry, type ExtraHost, type ToTry } from '../../core/variants/to-try.js';
import { PropertyRow } from '../../store/models/clients.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { HostRow } from '../../store/models/variants.js';
import type { Desk } from '../context/desk.js';
import { agentsOf, robotsAt } from '../context/robots.js';

/** What one look at a property brought: what is judged, hosts that were met, and what the choice of a method rests on. */
export interface Observed {
  readonly observation: Observation;
  readonly met: readonly ExtraHost[];
  readonly site: SiteTraits | null;
  /** What answered where visitors ended up before, or where the property was taken on. */
  readonly atDoor: PageSeen;
  /** Whether visitors end up elsewhere than at the look before. */
  readonly isNews: boolean;
}

type Look = (url: string) => Promise<Looked>;

/**
 * Looks at every variant of a property. Over the whole look no address is asked for twice, so that it costs at most one
 * fetch for each hop of each variant, and one for each way of writing, the robots.txt and a made-up file.
 */
export async function observe(desk: Desk, property: PropertyRow): Promise<Observed> {
  const takenOn = parseAddress(property.address);
  const former = property.frontDoor == null ? null : parseAddress(property.frontDoor);
  const ask = desk.net.sharing();
  const look = looking(ask);
  const [hosts, recorded] = await Promise.all([
    HostRow.findAll({ where: { propertyId: property.id, endedAt: null }, order: ['addedAt'] }),
    SitemapRow.findAll({ where: { propertyId: property.id } }),
  ]);
  const extra: ExtraHost[] = hosts.map(({ host, why }) => ({ host, why }));
  const tries = variantsToTry(takenOn, former, extra);
  const usual = await followAll(tries, look);
  const door = frontDoorOf(takenOn, former, usual);
  const address = door.kind === 'found' ? door.address : null;
  const robots = address && (await robotsAt(ask, addressText(address)));
  const named = robots ? await readOr('sitemapsIn', [], robots, MOST_SITEMAPS) : [];
  const sitemaps = [...recorded.map(({ url }) => url), ...named];
  const met = metHosts(takenOn, usual, sitemaps, new Set(tries.map((one) => one.address.host)));
  const more = variantsToTry(takenOn, former, [...extra, ...met]).filter(
    (one) => !tries.some((other) => addressText(other.address) === addressText(one.address)),
  );
  const seen = [...usual, ...(await followAll(more.slice(0, MOST_VARIANTS - tries.length), look))];
  return {
    observation: {
      takenOn,
      former,
      seen,
      spellings: address ? await spell(address, look) : [],
      robots,
      sitemaps: [...new Set(sitemaps)],
      agents: agentsOf(desk),
      now: desk.clock.now(),
    },
    met,
    site: address && (await siteAround(ask, address)),
    atDoor: await ask(addressText(former ?? takenOn)),
    isNews: former !== null && (address === null || addressText(address) !== addressText(former)),
  };
}

function followAll(tries: readonly ToTry[], look: Look): Promise<VariantSeen[]> {
  return Promise.all(tries.map((one) => followVariant(one, look)));
}

/** Looks at addresses; the page at the end of several ways is read once. */
function looking(ask: (url: string) => Promise<PageSeen>): Look {
  const faces = new Map<string, Promise<PageFace>>();
  return async (url) => {
    const seen = await ask(url);
    const last = seen.hops.at(-1);
    const { body } = seen;
    const isPage = body !== null && (body.mediaType === null || body.mediaType.includes('html'));
    if (!last || seen.end !== 'answered' || !isPage) return { seen, face: null };
    const face = faces.get(last.url) ?? readOr('faceOf', UNREAD_FACE, body, last.url, last.headers['link']);
    faces.set(last.url, face);
    return { seen, face: await face };
  };
}

/** Sitemaps of a robots.txt that are looked at; a hostile one names tens of thousands. */
const MOST_SITEMAPS = 100;

/** Hosts of the same domain that were met on the way, in canonical links, or as the place of a sitemap. */
function metHosts(
  takenOn: WebAddress,
  seen: readonly VariantSeen[],
  sitemaps: readonly string[],
  known: ReadonlySet<string>,
): ExtraHost[] {
  const met = [
    ...seen.flatMap(({ page }) =>
      page?.canonical == null ? [] : [{ url: page.canonical, why: 'canonical' as const }],
    ),
    ...sitemaps.map((url) => ({ url, why: 'sitemap' as const })),
    ...seen.flatMap(({ steps }) => steps.map(({ to }) => ({ url: to, why: 'redirect' as const }))),
  ];
  const hosts = new Map<string, ExtraHost>();
  for (const { url, why } of met) {
    if (!URL.canParse(url)) continue;
    const host = new URL(url).hostname;
    if (known.has(host) || hosts.has(host) || registrableOf(host) !== registrableOf(takenOn.host)) continue;
    hosts.set(host, { host, why });
  }
  return [...hosts.values()];
}

async function spell(door: WebAddress, look: Look): Promise<SpellingSeen[]> {
  const atDoor = await look(addressText(door));
  return Promise.all(
    spellingsOf(door).map(async (one) =>
      judgeSpelling(one, door, isSameAddress(one, door) ? null : await look(one.url), atDoor),
    ),
  );
}

/** What the site is like, as far as the choice of a method depends on it: its page, and what a made-up file answers. */
async function siteAround(
  ask: (url: string) => Promise<PageSeen>,
  door: WebAddress,
): Promise<SiteTraits | null> {
  const text = addressText(door);
  const nowhere = new URL(`/yb${randomBytes(4).toString('hex')}.txt`, text).href;
  const [page, madeUp] = await Promise.all([ask(text), ask(nowhere)]);
  return readOr('siteTraits', null, page, madeUp);
}
