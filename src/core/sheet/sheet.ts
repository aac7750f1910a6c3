/** Where something is placed, as the people know it who look after it: each is visited once. */
export const SHEET_PLACES = ['zone', 'head', 'root'] as const;
export type SheetPlaceKind = (typeof SHEET_PLACES)[number];

/** What is to be done about one token: put it, change what stands there into it, wait until all see it, nothing any more, take it away, or leave it for good. */
export const SHEET_STATES = ['put', 'change', 'waits', 'done', 'may-go', 'stays'] as const;
export type SheetState = (typeof SHEET_STATES)[number];

/** What is put, by its method. */
export type SheetThing =
  | {
      readonly kind: 'dns';
      readonly zone: string;
      readonly recordName: string;
      readonly place: string;
      readonly value: string;
    }
  | { readonly kind: 'meta'; readonly page: string; readonly tag: string }
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
  readonly thing: SheetThing;
  /** What the newest check saw: that it stands there as it must, does so for some and soon for all, that something else does, that nothing does, or no check. */
  readonly seen: 'right' | 'soon' | 'wrong' | 'missing' | 'unknown';
  /** What was seen, in words; null where nothing has to be said. */
  readonly says: string | null;
  /** Whether it is the method that is advised for this enrolment. */
  readonly isAdvised: boolean;
  /** Whether the badge is held by it, so that it has to stay. */
  readonly isHeldBy: boolean;
  /** What was placed before it and is old now. */
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
  missing: 'put',
  unknown: 'put',
};

const ORDER: Readonly<Record<SheetState, number>> = {
  put: 0,
  change: 1,
  waits: 2,
  'may-go': 3,
  done: 4,
  stays: 5,
};

/**
 * Puts tokens in order by the place where they go. Of each enrolment one method is enough: the one that stands already, else the one that
 * is advised; the others are other ways to the same, as long as nothing stands.
 */
export function sheetOf(tokens: readonly SheetToken[]): Sheet {
  const tasks: SheetTask[] = [];
  const others: SheetTask[] = [];
  for (const own of byEnrolment(tokens)) {
    const standing = own.filter(({ seen }) => seen === 'right' || seen === 'soon');
    const shown = standing.length > 0 ? standing : [own.find(({ isAdvised }) => isAdvised) ?? own[0]];
    for (const token of own) {
      if (shown.includes(token)) tasks.push(taskOf(token));
      else if (standing.length === 0) others.push(taskOf(token));
      // What is old may go once the new one stands; before, taking it away would leave nothing.
      if (token.before && token.seen === 'right')
        tasks.push({ ...taskOf(token), thing: token.before, state: 'may-go', says: null });
    }
  }
  const isOpen = ({ state }: SheetTask) => state === 'put' || state === 'change';
  return {
    places: placesOf(tasks),
    others: placesOf(others),
    open: unique(tasks.filter(isOpen)).length,
    waiting: unique(tasks.filter(({ state }) => state === 'waits')).length,
    done: unique(tasks.filter(({ state }) => state === 'done' || state === 'stays')).length,
  };
}

/** Of a sheet what is to be done, without what stands; places where nothing is left out. */
export function onlyOpen(sheet: Sheet): Sheet {
  const left = (places: readonly SheetPlace[]): SheetPlace[] =>
    places
      .map((place) => ({
        ...place,
        tasks: place.tasks.filter(({ state }) => state === 'put' || state === 'change'),
      }))
      .filter(({ tasks }) => tasks.length > 0);
  return { ...sheet, places: left(sheet.places), others: left(sheet.others) };
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
