import { Option, type Command } from 'commander';
import type { Sentence, SentenceInput } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { paint, plain, say, sayBlock } from '../print/text.js';
import { readText } from '../read-file.js';
import { given } from '../../api/given.js';

/** `wording list|say|usual` */
export function wordingCommands(program: Command): void {
  const wording = program
    .command('wording')
    .description('the sentences of sheets and letters, in words of your own');
  wording
    .command('list')
    .description('every sentence, as it is said')
    .addOption(new Option('--language <language>', 'of one language').choices(['en', 'de']))
    .addOption(new Option('--part <part>', 'of one part').choices(['sheet', 'letter']))
    .option('--own', 'those that you say in words of your own')
    .option('--json', 'print the document')
    .action(
      async (options: { language?: 'en' | 'de'; part?: Sentence['part']; own?: boolean; json?: boolean }) => {
        const context = openContext(options);
        const { language, part, own } = options;
        const { items } = await context.client.listWording({
          query: { ...given({ language, part }) },
        });
        const shown = own === true ? items.filter(({ isOwn }) => isOwn) : items;
        output(
          context,
          { items: shown },
          () => {
            table(
              ['in', 'sentence', 'own', 'it says'],
              shown.map((one) => [one.language, `${one.part}.${one.name}`, one.isOwn ? 'yes' : '', one.says]),
              'Every sentence has its usual wording.',
            );
          },
          () => ['wording say en letter.hello "Dear {name}," --preview PROPERTY'],
        );
      },
    );
  wording
    .command('say <language> <sentence> [words]')
    .description('say a sentence in words of your own; what stands in braces is filled in')
    .option('--from <file>', 'the words from a file; - for standard input')
    .option('--preview <property>', 'only show how it would read for a property')
    .action(
      async (
        language: string,
        sentence: string,
        words: string | undefined,
        options: { from?: string; preview?: string },
      ) => {
        if ((words === undefined) === (options.from === undefined))
          throw new Usage('Give the words, or a file with --from.');
        const says = words ?? readText(options.from ?? '').replace(/\n$/u, '');
        await edit(inputOf(language, sentence, says), options.preview);
      },
    );
  wording
    .command('usual <language> <sentence>')
    .description('say a sentence in the usual words again')
    .action((language: string, sentence: string) => edit(inputOf(language, sentence, null), undefined));
}

function inputOf(language: string, sentence: string, says: string | null): SentenceInput {
  const [part, name] = sentence.split('.');
  if (language !== 'en' && language !== 'de') throw new Usage(`“${language}” is neither en nor de.`);
  if ((part !== 'sheet' && part !== 'letter') || name === undefined)
    throw new Usage(`“${sentence}” is no sentence; expected such as sheet.intro or letter.hello.`);
  return { language, part, name, says };
}

async function edit(body: SentenceInput, property: string | undefined): Promise<void> {
  const { client } = openContext({});
  if (property === undefined) {
    const { says, isOwn } = await client.editWording({ body });
    say(isOwn ? `It says now: ${plain(says)}` : `It says again: ${plain(says)}`);
    return;
  }
  const { sheet, letters } = await client.previewWording({ body: { ...body, property } });
  const show = (text: string): void => {
    sayBlock(text.trimEnd().split('\n').map(plain).join('\n'));
  };
  if (body.part === 'sheet') show(sheet);
  if (body.part === 'letter' && letters.length === 0)
    say('No letter would be written for it in that language: it has no contact, or there is nothing to ask.');
  for (const { subject, text } of body.part === 'letter' ? letters : []) {
    say(paint.bold(plain(subject)));
    say();
    show(text);
  }
}
