import { Option, type Command } from 'commander';
import type { Letter, LetterInput, NewContact } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { linesGiven } from '../lines-given.js';
import { table } from '../print/table.js';
import { paint, plain, say, sayAside, sayBlock, when } from '../print/text.js';
import { readText } from '../read-file.js';
import { given } from '../../api/given.js';

/** How many the service lists of all clients together. */
const MOST_CONTACTS = 1_000;
const ROLES = ['developer', 'host', 'owner'] as const;

interface ContactOptions {
  client?: string;
  property?: string;
  role: NewContact['role'];
  email?: string;
  language?: 'en' | 'de';
  json?: boolean;
}

interface AskOptions {
  client?: string;
  to?: string[];
  about?: string[];
  alert?: string[];
  send?: boolean;
  copied?: boolean;
  link: boolean;
  subject?: string;
  text?: string;
  json?: boolean;
}

/** `contact add|list|end`, `ask P`, `letters` */
export function letterCommands(program: Command): void {
  contactCommands(program);
  program
    .command('ask [property]')
    .description('write to a client’s people what they are asked for: one letter to each, shown first')
    .option('--client <client>', 'about all properties of a client')
    .option('--to <contact...>', 'only to these, by name')
    .option('--about <enrolment...>', 'only about the tokens of these enrolments')
    .option('--alert <alert...>', 'only about these alerts, as “alerts” lists them')
    .option('--send', 'send it')
    .option('--copied', 'note that you copied it and send it yourself')
    .option('--no-link', 'without a link to the sheet')
    .option('--subject <subject>', 'in place of the one that is drafted')
    .option('--text <file>', 'words of your own in place of those that are drafted; - for standard input')
    .option('--json', 'print the document')
    .action(ask);
  const letters = program
    .command('letters [property]')
    .description('what was written to clients’ people, and whether they answered')
    .option('--client <client>', 'of one client')
    .option('--open', 'those that were not answered')
    .option('--limit <number>', 'how many', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(listed);
  letters
    .command('show <letter>')
    .description('the whole of one letter')
    .action(async (id: string) => {
      const { client } = openContext({});
      const found = await client.showLetter({ params: { id } });
      printLetter(found.subject, `${found.contact} (${found.role})`, found.text);
    });
  letters
    .command('answered <letter> <says>')
    .description('note what was answered, by mail or by word of mouth')
    .action(async (id: string, says: string) => {
      const { client } = openContext({});
      const { contact } = await client.answerLetter({ params: { id }, body: { says } });
      say(`Noted: ${plain(contact)} answered.`);
    });
}

function contactCommands(program: Command): void {
  const contact = program.command('contact').description('clients’ people, who are written to');
  contact
    .command('add <name>')
    .description('note somebody of a client’s, or of one property alone')
    .option('--client <client>', 'there for all of its properties')
    .option('--property <property>', 'there for this one')
    .addOption(new Option('--role <role>', 'what they are').choices(ROLES).makeOptionMandatory())
    .option('--email <address>', 'where to')
    .addOption(new Option('--language <language>', 'in which they are written to').choices(['en', 'de']))
    .option('--json', 'print the document')
    .action(async (name: string, options: ContactOptions) => {
      if ((options.client === undefined) === (options.property === undefined))
        throw new Usage('Say for whom: --client, or --property.');
      const context = openContext(options);
      const { client, property, role, email, language } = options;
      const added = await context.client.addContact({
        body: {
          ...{ name, role },
          ...given({ client, property, email, language }),
        },
      });
      output(
        context,
        added,
        (one) => {
          say(`${plain(one.name)} is the ${one.role} of ${one.property ?? `all of ${one.client}`}.`);
        },
        (one) => [one.property === null ? `ask --client ${one.client}` : `ask ${one.property}`],
      );
    });
  contact
    .command('list')
    .description('who is there')
    .option('--client <client>', 'of one client')
    .option('--property <property>', 'for one property')
    .option('--json', 'print the document')
    .action(async (options: { client?: string; property?: string; json?: boolean }) => {
      const context = openContext(options);
      const { client, property } = options;
      const query = {
        ...given({ client, property }),
      };
      output(context, await context.client.listContacts({ query }), ({ items }) => {
        table(
          ['who', 'what', 'of', 'mail', 'in', 'contact'],
          items.map((one) => [
            one.name,
            one.role,
            one.property ?? `all of ${one.client}`,
            one.email ?? '–',
            one.language,
            one.id,
          ]),
          'No contacts yet. “contact add NAME --role developer --client CLIENT” adds one.',
        );
        if (items.length >= MOST_CONTACTS)
          sayAside('There may be more: “--client CLIENT” shows all of one client.');
      });
    });
  contact
    .command('end <contact>')
    .description('somebody is written to no more')
    .action(async (id: string) => {
      const { client } = openContext({});
      await client.endContact({ params: { id } });
      say('They get no more letters; earlier ones stay on record.');
    });
}

function printLetter(subject: string, to: string, text: string): void {
  say(paint.bold(plain(subject)));
  say(paint.dim(`to ${plain(to)}`));
  say();
  sayBlock(text.trimEnd().split('\n').map(plain).join('\n'));
}

async function ask(property: string | undefined, options: AskOptions): Promise<void> {
  if ((property === undefined) === (options.client === undefined))
    throw new Usage('Name a property, or a client with --client.');
  if (options.send === true && options.copied === true)
    throw new Usage('Expected one of --send and --copied: a letter is not sent twice.');
  const context = openContext(options);
  const whom: LetterInput = {
    ...given({
      property,
      client: options.client,
      contacts: options.to,
      enrolments: options.about,
      alerts: options.alert,
    }),
  };
  if (options.send !== true && options.copied !== true) {
    const drafts = await context.client.draftLetters({ body: whom });
    output(
      context,
      drafts,
      ({ items }) => {
        for (const [at, { contact, subject, text, before }] of items.entries()) {
          if (at > 0) say();
          printLetter(subject, `${contact.name} (${contact.role}), ${contact.email ?? 'no address'}`, text);
          if (before !== null) sayAside(`They were written to on ${when(before)} and have not answered.`);
        }
      },
      () => {
        const about = [
          property ?? `--client ${options.client ?? ''}`,
          ...(options.about ? ['--about', ...options.about] : []),
          ...(options.alert ? ['--alert', ...options.alert] : []),
        ].join(' ');
        return [`ask ${about} --send`, `ask ${about} --copied`];
      },
    );
    return;
  }
  const written = await context.client.writeLetters({
    body: {
      ...whom,
      way: options.send === true ? 'mail' : 'copied',
      link: options.link,
      ...given({ subject: options.subject }),
      ...(options.text === undefined ? {} : { text: readText(options.text) }),
    },
  });
  output(
    context,
    written,
    ({ items }) => {
      for (const [at, one] of items.entries()) {
        if (one.way === 'mail') {
          say(`Goes to ${plain(one.contact)} (${one.role}), ${plain(one.to ?? '')}: ${plain(one.subject)}`);
          continue;
        }
        if (at > 0) say();
        printLetter(one.subject, `${one.contact} (${one.role})`, one.text);
      }
    },
    () => ['letters --open'],
  );
}

const STATES: Readonly<Record<Letter['state'], string>> = {
  sent: 'sent',
  waiting: 'being sent',
  dead: 'not taken',
  copied: 'copied',
};

async function listed(
  property: string | undefined,
  options: { client?: string; open?: boolean; limit: string; after?: string; json?: boolean },
): Promise<void> {
  const context = openContext(options);
  const { client, open, limit, after } = options;
  const document = await context.client.listLetters({
    query: {
      limit: linesGiven(limit),
      ...given({ property, client }),
      ...(open === true ? { open } : {}),
      ...given({ after }),
    },
  });
  output(
    context,
    document,
    ({ items, next }) => {
      table(
        ['letter', 'at (UTC)', 'to', 'about', 'how', 'subject', 'answer'],
        items.map((one) => [
          one.id,
          when(one.at),
          `${one.contact}, ${one.role}`,
          one.properties.join(', '),
          STATES[one.state],
          one.subject,
          one.answer ?? 'none',
        ]),
        open === true ? 'Every letter was answered.' : 'Nobody was written to yet.',
      );
      if (next !== null) say(`There are more: --after ${plain(next)}`);
    },
    ({ items: [first] }) =>
      first?.answeredAt === null ? [`letters answered ${first.id} "WHAT THEY SAID"`] : [],
  );
}
