import type { Command } from 'commander';
import type { Check, Enrolment, Job, Method, Reach } from '../../api/documents.js';
import { finish, openContext, output, printItems, type Context } from '../context.js';
import { EXIT, Usage } from '../exit.js';
import { printCheck, printSpare } from '../print/check.js';
import { printEvidence } from '../print/evidence.js';
import { printFit } from './engines.js';
import { printPlacement } from '../print/put.js';
import { paint, plain, say } from '../print/text.js';

const METHODS = ['meta', 'file', 'dns'];

function method(text: string | undefined): { method?: Method } {
  if (text === undefined) return {};
  if (!METHODS.includes(text)) throw new Usage(`“${text}” is not a method; expected meta, file or dns.`);
  return { method: text as Method };
}

function reach(text: string | undefined): { reach?: Reach } {
  if (text === undefined) return {};
  if (text !== 'name' && text !== 'address')
    throw new Usage(`“${text}” is not a reach; expected name or address.`);
  return { reach: text };
}

function which(refs: readonly string[], all: boolean | undefined): { enrolments?: string[]; all?: boolean } {
  if (all === true) return { all: true };
  if (refs.length === 0)
    throw new Usage('Name a property (ferries) or an enrolment (ferries@veldrane), or give --all.');
  return { enrolments: [...refs] };
}

/** The enrolments that a job was about, as they stand now. */
async function enrolmentsOf(context: Context, job: Job): Promise<Enrolment[]> {
  const names = [
    ...new Set(
      job.items.flatMap((item) => (item.result?.enrolment === undefined ? [] : [item.result.enrolment])),
    ),
  ];
  const properties = [...new Set(names.map((name) => name.slice(0, name.lastIndexOf('@'))))];
  const lists = await Promise.all(
    properties.map((property) => context.client.listEnrolments({ query: { property } })),
  );
  return lists.flatMap(({ items }) => items).filter(({ name }) => names.includes(name));
}

interface Options {
  all?: boolean;
  method?: string;
  json?: boolean;
}

interface EnrolOptions {
  engine?: string[];
  fitting?: boolean;
  reach?: string;
  address?: string;
  account?: string;
  fact?: string[];
  json?: boolean;
}

function facts(given: readonly string[] | undefined): { facts?: Record<string, string> } {
  if (!given) return {};
  const pairs = given.map((text) => {
    const at = text.indexOf('=');
    if (at < 1) throw new Usage(`“${text}” tells nothing; expected such as kind=museum.`);
    return [text.slice(0, at), text.slice(at + 1)] as const;
  });
  return { facts: Object.fromEntries(pairs) };
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

async function enrol(properties: string[], options: EnrolOptions): Promise<void> {
  const { address, engine, fitting, account } = options;
  if ((engine === undefined) === (fitting !== true)) throw new Usage('Give --engine ENGINE…, or --fitting.');
  const context = openContext(options);
  if (fitting === true && !context.json)
    for (const property of properties) printFit((await context.client.fit({ params: { property } })).items);
  const told = facts(options.fact);
  if (!told.facts) await askFacts(context, properties, engine ?? null);
  const body = {
    properties,
    ...(engine ? { engines: engine } : { fitting: true }),
    ...reach(options.reach),
    ...(address === undefined ? {} : { address }),
    ...(account === undefined ? {} : { account }),
    ...told,
  };
  const job = await finish(context, await context.client.enrol({ body }));
  output(context, job, (done) => {
    printItems(done, '');
  });
}

interface TokenOptions extends Options {
  paste?: string;
}

/** Reads what an engine showed, and says what was read out of it. */
async function paste(refs: readonly string[], options: TokenOptions): Promise<void> {
  const [enrolment] = refs;
  if (enrolment === undefined || refs.length > 1)
    throw new Usage('Name the one enrolment that it is for, such as seeds@brindle.');
  const context = openContext(options);
  const { readFileSync } = await import('node:fs');
  const text = options.paste === '-' ? readFileSync(0, 'utf8') : (options.paste ?? '');
  const read = await context.client.pasteToken({
    params: { enrolment },
    body: { text, ...method(options.method) },
  });
  output(context, read, (one) => {
    const news = {
      first: 'noted',
      same: 'known already',
      changed: 'another than before; what was placed is old now',
    };
    say(`Read the ${one.method} token of ${plain(one.enrolment)}: ${plain(one.token)} (${news[one.news]}).`);
    for (const note of one.notes) say(`  ${plain(note)}`);
  });
}

async function tokens(refs: string[], options: TokenOptions): Promise<void> {
  const context = openContext(options);
  const only = method(options.method);
  const job = await finish(
    context,
    await context.client.getTokens({ body: { ...which(refs, options.all), ...only } }),
  );
  const enrolments = await enrolmentsOf(context, job);
  const placements = enrolments.flatMap((enrolment) =>
    enrolment.placements
      .filter((one) => only.method === undefined || one.method === only.method)
      .map((placement) => ({ enrolment, placement })),
  );
  const document = {
    placements: placements.map(({ enrolment, placement }) => ({ enrolment: enrolment.name, ...placement })),
  };
  output(context, document, () => {
    for (const item of job.items)
      if (item.result?.stops === true)
        say(`${paint.red('✗')} ${plain(item.subject)}  ${plain(item.result.says)}`);
    placements.forEach(({ enrolment, placement }, at) => {
      if (at > 0) say();
      printPlacement(enrolment, placement);
    });
  });
}

/** Each check as a block; methods that nobody needs or chose in a line, unless everything is to be explained. */
function printChecks(
  job: Job,
  checks: readonly Check[],
  enrolments: readonly Enrolment[],
  { settled, explain }: { settled: (name: string) => boolean; explain: boolean },
): void {
  for (const item of job.items) {
    const check = item.result?.check;
    if (!check) {
      say(`${paint.red('✗')} ${plain(item.subject)}  ${plain(item.result?.says ?? '')}`);
      continue;
    }
    const isNeeded = check.forecast === 'accept' || !settled(check.enrolment);
    const isChosen = check.tried || !checks.some((one) => one.enrolment === check.enrolment && one.tried);
    if (explain || (isNeeded && isChosen)) printCheck(check);
    else printSpare(check, isNeeded ? 'not tried' : 'not needed');
    const seen = enrolments.flatMap(({ placements }) => placements).find((one) => one.check?.id === check.id);
    if (explain && seen?.check) printEvidence(seen.check);
  }
}

/** `enrol`, `token`, `check`, `claim` */
export function enrolmentCommands(program: Command): void {
  program
    .command('enrol <property...>')
    .description('register properties at engines; what is there already stays as it is')
    .option('--engine <engine...>', 'at which engines')
    .option('--fitting', 'at all that matter to the client’s audience; says why before it does')
    .option(
      '--reach <reach>',
      'name (a name and all hosts under it) or address (one address); address where the engine takes it',
    )
    .option('--address <address>', 'the address to register, in place of the front door')
    .option('--account <name>', 'under which account; the agency’s own otherwise')
    .option('--fact <fact...>', 'what an engine asks of the site, such as kind=museum; remembered')
    .option('--json', 'print the job')
    .action(enrol);
  program
    .command('token [enrolment...]')
    .description('get the tokens, and say exactly what to put where')
    .option('--method <method>', 'only this method: meta, file or dns')
    .option('--paste <text>', 'read the token out of what the engine’s page showed; “-” for standard input')
    .option('--all', 'of every enrolment')
    .option('--json', 'print the placements')
    .action((refs: string[], options: TokenOptions) =>
      options.paste === undefined ? tokens(refs, options) : paste(refs, options),
    );
  program
    .command('check [enrolment...]')
    .description('look at the placements, and say what the engine will say')
    .option('--method <method>', 'only this method: meta, file or dns')
    .option('--all', 'every placement whose token is known')
    .option('--explain', 'with the whole evidence')
    .option('--json', 'print the checks')
    .action(async (refs: string[], options: Options & { explain?: boolean }) => {
      const context = openContext(options);
      const job = await finish(
        context,
        await context.client.check({ body: { ...which(refs, options.all), ...method(options.method) } }),
      );
      const checks = job.items.flatMap((item) => (item.result?.check ? [item.result.check] : []));
      const enrolments = await enrolmentsOf(context, job);
      const settled = (name: string) =>
        enrolments.some((one) => one.name === name && (one.badge === 'in-place' || one.badge === 'held'));
      // A method that nobody uses does not stand in the way where another one is in place.
      const stops =
        checks.some((one) => one.forecast !== 'accept' && !settled(one.enrolment)) ||
        checks.length < job.items.length;
      process.exitCode = stops ? EXIT.stops : EXIT.done;
      output(context, { checks }, () => {
        if (job.items.length === 0) say(paint.dim('Nothing to check: no token is known yet.'));
        printChecks(job, checks, enrolments, { settled, explain: options.explain === true });
      });
    });
  program
    .command('claim [enrolment...]')
    .description('ask engines to confirm ownership; one that would refuse is not asked')
    .option('--ready', 'everything whose token our check sees')
    .option('--method <method>', 'by this method: meta, file or dns')
    .option('--anyway', 'although our check says that the engine will refuse')
    .option('--json', 'print the job')
    .action(async (refs: string[], options: Options & { ready?: boolean; anyway?: boolean }) => {
      const context = openContext(options);
      const chosen = options.ready === true ? { ready: true } : which(refs, undefined);
      const body = {
        ...chosen,
        ...method(options.method),
        ...(options.anyway === true ? { anyway: true } : {}),
      };
      const job = await finish(context, await context.client.claim({ body }));
      output(context, job, (done) => {
        if (done.items.length === 0)
          say(paint.dim('Nothing is ready to be claimed. “next” says what is to be done first.'));
        for (const item of done.items) {
          const mark = item.result?.stops === true ? paint.red('✗') : paint.green('✓');
          say(`${mark} ${plain(item.result?.says ?? item.state)}`);
          if (item.result?.stops === true && item.result.check) printCheck(item.result.check);
          if (item.result?.problem?.code === 'forecast-refuses')
            say(paint.dim('    --anyway claims all the same.'));
        }
      });
    });
}
