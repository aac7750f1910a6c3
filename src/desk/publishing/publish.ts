import Joi from 'joi';
import type { Publication, JobResult } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import {
  PUBLISH_ACTS,
  planAt,
  putBackOf,
  type Carried,
  type PublishStep,
  type Standing,
} from '../../core/publish/plan.js';
import type { Role } from '../../core/people/roles.js';
import { TargetFault } from '../../net/targets/file-target.js';
import { CarriedRow, TargetRow } from '../../store/models/publishing.js';
import { PropertyRow } from '../../store/models/clients.js';
import { runCheck } from '../checks/checks.js';
import type { Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { OneAtATime } from '../context/one-at-a-time.js';
import { EXACT, findProperty } from '../context/references.js';
import { anyWork, type NewPiece, type Piece } from '../jobs/work.js';
import { act, type Done } from './acts.js';
import { zoneName } from './target-input.js';
import { openTarget, type OpenTarget } from './open.js';
import { targetSays, targetsOf } from './targets.js';
import { namesOf, sayDone, sayPlan, saysDone, saysFailed, WORDS } from './step-words.js';
import { checkOutside } from './outside-check.js';
import { holdingAt } from './holders.js';
import { cargoFor, type Cargo } from './cargo.js';

interface PublishInput {
  readonly placeId: string;
  /** Whether it is only said what would be done. */
  readonly isPlan: boolean;
  /** Whether what is no longer needed is taken away. */
  readonly takesAway: boolean;
  /** What is done without a person: what has gone is put back, or the sitemap that was carried there before follows the made one. */
  readonly only?: 'gone' | 'sitemap';
}

/** Two who publish at one target at once would each take the other's for a stranger's. */
const oneTarget = new OneAtATime();

/** One piece for each target of a property. Throws Problem where there is none, or where the one who asks may not publish. */
export async function publishPieces(
  ref: string,
  role: Role,
  asked: { plan?: boolean; takeAway?: boolean },
): Promise<NewPiece<PublishInput>[]> {
  const property = await findProperty(ref, EXACT);
  const targets = await targetsOf(property.id);
  if (targets.length === 0) throw new Problem('no-targets', { handle: property.handle });
  const isPlan = asked.plan === true;
  const allowed = targets.filter((one) => isPlan || role === 'lead' || one.role === 'consultant');
  if (allowed.length === 0) throw new Problem('may-not-publish', { property: property.handle });
  return allowed.map((row) => ({
    subject: targetSays(row),
    input: { placeId: row.id, isPlan, takesAway: asked.takeAway === true },
  }));
}

function runPublish(desk: Desk, piece: Piece<PublishInput>): Promise<JobResult> {
  return oneTarget.run(piece.input.placeId, () => publish(desk, piece));
}

async function publish(desk: Desk, piece: Piece<PublishInput>): Promise<JobResult> {
  const { placeId, isPlan, takesAway, only } = piece.input;
  const target = await TargetRow.findByPk(placeId, { rejectOnEmpty: true });
  const property = await PropertyRow.findByPk(target.propertyId, { rejectOnEmpty: true });
  const cargo = await cargoFor(desk, property, target);
  const own = new Problem('publish-failed', { target: targetSays(target), why: '' });
  let open: OpenTarget | null = null;
  try {
    open = await openTarget(desk, target);
    const carried = await CarriedRow.findAll({ where: { placeId: target.id, removedAt: null } });
    const holding = await holdingAt(desk, property, target);
    const loaded = target.way === 'dns' ? await withHosts(desk, target, cargo) : cargo;
    const steps = await plan(open, target, loaded, carried, holding);
    const wanted = only === undefined ? steps : byItself(only, steps, cargo, carried);
    const doing = { desk, piece, target, open, cargo, carried, takesAway };
    const { done, failed } = await act({ ...doing, steps: isPlan ? [] : wanted });
    const publication: Publication = {
      target: target.id,
      says: targetSays(target),
      steps: steps.map((step) => ({
        act: step.act,
        name: step.name,
        says: done.includes(step) ? saysDone(step) : saysFailed(step, failed.get(step)),
        done: done.includes(step),
      })),
    };
    const isRefused = steps.some((one) => one.act === 'refuse');
    if (isPlan) return { says: sayPlan(steps), stops: isRefused, property: property.handle, publication };
    const after = await readBack(open, cargo, done);
    if (done.length > 0) await tell(desk, piece, property, target, done);
    const checks = await check(desk, piece, cargo, done);
    const outside = await checkOutside(desk, property, toBeSeen(wanted, cargo, failed));
    return {
      says: [sayDone(steps, done, failed), after, checks.says, outside.says].filter(Boolean).join(' '),
      stops: after !== '' || checks.stops || outside.stops || isRefused || failed.size > 0,
      property: property.handle,
      publication,
    };
  } catch (error) {
    if (!(error instanceof TargetFault)) throw error;
    if (error.kind === 'other-key') await tellOtherKey(desk, piece, property, target, error);
    throw new Problem(own.code, { target: targetSays(target), why: error.message });
  } finally {
    await open?.close();
  }
}

/** Files without a check of their own that stand at the target, as far as the plan goes: those of sitemaps, and the robots.txt. */
function toBeSeen(
  steps: readonly PublishStep[],
  cargo: readonly Cargo[],
  failed: Done['failed'],
): PublishStep[] {
  const found = steps.filter(
    (step) =>
      ['put', 'replace', 'leave'].includes(step.act) &&
      !failed.has(step) &&
      cargo.some(({ name, sum, bytes, token }) => name === step.name && sum === step.sum && bytes && !token),
  );
  // What everything else is found by is looked at first.
  return found.sort((a, b) => Number(a.made === 'part') - Number(b.made === 'part'));
}

/** What is done of a plan where no person has seen it. */
function byItself(
  only: 'gone' | 'sitemap',
  steps: readonly PublishStep[],
  cargo: readonly Cargo[],
  carried: readonly Carried[],
): readonly PublishStep[] {
  if (only === 'gone') return putBackOf(steps, carried);
  const files = new Set(cargo.filter(({ made }) => made).map(({ name }) => name));
  return carried.some(({ name }) => files.has(name)) ? steps.filter(({ name }) => files.has(name)) : [];
}

/** Cargo with what its records would take from a host, as the zone is now. */
async function withHosts(desk: Desk, target: TargetRow, cargo: readonly Cargo[]): Promise<Cargo[]> {
  const zone = zoneName(target.at.zone ?? '');
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
  open: OpenTarget,
  target: TargetRow,
  cargo: readonly Cargo[],
  carried: readonly CarriedRow[],
  holding: readonly Carried[],
): Promise<PublishStep[]> {
  const names = [...new Set([...cargo.map(({ name }) => name), ...carried.map(({ name }) => name)])];
  const standing = await open.standing(names);
  return planAt({
    wanted: cargo,
    standing: await settled(open, standing, carried),
    carried,
    holding,
    isMany: target.way === 'dns',
  });
}

/** What stands there once what an earlier run was cut off in has been ended. */
async function settled(
  open: OpenTarget,
  standing: readonly Standing[],
  carried: readonly CarriedRow[],
): Promise<Standing[]> {
  const doubtful = carried.filter((one) => {
    const there = standing.find(({ name }) => name === one.name);
    return there?.fault === undefined && there?.sums.includes(one.sum) !== true;
  });
  for (const { name, id } of doubtful) await open.settle(name, id);
  const names = [...new Set(doubtful.map(({ name }) => name))];
  return [...standing.filter(({ name }) => !names.includes(name)), ...(await open.standing(names))];
}

/** What does not stand there although it was put there; empty where all of it does. */
async function readBack(
  open: OpenTarget,
  cargo: readonly Cargo[],
  steps: readonly PublishStep[],
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
  done: readonly PublishStep[],
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
  target: TargetRow,
  done: readonly PublishStep[],
): Promise<void> {
  const names = PUBLISH_ACTS.map((one) => [one, done.filter(({ act: own }) => own === one)] as const)
    .filter(([, some]) => some.length > 0)
    .map(([one, some]) => `${WORDS[one]} ${namesOf(some)}`)
    .join(', ');
  await desk.store.write((transaction) =>
    note(desk, piece.actor, transaction, {
      kind: 'publish',
      says: `At ${targetSays(target)}: ${names}.`,
      property,
    }),
  );
}

async function tellOtherKey(
  desk: Desk,
  piece: Piece,
  property: PropertyRow,
  target: TargetRow,
  fault: TargetFault,
): Promise<void> {
  await desk.store.write((transaction) =>
    note(desk, piece.actor, transaction, {
      kind: 'publish.other-key',
      says: `${targetSays(target)}: ${fault.message}`,
      property,
      details: { shown: fault.shown },
    }),
  );
}

/**
 * Does without a person what a target says that the watch may.
 * @param only what has gone, or the sitemap that was made anew; nothing that nobody has carried there before
 * @returns what was done, in words; null where nothing was
 */
export async function publishByItself(
  desk: Desk,
  piece: Piece,
  propertyId: string,
  only: 'gone' | 'sitemap',
): Promise<string | null> {
  const targets = (await targetsOf(propertyId)).filter(({ watchMay }) => watchMay);
  const said: string[] = [];
  for (const { id } of targets) {
    const input: PublishInput = { placeId: id, isPlan: false, takesAway: false, only };
    try {
      const { says, publication } = await runPublish(desk, { ...piece, input });
      if (publication?.steps.some(({ done }) => done) === true) said.push(says);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      said.push(error.detail);
    }
  }
  return said.length === 0 ? null : said.join(' ');
}

export const publishWork = anyWork<PublishInput>({
  kind: 'publish',
  lane: 'person',
  input: Joi.object<PublishInput, true>({
    placeId: Joi.string().required(),
    isPlan: Joi.boolean().required(),
    takesAway: Joi.boolean().required(),
    only: Joi.string().valid('gone', 'sitemap'),
  }),
  run: runPublish,
});
