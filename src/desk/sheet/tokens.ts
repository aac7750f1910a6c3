import { Op } from 'sequelize';
import { writtenMinute } from '../../api/formats.js';
import type { Finding } from '../../core/findings/finding.js';
import { adviseMethods } from '../../core/badge/advice.js';
import { parseScope } from '../../core/address/reach.js';
import { placementOf, type Placement } from '../../core/badge/placement.js';
import type { Method } from '../../core/profile/profile.js';
import { remedyActOf } from '../../core/findings/catalogue.js';
import { reasonFor } from '../../core/sheet/reasons.js';
import { filled, type SheetLanguage, type SheetSentences } from '../../core/sheet/sentences.js';
import type { SheetThing, SheetToken } from '../../core/sheet/sheet.js';
import type { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, TokenRow, type CheckRow } from '../../store/models/enrolments.js';
import { leading } from '../checks/view.js';
import type { Desk } from '../context/desk.js';
import { enrolmentFacts, type EnrolmentFacts } from '../facts/enrolment-facts.js';
import { holdsByNewest, valuesInForce } from '../tokens/in-force.js';
import { placementFor } from '../tokens/placements.js';

/** The tokens of properties as a sheet needs them: what is to be placed where, what the newest check saw, what is old. */
export async function tokensOf(
  desk: Desk,
  properties: readonly PropertyRow[],
  language: SheetLanguage,
  words: SheetSentences,
): Promise<SheetToken[]> {
  const byId = new Map(properties.map((one) => [one.id, one]));
  const rows = await EnrolmentRow.findAll({
    where: { propertyId: [...byId.keys()], endedAt: null },
    order: ['engine', 'id'],
  });
  const facts = await enrolmentFacts(desk, rows);
  const former = await TokenRow.findAll({
    where: { enrolmentId: rows.map(({ id }) => id), replacedAt: { [Op.ne]: null } },
    order: [['replacedAt', 'DESC']],
  });
  const inForce = await valuesInForce(former.map(({ value }) => value));
  return facts.flatMap((one) => {
    const property = byId.get(one.row.propertyId);
    const advised = property
      ? adviseMethods(one.profile, one.row.reach, property.access, property.siteSeen ?? null)
      : [];
    const known = new Set(one.tokens.map(({ method }) => method));
    const best = advised.find(({ method, rank }) => rank !== 'cannot' && known.has(method))?.method;
    return one.tokens.flatMap((token) => {
      const placement = placementFor(one, token);
      if (!placement) return [];
      const check = one.checks.find(({ tokenId }) => tokenId === token.id);
      const old = former.find(
        ({ enrolmentId, method, value }) =>
          enrolmentId === one.row.id && method === token.method && value !== token.value,
      );
      // What is old may be named as such once the new one holds in its place, and nobody else needs it.
      const isFree = old !== undefined && !inForce.has(old.value) && holdsByNewest(one, token.method);
      const before = old && isFree ? placementAs(one, old) : null;
      return [
        {
          engine: one.profile.title,
          enrolment: one.name,
          enrolmentId: one.row.id,
          thing: thingOf(placement, check),
          ...seenBy(desk, check, language, words),
          isAdvised: token.method === best,
          isHeldBy: isHeldBy(one, token.method),
          isAsked: one.row.askedMethod === token.method,
          before: before ? thingOf(before) : null,
        },
      ];
    });
  });
}

function placementAs({ profile, row }: EnrolmentFacts, { method, value }: TokenRow): Placement | null {
  return placementOf(profile, parseScope(row.reach, row.target), method, value);
}

/** Whether a badge may hang on a method: on the one that was confirmed; on any, where nobody knows which that was. */
function isHeldBy({ standing, ownership }: EnrolmentFacts, method: Method): boolean {
  return standing.badge === 'held' && (ownership?.method == null || ownership.method === method);
}

/** What the newest check saw, and why in words for everybody. */
function seenBy(
  desk: Desk,
  check: CheckRow | undefined,
  language: SheetLanguage,
  words: SheetSentences,
): Pick<SheetToken, 'seen' | 'says'> {
  if (!check) return { seen: 'unknown', says: null };
  if (check.forecast === 'accept') return { seen: 'right', says: null };
  const first = leading(check.findings);
  if (!first || MISSING.test(first.code)) {
    const at = `${writtenMinute(check.checkedAt)} UTC`;
    return { seen: 'missing', says: filled(words.notThere, { at }) };
  }
  const says = reasonFor(first.code, first.evidence, language);
  if (!SOON.has(first.code)) return wrongly(first, says, words);
  const at = check.visibleAt == null ? null : new Date(check.visibleAt);
  if (at === null || at <= desk.clock.now()) return { seen: 'soon', says };
  const until = filled(words.until, { until: `${writtenMinute(at.toISOString())} UTC` });
  return { seen: 'soon', says: `${says} ${until}` };
}

/** What is to be done where something is wrong: ours is changed in place, or put beside what is there, or somebody is asked first. */
function wrongly(
  { code, evidence }: Pick<Finding, 'code' | 'evidence'>,
  reason: string,
  words: SheetSentences,
): Pick<SheetToken, 'seen' | 'says'> {
  const { found } = evidence;
  const holds = typeof found === 'string' && found !== '' ? filled(words.holdsNow, { found }) : '';
  const says = [reason, holds].filter(Boolean).join(' ');
  switch (remedyActOf(code)) {
    case 'change':
      return { seen: 'wrong', says };
    case 'ask':
      return { seen: 'blocked', says };
    case 'add':
      return { seen: 'beside', says: reason };
  }
}

/** Findings by which it stands already, and is not seen by all only because others remember what was before. */
const SOON: ReadonlySet<string> = new Set([
  'dns.remembered',
  'dns.servers-disagree',
  'meta.stale-copy',
  'file.stale-copy',
]);

/** Findings that say no more than that nothing is there yet. */
const MISSING = /\.(absent|missing|themed-missing|no-record|no-name)$/u;

/** @param check the newest of it, if there was one: what stands beside it is known by that */
function thingOf(placement: Placement, check?: CheckRow): SheetThing {
  switch (placement.method) {
    case 'dns': {
      const { zone, recordName, place, value } = placement;
      const ttl = check?.findings[0]?.evidence['ttlBeside'];
      return { kind: 'dns', zone, recordName, place, value, ttl: typeof ttl === 'number' ? ttl : null };
    }
    case 'meta': {
      const { place, tag, name, content } = placement;
      return { kind: 'meta', page: place, tag, name, content };
    }
    case 'file': {
      const { place, path, fileName, content } = placement;
      return { kind: 'file', url: place, path, fileName, content };
    }
  }
}
