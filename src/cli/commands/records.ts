import type { Command } from 'commander';
import { counted } from '../../api/plural.js';
import { openContext, output } from '../context.js';
import { EXIT } from '../exit.js';
import { table } from '../print/table.js';
import { paint, say } from '../print/text.js';

/** `records verify` */
export function recordsCommands(program: Command): void {
  const records = program.command('records').description('what is on record');
  records
    .command('verify')
    .description('check the file, and that what is shown is what the facts say')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const found = await context.client.verifyRecords();
      output(context, found, ({ properties, rows, damage, orphans, differing }) => {
        for (const says of damage) say(`${paint.red('The file is damaged:')} ${says}`);
        for (const one of orphans)
          say(`${counted(one.rows, 'row')} of ${one.table} belong to ${one.of} that are not on record.`);
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
      if ([found.damage, found.orphans, found.differing].some(({ length }) => length > 0))
        process.exitCode = EXIT.stops;
    });
}
