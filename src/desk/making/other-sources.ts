import { addressText } from '../../core/address/web-address.js';
import type { Recipe, Source } from '../../core/sitemap/make/recipe.js';
import type { RobotsSeen } from '../../core/robots/robots.js';
import { unpackChunk, type PackedChunk } from '../../readers/address-chunks.js';
import { readOr } from '../../readers/readers.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import { readWhole, type Keeper } from '../sitemaps/read-whole.js';

/** Sitemaps and feeds that are read for one gathering, and addresses of them. */
const MOST_FILES = 20;
const MOST_ADDRESSES = 2_000_000;

/** The addresses of a source that is no website to be followed, piece by piece, as they are written there. */
export async function* addressesOf(
  desk: Desk,
  property: PropertyRow,
  recipe: Recipe,
  source: Source,
  robots: RobotsSeen,
): AsyncGenerator<readonly string[]> {
  if (source === 'list') {
    const door = addressText(frontDoorOf(property));
    yield recipe.list.flatMap((one) => (URL.canParse(one, door) ? [new URL(one, door).href] : []));
    return;
  }
  const urls =
    source === 'feed' ? await feedsOf(desk, property, recipe) : await sitemapsOf(property, recipe, robots);
  for (const url of urls.slice(0, MOST_FILES)) yield* addressesAt(desk, url);
}

async function sitemapsOf(
  property: PropertyRow,
  recipe: Recipe,
  robots: RobotsSeen,
): Promise<readonly string[]> {
  if (recipe.sitemaps.length > 0) return recipe.sitemaps;
  const noted = await SitemapRow.findAll({ where: { propertyId: property.id }, order: ['url'] });
  if (noted.length > 0) return noted.map(({ url }) => url);
  return (await readOr('sitemapsIn', [], robots, MOST_FILES)).filter((url) => URL.canParse(url));
}

async function feedsOf(desk: Desk, property: PropertyRow, recipe: Recipe): Promise<readonly string[]> {
  if (recipe.feeds.length > 0) return recipe.feeds;
  const door = addressText(frontDoorOf(property));
  const page = await desk.net.page(door);
  const last = page.hops.at(-1);
  const face = page.body && last ? await readOr('faceOf', null, page.body, last.url) : null;
  return face?.feeds ?? [];
}

/** The addresses of one sitemap or feed, with all that is in it. */
async function* addressesAt(desk: Desk, url: string): AsyncGenerator<readonly string[]> {
  const waiting: PackedChunk[] = [];
  const keeper: Keeper = {
    known: [],
    take: ({ chunks }) => {
      waiting.push(...chunks);
      return Promise.resolve();
    },
  };
  await readWhole(desk.net, url, {
    now: desk.clock.now(),
    agents: [],
    sample: 0,
    seed: 0,
    keeps: MOST_ADDRESSES,
    keeper,
  });
  for (const { packed } of waiting) if (packed) yield unpackChunk(packed);
}
