import type { Command } from 'commander';
import type { NewReport, ReportOrder } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { sayNext } from '../print/next.js';
import { table } from '../print/table.js';
import { plain, say, sayBlock, when } from '../print/text.js';

interface AddOptions {
  client?: string;
  person?: string;
  email?: string;
  contact?: boolean;
  every: string;
  at?: string;
  zone?: string;
  json?: boolean;
}

/** What is ordered. Throws Usage where it goes nowhere, or to two. */
function orderOf({ every, json: _, ...rest }: AddOptions): NewReport {
  if (every !== 'week' && every !== 'month')
    throw new Usage(`“${every}” is no rhythm of reports; expected week or month.`);
  const to = [rest.person, rest.email, rest.contact].filter((one) => one !== undefined);
  if (to.length > 1) throw new Usage('Expected one of --person, --email and --contact.');
  return { ...(to.length === 0 ? { person: 'me' } : {}), ...rest, every };
}

function toWhom({ person, email }: ReportOrder): string {
  return person ?? email ?? 'nobody';
}

/** `notify report add|list|show|end` */
export function reportCommands(notify: Command): void {
  const report = notify.command('report').description('reports that are sent every week or month');
  report
    .command('add')
    .description('have one sent: to you, or to whom you name')
    .option('--client <client>', 'of one client; of all otherwise')
    .option('--person <name>', 'to one of the agency')
    .option('--email <address>', 'to an address of the client’s people')
    .option('--contact', 'to the client’s contact on record')
    .requiredOption('--every <rhythm>', 'week (on Monday) or month (on the first)')
    .option('--at <hour>', 'at which hour', '07:00')
    .option('--zone <zone>', 'of which time zone; the receiver’s, or yours')
    .option('--json', 'print the document')
    .action(async (options: AddOptions) => {
      const context = openContext(options);
      const ordered = await context.client.addReport({ body: orderOf(options) });
      // What somebody else gets is seen before it first goes.
      const { subject, text } = await context.client.showReport({ params: { id: ordered.id } });
      output(
        context,
        ordered,
        (one) => {
          const of = one.client === null ? 'all clients' : one.client;
          say(
            plain(
              `A report of ${of} goes to ${toWhom(one)} every ${one.every}, next at ${when(one.nextAt)} UTC. Today it would say:`,
            ),
          );
          sayBlock(`\n${[subject, '', ...text.trimEnd().split('\n')].map(plain).join('\n')}`);
        },
        ({ id }) => [`notify report end ${id}`, 'notify report list'],
      );
    });
  report
    .command('list')
    .description('those there are')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.listReports(), ({ items }) => {
        table(
          ['id', 'of', 'to', 'every', 'at', 'next (UTC)'],
          items.map((one) => [
            one.id,
            one.client ?? 'all clients',
            toWhom(one),
            one.every,
            `${one.at} ${one.zone}`,
            when(one.nextAt),
          ]),
          'No report is scheduled. “notify report add --every week” orders one.',
        );
      });
    });
  report
    .command('show <id>')
    .description('what it would say if it were sent now')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.showReport({ params: { id } }), ({ subject, text }) => {
        say(plain(subject));
        sayBlock(`\n${text}`);
      });
    });
  report
    .command('end <id>')
    .description('send it no more')
    .action(async (id: string) => {
      const { client } = openContext({});
      await client.endReport({ params: { id } });
      say('It is sent no more.');
      sayNext('notify report list');
    });
}
