import type { Command } from 'commander';
import type { InputOf } from '../../api/routes.js';
import { linesGiven } from '../lines-given.js';

/** Whether a list is of less than all. */
export function isNarrowed({
  client,
  engine,
  badge,
  kind,
  acts,
  property,
  person,
  match,
  after,
}: ListOptions): boolean {
  return [client, engine, badge, kind, acts, property, person, match, after].some((one) => one !== undefined);
}

type Narrowed = Omit<Partial<ListOptions>, 'limit' | 'after' | 'json'> & { readonly who?: string };

/** What a list was narrowed to, as it goes behind what it is of. */
export function narrowedTo(options: Narrowed): string {
  const { client, property, engine, badge, kind, acts, who, person, match } = options;
  return [
    property === undefined ? '' : ` of ${property}`,
    client === undefined ? '' : ` of ${client}`,
    engine === undefined ? '' : ` at ${engine}`,
    [badge, kind, acts].some((one) => one !== undefined)
      ? ` (${[badge, kind, acts].filter((one) => one !== undefined).join(', ')})`
      : '',
    who === undefined ? '' : ` by ${who}`,
    person === undefined ? '' : ` handed to ${person}`,
    match === undefined ? '' : ` with “${match}”`,
  ].join('');
}

/** How many lines are shown where nobody says. */
const SHOWN = 20;

export interface ListOptions {
  client?: string;
  engine?: string;
  badge?: string;
  kind?: string;
  acts?: string;
  property?: string;
  person?: string;
  match?: string;
  limit: string;
  after?: string;
  json?: boolean;
}

type Query = NonNullable<InputOf<'worklist'>['query']>;

/** What is to be listed; the service says what it does not know. */
export function queryOf({ json: _, limit, ...narrow }: ListOptions): Query {
  return { ...(narrow as Query), limit: linesGiven(limit) };
}

/** A command that lists, with what every list can be narrowed to. */
export function listing(command: Command): Command {
  return command
    .option('--client <client>', 'of one client')
    .option('--engine <engine>', 'at one engine')
    .option('--badge <badge>', 'with a badge of one kind, at that engine where one is named')
    .option('--kind <kind>', 'with a next step of one kind')
    .option('--match <text>', 'with this in handle, address or client')
    .option('--limit <number>', 'how many lines', String(SHOWN))
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document');
}
