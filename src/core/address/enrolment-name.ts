import { readPaste } from './paste.js';
import { addressText, type WebAddress } from './web-address.js';
import { parseScope, REACHES, type Reach } from './reach.js';

/** What an enrolment is named by. */
export interface Nameable {
  /** Of its property. */
  readonly handle: string;
  readonly engine: string;
  readonly reach: Reach;
  /** As `targetText` writes it. */
  readonly target: string;
  /** The name of its account. */
  readonly account: string;
  /** How many others of the property are live at the engine with the same reach; and of these, with the same target. */
  readonly others: number;
  readonly twins: number;
}

/**
 * How an enrolment is written, and can be given to any command: `ferries@veldrane:name`; by its address where there are two of a
 * reach, and by its account too where even that is the same: `bakery@house:http://pebble-rye.example`, `tea@ostrime:compass-tea.example#compass-own`.
 */
export function enrolmentName({ handle, engine, reach, target, account, others, twins }: Nameable): string {
  const which = others === 0 ? reach : shortTarget(reach, target);
  return `${handle}@${engine}:${which}${twins === 0 ? '' : `#${account}`}`;
}

/** A target as short as it can be written and still be told from any other: without `https://` and the slash at the end. */
function shortTarget(reach: Reach, target: string): string {
  return reach === 'name' ? target : target.replace(/^https:\/\//, '').replace(/\/$/, '');
}

/** What stands behind the `@` of an enrolment's name. */
export interface EnrolmentRef {
  readonly engine: string;
  readonly which: string | null;
  readonly account: string | null;
}

/** Reads what stands behind the last `@`. */
export function readEnrolmentRef(text: string): EnrolmentRef {
  const colon = text.indexOf(':');
  if (colon === -1) return { engine: text, which: null, account: null };
  const [which = '', account] = text.slice(colon + 1).split('#');
  return { engine: text.slice(0, colon), which, account: account ?? null };
}

/** Whether what stands behind the engine can mean an enrolment at all: a reach, or an address in any usual form. */
export function canBeMeant(which: string): boolean {
  return isReach(which) || readPaste(which).kind === 'address';
}

/** Whether an enrolment is one that is meant by what stands behind the engine. */
export function isMeant(which: string, reach: Reach, target: string): boolean {
  if (isReach(which)) return reach === which;
  const paste = readPaste(which);
  if (paste.kind === 'refused') return false;
  const own = parseScope(reach, target);
  if (own.reach === 'name') return own.name === paste.address.host && paste.address.path === '/';
  const asWritten = paste.schemeWritten ? paste.address : { ...paste.address, scheme: 'https' as const };
  return isSame(asWritten, own.address);
}

function isReach(text: string): text is Reach {
  return (REACHES as readonly string[]).includes(text);
}

function isSame(a: WebAddress, b: WebAddress): boolean {
  return addressText(a) === addressText(b);
}
