import Joi from 'joi';
import { counted } from '../../api/plural.js';
import type { JobResult } from '../../api/documents.js';
import { PropertyRow } from '../../store/models/clients.js';
import { MakingRow } from '../../store/models/making.js';
import type { Store } from '../../store/store.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { publishByItself } from '../publishing/publish.js';
import { writeVersion } from '../making/files.js';
import { Gathering, type FormerPage } from '../making/gathering.js';
import { retainPages, unmet } from '../making/retained-pages.js';
import { recipeOf } from '../making/recipes.js';
import { announce } from '../making/announcement.js';
import { gatheringProgress } from '../making/view.js';

interface MakeInput {
  readonly propertyId: string;
  /** Whether what was gathered is written at once, and engines told: as it is where it is made by itself. */
  readonly isWhole: boolean;
}

/** Two gatherings of one website at once would ask for everything twice. */
const oneGathering = new OneAtATime();
/** Pages of a gathering that is over which are let go at a time. */
const AT_ONCE = 5_000;

/** One piece: the addresses of a property are gathered. */
export function makePiece(property: PropertyRow, isWhole: boolean): NewPiece<MakeInput> {
  return { subject: property.handle, input: { propertyId: property.id, isWhole } };
}

/** One piece of a making. Begun again, it goes on where the records say that it was. */
function runMake(desk: Desk, piece: Piece<MakeInput>): Promise<JobResult> {
  return oneGathering.run(piece.input.propertyId, () => make(desk, piece));
}

async function make(desk: Desk, piece: Piece<MakeInput>): Promise<JobResult> {
  const property = await PropertyRow.findByPk(piece.input.propertyId, { rejectOnEmpty: true });
  const former = await MakingRow.findOne({
    where: { propertyId: property.id, ended: ['all', 'pages', 'minutes', 'megabytes'] },
    order: [['startedAt', 'DESC']],
  });
  const row = (await MakingRow.findByPk(piece.itemId)) ?? (await begin(desk, piece, property));
  const formerId = former && former.id !== row.id ? former.id : null;
  if (row.endedAt == null) {
    const ended = await new Gathering(desk, property, row, {
      pages: (urls) => pagesOf(desk.store, formerId, urls),
      unmet: () => (formerId === null ? null : unmet(desk.store, row.id, formerId)),
    }).run();
    row.ended = ended;
    if (formerId !== null) await retainPages(desk.store, row, formerId);
    await row.update({ endedAt: nowText(desk), ended });
  }
  await letGoBefore(desk.store, row);
  const [count] = await desk.store.select<{ count: number }>(
    `SELECT count(*) AS count FROM made_pages WHERE makingId = $id AND state = 'in'`,
    { id: row.id },
  );
  const pages = count?.count ?? 0;
  const says = `Gathered ${counted(pages, 'page', 'pages')} of ${property.handle}.`;
  if (piece.input.isWhole && pages > 0) return writeAndTell(desk, piece, property);
  await desk.store.write((transaction) =>
    note(desk, piece.actor, transaction, { kind: 'sitemap.gathered', says, property }),
  );
  return { says, stops: pages === 0, property: property.handle };
}

async function begin(desk: Desk, { itemId, actor }: Piece, property: PropertyRow): Promise<MakingRow> {
  const { recipe } = await recipeOf(desk, property);
  return desk.store.write((transaction) =>
    MakingRow.create(
      {
        id: itemId,
        propertyId: property.id,
        recipe,
        startedAt: nowText(desk),
        phase: 0,
        ms: 0,
        bytes: 0,
        named: [],
        personId: actor.personId,
      },
      { transaction },
    ),
  );
}

async function pagesOf(
  store: Store,
  makingId: string | null,
  urls: readonly string[],
): Promise<ReadonlyMap<string, FormerPage>> {
  if (makingId === null) return new Map();
  const rows = await store.select<FormerPage & { readonly url: string }>(
    'SELECT url, face, seenAt FROM made_pages WHERE makingId = $makingId AND url IN (SELECT value FROM json_each($urls))',
    { makingId, urls: JSON.stringify(urls) },
  );
  return new Map(rows.map(({ url, ...page }) => [url, page]));
}

/** Lets go of gatherings before this one: what is of use of them is in the versions that were written. */
async function letGoBefore(store: Store, { id, propertyId, startedAt }: MakingRow): Promise<void> {
  const old = await store.select<{ id: string }>(
    'SELECT id FROM makings WHERE propertyId = $propertyId AND id <> $id AND startedAt <= $startedAt',
    { propertyId, id, startedAt },
  );
  for (const { id: oldId } of old) {
    for (let count = AT_ONCE; count >= AT_ONCE;)
      count = await store.writeQuietly((transaction) =>
        store.change(
          'DELETE FROM made_pages WHERE makingId = $oldId AND seq IN (SELECT seq FROM made_pages WHERE makingId = $oldId LIMIT 5000)',
          { oldId },
          transaction,
        ),
      );
    await store.writeQuietly((transaction) =>
      store.run('DELETE FROM makings WHERE id = $oldId', { oldId }, transaction),
    );
  }
}

/** What is made by itself is written at once; engines are told of what they know, where something has changed. */
async function writeAndTell(desk: Desk, piece: Piece<MakeInput>, property: PropertyRow): Promise<JobResult> {
  const version = await writeVersion(desk, piece.actor, property, {
    id: `${piece.itemId}-v`,
    isAllowed: false,
  });
  if (version.heldBack !== null) return { says: version.heldBack, stops: true, property: property.handle };
  const carried = await publishByItself(desk, piece, property.id, 'sitemap');
  const isOut = (await recipeOf(desk, property)).handle !== null || carried !== null;
  const told = isOut ? await announce(desk, piece, property, version) : '';
  return {
    says: [`Made ${counted(version.addresses, 'address', 'addresses')}.`, carried, told]
      .filter(Boolean)
      .join(' '),
    stops: false,
    property: property.handle,
  };
}

export const makeWork = anyWork<MakeInput>({
  kind: 'make',
  lane: 'long',
  input: Joi.object<MakeInput, true>({
    propertyId: Joi.string().required(),
    isWhole: Joi.boolean().required(),
  }),
  run: runMake,
  progress: gatheringProgress,
});
