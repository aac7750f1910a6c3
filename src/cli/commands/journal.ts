import type { Command } from 'commander';
import { openContext, output } from '../context.js';
import { badge } from '../print/marks.js';
import { table } from '../print/table.js';
import { when } from '../print/text.js';

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
          ...yard.engines.map(
            ({ id }) =>
              row.enrolments
                .filter((one) => one.engine.id === id)
                .map((one) => `${badge(one.badge)} (${one.reach})`)
                .join('\n') || '·',
          ),
          row.sitemaps.total === 0 ? '–' : row.sitemaps.state,
          row.step ? `${row.step.engine ?? ''}: ${row.step.says}` : 'nothing to do',
        ]);
        table(
          ['property', ...yard.engines.map(({ title }) => title), 'sitemaps', 'next'],
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
          one.enrolment?.name ?? `${one.property.handle}@${one.engine.id}`,
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
