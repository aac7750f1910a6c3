import Joi from 'joi';
import type { FoundSitemap, JobResult } from '../../api/documents.js';
import { addressText } from '../../core/address/web-address.js';
import {
  placesToLook,
  placeToSubmit,
  type Candidate,
  type CandidateRead,
} from '../../core/sitemap/candidates.js';
import { PropertyRow } from '../../store/models/clients.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import type { Desk } from '../context/desk.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Beside } from '../../core/sitemap/read/beside.js';
import { readOr } from '../../readers/readers.js';
import { readEach } from './read-file.js';
import { EXACT, findProperty } from '../context/references.js';
import { robotsAt } from '../context/robots.js';
import { addSitemap } from './noting.js';
import { variantsOf } from './variants-of.js';

interface FindInput {
  readonly propertyId: string;
  readonly isToNote: boolean;
}

/** One piece: the sitemaps of a property are looked for, and the one to submit noted where that is wanted. */
export async function findPieces(ref: string, isToNote: boolean): Promise<NewPiece<FindInput>[]> {
  const { id, handle } = await findProperty(ref, isToNote ? EXACT : {});
  return [{ subject: handle, input: { propertyId: id, isToNote } }];
}

/** One piece of a job that looks for sitemaps. Doing it again only looks again. */
async function runFind(desk: Desk, piece: Piece<FindInput>): Promise<JobResult> {
  const { propertyId, isToNote } = piece.input;
  const property = await PropertyRow.findByPk(propertyId, { rejectOnEmpty: true });
  const noted = await SitemapRow.findAll({ where: { propertyId } });
  const door = await variantsOf(property);
  const read = await readPlaces(desk, await placesOf(desk, property, noted), door);
  const best = placeToSubmit(read);
  if (best && isToNote) await addSitemap(desk, piece.actor, { property: property.handle, address: best.url });
  const known = new Set([...noted.map(({ url }) => url), ...(best && isToNote ? [best.url] : [])]);
  const found = read
    .filter(({ kind, why }) => kind !== null || why !== 'usual')
    .map((one): FoundSitemap => ({
      url: one.url,
      why: one.why,
      kind: one.kind,
      entries: one.entries,
      says: one.findings.find(({ grade }) => grade !== 'note')?.says ?? null,
      submit: one === best,
      noted: known.has(one.url),
    }));
  return { says: say(found, best), stops: best === null, property: property.handle, found };
}

function say(found: readonly FoundSitemap[], best: CandidateRead | null): string {
  if (found.length === 0) return 'No sitemap was found: not in the robots.txt, nor under the usual names.';
  if (!best) return `None of the ${String(found.length)} that were found can be submitted.`;
  return `Found ${String(found.length)}; submit ${best.url}.`;
}

/** Sitemaps of a robots.txt that are looked at. */
const MOST_NAMED = 100;

async function placesOf(
  desk: Desk,
  property: PropertyRow,
  noted: readonly SitemapRow[],
): Promise<Candidate[]> {
  const door = frontDoorOf(property);
  const ask = desk.net.sharing();
  const [robots, page] = await Promise.all([robotsAt(ask, addressText(door)), ask(addressText(door))]);
  const last = page.hops.at(-1);
  const face = page.body && last ? await readOr('faceOf', null, page.body, last.url) : null;
  const named = await readOr('sitemapsIn', [], robots, MOST_NAMED);
  return placesToLook(
    door,
    named,
    face?.feeds ?? [],
    noted.map(({ url }) => url),
  );
}

/** Reads what stands at each place; politeness bounds how many at once. */
async function readPlaces(
  desk: Desk,
  places: readonly Candidate[],
  door: NonNullable<Beside['door']>,
): Promise<CandidateRead[]> {
  const order = { now: desk.clock.now(), agents: [], door, sample: 0, seed: 0, keeps: -1 };
  const readings = await readEach(
    desk.net,
    places.map(({ url }) => url),
    order,
  );
  return places.flatMap(({ url, why }, at) => {
    const reading = readings[at];
    if (!reading) return [];
    const { kind, entries, children, findings } = reading;
    return [{ url, why, kind, entries, children, findings }];
  });
}

export const findWork = anyWork<FindInput>({
  kind: 'find-sitemaps',
  input: Joi.object<FindInput, true>({
    propertyId: Joi.string().required(),
    isToNote: Joi.boolean().required(),
  }),
  run: runFind,
});
