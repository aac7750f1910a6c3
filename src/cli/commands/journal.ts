import type { Command } from 'commander';
import type { Yard, YardRow } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { badge } from '../print/marks.js';
import { table, type Cell } from '../print/table.js';
import { when } from '../print/text.js';

/** Where a property stands at one engine; one that shows another's results stands where that other does. */
function cell({ enrolments, fits }: YardRow, { id, from }: Yard['engines'][number]): Cell {
  const at = from?.id ?? id;
  const marks = enrolments
    .filter(({ engine }) => engine.id === at)
    .map((one) =>
      from || one.reach === 'address' ? badge(one.badge) : `${badge(one.badge)} (${one.reach})`,
    );
  if (marks.length > 0) return marks;
  return fits.includes(at) ? '·' : 'no need';
}

/** `yard`, `next`, `journal` */
export function journalCommands(program: Command): void {
  program
    .command('yard')
    .description('where every property stands at every engine')
    .option('--client <client>', 'of one client')
    .option('--json', 'print the document')
    .action(async (options: { client?: string; json?: boolean }) => {
      const context = openContext(options);
      const query = { limit: 500, ...(options.client === undefined ? {} : { client: options.client }) };
      output(context, await context.client.yard({ query }), (yard) => {
        const rows = yard.items.map((row) => [
          row.property.handle,
          ...yard.engines.map((engine) => cell(row, engine)),
          row.sitemaps.total === 0 ? '–' : row.sitemaps.state,
          row.step ? `${row.step.engine ?? ''}: ${row.step.says}` : 'nothing to do',
        ]);
        table(
          [
            'property',
            ...yard.engines.map(({ title, from }) => (from ? `${title} = ${from.title}` : title)),
            'sitemaps',
            'next',
          ],
          rows,
          'The yard is empty. “property add ADDRESS --client CLIENT” takes on the first property.',
        );
      });
    });
  program
    .command('next')
    .description('what to do next, worst and oldest harm first')
    .option('--client <client>', 'for one client')
    .option('--property <property>', 'for one property')
    .option('--json', 'print the document')
    .action(async (options: { client?: string; property?: string; json?: boolean }) => {
      const context = openContext(options);
      const { client, property } = options;
      const query = {
        ...(client === undefined ? {} : { client }),
        ...(property === undefined ? {} : { property }),
      };
      output(context, await context.client.worklist({ query }), ({ items }) => {
        const rows = items.map((one) => [
          one.step.kind,
          one.enrolment?.name ??
            (one.engine.id === 'all' ? one.property.handle : `${one.property.handle}@${one.engine.id}`),
          when(one.step.since),
          one.step.until === null ? one.step.says : `until ${when(one.step.until)}: ${one.step.says}`,
        ]);
        table(
          ['do', 'where', 'since', 'why'],
          rows,
          'Nothing to do. Every badge is held, every sitemap read.',
        );
      });
    });
  program
    .command('journal [property]')
    .description('what happened, newest first')
    .option('--limit <number>', 'how many lines', '30')
    .option('--json', 'print the document')
    .action(async (property: string | undefined, options: { limit: string; json?: boolean }) => {
      const context = openContext(options);
      const query = { limit: Number(options.limit), ...(property === undefined ? {} : { property }) };
      output(context, await context.client.journal({ query }), ({ items }) => {
        table(
          ['when (UTC)', 'who', 'property', 'what'],
          items.map((one) => [when(one.at), one.who ?? 'service', one.property ?? '–', one.says]),
          'Nothing happened yet.',
        );
      });
    });
}
