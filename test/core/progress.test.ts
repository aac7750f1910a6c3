import { describe, expect, it } from 'vitest';
import { bestBadge } from '../../src/core/badge/standing.js';
import { gather, inOrderOfHarm, placeInOrder, type StepAt } from '../../src/core/worklist/step-groups.js';
import { assignmentAt, UNASSIGNED, type StepAssignment } from '../../src/core/worklist/assignment.js';
import { progressOf, type EngineProgress } from '../../src/core/worklist/progress.js';
import { AT_ENGINE, makeStep } from '../../src/core/worklist/step.js';

const day = (number: number) => new Date(Date.UTC(2026, 10, number));

describe('how far a taking on is', () => {
  const engine: EngineProgress = {
    title: 'Veldrane',
    badge: null,
    isAbove: false,
    takesSitemaps: true,
    isSubmitted: false,
    isRead: false,
    isHouse: false,
  };
  const house: EngineProgress = { ...engine, title: 'House', isHouse: true, takesSitemaps: false };

  it('has the house’s proof as one stage, and five of each engine that takes sitemaps, three of one that takes none', () => {
    const none = { ...engine, title: 'Quill', takesSitemaps: false };
    expect(progressOf({ areVariantsJudged: false, engines: [engine, house, none] })).toEqual({
      done: 1,
      total: 2 + 1 + 5 + 3,
      next: 'variants judged',
    });
  });

  it.each([
    ['bare', 1, 'placed for Veldrane'],
    ['issued', 1, 'placed for Veldrane'],
    ['in-place', 2, 'held at Veldrane'],
    ['held', 3, 'a sitemap submitted to Veldrane'],
    ['slipping', 2, 'placed for Veldrane'],
    ['lost', 1, 'placed for Veldrane'],
  ] as const)('with a badge that is %s has %i stages done there', (badge, done, next) => {
    const progress = progressOf({ areVariantsJudged: true, engines: [{ ...engine, badge }] });
    expect(progress).toEqual({ done: 2 + done, total: 7, next });
  });

  it('is done where all is held and read, or covered by what is held above', () => {
    const read = { ...engine, badge: 'held', isSubmitted: true, isRead: true } as const;
    expect(progressOf({ areVariantsJudged: true, engines: [read] }).next).toBeNull();
    const above = { ...engine, isAbove: true, takesSitemaps: false };
    expect(progressOf({ areVariantsJudged: true, engines: [above] })).toEqual({
      done: 5,
      total: 5,
      next: null,
    });
  });

  it('asks for the house first, wherever it stands in the book', () => {
    expect(progressOf({ areVariantsJudged: true, engines: [engine, house] }).next).toBe('held at House');
  });

  it('counts the badge that is furthest, of several', () => {
    expect(bestBadge(['lost', 'issued', 'bare'])).toBe('issued');
    expect(bestBadge(['in-place', 'held', 'slipping'])).toBe('held');
    expect(bestBadge([])).toBeNull();
  });
});

describe('what people say of a step', () => {
  const at = (id: string, mark: StepAssignment, since = day(3)): StepAt => ({
    engine: { id, title: id.toUpperCase() },
    enrolment: null,
    step: makeStep({ kind: 'place', template: `Have it placed for ${AT_ENGINE}.`, since }, id),
    mark,
  });
  const putOff: StepAssignment = {
    person: null,
    putOff: { until: day(20), why: 'on holiday', who: 'Marit' },
  };

  it('parts one cause where it was said of one engine alone, and puts what is put off behind all else', () => {
    const worse: StepAt = {
      ...at('d', UNASSIGNED),
      step: makeStep({ kind: 'wait', template: 'Wait.', since: day(5) }, 'd'),
    };
    const entries = gather([at('a', putOff, day(1)), at('b', UNASSIGNED), at('c', UNASSIGNED), worse]);
    expect(entries.map(({ kind, engines, mark }) => [kind, engines.map(({ id }) => id), mark])).toEqual([
      ['place', ['b', 'c'], UNASSIGNED],
      ['wait', ['d'], UNASSIGNED],
      ['place', ['a'], putOff],
    ]);
    const places = entries.map((one) => placeInOrder(one, 'quay'));
    expect([...places].sort()).toEqual(places);
  });

  it('keeps what was said the same of several together', () => {
    expect(gather([at('a', putOff), at('b', putOff)])).toHaveLength(1);
  });

  it('is back on its day, and stays with its person', () => {
    const mark = { ...putOff, person: { id: 'p', name: 'Jonas' } };
    expect(assignmentAt(mark, day(19)).putOff?.why).toBe('on holiday');
    expect(assignmentAt(mark, day(20))).toEqual({ person: mark.person, putOff: null });
  });

  it('is counted last', () => {
    expect(Object.keys(inOrderOfHarm({ 'put-off': 1, wait: 2, claim: 3 }))).toEqual([
      'claim',
      'wait',
      'put-off',
    ]);
  });
});
