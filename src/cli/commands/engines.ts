import type { Command } from 'commander';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { plain, say } from '../print/text.js';

/** `engine list|show`, `account list` */
export function engineCommands(program: Command): void {
  const engine = program.command('engine').description('search engines and their rules');
  engine
    .command('list')
    .description('all engines')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.listEngines(), ({ items }) => {
        const rows = items.map((one) => [
          one.id,
          one.title,
          one.audience === 'everyone' ? 'everyone' : one.audience.join(' '),
          one.worked,
          one.reaches.join(' '),
          one.methods.join(' '),
          one.takesSitemaps ? 'yes' : 'no',
        ]);
        table(['engine', 'title', 'audience', 'worked', 'reach', 'methods', 'sitemaps'], rows, '');
      });
    });
  engine
    .command('show <engine>')
    .description('one engine’s rules in words')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const { items } = await context.client.listEngines();
      const found = items.find((one) => one.id === id);
      if (!found)
        throw new Usage(`There is no engine “${id}”. Known are: ${items.map((one) => one.id).join(', ')}.`);
      output(context, found, (one) => {
        say(plain(one.title));
        for (const rule of one.rules) say(`  ${plain(rule)}`);
      });
    });
  const account = program.command('account').description('accounts at engines');
  account
    .command('list')
    .description('all accounts')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.listAccounts(), ({ items }) => {
        table(
          ['engine', 'account'],
          items.map((one) => [one.engine, one.name]),
          'No accounts yet.',
        );
      });
    });
}
