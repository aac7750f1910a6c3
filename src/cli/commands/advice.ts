import { Option, type Command } from 'commander';
import type { Advice, Method } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { METHODS } from './enrolment-options.js';
import { paint, plain, say } from '../print/text.js';

const MARKS: Readonly<Record<Advice['methods'][number]['rank'], string>> = {
  best: '★ best ',
  works: '· works',
  cannot: '✗ no   ',
};

function printAdvice({ enrolment, methods, unknown, asked }: Advice): void {
  say(paint.bold(plain(enrolment.name)));
  if (asked !== null)
    say(`  The client’s people were asked for ${asked}; “--ask METHOD” asks for another from now on.`);
  for (const { method, rank, why, later } of methods) {
    const mark = rank === 'best' ? paint.green(MARKS[rank]) : MARKS[rank];
    say(`  ${mark}  ${method.padEnd(4)}  ${plain(why.join(' ')) || 'Nothing speaks against it.'}`);
    if (rank !== 'cannot') say(paint.dim(`                 ${later}`));
  }
  if (unknown.length > 0) {
    const options = unknown.map((one) => `--${one} yes|no`).join(' ');
    const property = enrolment.name.slice(0, enrolment.name.lastIndexOf('@'));
    say(
      paint.dim(
        `  Ask what the client’s people can get at, and tell: property edit ${plain(property)} ${options}`,
      ),
    );
  }
}

/** `advice` */
export function adviceCommand(program: Command): void {
  program
    .command('advice <enrolment>')
    .description('which method to have placed, why, and what each costs later')
    .addOption(
      new Option('--ask <method>', 'ask the client’s people for this one from now on').choices(METHODS),
    )
    .option('--json', 'print the document')
    .action(async (enrolment: string, options: { ask?: Method; json?: boolean }) => {
      const context = openContext(options);
      if (options.ask !== undefined)
        await context.client.askMethod({ params: { enrolment }, body: { method: options.ask } });
      output(
        context,
        await context.client.advice({ params: { enrolment } }),
        ({ items }) => {
          items.forEach(printAdvice);
        },
        ({ items }) => items.slice(0, 1).map((one) => `token ${one.enrolment.name}`),
      );
    });
}
