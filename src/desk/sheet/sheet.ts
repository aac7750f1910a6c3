import { Op } from 'sequelize';
import type { PlacementSheet } from '../../api/documents.js';
import { writtenMinute } from '../../api/written.js';
import { Problem } from '../../api/problems.js';
import { adviseMethods } from '../../core/badge/advice.js';
import { parseTarget } from '../../core/address/reach.js';
import { placementOf, type Placement } from '../../core/badge/placement.js';
import type { Method } from '../../core/profile/profile.js';
import { blocksOf, filesWith } from '../../core/sheet/blocks.js';
import { filled, SENTENCES, type SheetLanguage } from '../../core/sheet/sentences.js';
import { sheetOf, type Sheet, type SheetThing, type SheetToken } from '../../core/sheet/sheet.js';
import { asHtml, asMarkdown, asText } from '../../core/sheet/written.js';
import { PropertyRow } from '../../store/models/clients.js';
import { EnrolmentRow, TokenRow, type CheckRow } from '../../store/models/enrolments.js';
import { findClient } from '../context/client-refs.js';
import { nowText, type Desk } from '../context/desk.js';
import { findProperty } from '../context/references.js';
import { sumOf } from '../context/sums.js';
import { enrolmentFacts, type EnrolmentFacts } from '../standing/facts.js';
import { placementFor } from '../tokens/placements.js';

/** Properties of one client whose tokens go onto one sheet: nobody places more in one go. */
const MOST_PROPERTIES = 200;

/** Whom a sheet is for: one property, or all of a client. */
export interface SheetFor {
  readonly property?: string;
  readonly client?: string;
}

interface Subject {
  /** As the client's people call it: the host, or the client's name. */
  readonly title: string;
  readonly properties: readonly PropertyRow[];
}

async function subjectOf({ property, client }: SheetFor): Promise<Subject> {
  if (property !== undefined) {
    const row = await findProperty(property);
    return { title: row.host, properties: [row] };
  }
  const { id, name } = await findClient(client ?? '');
  const properties = await PropertyRow.findAll({
    where: { clientId: id, archivedAt: null },
    order: ['handle'],
    limit: MOST_PROPERTIES,
  });
  return { title: name, properties };
}

/** The sheet of a property or a client. Throws Problem where nothing is known that could be placed. */
export async function showSheet(
  desk: Desk,
  whom: SheetFor,
  language: SheetLanguage = 'en',
): Promise<PlacementSheet> {
  const { title, properties } = await subjectOf(whom);
  const sheet = sheetOf(await tokensOf(desk, properties, language));
  if (sheet.places.length === 0) throw new Problem('nothing-to-place', { title });
  const at = nowText(desk);
  const words = SENTENCES[language];
  const files = filesWith(sheet).map(({ path, content }) => ({
    path,
    content,
    sha256: sumOf(Buffer.from(content)),
  }));
  const about = { property: title, at: writtenMinute(at), sums: sumsOf(sheet) };
  const blocks = blocksOf(sheet, words, about);
  return {
    title: filled(words.title, { property: title }),
    language,
    at,
    open: sheet.open,
    done: sheet.done,
    markdown: asMarkdown(blocks),
    text: asText(blocks),
    html: asHtml(blocks, language),
    files,
  };
}

function sumsOf({ places, others }: Sheet): Map<string, string> {
  const sums = new Map<string, string>();
  for (const { tasks } of [...places, ...others])
    for (const { thing } of tasks)
      if (thing.kind === 'file') sums.set(thing.path, sumOf(Buffer.from(thing.content)));
  return sums;
}

async function tokensOf(
  desk: Desk,
  properties: readonly PropertyRow[],
  language: SheetLanguage,
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
      const before = old ? placementAs(one, old) : null;
      return [
        {
          engine: one.profile.title,
          enrolment: one.name,
          thing: thingOf(placement),
          ...seenBy(check, language),
          isAdvised: token.method === best,
          isHeldBy: isHeldBy(one, token.method),
          before: before ? thingOf(before) : null,
        },
      ];
    });
  });
}

function placementAs({ profile, row }: EnrolmentFacts, { method, value }: TokenRow): Placement | null {
  return placementOf(profile, parseTarget(row.reach, row.target), method, value);
}

function isHeldBy({ standing, claim }: EnrolmentFacts, method: Method): boolean {
  return standing.badge === 'held' && (claim === null || claim.method === method);
}

/** What the newest check saw. Sentences of findings are English; in another language what stands there is for the page to show. */
function seenBy(check: CheckRow | undefined, language: SheetLanguage): Pick<SheetToken, 'seen' | 'says'> {
  if (!check) return { seen: 'unknown', says: null };
  if (check.forecast === 'accept') return { seen: 'right', says: null };
  const [first] = check.findings;
  if (!first || MISSING.test(first.code)) return { seen: 'missing', says: null };
  return { seen: 'wrong', says: language === 'en' ? first.says : null };
}

/** Findings that say no more than that nothing is there yet. */
const MISSING = /\.(absent|missing|themed-missing|no-record|no-name)$/u;

function thingOf(placement: Placement): SheetThing {
  switch (placement.method) {
    case 'dns': {
      const { zone, recordName, place, value } = placement;
      return { kind: 'dns', zone, recordName, place, value };
    }
    case 'meta':
      return { kind: 'meta', page: placement.place, tag: placement.tag };
    case 'file': {
      const { place, path, fileName, content } = placement;
      return { kind: 'file', url: place, path, fileName, content };
    }
  }
}
