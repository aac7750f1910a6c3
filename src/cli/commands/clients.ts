import { Option, type Command } from 'commander';
import { countriesTyped } from '../../api/countries-typed.js';
import type { Client } from '../../api/documents.js';
import { agrees, unlessUnwanted } from '../confirm.js';
import { finish, openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { progressWords } from '../../api/progress-words.js';
import { sayNext } from '../print/next.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { plain, say, when } from '../print/text.js';
import { plainHandle } from '../../api/formats.js';
import { given } from '../../api/given.js';

function audienceWords({ audience }: Pick<Client, 'audience'>): string {
  return audience.join(' ') || 'everyone';
}

function printClient(one: Client): void {
  table(
    ['', ''],
    [
      ['client', one.handle],
      ['name', one.name],
      ['contact', one.contact ?? '–'],
      ['audience', audienceWords(one)],
      ['claims', one.claims ?? 'as the agency’s settings say'],
      ['properties', String(one.properties)],
      ['taking on', one.properties === 0 ? '–' : progressWords(one.progress)],
    ],
    '',
  );
}

/** Clients in the archive, by the handles that they had. */
function printArchived(clients: readonly Client[]): void {
  table(
    ['client', 'name', 'archived', 'records kept until'],
    clients.map((one) => [
      plainHandle(one.handle),
      one.name,
      when(one.archivedAt),
      one.deleteOn === null ? 'no day said' : one.deleteOn.slice(0, 10),
    ]),
    'No client is in the archive. “handover CLIENT --end” and “client archive CLIENT” put one there.',
  );
}

interface AddOptions {
  handle?: string;
  contact?: string;
  audience?: string;
  anyway?: boolean;
  json?: boolean;
}

async function add(name: string, options: AddOptions): Promise<void> {
  const context = openContext(options);
  const { handle, contact, audience } = options;
  const body = {
    name,
    ...given({ handle, contact }),
    ...(audience === undefined ? {} : { audience: countriesTyped(audience) }),
  };
  const added = await unlessUnwanted(
    options.anyway === true,
    (anyway) => context.client.addClient({ body: { ...body, ...(anyway ? { anyway } : {}) } }),
    'Add another?',
  );
  if (!added) return;
  output(context, added, (one) => {
    say(`Added ${plain(one.name)} as ${one.handle}, for ${audienceWords(one)}.`);
    sayNext(`property add ADDRESS --client ${one.handle}`);
  });
}

interface EditOptions {
  name?: string;
  handle?: string;
  contact?: string;
  audience?: string;
  claims?: ClaimsChoice;
  json?: boolean;
}

/** Who makes the claims of a client, as it is typed. */
const CLAIMS_CHOICES = ['by-person', 'by-themselves', 'as-agency'] as const;
type ClaimsChoice = (typeof CLAIMS_CHOICES)[number];

async function edit(ref: string, options: EditOptions): Promise<void> {
  const { name, handle, contact, audience, claims } = options;
  const body = {
    ...(claims === undefined ? {} : { claims: claims === 'as-agency' ? null : claims }),
    ...given({ name, handle }),
    ...(contact === undefined ? {} : { contact: contact === '' ? null : contact }),
    ...(audience === undefined ? {} : { audience: audience === 'everyone' ? [] : countriesTyped(audience) }),
  };
  if (Object.keys(body).length === 0)
    throw new Usage('Nothing to change: give --name, --handle, --contact, --audience or --claims.');
  const context = openContext(options);
  const { id, version } = await context.client.showClient({ params: { client: ref } });
  output(
    context,
    await context.client.editClient({ params: { client: id }, body }, { ifMatch: version }),
    printClient,
    ({ handle }) => [`property list --client ${handle}`],
  );
}

/** Deletes what there is of a client, once whoever asks has said so. */
async function remove(ref: string, options: { yes?: boolean; anyway?: boolean }): Promise<void> {
  const context = openContext({});
  const isSaid = options.anyway === true;
  const isWanted =
    options.yes === true ||
    (await agrees(`All records of ${ref} will be deleted and cannot be brought back. Delete them?`));
  if (isWanted === null) throw new Usage('Deleting asks first. Give --yes to delete without being asked.');
  if (!isWanted) return;
  const job = await unlessUnwanted(
    isSaid,
    (anyway) => context.client.deleteClient({ params: { client: ref }, body: anyway ? { anyway } : {} }),
    'Delete them all the same?',
  );
  if (job === null) return;
  for (const { result } of (await finish(context, job)).items) if (result) say(plain(result.says));
}

/** `client add|list|show|edit|archive|restore|delete` */
export function clientCommands(program: Command): void {
  const client = program.command('client').description('clients of the agency');
  client
    .command('add <name>')
    .description('add a client')
    .option('--handle <handle>', 'a short name for it; made from the name otherwise')
    .option('--contact <contact>', 'whom to write to')
    .option('--audience <countries>', 'countries of its audience by code or name, such as “FI, Estonia”')
    .option('--anyway', 'although a client of that name is there already')
    .option('--json', 'print the document')
    .action(add);
  client
    .command('list')
    .description('all clients')
    .option('--without-property', 'those that have no website yet')
    .option('--archived', 'those in the archive instead, and until when their records are to be kept')
    .option('--json', 'print the document')
    .action(async (options: { archived?: boolean; withoutProperty?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const archived = options.archived === true;
      const document = await context.client.listClients({
        query: {
          limit: 500,
          archived,
          ...(options.withoutProperty === true ? { without: 'property' } : {}),
        },
      });
      output(context, document, ({ items }) => {
        if (archived) {
          printArchived(items);
          return;
        }
        const rows = items.map((one) => [
          one.handle,
          one.name,
          String(one.properties),
          one.properties === 0 ? '–' : progressWords(one.progress),
          audienceWords(one),
          one.contact ?? '–',
        ]);
        table(
          ['client', 'name', 'properties', 'taking on', 'audience', 'contact'],
          rows,
          'No clients yet. “client add NAME” adds the first.',
        );
      });
      await sayShown(context, { shown: document.items.length, one: 'client', next: document.next });
    });
  client
    .command('show <client>')
    .description('one client, by handle, name or a part of either')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(
        context,
        await context.client.showClient({ params: { client: ref } }),
        printClient,
        ({ handle }) => [`property list --client ${handle}`, `next --client ${handle}`],
      );
    });
  client
    .command('edit <client>')
    .description('change a client’s name, handle, contact or audience')
    .option('--name <name>', 'its new name')
    .option('--handle <handle>', 'its new handle')
    .option('--contact <contact>', 'whom to write to; empty for nobody')
    .option('--audience <countries>', 'countries of its audience, or “everyone”')
    .addOption(
      new Option(
        '--claims <who>',
        'who claims once a token is in place and the engine would accept it',
      ).choices(CLAIMS_CHOICES),
    )
    .option('--json', 'print the document')
    .action(edit);
  client
    .command('archive <client>')
    .description('put a client away; its records stay')
    .option('--anyway', 'with its properties, even if they hold badges')
    .action(async (ref: string, options: { anyway?: boolean }) => {
      const { client } = openContext({});
      const done = await unlessUnwanted(
        options.anyway === true,
        async (anyway) => {
          await client.archiveClient({ params: { client: ref }, ...(anyway ? { query: { anyway } } : {}) });
          return true;
        },
        'Archive it with them?',
      );
      if (done === null) return;
      say(`Archived ${plain(ref)}; the records stay.`);
      sayNext(`client restore ${plain(ref)}`);
    });
  client
    .command('delete <client>')
    .description('delete all records of a client in the archive, for good')
    .option('--yes', 'do not ask first')
    .option('--anyway', 'before the day on which they are due')
    .action(remove);
  client
    .command('restore <client>')
    .description('take a client back out of the archive')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.restoreClient({ params: { client: ref } }), (one) => {
        say(`Restored ${plain(one.name)} as ${one.handle}.`);
        sayNext('property restore PROPERTY');
      });
    });
}
