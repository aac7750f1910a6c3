import { hostsForPeople } from '../address/host.js';
import { STEP_KINDS, type Acts, type StepKind } from './kinds.js';

/** The one thing to do now for a property at an engine. */
export interface NextStep {
  readonly kind: StepKind;
  readonly says: string;
  /** The sentence with `AT_ENGINE` in place of the engine's name: two engines with the same one share a cause. */
  readonly template: string;
  readonly acts: Acts;
  /** Since when it has been so; the oldest harm is done first. */
  readonly since: Date;
  /** Until when to wait; null where something can be done now. */
  readonly until: Date | null;
}

/** How far down the order of harm a kind of step stands: 0 is the worst. */
export function harmOf(kind: StepKind): number {
  return STEP_KINDS.indexOf(kind);
}

/** Sorts steps: worst harm first, the oldest first within one kind. */
export function byHarm(a: Pick<NextStep, 'kind' | 'since'>, b: Pick<NextStep, 'kind' | 'since'>): number {
  return harmOf(a.kind) - harmOf(b.kind) || a.since.getTime() - b.since.getTime();
}

/** Who does a step of each kind; waits say for themselves whom they wait for. */
const DONE_BY: Readonly<Record<StepKind, Acts>> = {
  'mend-site': 'client',
  'prove-again': 'client',
  repair: 'client',
  'enrol-again': 'us',
  'ask-engine': 'us',
  'enrol-door': 'us',
  claim: 'us',
  place: 'client',
  'write-again': 'us',
  publish: 'us',
  'renew-token': 'us',
  'get-token': 'us',
  'end-there': 'us',
  enrol: 'us',
  'submit-sitemap': 'us',
  'read-sitemap': 'us',
  'withdraw-sitemap': 'us',
  renew: 'client',
  'mend-sitemap': 'client',
  check: 'us',
  wait: 'time',
  none: 'time',
};

/** Stands in a template where the engine, or the engines, are named. No text of anybody's holds it. */
export const AT_ENGINE = '\uE000';

/** Makes a step: the sentence is a template, in which `AT_ENGINE` stands for the engine's name. */
export function makeStep(
  step: Pick<NextStep, 'kind' | 'template' | 'since'> & Partial<Pick<NextStep, 'until' | 'acts'>>,
  engineTitle: string,
): NextStep {
  const template = hostsForPeople(step.template);
  return {
    until: null,
    acts: DONE_BY[step.kind],
    ...step,
    template,
    says: template.replaceAll(AT_ENGINE, engineTitle),
  };
}

/** The sentence of a template for one engine or several. */
export function saysAt(template: string, engineTitles: readonly string[]): string {
  return template.replaceAll(AT_ENGINE, inWords(engineTitles));
}

function inWords(titles: readonly string[]): string {
  const last = titles.at(-1) ?? '';
  return titles.length < 2 ? last : `${titles.slice(0, -1).join(', ')} and ${last}`;
}
