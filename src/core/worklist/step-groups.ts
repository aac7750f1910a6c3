import type { Badge } from '../badge/standing.js';
import { STEP_KINDS } from './kinds.js';
import { assignmentKey, PUT_OFF, type StepAssignment } from './assignment.js';
import { byHarm, harmOf, makeStep, saysAt, AT_ENGINE, type NextStep } from './step.js';

export interface EngineNamed {
  readonly id: string;
  readonly title: string;
}

/** A step at one engine; for the property as a whole where `engine` is null. */
export interface StepAt {
  readonly engine: EngineNamed | null;
  readonly enrolment: {
    readonly id: string;
    readonly name: string;
    /** The engine's id. */
    readonly engine: string;
    readonly badge: Badge;
    /** Whether a person carries everything to and from the engine. */
    readonly byHand: boolean;
  } | null;
  readonly step: NextStep;
  /** What people said of it. */
  readonly mark: StepAssignment;
}

/** One thing to do at a property: one cause, whatever the number of engines that it touches. */
export interface Gathered {
  readonly kind: NextStep['kind'];
  readonly says: string;
  readonly acts: NextStep['acts'];
  /** Since when the oldest of it has been so. */
  readonly since: Date;
  /** Until when the first of it waits; null where something can be done now. */
  readonly until: Date | null;
  readonly engines: readonly EngineNamed[];
  readonly enrolments: readonly NonNullable<StepAt['enrolment']>[];
  readonly mark: StepAssignment;
}

/** Steps without what people said of them. */
export type FoundStep = Omit<StepAt, 'mark'>;

/**
 * The steps of a property, one entry for each cause, worst and oldest harm first. Steps share a cause where they are of one
 * kind and say the same but for the engine, and people said the same of them. What is put off comes last; what is `none` is left out.
 */
export function gather(steps: readonly StepAt[]): Gathered[] {
  const causes = new Map<string, StepAt[]>();
  for (const one of [...steps].sort((a, b) => byHarm(a.step, b.step))) {
    if (one.step.kind === 'none') continue;
    const cause = `${one.step.kind} ${one.step.template} ${assignmentKey(one.mark)}`;
    causes.set(cause, [...(causes.get(cause) ?? []), one]);
  }
  return [...causes.values()]
    .flatMap((some) => (some[0] ? [gathered(some, some[0])] : []))
    .sort((a, b) => putOffLast(a, b) || byHarm(a, b));
}

/** What is put off behind what is not, the soonest first. */
export function putOffLast(a: Pick<StepAt, 'mark'>, b: Pick<StepAt, 'mark'>): number {
  return (a.mark.putOff?.until.getTime() ?? 0) - (b.mark.putOff?.until.getTime() ?? 0);
}

function gathered(some: readonly StepAt[], { step: oldest, mark }: StepAt): Gathered {
  const engines = [
    ...new Map(some.flatMap(({ engine }) => (engine ? [[engine.id, engine] as const] : []))).values(),
  ];
  const untils = some.flatMap(({ step }) => (step.until ? [step.until.getTime()] : []));
  return {
    kind: oldest.kind,
    says: saysAt(
      oldest.template,
      engines.map(({ title }) => title),
    ),
    acts: oldest.acts,
    since: oldest.since,
    until: untils.length === 0 ? null : new Date(Math.min(...untils)),
    engines,
    enrolments: some.flatMap(({ enrolment }) => (enrolment ? [enrolment] : [])),
    mark,
  };
}

/** To enrol a property with an engine that matters to its audience. */
export function enrolStep(handle: string, engine: EngineNamed, since: Date): FoundStep {
  const template = `Enrol ${handle} with ${AT_ENGINE}.`;
  return { engine, enrolment: null, step: makeStep({ kind: 'enrol', template, since }, engine.title) };
}

/** What is said where many properties are to be enrolled with one engine. */
export function enrolMany(handle: string, count: number, engineTitle: string): string {
  return count === 1
    ? `Enrol ${handle} with ${engineTitle}.`
    : `Enrol ${String(count)} properties with ${engineTitle}, ${handle} the first of them.`;
}

/** What visitors can use is to be mended: nothing else counts before. */
export function mendSiteStep(says: string, since: Date): FoundStep {
  return { engine: null, enrolment: null, step: makeStep({ kind: 'mend-site', template: says, since }, '') };
}

/** Something that ends on a day unless its owner renews it: a certificate, a registered name. */
export function renewStep(says: string, since: Date): FoundStep {
  return { engine: null, enrolment: null, step: makeStep({ kind: 'renew', template: says, since }, '') };
}

/** A sitemap was made, and what stands at its place is another, or none. */
export function publishSitemapStep(since: Date): FoundStep {
  const template = 'Publish the made sitemap: what stands there is not what was made.';
  return { engine: null, enrolment: null, step: makeStep({ kind: 'publish', template, since }, '') };
}

/** Somebody of the client's was written to, and has not answered. @param day of the letter */
export function writeAgainStep(name: string, subject: string, day: string, since: Date): FoundStep {
  const template = `${name} has not answered to “${subject}” of ${day}: write again, or note the answer.`;
  return { engine: null, enrolment: null, step: makeStep({ kind: 'write-again', template, since }, '') };
}

/** Somebody of the client's says that what they were asked for cannot be done. @param answer in their own words */
export function cannotStep(name: string, answer: string, since: Date): FoundStep {
  const template = `${name} answers: “${answer}” Ask for another way, or note what was agreed.`;
  return { engine: null, enrolment: null, step: makeStep({ kind: 'write-again', template, since }, '') };
}

/** The front door is covered by no enrolment at an engine. @param door in the form for people */
export function enrolDoorStep(door: string, hasMoved: boolean, engine: EngineNamed, since: Date): FoundStep {
  const template = `Visitors ${hasMoved ? 'now ' : ''}end up at ${door}, which the enrolments at ${AT_ENGINE} do not cover: enrol it there.`;
  return { engine, enrolment: null, step: makeStep({ kind: 'enrol-door', template, since }, engine.title) };
}

/** Counts by kind of step, worst harm first; last what is put off. */
export function inOrderOfHarm(counts: Readonly<Record<string, number>>): Record<string, number> {
  return Object.fromEntries(
    [...STEP_KINDS, PUT_OFF].flatMap((kind) => (counts[kind] === undefined ? [] : [[kind, counts[kind]]])),
  );
}

/** The place of an entry in a list by harm, as a text that sorts as the list does and is no other entry's. */
export function placeInOrder(
  { kind, since, mark }: Pick<Gathered, 'kind' | 'since' | 'mark'>,
  ...names: readonly string[]
): string {
  const { putOff } = mark;
  const harm = putOff ? AFTER_ALL : String(harmOf(kind)).padStart(2, '0');
  return [harm, (putOff?.until ?? since).toISOString(), ...names].join(' ');
}

/** Behind every kind of step. */
const AFTER_ALL = '99';
