import type { Command } from 'commander';
import { openContext, output } from '../context.js';
import { table } from '../print/table.js';
import { plain, say } from '../print/text.js';

/** `client add|list|show` */
export function clientCommands(program: Command): void {
  const client = program.command('client').description('clients of the agency');
  client
    .command('add <name>')
    .description('add a client')
    .option('--handle <handle>', 'a short name for it; made from the name otherwise')
    .option('--contact <contact>', 'whom to write to')
    .option('--audience <countries>', 'countries of its audience, such as FI,EE')
    .option('--json', 'print the document')
    .action(
      async (
        name: string,
        options: { handle?: string; contact?: string; audience?: string; json?: boolean },
      ) => {
        const context = openContext(options);
        const { handle, contact, audience } = options;
        const body = {
          name,
          ...(handle === undefined ? {} : { handle }),
          ...(contact === undefined ? {} : { contact }),
          ...(audience === undefined ? {} : { audience: audience.toUpperCase().split(/[\s,]+/) }),
        };
        output(context, await context.client.addClient({ body }), (added) => {
          say(`Added ${plain(added.name)} as ${added.handle}.`);
        });
      },
    );
  client
    .command('list')
    .description('all clients')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.listClients({ query: { limit: 500 } }), ({ items }) => {
        const rows = items.map((one) => [
          one.handle,
          one.name,
          String(one.properties),
          one.audience.join(' ') || 'everyone',
          one.contact ?? '–',
        ]);
        table(
          ['client', 'name', 'properties', 'audience', 'contact'],
          rows,
          'No clients yet. “client add NAME” adds the first.',
        );
      });
    });
  client
    .command('show <client>')
    .description('one client')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.showClient({ params: { client: ref } }), (one) => {
        table(
          ['', ''],
          [
            ['client', one.handle],
            ['name', one.name],
            ['contact', one.contact ?? '–'],
            ['audience', one.audience.join(' ') || 'everyone'],
            ['properties', String(one.properties)],
          ],
          '',
        );
      });
    });
}
