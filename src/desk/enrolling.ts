import type { JobResult, Reach } from '../api/documents.js';
import { nameFor, targetForPeople, targetText, type Target } from '../core/address/reach.js';
import { readPaste } from '../core/address/paste.js';
import { registrableOf } from '../core/address/host.js';
import { parseAddress } from '../core/address/web-address.js';
import type { EngineProfile } from '../core/profile/profile.js';
import { Problem } from '../api/problems.js';
import { newId } from '../store/ids.js';
import { PropertyRow } from '../store/models/clients.js';
import { AccountRow, EnrolmentRow } from '../store/models/enrolments.js';
import { engineValue } from './engine-answers.js';
import { note } from './journal.js';
import { observeFrontDoor } from './front-door.js';
import type { NewPiece, Piece } from './jobs/runner.js';
import { engineOf, nowText, profileOf, type Actor, type Desk } from './parts.js';
import { findProperty } from './refs.js';

interface EnrolInput {
  readonly propertyId: string;
  readonly engine: string;
  readonly reach: Reach;
  /** An address given by hand in place of the front door. */
  readonly address: string | null;
}

/** One piece for each property and engine. An engine's address reach is taken unless another is asked for: every method serves it. */
export async function enrolPieces(
  desk: Desk,
  input: { properties: string[]; engines: string[]; reach?: Reach; address?: string },
): Promise<NewPiece[]> {
  const properties = await Promise.all(input.properties.map((ref) => findProperty(ref)));
  const profiles = input.engines.map((engine) => profileOf(desk, engine));
  if (input.address !== undefined && properties.length > 1) {
    throw new Problem('bad-input', 'An address can be given for one property at a time.');
  }
  const pieces: NewPiece[] = [];
  for (const property of properties) {
    for (const profile of profiles) {
      const reach = input.reach ?? (profile.reaches.includes('address') ? 'address' : 'name');
      requireReach(profile, reach);
      const address = input.address === undefined ? null : ownAddress(property, input.address);
      const work: EnrolInput = { propertyId: property.id, engine: profile.id, reach, address };
      pieces.push({ subject: `${property.handle}@${profile.id}:${reach}`, input: work });
    }
  }
  return pieces;
}

function requireReach(profile: EngineProfile, reach: Reach): void {
  if (profile.reaches.includes(reach)) return;
  throw new Problem(
    'cannot-be',
    `${profile.title} does not register by ${reach}; it takes ${profile.reaches.join(' or ')}.`,
  );
}

function ownAddress(property: PropertyRow, text: string): string {
  const paste = readPaste(text);
  if (paste.kind === 'refused') throw new Problem('bad-address', paste.says, { why: paste.why });
  if (registrableOf(paste.address.host) !== registrableOf(property.host)) {
    throw new Problem(
      'cannot-be',
      `${paste.address.host} does not belong to ${property.handle} (${property.host}).`,
    );
  }
  return targetText({ reach: 'address', address: paste.address });
}

async function targetOf(desk: Desk, actor: Actor, property: PropertyRow, input: EnrolInput): Promise<Target> {
  if (input.reach === 'name') {
    const name = nameFor(parseAddress(property.address));
    if (name === null)
      throw new Problem(
        'cannot-be',
        `${property.handle} is a folder of ${property.host}; a name would cover its neighbours too. Enrol it by address.`,
      );
    return { reach: 'name', name };
  }
  if (input.address !== null) return { reach: 'address', address: parseAddress(input.address) };
  if (property.frontDoor == null) await observeFrontDoor(desk, actor, property, true);
  await property.reload();
  if (property.frontDoor != null) return { reach: 'address', address: parseAddress(property.frontDoor) };
  throw new Problem(
    'cannot-be',
    `Where visitors of ${property.handle} end up is not known: ${property.frontDoorSays ?? 'it was not looked at yet.'} Give the address by hand, or try again once it answers.`,
  );
}

/** One piece of an enrolling job. Doing it again, even after a crash between engine and record, changes nothing. */
export async function runEnrol(desk: Desk, piece: Piece): Promise<JobResult> {
  const input = piece.input as EnrolInput;
  const property = await PropertyRow.findByPk(input.propertyId, { rejectOnEmpty: true });
  const profile = profileOf(desk, input.engine);
  const account = await AccountRow.findOne({
    where: { engine: profile.id },
    order: ['createdAt'],
    rejectOnEmpty: true,
  });
  const target = await targetOf(desk, piece.actor, property, input);
  const name = `${property.handle}@${profile.id}:${target.reach}`;
  const same = {
    propertyId: property.id,
    engine: profile.id,
    accountId: account.id,
    reach: target.reach,
    target: targetText(target),
  };
  const there = await EnrolmentRow.findOne({ where: { ...same, endedAt: null } });
  if (there)
    return {
      says: `${name} is enrolled already, for ${targetForPeople(target)}.`,
      stops: false,
      enrolment: name,
    };
  const { ref } = engineValue(await engineOf(desk, profile.id).enrol(target, piece.itemId));
  await desk.store.write(async (transaction) => {
    const row = await EnrolmentRow.create(
      { id: newId(), ...same, ref, createdAt: nowText(desk) },
      { transaction },
    );
    await note(desk, piece.actor, transaction, {
      kind: 'enrolled',
      says: `${property.handle} was enrolled at ${profile.title} by ${target.reach}: ${targetForPeople(target)}.`,
      property,
      enrolmentId: row.id,
      details: { ref },
    });
  });
  return {
    says: `Enrolled at ${profile.title} by ${target.reach}: ${targetForPeople(target)}.`,
    stops: false,
    enrolment: name,
  };
}
