import Joi from 'joi';
import { Op } from 'sequelize';
import type { Carrying, JobResult } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import { planAt, putBackOf, type Carried, type CarryStep, type Standing } from '../../core/carry/plan.js';
import type { Role } from '../../core/people/roles.js';
import { CarryFault } from '../../net/carry/way.js';
import { newId } from '../../store/ids.js';
import { CarriedRow, CarryPlaceRow } from '../../store/models/carrying.js';
import { PropertyRow } from '../../store/models/clients.js';
import { runCheck } from '../checks/checks.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { EXACT, findProperty } from '../context/references.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { zoneName } from './place-given.js';
import { openPlace, type OpenPlace } from './open.js';
import { placeSays, placesOf } from './places.js';
import { sayDone, sayPlan, saysDone, WORDS } from './saying.js';
import { holdingAt } from './holding.js';
import { cargoFor, type Cargo } from './wanted.js';

interface CarryInput {
  readonly placeId: string;
  /** Whether it is only said what would be done. */
  readonly isPlan: boolean;
  /** Whether what is no longer needed is taken away. */
  readonly takesAway: boolean;
  /** What is done without a person: what has gone is put back, or the sitemap that was carried there before follows the made one. */
  readonly only?: 'gone' | 'sitemap';
}

/** Two who carry to one place at once would each take the other's for a stranger's. */
const onePlace = new OneAtATime();

/** One piece for each place of a property. Throws Problem where there is none, or where the one who asks may not carry. */
export async function carryPieces(
  ref: string,
  role: Role,
  asked: { plan?: boolean; takeAway?: boolean },
): Promise<NewPiece<CarryInput>[]> {
  const property = await findProperty(ref, EXACT);
  const places = await placesOf(property.id);
  if (places.length === 0) throw new Problem('no-places', { property: property.handle });
  const isPlan = asked.plan === true;
  const allowed = places.filter((one) => isPlan || role === 'lead' || one.role === 'consultant');
  if (allowed.length === 0) throw new Problem('may-not-carry', { property: property.handle });
  return allowed.map((row) => ({
    subject: placeSays(row),
    input: { placeId: row.id, isPlan, takesAway: asked.takeAway === true },
  }));
}

function runCarry(desk: Desk, piece: Piece<CarryInput>): Promise<JobResult> {
  return onePlace.run(piece.input.placeId, () => carry(desk, piece));
}

async function carry(desk: Desk, piece: Piece<CarryInput>): Promise<JobResult> {
  const { placeId, isPlan, takesAway, only } = piece.input;
  const place = await CarryPlaceRow.findByPk(placeId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(place.propertyId, { rejectOnEmpty: true });
  const cargo = await cargoFor(desk, property, place);
  const own = new Problem('carry-failed', { place: placeSays(place), why: '' });
  let open: OpenPlace | null = null;
  try {
    open = await openPlace(desk, place);
    const carried = await CarriedRow.findAll({ where: { placeId: place.id, removedAt: null } });
    const holding = await holdingAt(desk, property, place);
    const loaded = place.way === 'dns' ? await withHosts(desk, place, cargo) : cargo;
    const steps = await plan(open, place, loaded, carried, holding);
    const wanted = only === undefined ? steps : byItself(only, steps, cargo, carried);
    const done = isPlan
      ? []
      : await act(desk, piece, place, open, { steps: wanted, cargo, carried, takesAway });
    const carrying: Carrying = {
      place: place.id,
      says: placeSays(place),
      steps: steps.map((step) => ({
        act: step.act,
        name: step.name,
        says: done.includes(step) ? saysDone(step) : step.says,
        done: done.includes(step),
      })),
    };
    if (isPlan)
      return {
        says: sayPlan(steps),
        stops: steps.some((one) => one.act === 'refuse'),
        property: property.handle,
        carrying,
      };
    const after = await readBack(open, cargo, done);
    if (done.length > 0) await tell(desk, piece, property, place, done);
    const checks = await check(desk, piece, cargo, done);
    return {
      says: [sayDone(steps, done), after, checks.says].filter(Boolean).join(' '),
      stops: after !== '' || checks.stops || steps.some((one) => one.act === 'refuse'),
      property: property.handle,
      carrying,
    };
  } catch (error) {
    if (!(error instanceof CarryFault)) throw error;
    if (error.kind === 'other-key') await tellOtherKey(desk, piece, property, place, error);
    throw new Problem(own.code, { place: placeSays(place), why: error.message });
  } finally {
    await open?.close();
  }
}

/** What is done of a plan where no person has seen it. */
function byItself(
  only: 'gone' | 'sitemap',
  steps: readonly CarryStep[],
  cargo: readonly Cargo[],
  carried: readonly Carried[],
): readonly CarryStep[] {
  if (only === 'gone') return putBackOf(steps, carried);
  const files = new Set(cargo.filter(({ isMade }) => isMade).map(({ name }) => name));
  return carried.some(({ name }) => files.has(name)) ? steps.filter(({ name }) => files.has(name)) : [];
}

/** Cargo with what its records would take from a host, as the zone is now. */
async function withHosts(desk: Desk, place: CarryPlaceRow, cargo: readonly Cargo[]): Promise<Cargo[]> {
  const zone = zoneName(place.at.zone ?? '');
  const owners = [...new Set(cargo.flatMap(({ owner }) => owner ?? []))];
  const wild = new Map(
    await Promise.all(
      owners.map(async (owner) => [owner, (await desk.net.wildAddresses(owner, zone)).length > 0] as const),
    ),
  );
  return cargo.map((one) =>
    one.owner !== undefined && wild.get(one.owner) ? { ...one, unhostsOf: one.owner } : one,
  );
}

async function plan(
  open: OpenPlace,
  place: CarryPlaceRow,
  cargo: readonly Cargo[],
  carried: readonly CarriedRow[],
  holding: readonly Carried[],
): Promise<CarryStep[]> {
  const names = [...new Set([...cargo.map(({ name }) => name), ...carried.map(({ name }) => name)])];
  const standing = await open.standing(names);
  return planAt({
    wanted: cargo,
    standing: await settled(open, standing, carried),
    carried,
    holding,
    isMany: place.way === 'dns',
  });
}

/** What stands there once what an earlier run was cut off in has been ended. */
async function settled(
  open: OpenPlace,
  standing: readonly Standing[],
  carried: readonly CarriedRow[],
): Promise<Standing[]> {
  const doubtful = carried.filter(
    (one) => standing.find(({ name }) => name === one.name)?.sums.includes(one.sum) !== true,
  );
  for (const { name, id } of doubtful) await open.settle(name, id);
  const names = [...new Set(doubtful.map(({ name }) => name))];
  return [...standing.filter(({ name }) => !names.includes(name)), ...(await open.standing(names))];
}

/** Does what the plan says, one after the other. */
async function act(
  desk: Desk,
  piece: Piece,
  place: CarryPlaceRow,
  open: OpenPlace,
  {
    steps,
    cargo,
    carried,
    takesAway,
  }: {
    readonly steps: readonly CarryStep[];
    readonly cargo: readonly Cargo[];
    readonly carried: readonly CarriedRow[];
    readonly takesAway: boolean;
  },
): Promise<CarryStep[]> {
  const done: CarryStep[] = [];
  for (const step of steps) {
    const { name, sum } = step;
    const isPutting = step.act === 'put' || step.act === 'replace';
    if (isPutting) {
      const one = cargo.find((other) => other.name === name && other.sum === sum);
      if (!one) continue;
      // On record before it is done: should we end in between, what stands there is known as ours by its sum, and nothing else is.
      const recorded = await record(desk, piece, place, step);
      try {
        await open.put(one, recorded.id);
      } catch (error) {
        // Where the connection was cut, nobody knows what is there: it stays on record for the next time.
        if (error instanceof CarryFault && error.kind !== 'unreached')
          await desk.store.write((transaction) => recorded.destroy({ transaction }));
        throw error;
      }
      await forget(desk, place, step, recorded.id);
    } else if (step.act === 'take-away' && takesAway) {
      await open.takeAway(step);
      await forget(desk, place, step, null);
    } else if (step.act === 'leave' && cargo.some((one) => one.name === name && one.isMade)) {
      // Whoever put it there, it is the one that was made here, and the next one may take its place.
      if (!carried.some((one) => one.name === name && one.sum === sum))
        await forget(desk, place, step, (await record(desk, piece, place, step)).id);
      continue;
    } else continue;
    done.push(step);
  }
  return done;
}

function record(
  desk: Desk,
  piece: Piece,
  { id }: CarryPlaceRow,
  { name, sum }: CarryStep,
): Promise<CarriedRow> {
  const row = { id: newId(), placeId: id, name, sum, at: nowText(desk), personId: piece.actor.personId };
  return desk.store.write((transaction) => CarriedRow.create(row, { transaction }));
}

/** What was carried under a name before is there no longer; of records, where several stand under one, the same alone. */
async function forget(
  desk: Desk,
  place: CarryPlaceRow,
  { name, sum }: CarryStep,
  but: string | null,
): Promise<void> {
  const which = {
    placeId: place.id,
    removedAt: null,
    ...(place.way === 'dns' ? { name, sum } : { name }),
    ...(but === null ? {} : { id: { [Op.ne]: but } }),
  };
  await desk.store.write((transaction) =>
    CarriedRow.update({ removedAt: nowText(desk) }, { where: which, transaction }),
  );
}

/** What does not stand there although it was put there; empty where all of it does. */
async function readBack(
  open: OpenPlace,
  cargo: readonly Cargo[],
  steps: readonly CarryStep[],
): Promise<string> {
  const put = steps.filter(({ act: one }) => one === 'put' || one === 'replace');
  const standing = await open.standing([...new Set(put.map(({ name }) => name))]);
  const missing = put.filter(
    ({ name, sum }) => standing.find((one) => one.name === name)?.sums.includes(sum) !== true,
  );
  const known = missing.filter(({ name }) => cargo.some((one) => one.name === name));
  return known.length === 0
    ? ''
    : `What was put there cannot be read back: ${known.map(({ name }) => name).join(', ')}.`;
}

/** Has the placements that were carried checked as everybody sees them. */
async function check(
  desk: Desk,
  piece: Piece,
  cargo: readonly Cargo[],
  done: readonly CarryStep[],
): Promise<{ says: string; stops: boolean }> {
  const tokens = cargo.flatMap((one) =>
    one.token &&
    done.some(({ act: act_, name, sum }) => act_ !== 'take-away' && name === one.name && sum === one.sum)
      ? [one.token]
      : [],
  );
  const said: string[] = [];
  let stops = false;
  for (const token of tokens) {
    const result = await runCheck(desk, { ...piece, input: token });
    said.push(`${result.enrolment ?? ''} by ${token.method}: ${result.says}`);
    stops ||= result.stops;
  }
  return { says: said.join(' '), stops };
}

async function tell(
  desk: Desk,
  piece: Piece,
  property: PropertyRow,
  place: CarryPlaceRow,
  done: readonly CarryStep[],
): Promise<void> {
  const names = done.map(({ act: one, name }) => `${WORDS[one]} ${name}`).join(', ');
  await desk.store.write((transaction) =>
    note(desk, piece.actor, transaction, {
      kind: 'carry',
      says: `At ${placeSays(place)}: ${names}.`,
      property,
    }),
  );
}

async function tellOtherKey(
  desk: Desk,
  piece: Piece,
  property: PropertyRow,
  place: CarryPlaceRow,
  fault: CarryFault,
): Promise<void> {
  await desk.store.write((transaction) =>
    note(desk, piece.actor, transaction, {
      kind: 'carry.other-key',
      says: `${placeSays(place)}: ${fault.message}`,
      property,
      details: { shown: fault.shown },
    }),
  );
}

/**
 * Does without a person what a place says that the watch may.
 * @param only what has gone, or the sitemap that was made anew; nothing that nobody has carried there before
 * @returns what was done, in words; null where nothing was
 */
export async function carryByItself(
  desk: Desk,
  piece: Piece,
  propertyId: string,
  only: 'gone' | 'sitemap',
): Promise<string | null> {
  const places = (await placesOf(propertyId)).filter(({ watchMay }) => watchMay);
  const said: string[] = [];
  for (const { id } of places) {
    const input: CarryInput = { placeId: id, isPlan: false, takesAway: false, only };
    try {
      const { says, carrying } = await runCarry(desk, { ...piece, input });
      if (carrying?.steps.some(({ done }) => done) === true) said.push(says);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      said.push(error.detail);
    }
  }
  return said.length === 0 ? null : said.join(' ');
}

export const carryWork = anyWork<CarryInput>({
  kind: 'carry',
  lane: 'person',
  input: Joi.object<CarryInput, true>({
    placeId: Joi.string().required(),
    isPlan: Joi.boolean().required(),
    takesAway: Joi.boolean().required(),
    only: Joi.string().valid('gone', 'sitemap'),
  }),
  run: runCarry,
});
