import type { Command } from 'commander';
import type { InputOf } from '../../api/routes.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { linesGiven } from '../lines-given.js';
import { sayNext } from '../print/next.js';
import { inWords, sayShown } from '../print/list-footer.js';
import { reportCommands } from './notify-report.js';
import { table } from '../print/table.js';
import { plain, say, sayBlock, when } from '../print/text.js';

interface TellOptions {
  email?: string;
  zone?: string;
  digest?: string;
  atOnce?: string;
  clients?: string;
  json?: boolean;
}

function onOrOff(name: string, text: string): boolean {
  if (text === 'on' || text === 'off') return text === 'on';
  throw new Usage(`“${text}” is neither on nor off, as ${name} expects.`);
}

/** What is to be changed. Throws Usage. */
function changesOf({ email, zone, digest, atOnce, clients }: TellOptions): InputOf<'editTelling'>['body'] {
  const isHour = digest !== undefined && digest !== 'on' && digest !== 'off';
  return {
    ...(email === undefined ? {} : { email: email === 'none' ? null : email }),
    ...(zone === undefined ? {} : { zone }),
    ...(digest === undefined
      ? {}
      : isHour
        ? { digest: true, digestAt: digest }
        : { digest: onOrOff('--digest', digest) }),
    ...(atOnce === undefined ? {} : { atOnce: onOrOff('--at-once', atOnce) }),
    ...(clients === undefined
      ? {}
      : { clients: clients === 'all' ? null : clients.split(',').map((one) => one.trim()) }),
  };
}

/** `tell`, `tell hook add|list|end`, `cases`, `messages` */
export function notifyCommands(program: Command): void {
  const tell = program
    .command('tell [person]')
    .description('who gets which alerts by mail; a lead may name somebody else')
    .option('--email <address>', 'where to; “none” for nowhere')
    .option('--zone <zone>', 'her time zone, such as Europe/Berlin')
    .option('--digest <hour>', 'when her digest is due, such as 07:30; on or off')
    .option('--at-once <on-or-off>', 'whether urgent alerts come at once')
    .option('--clients <clients>', 'of these clients only, with commas between; “all” for all')
    .option('--json', 'print the document')
    .action(async (person: string | undefined, options: TellOptions) => {
      const context = openContext(options);
      const body = changesOf(options);
      if (Object.keys(body).length > 0)
        await context.client.editTelling({ params: { person: person ?? 'me' }, body });
      const { items } = await context.client.listTellings();
      const shown = person === undefined ? items : items.filter((one) => one.person === person);
      output(
        context,
        { items: shown },
        () => {
          table(
            ['who', 'mail to', 'at once', 'digest', 'of'],
            shown.map((one) => [
              one.person,
              one.email ?? 'nowhere',
              one.atOnce ? 'yes' : 'no',
              one.digest ? `${one.digestAt} ${one.zone}` : 'no',
              one.clients === null ? 'all clients' : one.clients.join(', '),
            ]),
            'There is nobody of that name, or only a lead may see them.',
          );
        },
        () => ['tell --email you@agency.example', 'cases'],
      );
    });
  hookCommands(tell);
  reportCommands(tell);
  program
    .command('cases')
    .description('what people are told of: open, or over')
    .option('--property <property>', 'of one property')
    .option('--client <client>', 'of one client')
    .option('--kind <kind>', 'of one kind, such as slipping')
    .option('--over', 'those that are over')
    .option('--limit <number>', 'how many lines', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(
      async (options: {
        property?: string;
        client?: string;
        kind?: string;
        over?: boolean;
        limit: string;
        after?: string;
        json?: boolean;
      }) => {
        const context = openContext(options);
        const { json, limit, ...narrow } = options;
        const document = await context.client.listCases({
          query: { ...(narrow as InputOf<'listCases'>['query']), limit: linesGiven(limit) },
        });
        output(context, document, ({ items }) => {
          table(
            ['case', 'since (UTC)', 'what', 'property', 'told', 'why'],
            items.map((one) => [
              one.id,
              when(one.since),
              one.kind,
              one.property ?? '–',
              one.endedAt === null
                ? one.toldAt === null
                  ? 'not yet'
                  : when(one.toldAt)
                : `over ${when(one.endedAt)}`,
              one.says,
            ]),
            options.over === true ? 'Nothing is over yet.' : 'No alert is open.',
          );
        });
        const { items, counts, next } = document;
        const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
        await sayShown(context, { shown: items.length, all, one: 'case', kinds: inWords(counts), next });
        const [first] = items;
        if (first?.property != null && json !== true)
          sayNext(`next --property ${first.property}`, 'messages');
      },
    );
  messageCommands(program);
}

function hookCommands(tell: Command): void {
  const hook = tell
    .command('hook')
    .description('addresses that are told by signed requests (CloudEvents 1.0)');
  hook
    .command('add <url>')
    .description('have an address told of cases; the secret for the signature is shown this once')
    .option('--client <client>', 'of one client only')
    .option('--json', 'print the document')
    .action(async (url: string, options: { client?: string; json?: boolean }) => {
      const context = openContext(options);
      const { client } = options;
      const document = await context.client.addHook({
        body: { url, ...(client === undefined ? {} : { client }) },
      });
      output(
        context,
        document,
        (one) => {
          say(`${plain(one.url)} gets alerts from now on, as ${one.id}.`);
          say(`Its requests are signed (RFC 9421, hmac-sha256) with this secret, which is not shown again:`);
          sayBlock(`  ${one.secret}`);
        },
        () => ['tell hook list', 'messages'],
      );
    });
  hook
    .command('list')
    .description('those there are')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.listHooks();
      output(context, document, ({ items }) => {
        table(
          ['id', 'address', 'of', 'since (UTC)'],
          items.map((one) => [one.id, one.url, one.client ?? 'all clients', when(one.createdAt)]),
          'No webhook yet. “tell hook add URL” adds one.',
        );
      });
    });
  hook
    .command('end <id>')
    .description('tell it no more')
    .action(async (id: string) => {
      const { client } = openContext({});
      await client.endHook({ params: { id } });
      say('It gets no more alerts.');
      sayNext('tell hook list');
    });
}

function messageCommands(program: Command): void {
  const messages = program
    .command('messages')
    .description('messages to people and addresses, newest first, and whether they were sent')
    .option('--state <state>', 'sent, waiting or dead')
    .option('--limit <number>', 'how many lines', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(async (options: { state?: string; limit: string; after?: string; json?: boolean }) => {
      const context = openContext(options);
      const { state, limit, after } = options;
      const query = {
        ...(state === undefined ? {} : { state }),
        ...(after === undefined ? {} : { after }),
        limit: Number(limit),
      } as NonNullable<InputOf<'listMessages'>['query']>;
      const document = await context.client.listMessages({ query });
      output(context, document, ({ items }) => {
        table(
          ['written (UTC)', 'id', 'to', 'state', 'what'],
          items.map((one) => [
            when(one.createdAt),
            one.id,
            one.to,
            one.state === 'sent'
              ? `sent ${when(one.at)}`
              : `${one.state}, tried ${String(one.tries)} times: ${one.fault ?? ''}`,
            one.subject,
          ]),
          'No message yet. “tell --email ADDRESS” sets where yours go.',
        );
      });
      await sayShown(context, { shown: document.items.length, one: 'message', next: document.next });
      const dead = document.items.find((one) => one.state === 'dead');
      if (options.json !== true && document.items[0])
        sayNext(`messages show ${document.items[0].id}`, ...(dead ? [`messages retry ${dead.id}`] : []));
    });
  messages
    .command('show <id>')
    .description('one message with its text')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.showMessage({ params: { id } });
      output(context, document, (one) => {
        say(`To ${plain(one.to)}: ${plain(one.subject)}`);
        say();
        sayBlock(one.text);
      });
    });
  messages
    .command('retry <id>')
    .description('try one once more that was given up')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.retryMessage({ params: { id } });
      output(
        context,
        document,
        (one) => {
          say(`“${plain(one.subject)}” is tried once more.`);
        },
        () => ['messages'],
      );
    });
}
