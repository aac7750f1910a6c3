import { col, fn, Op, where } from 'sequelize';
import { Problem } from '../../api/problems.js';
import { nearest } from '../../core/address/nearest.js';
import { ClientRow } from '../../store/models/clients.js';
import { has } from './matching.js';
import { MOST_NAMES, type HowToFind } from './references.js';

/**
 * A client by identifier, handle or full name, in whatever case; where reading, also by a part of either that fits only one.
 * Throws Problem `no-such-client` with the nearest, or `ambiguous` with the handles that fit.
 */
export async function findClient(ref: string, how: HowToFind = {}): Promise<ClientRow> {
  const wanted = ref.trim();
  const alive = { archivedAt: how.archivedToo === true ? { [Op.or]: [null, { [Op.ne]: null }] } : null };
  const isWanted = (column: string) => where(fn('lower', col(column)), wanted.toLowerCase());
  const whole = await ClientRow.findAll({
    where: { [Op.or]: [{ id: wanted }, isWanted('handle'), isWanted('name')], ...alive },
    order: [['archivedAt', 'ASC'], 'handle'],
    limit: 6,
  });
  const exact = whole.find(({ id, handle }) => id === wanted || handle === wanted.toLowerCase()) ?? whole[0];
  if (exact && (exact.name.toLowerCase() !== wanted.toLowerCase() || whole.length === 1)) return exact;
  if (whole.length > 1) throw manyClients(ref, whole);
  const near = await ClientRow.findAll({
    where: { [Op.or]: [has('handle', wanted), has('name', wanted)], ...alive },
    order: ['handle'],
    limit: 6,
  });
  const [only, second] = near;
  if (only && !second && how.exact !== true) return only;
  if (second && how.exact !== true) throw manyClients(ref, near);
  throw new Problem('no-such-client', {
    ref,
    near: didYouMean(near.map(({ handle }) => handle)) ?? (await nearestClient(ref)),
  });
}

function manyClients(ref: string, some: readonly ClientRow[]): Problem {
  return new Problem(
    'ambiguous',
    {
      ref,
      what: `${some.map(({ handle, name }) => `${handle} (${name})`).join(', ')}${some.length > 5 ? ' and more' : ''}`,
      one: 'one of them',
    },
    { handles: some.map(({ handle }) => handle) },
  );
}

/** The end of a sentence that proposes what may have been meant; null where nothing is to be proposed. */
function didYouMean(names: readonly string[]): string | null {
  return names.length === 0 ? null : `. Did you mean ${names.join(', ')}?`;
}

async function nearestClient(ref: string): Promise<string> {
  const rows = await ClientRow.findAll({
    where: { archivedAt: null },
    attributes: ['handle', 'name'],
    limit: MOST_NAMES,
    raw: true,
  });
  const near = nearest(
    ref,
    rows.flatMap(({ handle, name }) => [handle, name]),
  );
  return didYouMean(near === null ? [] : [near]) ?? '.';
}
