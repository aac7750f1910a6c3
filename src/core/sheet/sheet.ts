/** Where something is placed, as the people know it who look after it: each is visited once. */
export const SHEET_PLACES = ['zone', 'head', 'root'] as const;
export type SheetPlaceKind = (typeof SHEET_PLACES)[number];

/**
 * What is to be done about one token: put it beside what is there, change what is ours there into it, ask first whose that is which
 * stands in its place, wait until all see it, nothing any more, take it away, or leave it for good.
 */
export const SHEET_STATES = ['put', 'change', 'ask', 'waits', 'done', 'may-go', 'stays'] as const;
export type SheetState = (typeof SHEET_STATES)[number];

/** What is put, by its method. */
export type SheetThing =
  | {
      readonly kind: 'dns';
      readonly zone: string;
      readonly recordName: string;
      readonly place: string;
      readonly value: string;
      /** Seconds for which the records beside it may be remembered; null where there are none, or nobody has looked. */
      readonly ttl: number | null;
    }
  | {
      readonly kind: 'meta';
      readonly page: string;
      readonly tag: string;
      readonly name: string;
      readonly content: string;
    }
  | {
      readonly kind: 'file';
      readonly url: string;
      readonly path: string;
      readonly fileName: string;
      readonly content: string;
    };

/** One token by one method, as far as it is known. */
export interface SheetToken {
  readonly engine: string;
  readonly enrolment: string;
  readonly enrolmentId: string;
  readonly thing: SheetThing;
  /**
   * What the newest check saw: that it stands there as it must, or does so for some and soon for all; that ours does, but not as it
   * must; that something is wrong beside which ours is put; that something of somebody else’s is in its place; nothing; or no check.
   */
  readonly seen: 'right' | 'soon' | 'wrong' | 'beside' | 'blocked' | 'missing' | 'unknown';
  /** What was seen, in words; null where nothing has to be said. */
  readonly says: string | null;
  /** Whether it is the method that is advised for this enrolment. */
  readonly isAdvised: boolean;
  /** Whether the badge is held by it, so that it has to stay. */
  readonly isHeldBy: boolean;
  /** Whether it is what the client was asked for before: that stays until somebody changes it. */
  readonly isAsked: boolean;
  /** What was placed before it, and by which nobody holds anything any more. */
  readonly before: SheetThing | null;
}

export interface SheetTask {
  readonly engine: string;
  readonly enrolment: string;
  readonly state: SheetState;
  readonly thing: SheetThing;
  readonly says: string | null;
}

export interface SheetPlace {
  readonly kind: SheetPlaceKind;
  /** The zone, the page, or the host whose web root it is. */
  readonly where: string;
  /** What is to be done first, then what is done. */
  readonly tasks: readonly SheetTask[];
}

export interface Sheet {
  readonly places: readonly SheetPlace[];
  /** Other ways to the same, for whom the advised one does not suit. */
  readonly others: readonly SheetPlace[];
  /** How many things are to be done, how many are and only have to be seen by all, and how many stand. */
  readonly open: number;
  readonly waiting: number;
  readonly done: number;
}

const STATE_OF: Readonly<Record<SheetToken['seen'], SheetState>> = {
  right: 'done',
  soon: 'waits',
  wrong: 'change',
  beside: 'put',
  blocked: 'ask',
  missing: 'put',
  unknown: 'put',
};

/** States in which somebody has something to do, if only to answer. */
const TO_DO: ReadonlySet<SheetState> = new Set(['put', 'change', 'ask']);

const ORDER: Readonly<Record<SheetState, number>> = {
  put: 0,
  change: 1,
  ask: 2,
  waits: 3,
  'may-go': 4,
  done: 5,
  stays: 6,
};

/**
 * Puts tokens in order by the place where they go. Of each enrolment one method is enough: the one that stands already, else the one that
 * was asked for before, else the one that is advised; the others are other ways to the same, as long as nothing stands. Where something
 * of somebody else’s is in the place of one, another way is taken.
 */
export function sheetOf(tokens: readonly SheetToken[]): Sheet {
  const tasks: SheetTask[] = [];
  const others: SheetTask[] = [];
  const wanted = new Set(tokens.map(({ thing }) => keyOf(thing)));
  for (const own of byEnrolment(tokens)) {
    const { shown, isStanding } = shownOf(own);
    for (const token of own) {
      if (shown.includes(token)) tasks.push(taskOf(token));
      else if (!isStanding && token.seen !== 'blocked') others.push(taskOf(token));
      // What is old may go once the new one stands; before, taking it away would leave nothing. The same may be another’s, in force.
      if (token.before && token.seen === 'right' && !wanted.has(keyOf(token.before)))
        tasks.push({ ...taskOf(token), thing: token.before, state: 'may-go', says: null });
    }
  }
  return {
    places: placesOf(tasks),
    others: placesOf(others),
    open: unique(tasks.filter(isOpenTask)).length,
    waiting: unique(tasks.filter(({ state }) => state === 'waits')).length,
    done: unique(tasks.filter(({ state }) => state === 'done' || state === 'stays')).length,
  };
}

/** Of the tokens of one enrolment those that go onto a sheet, and whether they stand already. */
function shownOf(own: readonly SheetToken[]): { shown: readonly SheetToken[]; isStanding: boolean } {
  const standing = own.filter(({ seen }) => seen === 'right' || seen === 'soon');
  if (standing.length > 0) return { shown: standing, isStanding: true };
  const first = (some: readonly SheetToken[]) =>
    some.find(({ isAsked }) => isAsked) ?? some.find(({ isAdvised }) => isAdvised) ?? some[0];
  const one = first(own.filter(({ seen }) => seen !== 'blocked')) ?? first(own);
  return { shown: one ? [one] : [], isStanding: false };
}

/** What a client’s people are asked for by a sheet: by which method to prove which enrolment. */
export function askedBy(
  tokens: readonly SheetToken[],
): { readonly enrolmentId: string; readonly method: SheetThing['kind'] }[] {
  return byEnrolment(tokens).flatMap((own) =>
    shownOf(own).shown.flatMap((token) =>
      isOpenTask(taskOf(token)) ? [{ enrolmentId: token.enrolmentId, method: token.thing.kind }] : [],
    ),
  );
}

/** Of a sheet the places where something is to be done, each with what stands there and has to stay. */
export function onlyOpen(sheet: Sheet): Sheet {
  const left = (places: readonly SheetPlace[]): SheetPlace[] =>
    places
      .filter(({ tasks }) => tasks.some(isOpenTask))
      .map((place) => ({ ...place, tasks: place.tasks.filter(({ state }) => state !== 'may-go') }));
  return { ...sheet, places: left(sheet.places), others: left(sheet.others) };
}

/** What of a sheet somebody gets who was asked for no more than that; null for all of it. */
export interface SheetPart {
  /** Identifiers of enrolments. */
  readonly enrolments: readonly string[] | null;
  readonly places: readonly SheetPlaceKind[] | null;
}

/** The tokens of a part. */
export function tokensIn({ enrolments }: SheetPart, tokens: readonly SheetToken[]): readonly SheetToken[] {
  return enrolments === null ? tokens : tokens.filter(({ enrolmentId }) => enrolments.includes(enrolmentId));
}

/** The sheet of a part: what is at the places of others is not on it, nor counted. */
export function sheetOfPart(part: SheetPart, tokens: readonly SheetToken[]): Sheet {
  const whole = sheetOf(tokensIn(part, tokens));
  const { places: kinds } = part;
  if (kinds === null) return whole;
  const places = whole.places.filter(({ kind }) => kinds.includes(kind));
  const tasks = places.flatMap((place) => place.tasks);
  return { ...whole, places, ...countsOf(tasks) };
}

function countsOf(tasks: readonly SheetTask[]): Pick<Sheet, 'open' | 'waiting' | 'done'> {
  return {
    open: tasks.filter(isOpenTask).length,
    waiting: tasks.filter(({ state }) => state === 'waits').length,
    done: tasks.filter(({ state }) => state === 'done' || state === 'stays').length,
  };
}

/** Whether a task still wants something of somebody. */
export function isOpenTask({ state }: SheetTask): boolean {
  return TO_DO.has(state);
}

function byEnrolment(tokens: readonly SheetToken[]): SheetToken[][] {
  const found = new Map<string, SheetToken[]>();
  for (const token of tokens) found.set(token.enrolment, [...(found.get(token.enrolment) ?? []), token]);
  return [...found.values()];
}

function taskOf({ engine, enrolment, thing, seen, says, isHeldBy }: SheetToken): SheetTask {
  const state = seen === 'right' && isHeldBy ? 'stays' : STATE_OF[seen];
  return { engine, enrolment, state, thing, says: seen === 'right' ? null : says };
}

/** By which the very same thing at the same place is known, whichever enrolments want it. */
function keyOf(thing: SheetThing): string {
  switch (thing.kind) {
    case 'dns':
      return `dns ${thing.place} ${thing.value}`;
    case 'meta':
      return `meta ${thing.page} ${thing.tag}`;
    case 'file':
      return `file ${thing.url} ${thing.content}`;
  }
}

function whereOf(thing: SheetThing): { kind: SheetPlaceKind; where: string } {
  switch (thing.kind) {
    case 'dns':
      return { kind: 'zone', where: thing.zone };
    case 'meta':
      return { kind: 'head', where: thing.page };
    case 'file':
      return { kind: 'root', where: new URL(thing.url).host };
  }
}

/** Each thing once; where several enrolments want it, what is most to be done of them counts. */
function unique(tasks: readonly SheetTask[]): SheetTask[] {
  const found = new Map<string, SheetTask>();
  for (const task of tasks) {
    const key = `${task.state === 'may-go' ? 'old ' : ''}${keyOf(task.thing)}`;
    const known = found.get(key);
    if (!known) found.set(key, task);
    else
      found.set(key, {
        ...(ORDER[task.state] < ORDER[known.state] ? task : known),
        engine: known.engine.split(', ').includes(task.engine)
          ? known.engine
          : `${known.engine}, ${task.engine}`,
      });
  }
  return [...found.values()];
}

function placesOf(tasks: readonly SheetTask[]): SheetPlace[] {
  const found = new Map<string, { kind: SheetPlaceKind; where: string; tasks: SheetTask[] }>();
  for (const task of unique(tasks)) {
    const { kind, where } = whereOf(task.thing);
    const place = found.get(`${kind} ${where}`) ?? { kind, where, tasks: [] };
    place.tasks.push(task);
    found.set(`${kind} ${where}`, place);
  }
  return [...found.values()]
    .sort(
      (a, b) => SHEET_PLACES.indexOf(a.kind) - SHEET_PLACES.indexOf(b.kind) || (a.where < b.where ? -1 : 1),
    )
    .map((place) => ({ ...place, tasks: place.tasks.sort((a, b) => ORDER[a.state] - ORDER[b.state]) }));
}
