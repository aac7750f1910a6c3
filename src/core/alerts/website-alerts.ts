import { DAY } from '../time/duration.js';
import { writtenDay } from '../time/time-formats.js';
import { earliest, type AlertFacts, type AlertNow } from './alert.js';

/** A move is told of, and is no news after so long. */
export const MOVE_IS_NEWS = 7 * DAY;
/** A registered name is renewed by its owner, who may be asked in time. */
export const NAME_ENDS_WITHIN = 30 * DAY;

/** The front door has moved. */
export function moved({ move, now, enrolments }: AlertFacts): AlertNow[] {
  if (!move || now.getTime() - move.at.getTime() >= MOVE_IS_NEWS) return [];
  return [
    {
      kind: 'moved',
      cause: `${move.to} ${move.at.toISOString()}`,
      since: move.at,
      says: move.says,
      remedy: '',
      acts: 'us',
      touches: enrolments.map(({ name }) => name),
      until: null,
    },
  ];
}

/** Engines are asked to stay away from what visitors see. */
export function away({ away: found, enrolments }: AlertFacts): AlertNow[] {
  const [worst] = found;
  if (!worst) return [];
  return [
    {
      kind: 'stays-away',
      cause: 'site',
      since: earliest(found.map(({ since }) => since)),
      says: worst.says,
      remedy: found.map(({ remedy }) => remedy).join(' '),
      acts: 'client',
      touches: enrolments.map(({ name }) => name),
      until: null,
    },
  ];
}

/** A registered name that is soon not the owner's any more, by the day that he noted. */
export function nameEnds({ nameEnds: noted, now, enrolments }: AlertFacts): AlertNow[] {
  if (!noted || noted.at.getTime() - now.getTime() > NAME_ENDS_WITHIN) return [];
  const day = writtenDay(noted.at);
  const isOver = noted.at <= now;
  return [
    {
      kind: 'name-ends',
      cause: `${noted.name} ${day}`,
      since: new Date(noted.at.getTime() - NAME_ENDS_WITHIN),
      says: isOver
        ? `The name ${noted.name} was to end on ${day}, as its owner said: everything that is held under it goes with it.`
        : `The name ${noted.name} ends on ${day}, as its owner said; everything that is held under it goes with it.`,
      remedy: `Please renew the name ${noted.name} before ${day}, or tell us its new date where that has been done.`,
      acts: 'client',
      touches: enrolments.map(({ name }) => name),
      until: noted.at,
    },
  ];
}

/** A certificate that soon runs out, unless somebody does something. */
export function certificateEnds({ certificate, enrolments }: AlertFacts): AlertNow[] {
  return certificate.slice(0, 1).map((ends) => ({
    kind: 'certificate',
    cause: 'site',
    ...ends,
    acts: 'client',
    touches: enrolments.map(({ name }) => name),
    until: null,
  }));
}
