import type { Command } from 'commander';
import type { WorkEntry, Yard, YardRow } from '../../api/documents.js';
import type { InputOf } from '../../api/routes.js';
import { openContext, output, type Context } from '../context.js';
import { timeGiven } from '../time-given.js';
import { Usage } from '../exit.js';
import { badge } from '../print/marks.js';
import { sayNext } from '../print/next.js';
import { inWords, sayShown } from '../print/rest.js';
import { table, type Cell } from '../print/table.js';
import { paint, plain, say, sayJsonLine, when } from '../print/text.js';

/** Where a property stands at one engine, in one line. */
function cell({ enrolments, fits, above }: YardRow, { id: at }: Yard['engines'][number]): Cell {
  const own = enrolments.filter(({ engine }) => engine.id === at);
  const badges = [...new Set(own.map((one) => one.badge))];
  const [only] = own;
  if (only && own.length === 1)
    return only.reach === 'name' ? `${badge(only.badge)}, name` : badge(only.badge);
  if (badges.length > 0)
    return badges
      .map((one) => {
        const count = own.filter((enrolment) => enrolment.badge === one).length;
        return count === 1 ? badge(one) : `${badge(one)} ×${String(count)}`;
      })
      .join(', ');
  const over = above.find(({ engine }) => engine.id === at);
  if (over) return `by ${over.enrolment.slice(0, over.enrolment.lastIndexOf('@'))}`;
  return fits.includes(at) ? '·' : '–';
}

/** A step without the words that most of them begin with; “next” has the whole of it. */
function inShort(says: string): string {
  return says.replace(/^(Not in place at the last check|The token is gone): /u, '');
}

/** The command by which a step is done, or begun. */
function commandFor({ step: { kind }, property, properties, engines, enrolments }: WorkEntry): string {
  const { handle } = property;
  const name = enrolments[0]?.name ?? handle;
  const at = engines.map(({ id }) => id).join(' ');
  if (kind === 'enrol')
    return properties > 1 ? `enrol --missing --engine ${at}` : `enrol ${handle} --engine ${at}`;
  return COMMANDS[kind]?.replace('NAME', name).replace('HANDLE', handle).replace('ENGINE', at) ?? 'yard';
}

const COMMANDS: Readonly<Record<string, string>> = {
  'mend-site': 'variants HANDLE',
  'prove-again': 'token NAME',
  repair: 'check NAME',
  'enrol-again': 'enrol HANDLE --engine ENGINE',
  'ask-engine': 'claim NAME',
  'enrol-door': 'enrol HANDLE --fitting',
  claim: 'claim NAME',
  'mend-sitemap': 'sitemap list HANDLE',
  'submit-sitemap': 'sitemap find HANDLE --note',
  check: 'check NAME',
  'renew-token': 'token NAME',
  place: 'check NAME',
  'get-token': 'token NAME',
  'end-there': 'record ended NAME',
  'read-sitemap': 'sitemap list HANDLE',
  'withdraw-sitemap': 'sitemap withdraw HANDLE --spare',
};

/** Where a step is to be done, as short as it can be written: what can be given to a command again, where it is one enrolment. */
function whereOf({ property, properties, engines, enrolments }: WorkEntry): string {
  const [only, second] = enrolments;
  if (only && !second) return only.name;
  const at = engines.length === 0 ? '' : `@${engines.map(({ id }) => id).join(',')}`;
  return `${properties === 1 ? property.handle : `${String(properties)} properties`}${at}`;
}

function isNarrowed({ client, engine, badge, kind, acts, property, match, after }: ListOptions): boolean {
  return [client, engine, badge, kind, acts, property, match, after].some((one) => one !== undefined);
}

type Narrowed = Omit<Partial<ListOptions>, 'limit' | 'after' | 'json'> & { readonly who?: string };

/** What a list was narrowed to, as it goes behind what it is of. */
function narrowedTo(options: Narrowed): string {
  const { client, property, engine, badge, kind, acts, who, match } = options;
  return [
    property === undefined ? '' : ` of ${property}`,
    client === undefined ? '' : ` of ${client}`,
    engine === undefined ? '' : ` at ${engine}`,
    [badge, kind, acts].some((one) => one !== undefined)
      ? ` (${[badge, kind, acts].filter((one) => one !== undefined).join(', ')})`
      : '',
    who === undefined ? '' : ` by ${who}`,
    match === undefined ? '' : ` with “${match}”`,
  ].join('');
}

/** How many lines are shown where nobody says. */
const SHOWN = 20;

interface ListOptions {
  client?: string;
  engine?: string;
  badge?: string;
  kind?: string;
  acts?: string;
  property?: string;
  match?: string;
  limit: string;
  after?: string;
  json?: boolean;
}

type Query = NonNullable<InputOf<'worklist'>['query']>;

/** What is to be listed; the service says what it does not know. */
function queryOf({ json: _, limit, ...narrow }: ListOptions): Query {
  if (!/^\d{1,3}$/.test(limit) || Number(limit) < 1 || Number(limit) > 500)
    throw new Usage(`“${limit}” is no number of lines; expected 1 to 500.`);
  return { ...(narrow as Query), limit: Number(limit) };
}

/** A command that lists, with what every list can be narrowed to. */
function listing(command: Command): Command {
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

interface JournalOptions {
  client?: string;
  kind?: string;
  who?: string;
  from?: string;
  until?: string;
  limit: string;
  after?: string;
  json?: boolean;
  jsonLines?: boolean;
}

type JournalQuery = NonNullable<InputOf<'journal'>['query']>;

/** What of the journal is wanted. Throws Usage on a day that is none. */
function journalQuery(property: string | undefined, options: JournalOptions): JournalQuery {
  const { client, kind, who, from, until, after } = options;
  return {
    ...(property === undefined ? {} : { property }),
    ...(client === undefined ? {} : { client }),
    ...(kind === undefined ? {} : { kind }),
    ...(who === undefined ? {} : { who }),
    ...(from === undefined ? {} : { from: timeGiven(from) }),
    ...(until === undefined ? {} : { until: timeGiven(until) }),
    ...(after === undefined ? {} : { after }),
  };
}

/** Lines of the journal that are asked for at once where all of it is wanted. */
const AT_ONCE = 500;

/** All of the journal that is wanted, newest first, as JSON lines: page after page, so that years of it cost no more memory than a page. */
async function exportJournal(context: Context, narrow: JournalQuery): Promise<void> {
  for (let after = narrow.after; ;) {
    const page = await context.client.journal({
      query: { ...narrow, limit: AT_ONCE, ...(after === undefined ? {} : { after }) },
    });
    for (const entry of page.items) sayJsonLine(entry);
    if (page.next === null) return;
    after = page.next;
  }
}

/** `yard`, `next`, `journal` */
export function journalCommands(program: Command): void {
  listing(program.command('yard').description('where every property stands at every engine')).action(
    async (options: ListOptions) => {
      const context = openContext(options);
      const document = await context.client.yard({ query: queryOf(options) });
      output(context, document, (yard) => {
        // One that shows another's results stands where that other does: said once, under the table.
        const engines = yard.engines.filter(({ from }) => from === null);
        const rows = yard.items.map((row) => [
          row.property.handle,
          ...engines.map((engine) => cell(row, engine)),
          row.sitemaps.total === 0 ? '–' : row.sitemaps.state,
          row.step ? `${row.step.engine ?? ''}: ${inShort(row.step.says)}` : 'nothing to do',
        ]);
        table(
          ['property', ...engines.map(({ title }) => title), 'sitemaps', 'next'],
          rows,
          isNarrowed(options)
            ? 'No property is like that.'
            : 'The yard is empty. “property add ADDRESS --client CLIENT” takes on the first property.',
          { cuts: true },
        );
        for (const { title, from } of yard.engines)
          if (from) say(paint.dim(plain(`${title} shows ${from.title}’s results.`)));
      });
      const { all = 0, ...badges } = document.counts;
      const { items, next } = document;
      const list = { shown: items.length, all, one: 'property', kinds: inWords(badges), next };
      await sayShown(context, { ...list, of: narrowedTo(options) });
      if (items.length > 0 && options.json !== true) sayNext('next', 'check PROPERTY');
    },
  );
  listing(program.command('next').description('what to do next, worst and oldest harm first'))
    .option('--property <property>', 'for one property')
    .option('--acts <who>', 'what is up to us, client, engine or time')
    .action(async (options: ListOptions) => {
      const context = openContext(options);
      const document = await context.client.worklist({ query: queryOf(options) });
      output(context, document, (list) => {
        const rows = list.items.map((one) => [
          one.step.kind,
          whereOf(one),
          when(one.step.since),
          one.step.until === null ? one.step.says : `until ${when(one.step.until)}: ${one.step.says}`,
        ]);
        table(
          ['do', 'where', 'since', 'why'],
          rows,
          isNarrowed(options)
            ? 'Nothing to do of that kind.'
            : 'Nothing to do. Every badge is held, every sitemap read.',
        );
      });
      const { items, next, counts } = document;
      const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
      const list = { shown: items.length, all, one: 'next step', kinds: inWords(counts), next };
      await sayShown(context, { ...list, of: narrowedTo(options) });
      const [first] = items;
      if (first && options.json !== true) sayNext(commandFor(first));
    });
  program
    .command('journal [property]')
    .description('what happened, newest first')
    .option('--client <client>', 'of one client')
    .option('--kind <kind>', 'of one kind, such as claim or claim.confirmed')
    .option('--who <name>', 'by one person; “service” for what nobody did, “people” for what anybody did')
    .option('--from <day>', 'not before, such as 2026-11-24 or 2026-11-24T09:30:00Z')
    .option('--until <day>', 'before')
    .option('--limit <number>', 'how many lines', '30')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .option('--json-lines', 'print all of it, a JSON document on each line')
    .action(async (property: string | undefined, options: JournalOptions) => {
      const context = openContext(options);
      if (!/^\d{1,3}$/.test(options.limit))
        throw new Usage(`“${options.limit}” is no number of lines; expected 1 to 500.`);
      const narrow = journalQuery(property, options);
      if (options.jsonLines === true) {
        await exportJournal(context, narrow);
        return;
      }
      const query = { ...narrow, limit: Number(options.limit) };
      const document = await context.client.journal({ query });
      output(context, document, ({ items }) => {
        table(
          ['when (UTC)', 'who', 'property', 'what'],
          items.map((one) => [when(one.at), one.who ?? 'service', one.property ?? '–', one.says]),
          'Nothing happened yet: whatever is done by anybody is written down here.',
        );
      });
      const of = narrowedTo({ ...options, ...(property === undefined ? {} : { property }) });
      await sayShown(context, { shown: document.items.length, one: 'newest entry', of, next: document.next });
    });
}
