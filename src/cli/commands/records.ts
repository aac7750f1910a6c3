import type { Command } from 'commander';
import { openContext, output } from '../context.js';
import { table } from '../print/table.js';
import { say } from '../print/text.js';

/** `records verify` */
export function recordsCommands(program: Command): void {
  const records = program.command('records').description('what is on record');
  records
    .command('verify')
    .description('derive anew where everything stands, and name what differs from what is kept ready')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const found = await context.client.verifyRecords();
      output(context, found, ({ properties, rows, differing }) => {
        if (differing.length === 0) {
          say(`${String(rows)} rows of ${String(properties)} properties are as the facts say.`);
          return;
        }
        table(
          ['property', 'what', 'row', 'kept', 'by the facts'],
          differing.map((one) => [
            one.property,
            one.table,
            one.row,
            one.kept ?? 'nothing',
            one.derived ?? 'nothing',
          ]),
          '',
        );
      });
      if (found.differing.length > 0) process.exitCode = 1;
    });
}
