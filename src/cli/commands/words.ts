import type { Command } from 'commander';
import { GLOSSARY } from '../../api/glossary.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { plain, sayJson } from '../print/text.js';

/** `words` */
export function wordsCommand(program: Command): void {
  program
    .command('words [word]')
    .description('what the words mean that are used here: bare, slipping, house, spare, alert …')
    .option('--json', 'print the list')
    .action((word: string | undefined, options: { json?: boolean }) => {
      const wanted = word?.trim().toLowerCase();
      const shown = GLOSSARY.filter((one) => wanted === undefined || one.word === wanted);
      if (shown.length === 0)
        throw new Usage(
          `“${plain(word ?? '')}” is no word of ours; expected one of: ${GLOSSARY.map((one) => one.word).join(', ')}.`,
        );
      if (options.json === true) sayJson(shown);
      else
        table(
          ['word', 'means'],
          shown.map((one) => [one.word, one.means]),
          '',
        );
    });
}
