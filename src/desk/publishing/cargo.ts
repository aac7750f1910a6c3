import { addressText } from '../../core/address/web-address.js';
import type { TargetProtocol, Wanted } from '../../core/publish/plan.js';
import type { Method } from '../../core/profile/profile.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { RobotsKeptRow, type TargetRow } from '../../store/models/publishing.js';
import { EnrolmentRow } from '../../store/models/enrolments.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import { checksum } from '../context/checksum.js';
import { fileOf, latestVersion } from '../making/files.js';
import { ADDRESSES } from '../../core/sitemap/make/write.js';
import { enrolmentFacts } from '../facts/enrolment-facts.js';
import { placementFor } from '../tokens/placements.js';
import { zoneName } from './target-input.js';

/** One thing to be carried, and what it is. */
export interface Cargo extends Wanted {
  /** The bytes of a file; none of a record, whose value is its sum. */
  readonly bytes?: () => Promise<Buffer>;
  /** The placement that it is, to be checked afterwards. */
  readonly token?: { readonly enrolmentId: string; readonly method: Method };
  /** Of a record, the host that it is about. */
  readonly owner?: string;
}

/** What belongs to a target: tokens that are proven there, and for a web root the made sitemap that may go out. */
export async function cargoFor(desk: Desk, property: PropertyRow, target: TargetRow): Promise<Cargo[]> {
  const enrolments = await EnrolmentRow.findAll({ where: { propertyId: property.id, endedAt: null } });
  const found = new Map<string, Cargo>();
  for (const facts of await enrolmentFacts(desk, enrolments))
    for (const token of facts.tokens) {
      const placement = placementFor(facts, token);
      const why = `the token of ${facts.profile.title}`;
      if (!placement || !fits(target.way, placement.method)) continue;
      const of = { enrolmentId: facts.row.id, method: placement.method };
      if (placement.method === 'file') {
        const bytes = Buffer.from(placement.content);
        found.set(placement.path, {
          name: placement.path,
          why,
          sum: checksum(bytes),
          bytes: () => Promise.resolve(bytes),
          token: of,
        });
      } else if (placement.method === 'dns' && isIn(placement.place, zoneName(target.at.zone ?? '')))
        found.set(`${placement.place} ${placement.value}`, {
          name: placement.place,
          why,
          sum: placement.value,
          isAlone: placement.many === 'one',
          owner: placement.owner,
          token: of,
        });
    }
  return target.way === 'dns'
    ? [...found.values()]
    : [...found.values(), ...(await sitemapFiles(property)), ...(await robotsFile(property))];
}

function fits(way: TargetProtocol, method: Method): boolean {
  return way === 'dns' ? method === 'dns' : method === 'file';
}

function isIn(name: string, zone: string): boolean {
  return name === zone || name.endsWith(`.${zone}`);
}

/** The robots.txt that was written here, for the root of the host. */
async function robotsFile(property: PropertyRow): Promise<Cargo[]> {
  const kept = await RobotsKeptRow.findByPk(property.id);
  if (!kept) return [];
  const { text, sum, over } = kept;
  return [
    {
      name: '/robots.txt',
      why: 'the robots.txt that was written here',
      sum,
      ...(over == null ? {} : { over }),
      bytes: () => Promise.resolve(Buffer.from(text)),
    },
  ];
}

/** The sitemap itself, or the index of its files. */
const ROOT_FILE = /^sitemap\.xml/u;

async function sitemapFiles(property: PropertyRow): Promise<Cargo[]> {
  const version = await latestVersion(property.id);
  const { pathname } = new URL('.', addressText(frontDoorOf(property)));
  const files = (version?.files ?? []).filter(({ name }) => name !== ADDRESSES);
  const isIndexed = files.filter(({ name }) => name.startsWith('sitemap')).length > 1;
  return (
    files
      // The index comes last, so that it never names what is not there yet.
      .sort((a, b) => Number(ROOT_FILE.test(a.name)) - Number(ROOT_FILE.test(b.name)))
      .map(({ name, sum }) => ({
        made: isIndexed && ROOT_FILE.test(name) ? ('index' as const) : ('part' as const),
        name: pathname + name,
        why: name.startsWith('recent.') ? 'the feed of recent pages' : 'the made sitemap',
        // What is packed is the same for the same text, so that the text tells.
        sum: name.endsWith('.gz') ? `gz ${sum}` : sum,
        bytes: async () => {
          const { text, packed } = await fileOf(sum);
          return name.endsWith('.gz') ? packed : text;
        },
      }))
  );
}
