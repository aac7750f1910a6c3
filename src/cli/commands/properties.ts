import type { Command } from 'commander';
import type { Access, Property } from '../../api/documents.js';
import { finish, openContext, output, printItems, type Context } from '../context.js';
import { ApiProblem } from '../../client/client.js';
import { askedEach, isSaid, unlessUnwanted } from '../confirm.js';
import { EXIT, Usage } from '../exit.js';
import { factsGiven } from '../facts-given.js';
import { progressWords } from '../../api/progress-words.js';
import { sayNext } from '../print/next.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { plain, say, sayAside, when } from '../print/text.js';
import { given } from '../../api/given.js';

function printProperty(property: Property): void {
  const { host, frontDoor } = property;
  const ascii = host.ascii === host.unicode ? [] : [['in ASCII', property.address]];
  table(
    ['', ''],
    [
      ['property', property.handle],
      ['client', property.client.name],
      ['address', property.addressForPeople],
      ...ascii,
      ['front door', frontDoor.forPeople ?? 'not known yet'],
      ...(property.nameEnds === null ? [] : [['name ends', property.nameEnds]]),
      ...Object.entries(property.facts).map(([fact, answer]) => [`told: ${fact}`, answer]),
      ['seen', frontDoor.says === null ? '–' : `${frontDoor.says} (${when(frontDoor.seenAt)} UTC)`],
    ],
    '',
  );
}

function sayFirst(next: string | null): string {
  return next === null ? '' : `; next: ${next}`;
}

interface EditOptions {
  handle?: string;
  zone?: string;
  files?: string;
  pages?: string;
  nameEnds?: string;
  fact?: string[];
  json?: boolean;
}

function accessOf({ zone, files, pages }: EditOptions): Access {
  const said = Object.entries({ zone, files, pages }).filter(([, answer]) => answer !== undefined);
  for (const [hand, answer] of said)
    if (answer !== 'yes' && answer !== 'no')
      throw new Usage(`“${String(answer)}” is no answer for --${hand}; expected yes or no.`);
  return Object.fromEntries(said);
}

interface AddOptions {
  client: string;
  handle?: string;
  anyway?: boolean;
  page?: boolean;
  json?: boolean;
}

async function add(addresses: readonly string[], options: AddOptions): Promise<void> {
  if (addresses.length > 1 && options.handle !== undefined)
    throw new Usage('--handle names one property: give one address with it.');
  const context = openContext(options);
  const skipped: string[] = [];
  for (const address of addresses)
    try {
      if (!(await addOne(context, address, options))) skipped.push(`${address}: left, as you said`);
    } catch (error) {
      // One of several that cannot be taken on keeps none of the others back.
      const isOwn = error instanceof Usage || (error instanceof ApiProblem && error.problem.status < 500);
      if (addresses.length === 1 || !isOwn) throw error;
      skipped.push(`${address}: ${error.message}`);
    }
  if (skipped.length === 0 || addresses.length === 1) return;
  sayAside(`Not taken on, ${String(skipped.length)} of ${String(addresses.length)}:`);
  for (const one of skipped) sayAside(`  ${plain(one)}`);
  process.exitCode = EXIT.stops;
}

async function addOne(context: Context, address: string, options: AddOptions): Promise<boolean> {
  const { client, handle } = options;
  const body = { client, address, ...given({ handle }) };
  const answered = [
    ...(options.anyway === true ? ['same-site'] : []),
    ...(options.page === true ? ['one-page'] : []),
  ];
  const added = await askedEach(
    answered,
    (anyway) => context.client.addProperty({ body: { ...body, anyway } }),
    'Take it on as a property of its own?',
  );
  if (!added) return false;
  const looked = await context.client.finished({ id: added.job });
  const property = await context.client.showProperty({ params: { property: added.id } });
  output(context, { ...added, ...property }, (one) => {
    printProperty(one);
    for (const note of added.notes) say(plain(note));
    const isUnknown = looked.items[0]?.result?.stops === true;
    if (isUnknown) say('Its front door is not known: check again with “property look” once it answers.');
    sayNext(isUnknown ? `property look ${one.handle}` : `enrol ${one.handle} --fitting`);
  });
  return true;
}

/** `property archive|restore|delete|move` */
function archiveAndMove(property: Command): void {
  property
    .command('archive <property>')
    .description('put a property away; its records stay')
    .option('--anyway', 'although badges are held for it')
    .action(async (ref: string, options: { anyway?: boolean }) => {
      const { client } = openContext({});
      const done = await unlessUnwanted(
        options.anyway === true,
        async (anyway) => {
          await client.archiveProperty({
            params: { property: ref },
            ...(anyway ? { query: { anyway } } : {}),
          });
          return true;
        },
        'Archive it all the same?',
      );
      if (done === null) return;
      say(`Archived ${plain(ref)}; the records stay.`);
      sayNext(`property restore ${plain(ref)}`);
    });
  property
    .command('restore <property>')
    .description('take a property back out of the archive, by the handle or address that it had')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(context, await context.client.restoreProperty({ params: { property: ref } }), (one) => {
        printProperty(one);
        sayNext(`check ${one.handle}`, `next --property ${one.handle}`);
      });
    });
  property
    .command('delete <property>')
    .description('delete a property that was taken on by mistake')
    .option('--yes', 'do not ask first')
    .option('--anyway', 'by a lead: although something was done with it')
    .action(async (ref: string, options: { yes?: boolean; anyway?: boolean }) => {
      const context = openContext({});
      const asked = `This deletes everything that is on record of ${ref}, and nothing brings it back.`;
      if (!(await isSaid(options.yes, asked))) return;
      const job = await unlessUnwanted(
        options.anyway === true,
        (anyway) =>
          context.client.deleteProperty({ params: { property: ref }, body: anyway ? { anyway } : {} }),
        'Delete all of it?',
      );
      if (!job) return;
      const done = await finish(context, job);
      for (const { result } of done.items) say(plain(result?.says ?? ''));
    });
  property
    .command('move <property>')
    .description('give a property to another client')
    .requiredOption('--client <client>', 'whose it is from now on')
    .option('--yes', 'do not ask first')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { client: string; yes?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const shown = await context.client.showProperty({ params: { property: ref } });
      const { version } = shown;
      const to = await context.client.showClient({ params: { client: options.client } });
      const asked = `This moves ${shown.handle} from ${shown.client.name} to ${to.name}, with all that is on record of it.`;
      if (!(await isSaid(options.yes, asked))) return;
      const body = { client: options.client };
      output(
        context,
        await context.client.editProperty({ params: { property: ref }, body }, { ifMatch: version }),
        printProperty,
        ({ client }) => [`property list --client ${client.handle}`],
      );
    });
}

/** `property add|list|show|edit|look|archive|restore|move` */
export function propertyCommands(program: Command): void {
  const property = program.command('property').description('websites of clients');
  archiveAndMove(property);
  property
    .command('add <address...>')
    .description('take on properties, from addresses in any usual form')
    .requiredOption('--client <client>', 'whose it is')
    .option('--handle <handle>', 'a short name for it; made from the host otherwise')
    .option('--anyway', 'although the same site is there already, by another of its addresses')
    .option('--page', 'although it looks like one page of a site')
    .option('--json', 'print the document')
    .action(add);
  property
    .command('list')
    .description('all properties')
    .option('--client <client>', 'of one client')
    .option('--json', 'print the document')
    .action(async (options: { client?: string; json?: boolean }) => {
      const context = openContext(options);
      const query = { limit: 500, ...given({ client: options.client }) };
      const document = await context.client.listProperties({ query });
      output(context, document, ({ items }) => {
        const rows = items.map((one) => [
          one.handle,
          one.client.handle,
          one.frontDoor.forPeople ?? one.addressForPeople,
        ]);
        table(
          ['property', 'client', 'front door'],
          rows,
          'No properties yet. “property add ADDRESS --client CLIENT” takes on the first.',
        );
      });
      const of = options.client === undefined ? '' : ` of ${options.client}`;
      await sayShown(context, { shown: document.items.length, one: 'property', of, next: document.next });
    });
  property
    .command('show <property>')
    .description('one property, by handle, address or a part of either')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.showProperty({ params: { property: ref } });
      output(context, document, printProperty);
      if (options.json === true) return;
      const yard = await context.client.yard({ query: { property: document.id } });
      const [row] = yard.items;
      if (row) say(plain(`Taking on: ${progressWords(row.progress)}${sayFirst(row.progress.next)}.`));
      sayNext(`next --property ${document.handle}`, `variants ${document.handle}`);
    });
  property
    .command('look <property>')
    .description('look at its variants, and where visitors end up')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const job = await finish(context, await context.client.lookAtVariants({ body: { properties: [ref] } }));
      output(
        context,
        job,
        (done) => {
          printItems(done, '');
        },
        () => [`variants ${ref}`],
      );
    });
  property
    .command('edit <property>')
    .description('change a property’s handle, or tell what the client’s people can get at')
    .option('--handle <handle>', 'its new handle')
    .option('--zone <yes|no>', 'the DNS zone')
    .option('--files <yes|no>', 'the web root')
    .option('--pages <yes|no>', 'the page templates')
    .option(
      '--name-ends <day>',
      'when its registered name ends, as its owner says; “unknown” for nobody knows',
    )
    .option('--fact <fact...>', 'what engines are told of it at registration, such as kind=museum')
    .option('--json', 'print the document')
    .action(async (ref: string, options: EditOptions) => {
      const access = accessOf(options);
      const { handle, nameEnds } = options;
      const told = factsGiven(options.fact);
      if (handle === undefined && nameEnds === undefined && Object.keys({ ...access, ...told }).length === 0)
        throw new Usage('Nothing to change: give --handle, --zone, --files, --pages, --name-ends or --fact.');
      const context = openContext(options);
      const { version } = await context.client.showProperty({ params: { property: ref } });
      const body = {
        ...given({ handle }),
        ...(Object.keys(access).length === 0 ? {} : { access }),
        ...told,
        ...(nameEnds === undefined ? {} : { nameEnds: nameEnds === 'unknown' ? null : nameEnds }),
      };
      const edited = await context.client.editProperty(
        { params: { property: ref }, body },
        { ifMatch: version },
      );
      output(context, edited, printProperty, ({ handle }) => [`next --property ${handle}`]);
    });
}
