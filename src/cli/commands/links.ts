import { Option, type Command } from 'commander';
import type { SharedLink, SharedUse } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { linesGiven } from '../lines-given.js';
import { table } from '../print/table.js';
import { plain, say, when } from '../print/text.js';
import { given } from '../../api/given.js';

interface AddOptions {
  client?: string;
  word?: string;
  language?: 'en' | 'de';
  lasts?: string;
  quiet?: boolean;
  only?: string[];
  json?: boolean;
}

const USED: Readonly<Record<SharedUse['kind'], string>> = {
  look: 'had us look',
  done: 'says that it is done',
  cannot: 'cannot:',
};

/** `link make|list|end` */
export function linkCommands(program: Command): void {
  const link = program.command('link').description('links by which a sheet is seen without signing in');
  link
    .command('make [property]')
    .description(
      'make a link to the sheet of a property, or of all of a client; its address is shown this once',
    )
    .option('--client <client>', 'to the sheet of all properties of a client')
    .option('--word <word>', 'to tell it from others, for example who it is for')
    .addOption(new Option('--language <language>', 'of the page').choices(['en', 'de']))
    .option('--only <enrolment...>', 'show the tokens of these alone')
    .option('--lasts <duration>', 'for how long it works, such as P14D')
    .option('--quiet', 'tell nobody that it was opened, used to look, or has expired; word is sent always')
    .option('--json', 'print the document')
    .action(async (property: string | undefined, options: AddOptions) => {
      if ((property === undefined) === (options.client === undefined))
        throw new Usage('Name a property, or a client with --client.');
      const context = openContext(options);
      const { client, word, language, lasts, quiet, only } = options;
      const made = await context.client.addLink({
        body: {
          ...given({ property, client, word, language, lasts }),
          ...(quiet === true ? { tells: false } : {}),
          ...given({ enrolments: only }),
        },
      });
      output(
        context,
        made,
        ({ url, expiresAt }) => {
          say(plain(url));
          say(`Whoever has this address sees the sheet until ${when(expiresAt)} UTC. It is not shown again.`);
        },
        ({ id }) => [`link list ${property ?? `--client ${client ?? ''}`}`, `link end ${id}`],
      );
    });
  link
    .command('list [property]')
    .description('links that work: opened how often, and what was said by them')
    .option('--client <client>', 'of a client')
    .option('--all', 'those too that work no more')
    .option('--limit <number>', 'how many', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(
      async (
        property: string | undefined,
        options: { client?: string; all?: boolean; limit: string; after?: string; json?: boolean },
      ) => {
        const context = openContext(options);
        const { client, all, limit, after } = options;
        const document = await context.client.listLinks({
          query: {
            limit: linesGiven(limit),
            ...given({ property, client }),
            ...(all === true ? { all } : {}),
            ...given({ after }),
          },
        });
        output(
          context,
          document,
          ({ items, next }) => {
            table(
              ['link', 'to', 'for', 'works until', 'opened', 'said by it'],
              items.map(rowOf),
              'No link works: “link make” makes one.',
            );
            if (next !== null) say(`There are more: --after ${plain(next)}`);
          },
          ({ items: [first] }) => (first?.state === 'open' ? [`link end ${first.id}`] : []),
        );
      },
    );
  link
    .command('end <link>')
    .description('have a link work no more, at once')
    .action(async (id: string) => {
      const { client } = openContext({});
      await client.endLink({ params: { id } });
      say('It works no more.');
    });
}

function rowOf(one: SharedLink): (string | string[])[] {
  return [
    one.id,
    one.property ?? `all of ${one.client}`,
    one.word ?? '–',
    one.state === 'open' ? when(one.expiresAt) : one.state,
    one.openedAt === null ? 'never' : `${String(one.opened)}, last ${when(one.openedAt)}`,
    one.uses.length === 0
      ? '–'
      : one.uses.slice(0, 3).map(({ at, kind, says }) => `${when(at)} ${USED[kind]} ${says ?? ''}`.trim()),
  ];
}
