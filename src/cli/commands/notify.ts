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
import { given } from '../../api/given.js';

interface NotifyOptions {
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
function changesOf({
  email,
  zone,
  digest,
  atOnce,
  clients,
}: NotifyOptions): InputOf<'editRecipient'>['body'] {
  const isHour = digest !== undefined && digest !== 'on' && digest !== 'off';
  return {
    ...(email === undefined ? {} : { email: email === 'none' ? null : email }),
    ...given({ zone }),
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

/** `notify`, `notify report`, `webhook add|list|end`, `alerts`, `notifications` */
export function notifyCommands(program: Command): void {
  const notify = program
    .command('notify [person]')
    .description('who gets which alerts by mail; a lead may name somebody else')
    .option('--email <address>', 'where to; “none” for nowhere')
    .option('--zone <zone>', 'their time zone, such as Europe/Berlin')
    .option('--digest <hour>', 'when the daily digest is sent, such as 07:30; on or off')
    .option('--at-once <on-or-off>', 'whether urgent alerts come at once')
    .option('--clients <clients>', 'of these clients only, with commas between; “all” for all')
    .option('--json', 'print the document')
    .action(async (person: string | undefined, options: NotifyOptions) => {
      const context = openContext(options);
      const body = changesOf(options);
      if (Object.keys(body).length > 0)
        await context.client.editRecipient({ params: { person: person ?? 'me' }, body });
      const { items } = await context.client.listRecipients();
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
        () => ['notify --email you@agency.example', 'alerts'],
      );
    });
  reportCommands(notify);
  webhookCommands(program);
  program
    .command('alerts')
    .description('what slipped, was lost or will be, newest first: open, or resolved')
    .option('--property <property>', 'of one property')
    .option('--client <client>', 'of one client')
    .option('--kind <kind>', 'of one kind, such as slipping')
    .option('--resolved', 'those that are resolved')
    .option('--limit <number>', 'how many lines', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(
      async (options: {
        property?: string;
        client?: string;
        kind?: string;
        resolved?: boolean;
        limit: string;
        after?: string;
        json?: boolean;
      }) => {
        const context = openContext(options);
        const { json, limit, ...narrow } = options;
        const document = await context.client.listAlerts({
          query: { ...(narrow as InputOf<'listAlerts'>['query']), limit: linesGiven(limit) },
        });
        output(context, document, ({ items }) => {
          table(
            [
              'alert',
              'since (UTC)',
              'what',
              'property',
              options.resolved === true ? 'resolved' : 'notified',
              'why',
            ],
            items.map((one) => [
              one.id,
              when(one.since),
              one.kind,
              one.property ?? '–',
              one.endedAt === null
                ? one.notifiedAt === null
                  ? 'not yet'
                  : when(one.notifiedAt)
                : when(one.endedAt),
              one.says,
            ]),
            options.resolved === true ? 'No alert is resolved yet.' : 'No alert is open.',
          );
        });
        const { items, counts, next } = document;
        const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
        await sayShown(context, { shown: items.length, all, one: 'alert', kinds: inWords(counts), next });
        const [first] = items;
        if (first?.property != null && json !== true)
          sayNext(`next --property ${first.property}`, 'notifications');
      },
    );
  notificationCommands(program);
}

function webhookCommands(program: Command): void {
  const webhook = program
    .command('webhook')
    .description('programs of yours that get each alert as a signed request (CloudEvents 1.0)');
  webhook
    .command('add <url>')
    .description('add one; the secret for its signatures is shown this once')
    .option('--client <client>', 'of one client only')
    .option('--json', 'print the document')
    .action(async (url: string, options: { client?: string; json?: boolean }) => {
      const context = openContext(options);
      const { client } = options;
      const document = await context.client.addWebhook({
        body: { url, ...given({ client }) },
      });
      output(
        context,
        document,
        (one) => {
          say(`${plain(one.url)} gets alerts from now on, as ${one.id}.`);
          say(`Its requests are signed (RFC 9421, hmac-sha256) with this secret, which is not shown again:`);
          sayBlock(`  ${one.secret}`);
        },
        () => ['webhook list', 'notifications'],
      );
    });
  webhook
    .command('list')
    .description('the webhooks there are')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.listWebhooks();
      output(context, document, ({ items }) => {
        table(
          ['id', 'address', 'of', 'since (UTC)'],
          items.map((one) => [one.id, one.url, one.client ?? 'all clients', when(one.createdAt)]),
          'No webhook yet. “webhook add URL” adds one.',
        );
      });
    });
  webhook
    .command('end <id>')
    .description('remove one')
    .action(async (id: string) => {
      const { client } = openContext({});
      await client.endWebhook({ params: { id } });
      say('It gets no more alerts.');
      sayNext('webhook list');
    });
}

function notificationCommands(program: Command): void {
  const notifications = program
    .command('notifications')
    .description('what was sent to people and webhooks, newest first, and whether it arrived')
    .option('--state <state>', 'sent, waiting or dead')
    .option('--limit <number>', 'how many lines', '20')
    .option('--after <place>', 'from where an earlier page ended')
    .option('--json', 'print the document')
    .action(async (options: { state?: string; limit: string; after?: string; json?: boolean }) => {
      const context = openContext(options);
      const { state, limit, after } = options;
      const query = {
        ...given({ state, after }),
        limit: Number(limit),
      } as NonNullable<InputOf<'listNotifications'>['query']>;
      const document = await context.client.listNotifications({ query });
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
          'No notification yet. “notify --email ADDRESS” sets where yours go.',
        );
      });
      await sayShown(context, { shown: document.items.length, one: 'notification', next: document.next });
      const dead = document.items.find((one) => one.state === 'dead');
      if (options.json !== true && document.items[0])
        sayNext(
          `notifications show ${document.items[0].id}`,
          ...(dead ? [`notifications retry ${dead.id}`] : []),
        );
    });
  notifications
    .command('show <id>')
    .description('one notification with its text')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.showNotification({ params: { id } });
      output(context, document, (one) => {
        say(`To ${plain(one.to)}: ${plain(one.subject)}`);
        say();
        sayBlock(one.text);
      });
    });
  notifications
    .command('retry <id>')
    .description('send one again that was given up')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.retryNotification({ params: { id } });
      output(
        context,
        document,
        (one) => {
          say(`“${plain(one.subject)}” is sent again.`);
        },
        () => ['notifications'],
      );
    });
}
