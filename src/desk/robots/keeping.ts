import type { RobotsKept } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { addressText } from '../../core/address/web-address.js';
import { read } from '../../readers/readers.js';
import { RobotsKeptRow } from '../../store/models/publishing.js';
import { PersonRow } from '../../store/models/people.js';
import { frontDoorOf } from '../context/front-door.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { EXACT, findProperty } from '../context/references.js';
import { agentsOf } from '../context/robots.js';
import { checksum } from '../context/checksum.js';

/** The robots.txt that is kept for a property. Throws Problem where there is no such property. */
export async function showRobots(ref: string): Promise<{ kept: RobotsKept | null }> {
  const { id } = await findProperty(ref);
  const row = await RobotsKeptRow.findByPk(id);
  return { kept: row ? await viewOf(row) : null };
}

async function viewOf({ text, over, at, personId }: RobotsKeptRow): Promise<RobotsKept> {
  const person = personId == null ? null : await PersonRow.findByPk(personId);
  return { text, over: over ?? null, at, by: person?.name ?? null };
}

/**
 * Keeps a robots.txt to be carried.
 * @param given.over what it was made from; should another one stand there by then, that one is left as it is
 * @param given.anyway although it keeps an engine from the front door
 * @throws Problem
 */
export async function keepRobots(
  desk: Desk,
  actor: Actor,
  ref: string,
  given: { text: string; over: string | null; anyway?: boolean },
): Promise<RobotsKept> {
  const property = await findProperty(ref, EXACT);
  const door = addressText(frontDoorOf(property));
  const seen = { url: new URL('/robots.txt', door).href, status: 200, text: given.text };
  const { verdicts } = await read('explainRobots', seen, agentsOf(desk), [door], []);
  const keptOut = (verdicts[0]?.agents ?? []).filter(({ allowed }) => !allowed);
  if (keptOut.length > 0 && given.anyway !== true)
    throw new Problem('robots-keep-out', {
      engines: keptOut.map(({ title }) => title).join(', '),
      line: String(keptOut[0]?.line ?? ''),
    });
  const row = await desk.store.write(async (transaction) => {
    const [kept] = await RobotsKeptRow.upsert(
      {
        propertyId: property.id,
        text: given.text,
        sum: checksum(Buffer.from(given.text)),
        over: given.over,
        at: nowText(desk),
        personId: actor.personId,
      },
      { transaction },
    );
    await note(desk, actor, transaction, {
      kind: 'robots.kept',
      says: `A robots.txt was written for ${property.handle}, to be published.`,
      property,
    });
    return kept;
  });
  return viewOf(row);
}

/** Drops what was kept. Throws Problem where there is no such property. */
export async function dropRobots(desk: Desk, actor: Actor, ref: string): Promise<void> {
  const property = await findProperty(ref, EXACT);
  await desk.store.write(async (transaction) => {
    const gone = await RobotsKeptRow.destroy({ where: { propertyId: property.id }, transaction });
    if (gone > 0)
      await note(desk, actor, transaction, {
        kind: 'robots.dropped',
        says: `The robots.txt that was written for ${property.handle} was dropped.`,
        property,
      });
  });
}
