import { Op } from 'sequelize';
import { registrableOf } from '../../core/address/host.js';
import { hostOf, parseScope } from '../../core/address/reach.js';
import { placementOf } from '../../core/badge/placement.js';
import type { Carried } from '../../core/publish/plan.js';
import type { TargetRow } from '../../store/models/publishing.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, TokenRow } from '../../store/models/enrolments.js';
import { frontDoorOf } from '../context/front-door.js';
import type { Desk } from '../context/desk.js';
import { checksum } from '../context/checksum.js';
import { enrolmentFacts } from '../facts/enrolment-facts.js';
import { holdsByNewest } from '../tokens/in-force.js';

/**
 * What stands, or may stand, at a target and proves an ownership that would be lost with it: tokens of all enrolments of the same domain,
 * whichever property they are of, and such as were replaced while the engine still goes by them.
 */
export async function holdingAt(desk: Desk, property: PropertyRow, target: TargetRow): Promise<Carried[]> {
  const method = target.way === 'dns' ? 'dns' : 'file';
  const domain = registrableOf(frontDoorOf(property).host);
  const near = await EnrolmentRow.findAll({
    where: { endedAt: null, target: { [Op.like]: `%${domain}%` } },
  });
  const rows = near.filter(({ reach, target }) => {
    const host = hostOf(parseScope(reach, target));
    return host === domain || host.endsWith(`.${domain}`);
  });
  const facts = await enrolmentFacts(desk, rows);
  const former = await TokenRow.findAll({
    where: { enrolmentId: rows.map(({ id }) => id), method, replacedAt: { [Op.ne]: null } },
  });
  return facts.flatMap((one) => {
    const old = holdsByNewest(one, method) || one.ownership?.kind !== 'confirmed' ? [] : former;
    return [...one.tokens, ...old.filter(({ enrolmentId }) => enrolmentId === one.row.id)]
      .filter((token) => token.method === method)
      .flatMap(({ value }) => {
        const target = parseScope(one.row.reach, one.row.target);
        const placement = placementOf(one.profile, target, method, value);
        if (placement?.method === 'file')
          return [{ name: placement.path, sum: checksum(Buffer.from(placement.content)) }];
        return placement?.method === 'dns' ? [{ name: placement.place, sum: placement.value }] : [];
      });
  });
}
