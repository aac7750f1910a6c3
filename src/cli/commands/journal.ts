import type { Command } from 'commander';
import type { Yard, YardRow } from '../../api/documents.js';
import type { InputOf } from '../../api/routes.js';
import { openContext, output, type Context } from '../context.js';
import { timeGiven } from '../time-given.js';
import { linesGiven } from '../lines-given.js';
import { progressWords } from '../../api/progress-words.js';
import { badge } from '../print/badge-mark.js';
import { isNarrowed, listing, narrowedTo, queryOf, type ListOptions } from './listing.js';
import { sayNext } from '../print/next.js';
import { inWords, sayShown } from '../print/list-footer.js';
import { table, type Cell } from '../print/table.js';
import { paint, plain, say, sayJsonLine, when } from '../print/text.js';
import { given } from '../../api/given.js';

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

/** What the signs in the engines’ columns mean, those that occur. */
const SIGNS: readonly (readonly [sign: RegExp, says: string])[] = [
  [/^·$/u, '·: fits its audience, not enrolled'],
  [/^–$/u, '–: not for its audience'],
  [/, name$/u, 'name: enrolled by name'],
  [/×/u, '×2: two enrolments'],
  [/^by /u, 'by …: held by another property'],
];

function legendFor(cells: readonly string[]): string {
  return SIGNS.filter(([sign]) => cells.some((cell) => sign.test(cell)))
    .map(([, says]) => says)
    .join('; ');
}

/** A step without the words that most of them begin with; “next” has the whole of it. */
function inShort(says: string): string {
  return says.replace(/^(Not in place at the last check|The token is gone): /u, '');
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
async function journalQuery(
  context: Context,
  property: string | undefined,
  options: JournalOptions,
): Promise<JournalQuery> {
  const { client, kind, who, from, until, after } = options;
  return {
    ...given({ property, client, kind, who }),
    ...(from === undefined ? {} : { from: await timeGiven(context, from) }),
    ...(until === undefined ? {} : { until: await timeGiven(context, until) }),
    ...given({ after }),
  };
}

/** Lines of the journal that are asked for at once where all of it is wanted. */
const AT_ONCE = 500;

/** All of the journal that is wanted, newest first, as JSON lines: page after page, so that years of it cost no more memory than a page. */
async function exportJournal(context: Context, narrow: JournalQuery): Promise<void> {
  for (let after = narrow.after; ;) {
    const page = await context.client.journal({
      query: { ...narrow, limit: AT_ONCE, ...given({ after }) },
    });
    for (const entry of page.items) sayJsonLine(entry);
    if (page.next === null) return;
    after = page.next;
  }
}

/** `yard`, `journal` */
export function journalCommands(program: Command): void {
  listing(
    program
      .command('yard')
      .description('where every property stands at every engine; “words” says what bare, slipping … mean'),
  ).action(async (options: ListOptions) => {
    const context = openContext(options);
    const document = await context.client.yard({ query: queryOf(options) });
    output(context, document, (yard) => {
      // One that shows another's results stands where that other does: said once, under the table.
      const engines = yard.engines.filter(({ from }) => from === null);
      const rows = yard.items.map((row) => [
        row.property.handle,
        ...engines.map((engine) => cell(row, engine)),
        row.sitemaps.total === 0 ? 'none' : row.sitemaps.state,
        row.step ? `${row.step.engine ?? ''}: ${inShort(row.step.says)}` : 'nothing to do',
      ]);
      table(
        ['property', ...engines.map(({ title }) => title), 'sitemaps', 'next'],
        rows,
        isNarrowed(options)
          ? 'Nothing matches.'
          : 'The yard is empty. “property add ADDRESS --client CLIENT” takes on the first property.',
      );
      const legend = legendFor(rows.flatMap((row) => row.slice(1, 1 + engines.length).flat()));
      if (legend !== '') say(paint.dim(legend));
      for (const { title, from } of yard.engines)
        if (from) say(paint.dim(plain(`${title} shows ${from.title}’s results.`)));
    });
    const { all = 0, ...badges } = document.counts;
    const { items, next } = document;
    const list = {
      shown: items.length,
      all,
      one: 'property',
      kinds: inWords(badges) === '' ? '' : `${inWords(badges)} enrolments`,
      next,
    };
    await sayShown(context, { ...list, of: narrowedTo(options) });
    if (items.length > 0 && options.json !== true) say(`Taking on: ${progressWords(document.progress)}.`);
    if (items.length > 0 && options.json !== true) sayNext('next', 'check PROPERTY');
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
      const limit = linesGiven(options.limit);
      const narrow = await journalQuery(context, property, options);
      if (options.jsonLines === true) {
        await exportJournal(context, narrow);
        return;
      }
      const query = { ...narrow, limit };
      const document = await context.client.journal({ query });
      output(context, document, ({ items }) => {
        table(
          ['when (UTC)', 'who', 'property', 'what'],
          items.map((one) => [when(one.at), one.who ?? 'service', one.property ?? '–', one.says]),
          'Nothing has happened yet. Everything that anybody does is recorded here.',
        );
      });
      const of = narrowedTo({ ...options, ...given({ property }) });
      await sayShown(context, { shown: document.items.length, one: 'newest entry', of, next: document.next });
    });
}
