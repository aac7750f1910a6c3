import { Op } from 'sequelize';
import { addressText } from '../core/address/web-address.js';
import { readPaste } from '../core/address/paste.js';
import { Problem } from '../api/problems.js';
import { ClientRow, PropertyRow } from '../store/models/clients.js';
import { EnrolmentRow } from '../store/models/enrolments.js';
import { SitemapRow } from '../store/models/sitemaps.js';

/** A part of a text for LIKE, with LIKE's own signs taken as they are. */
export function part(text: string): string {
  return `%${text.replace(/[\\%_]/g, '\\$&')}%`;
}

/** A client by identifier or handle. Throws Problem. */
export async function findClient(ref: string): Promise<ClientRow> {
  const client = await ClientRow.findOne({
    where: { [Op.or]: [{ id: ref }, { handle: ref }], archivedAt: null },
  });
  if (client) return client;
  throw new Problem('no-such-client', `There is no client “${ref}”. “client list” shows those there are.`);
}

/**
 * A property by identifier, handle, address, or a part of either that fits only one.
 * Throws Problem `no-such-property`, or `ambiguous` with the handles that fit.
 */
export async function findProperty(
  ref: string,
  options: { archivedToo?: boolean } = {},
): Promise<PropertyRow> {
  const alive = options.archivedToo === true ? {} : { archivedAt: null };
  const exact = await PropertyRow.findOne({ where: { [Op.or]: [{ id: ref }, { handle: ref }], ...alive } });
  if (exact) return exact;
  const paste = readPaste(ref);
  if (paste.kind === 'address') {
    const byAddress = await PropertyRow.findOne({ where: { address: addressText(paste.address), ...alive } });
    if (byAddress) return byAddress;
  }
  const text = part(ref.toLowerCase());
  const near = await PropertyRow.findAll({
    where: { [Op.or]: [{ handle: { [Op.like]: text } }, { address: { [Op.like]: text } }], ...alive },
    order: ['handle'],
    limit: 6,
  });
  const only = near[0];
  if (only && near.length === 1) return only;
  if (!only)
    throw new Problem(
      'no-such-property',
      `No property has the handle or address “${ref}”, nor a part of it.`,
    );
  const handles = near.map(({ handle }) => handle);
  throw new Problem(
    'ambiguous',
    `“${ref}” fits ${handles.join(', ')}${near.length > 5 ? ' and more' : ''}. Name one of them.`,
    { handles },
  );
}

/**
 * Enrolments by `HANDLE@ENGINE`, `HANDLE@ENGINE:REACH`, identifier, or a property's reference for all of its enrolments.
 * Throws Problem when nothing fits.
 */
export async function findEnrolments(ref: string): Promise<EnrolmentRow[]> {
  const byId = await EnrolmentRow.findOne({ where: { id: ref, endedAt: null } });
  if (byId) return [byId];
  const at = ref.lastIndexOf('@');
  const property = await findProperty(at === -1 ? ref : ref.slice(0, at));
  const [engine, reach] = at === -1 ? [] : ref.slice(at + 1).split(':');
  if (reach !== undefined && reach !== 'name' && reach !== 'address') {
    throw new Problem(
      'bad-input',
      `“${reach}” is not a reach; expected name or address, as in ferries@veldrane:name.`,
    );
  }
  const rows = await EnrolmentRow.findAll({
    where: {
      propertyId: property.id,
      endedAt: null,
      ...(engine === undefined ? {} : { engine }),
      ...(reach === undefined ? {} : { reach }),
    },
    order: ['engine', 'reach', 'createdAt'],
  });
  if (rows.length > 0) return rows;
  const where =
    engine === undefined ? 'with any engine' : `with ${engine}${reach === undefined ? '' : ` by ${reach}`}`;
  throw new Problem(
    'no-such-enrolment',
    `${property.handle} is not enrolled ${where}. “enrol ${property.handle} --engine …” does it.`,
  );
}

/** A sitemap by identifier or whole address. Throws Problem. */
export async function findSitemap(ref: string): Promise<SitemapRow> {
  const rows = await SitemapRow.findAll({ where: { [Op.or]: [{ id: ref }, { url: ref }] }, limit: 2 });
  const [only, second] = rows;
  if (only && !second) return only;
  if (!only)
    throw new Problem(
      'no-such-sitemap',
      `There is no sitemap “${ref}”. Add it first, by its whole address or a path.`,
    );
  throw new Problem(
    'ambiguous',
    `“${ref}” is a sitemap of more than one property; name it by its identifier.`,
  );
}
