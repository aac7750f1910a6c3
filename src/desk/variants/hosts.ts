import { readHost } from '../../core/address/host.js';
import { readPaste } from '../../core/address/paste.js';
import { Problem } from '../../api/problems.js';
import { newId } from '../../store/ids.js';
import { HostRow } from '../../store/models/variants.js';
import { note } from '../context/journal.js';
import { nowText, type Actor, type Desk } from '../context/desk.js';
import { findProperty, EXACT } from '../context/references.js';

/** Adds a host to a property, so that its variants are looked at too. @returns the handle of the property */
export async function addHost(desk: Desk, actor: Actor, ref: string, text: string): Promise<string> {
  const property = await findProperty(ref, EXACT);
  const paste = readPaste(text);
  if (paste.kind === 'refused') throw new Problem('bad-address', { says: paste.says }, { why: paste.why });
  const { host } = paste.address;
  await desk.store.write(async (transaction) => {
    const there = await HostRow.findOne({
      where: { propertyId: property.id, host, endedAt: null },
      transaction,
    });
    if (there?.why === 'by-hand')
      throw new Problem('already-there', {
        says: `${paste.host.unicode} is a host of ${property.handle} already.`,
      });
    if (there) await there.update({ why: 'by-hand', addedBy: actor.personId }, { transaction });
    else
      await HostRow.create(
        {
          id: newId(),
          propertyId: property.id,
          host,
          why: 'by-hand',
          addedBy: actor.personId,
          addedAt: nowText(desk),
        },
        { transaction },
      );
    await note(desk, actor, transaction, {
      kind: 'host.added',
      says: `${paste.host.unicode} belongs to ${property.handle} too.`,
      property,
    });
  });
  return property.handle;
}

/** Takes a host off a property; it is not looked at any more, even where it is met again. @returns the handle of the property */
export async function dropHost(desk: Desk, actor: Actor, ref: string, text: string): Promise<string> {
  const property = await findProperty(ref, EXACT);
  const read = readHost(text);
  const host = typeof read === 'string' ? text : read.ascii;
  await desk.store.write(async (transaction) => {
    const there = await HostRow.findOne({
      where: { propertyId: property.id, host, endedAt: null },
      transaction,
    });
    if (!there) throw new Problem('no-such-host', { host, property: property.handle });
    await there.update({ endedAt: nowText(desk) }, { transaction });
    await note(desk, actor, transaction, {
      kind: 'host.dropped',
      says: `${host} was taken off ${property.handle}.`,
      property,
    });
  });
  return property.handle;
}
