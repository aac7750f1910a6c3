import type { Command } from 'commander';
import type { Reach } from '../../api/documents.js';
import { finish, openContext, output, printItems, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { factsGiven } from '../facts-given.js';
import { sayNext } from '../print/next.js';
import { plain, say } from '../print/text.js';
import { printFit, printPlan } from './engines.js';
import { given } from '../../api/given.js';

function reach(text: string | undefined): { reach?: Reach } {
  if (text === undefined) return {};
  if (text !== 'name' && text !== 'address')
    throw new Usage(`“${text}” is not a reach; expected name or address.`);
  return { reach: text };
}

interface EnrolOptions {
  engine?: string[];
  fitting?: boolean;
  missing?: boolean;
  client?: string;
  show?: boolean;
  reach?: string;
  address?: string;
  account?: string;
  fact?: string[];
  json?: boolean;
}

/** What the engines ask and nobody has told, asked of the one who sits at the terminal. */
async function askFacts(
  context: Context,
  properties: readonly string[],
  engines: readonly string[] | null,
): Promise<void> {
  if (!process.stdin.isTTY || context.json) return;
  const { createInterface } = await import('node:readline/promises');
  const asking = createInterface({ input: process.stdin, output: process.stderr });
  for (const property of properties) {
    const { items } = await context.client.fit({ params: { property } });
    const wants = items
      .filter((one) => (engines ? engines.includes(one.engine.id) : one.fits))
      .flatMap((one) => one.wants);
    const told: Record<string, string> = {};
    for (const want of wants) {
      if (told[want.id] !== undefined) continue;
      const choice = want.oneOf ? ` (${want.oneOf.join(', ')})` : '';
      const answer = (
        await asking.question(`${plain(property)}: ${plain(want.title)}${plain(choice)}? `)
      ).trim();
      if (answer !== '') told[want.id] = answer;
    }
    if (Object.keys(told).length > 0)
      await context.client.editProperty({ params: { property }, body: { facts: told } });
  }
  asking.close();
}

/** Shows the registration plan of each property; where nobody has looked at its variants yet, looks first. */
async function showPlans(
  context: Context,
  properties: readonly string[],
  options: EnrolOptions,
): Promise<void> {
  for (const property of properties) {
    const { frontDoor } = await context.client.showProperty({ params: { property } });
    if (frontDoor.seenAt === null)
      await finish(context, await context.client.lookAtVariants({ body: { properties: [property] } }));
    const fit = await context.client.fit({ params: { property } });
    if (context.json && options.show !== true) continue;
    output(context, fit, ({ items }) => {
      printFit(items);
      if (options.reach !== undefined || options.address !== undefined) return;
      say();
      printPlan(items);
      say();
    });
  }
}

/** The handles of all properties of a client. Throws Usage where it has none. */
async function propertiesOf({ client }: Context, ref: string): Promise<string[]> {
  const handles: string[] = [];
  for (let after: string | null | undefined; after !== null;) {
    const query = { client: ref, limit: 500, ...given({ after }) };
    const { items, next } = await client.listProperties({ query });
    handles.push(...items.map(({ handle }) => handle));
    after = next;
  }
  if (handles.length === 0)
    throw new Usage(`${ref} has no property yet: “property add ADDRESS --client ${ref}” takes one on.`);
  return handles;
}

/** All engines at which something can be registered. */
async function allEngines({ client }: Context): Promise<string[]> {
  const { items } = await client.listEngines();
  return items.filter(({ worked }) => worked !== 'borrowed').map(({ id }) => id);
}

async function enrol(properties: string[], options: EnrolOptions): Promise<void> {
  const { address, engine, fitting, account } = options;
  if (options.show === true && fitting !== true)
    throw new Usage('--show shows the plan of --fitting; give both.');
  if ((engine === undefined) === (fitting !== true)) throw new Usage('Give --engine ENGINE…, or --fitting.');
  const isNamed = properties.length > 0;
  if (isNamed && (options.missing === true || options.client !== undefined))
    throw new Usage('Name properties, or give --client or --missing: not both.');
  if (!isNamed && options.missing !== true && options.client === undefined)
    throw new Usage(
      'Name properties; or give --client for all of a client, or --missing for all that should be enrolled and are not.',
    );
  const context = openContext(options);
  if (!isNamed && options.missing !== true) properties = await propertiesOf(context, options.client ?? '');
  if (fitting === true) await showPlans(context, properties, options);
  if (options.show === true) return;
  const told = factsGiven(options.fact);
  if (!told.facts) await askFacts(context, properties, engine ?? null);
  const body = {
    ...(options.missing === true ? { missing: true as const } : { properties }),
    ...(options.client === undefined || options.missing !== true ? {} : { client: options.client }),
    ...(engine
      ? { engines: engine }
      : options.missing === true
        ? { engines: await allEngines(context) }
        : { fitting: true }),
    ...reach(options.reach),
    ...given({ address, account }),
    ...told,
  };
  const job = await finish(context, await context.client.enrol({ body }));
  output(context, job, (done) => {
    printItems(done, 'Nothing is missing there.');
    const first = done.items.find(({ result }) => result?.stops === false)?.result?.enrolment;
    const property = first?.slice(0, first.lastIndexOf('@'));
    if (property !== undefined) sayNext(`token ${properties.length > 1 ? properties.join(' ') : property}`);
  });
}

/** `enrol` */
export function enrolCommand(program: Command): void {
  program
    .command('enrol [property...]')
    .description('register properties at engines; what is there already stays as it is')
    .option('--engine <engine...>', 'at which engines')
    .option(
      '--fitting',
      'at all that matter to the client’s audience, by the registration plan; shows it first',
    )
    .option('--missing', 'all properties that should be enrolled with the engines and are not')
    .option('--client <client>', 'all properties of one client; with --missing, those of them')
    .option('--show', 'only show the plan')
    .option(
      '--reach <reach>',
      'name (a name and all hosts under it) or address (one address); address where the engine takes it',
    )
    .option('--address <address>', 'the address to register, in place of the front door')
    .option('--account <name>', 'under which account; the agency’s own otherwise')
    .option('--fact <fact...>', 'what an engine asks of the site, such as kind=museum; remembered')
    .option('--json', 'print the job')
    .action(enrol);
}
