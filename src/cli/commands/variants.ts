import type { Command } from 'commander';
import type { Job, Variants } from '../../api/documents.js';
import { finish, openContext, output, printItems, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { printHistory, printVariants, printWhatWasSeen } from '../print/variants.js';

interface VariantOptions {
  look?: boolean;
  all?: boolean;
  addHost?: string;
  dropHost?: string;
  history?: boolean;
  explain?: boolean;
  json?: boolean;
}

async function lookAtAll(context: Context): Promise<void> {
  const job = await finish(context, await context.client.lookAtVariants({ body: { all: true } }));
  output(
    context,
    job,
    (done) => {
      printItems(done, 'No properties yet.');
    },
    () => ['next --kind mend-site', 'variants PROPERTY'],
  );
}

/** What has to be done before the variants are shown: a host added or taken off, or a new look; null where nothing is. */
async function before(context: Context, property: string, options: VariantOptions): Promise<Job | null> {
  const { client } = context;
  if (options.addHost !== undefined)
    return client.addHost({ params: { property }, body: { host: options.addHost } });
  if (options.dropHost !== undefined)
    return client.dropHost({ params: { property, host: options.dropHost } });
  const isNew = (await client.showVariants({ params: { property } })).seenAt === null;
  return options.look === true || isNew ? client.lookAtVariants({ body: { properties: [property] } }) : null;
}

async function variants(property: string | undefined, options: VariantOptions): Promise<void> {
  const context = openContext(options);
  if (options.all === true) {
    if (property !== undefined) throw new Usage('Name a property, or give --all; not both.');
    await lookAtAll(context);
    return;
  }
  if (property === undefined) throw new Usage('Name a property, or give --all to look at every one.');
  if (options.addHost !== undefined && options.dropHost !== undefined)
    throw new Usage('Give one of --add-host and --drop-host.');
  const job = await before(context, property, options);
  if (job) await finish(context, job);
  const seen: Variants = await context.client.showVariants({ params: { property } });
  output(
    context,
    seen,
    (one) => {
      printVariants(one);
      if (options.explain === true) printWhatWasSeen(one);
      if (options.history === true) printHistory(one);
    },
    ({ property: { handle } }) => [`enrol ${handle} --fitting --show`, `next --property ${handle}`],
  );
  if (seen.findings.some(({ grade }) => grade === 'stops')) process.exitCode = 1;
}

/** `variants` */
export function variantsCommand(program: Command): void {
  program
    .command('variants [property]')
    .description('the addresses by which a property answers, their roles, and which of them a badge covers')
    .option('--look', 'check again first; a property that was never checked is checked anyway')
    .option('--all', 'look at every property')
    .option('--add-host <host>', 'a host that belongs to it besides the usual ones')
    .option('--drop-host <host>', 'take a host off it')
    .option('--explain', 'everything that was seen of each')
    .option('--history', 'what was so before, too')
    .option('--json', 'print the document')
    .action(variants);
}
