import type { Command } from 'commander';
import { openContext, output } from '../context.js';
import { paint, plain, say, when } from '../print/text.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';

/** `key list|end`: what one is signed in with, and the end of it. */
export function keyCommands(program: Command): void {
  const key = program.command('key').description('your own keys and sessions');
  key
    .command('list')
    .description('each with when it was made and used last, and until when it is good')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.listKeys();
      output(context, document, ({ items }) => {
        table(
          ['id', 'what', 'made', 'used', 'good until', ''],
          items.map((one) => [
            one.id,
            one.kind === 'session' ? `session, ${agentWord(one.agent)}` : one.label,
            when(one.createdAt),
            when(one.usedAt),
            when(one.expiresAt),
            one.current ? 'this one' : '',
          ]),
          'You have no keys.',
        );
      });
      await sayShown(context, { shown: document.items.length, one: 'key' });
    });
  key
    .command('end <id>')
    .description('end a key or a session; whoever has it is signed out at once')
    .action(async (id: string) => {
      const { client } = openContext({});
      await client.endKey({ params: { id } });
      say(`Ended ${paint.bold(plain(id))}.`);
    });
}

/** A browser's name for itself, cut to what tells it apart. */
function agentWord(agent: string | null): string {
  return agent === null || agent === '' ? 'unknown program' : agent.slice(0, 24);
}
