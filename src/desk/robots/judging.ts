import Joi from 'joi';
import type { JobResult } from '../../api/documents.js';
import { addressText } from '../../core/address/web-address.js';
import { read } from '../../readers/readers.js';
import { PropertyRow } from '../../store/models/clients.js';
import { SitemapRow } from '../../store/models/sitemaps.js';
import { ownPage } from '../clients/own-page.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import { findProperty } from '../context/references.js';
import { agentsOf, robotsAt } from '../context/robots.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';

interface RobotsInput {
  readonly propertyId: string;
  readonly addresses: string[];
  readonly draft?: string;
}

/** What of a robots.txt is shown with what it says, in letters. */
const MOST_SHOWN = 50_000;

/** One piece: the robots.txt of a property is judged. Throws Problem. */
export async function robotsPieces(
  ref: string,
  { addresses = [], draft }: { addresses?: string[]; draft?: string },
): Promise<NewPiece<RobotsInput>[]> {
  const property = await findProperty(ref);
  const door = addressText(frontDoorOf(property));
  const whole = [...new Set(addresses.map((text) => ownPage(property, text)))];
  const input = { propertyId: property.id, addresses: whole.length === 0 ? [door] : whole };
  return [{ subject: property.handle, input: draft === undefined ? input : { ...input, draft } }];
}

async function runRobots(desk: Desk, { input }: Piece<RobotsInput>): Promise<JobResult> {
  const property = await PropertyRow.findByPk(input.propertyId, { rejectOnEmpty: true });
  const door = addressText(frontDoorOf(property));
  const url = new URL('/robots.txt', door).href;
  const seen =
    input.draft === undefined
      ? await robotsAt((page) => desk.net.page(page), door)
      : { url, status: 200, text: input.draft, stands: null };
  const sitemaps = await SitemapRow.findAll({ where: { propertyId: property.id }, order: ['url'] });
  const agents = [...agentsOf(desk), { title: 'everyone else', agent: null }];
  const told = await read(
    'explainRobots',
    seen,
    agents,
    input.addresses,
    sitemaps.map((one) => one.url),
  );
  const kept = told.verdicts.filter((one) => one.agents.some(({ allowed }) => !allowed));
  const says =
    kept.length === 0
      ? `Every engine may fetch what was asked about.`
      : `Kept from engines: ${kept.map(({ address }) => new URL(address).pathname).join(', ')}.`;
  const robots = {
    url: seen.url,
    status: input.draft === undefined ? seen.status : null,
    draft: input.draft !== undefined,
    text: seen.text.slice(0, MOST_SHOWN),
    verdicts: told.verdicts.map(({ address, agents: all }) => ({ address, agents: [...all] })),
    faults: [...told.faults],
    proposal: told.proposal === null ? null : told.proposal.slice(0, MOST_SHOWN),
    stands: seen.stands,
  };
  return { says, stops: kept.length > 0, property: property.handle, robots };
}

export const robotsWork = anyWork<RobotsInput>({
  kind: 'robots',
  input: Joi.object<RobotsInput, true>({
    propertyId: Joi.string().required(),
    addresses: Joi.array().items(Joi.string()).required(),
    draft: Joi.string().allow(''),
  }),
  run: runRobots,
});
