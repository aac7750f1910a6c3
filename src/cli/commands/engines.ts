import { basename } from 'node:path';
import type { Command } from 'commander';
import type { Account, Engine, Fit } from '../../api/documents.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { readText } from '../read-file.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { paint, plain, say, when } from '../print/text.js';

const WORKED: Readonly<Record<Engine['worked'], string>> = {
  link: 'linked',
  hand: 'manual',
  house: 'by the agency',
  borrowed: 'through another',
};

function audience(engine: Engine): string {
  return engine.audience === 'everyone' ? 'everyone' : engine.audience.join(' ');
}

/** How an engine's link stands, over all its accounts: what is off, else what the newest word was. */
function linkWord(engine: Engine): string {
  if (engine.from) return `shows ${engine.from.title}’s results`;
  if (engine.worked !== 'link') return 'needs none';
  const links = engine.accounts.flatMap((account) => account.links);
  const off = links.filter(({ state }) => state === 'waits');
  const broken = links.filter(({ state }) => state === 'unreached');
  if (off.length > 0)
    return `waits: ${off.map(({ work, until }) => (until === null ? work : `${work} until ${when(until)}`)).join(', ')}`;
  if (broken.length > 0) return `no answer since ${when(broken[0]?.since ?? null)}`;
  return links.length > 0 ? `answers, last ${when(links[0]?.at ?? null)}` : 'not asked yet';
}

function keyWord({ key }: Account): string {
  switch (key.from) {
    case 'environment':
      return `${key.variable ?? ''}${key.ready ? '' : ', not set'}`;
    case 'sealed':
      return 'kept sealed';
    case 'none':
      return 'none';
    case 'not-needed':
      return 'needs none';
  }
}

function printEngine(engine: Engine): void {
  say(
    `${paint.bold(plain(engine.title))}  ${paint.dim(`${engine.id}, worked ${WORKED[engine.worked]}, matters to ${audience(engine)}`)}`,
  );
  for (const rule of engine.rules) say(`  ${plain(rule)}`);
  for (const account of engine.accounts) {
    const passed = account.passedOn
      ? `, passed on to ${account.passedOn.to.name} ${when(account.passedOn.at)}`
      : '';
    say();
    say(
      `  account ${plain(account.name)}: ${String(account.enrolments)} enrolment${account.enrolments === 1 ? '' : 's'}, key ${keyWord(account)}${plain(passed)}`,
    );
    for (const link of account.links) {
      const until = link.until === null ? '' : `, until ${when(link.until)}`;
      const says = link.says === null ? '' : `: ${plain(link.says)}`;
      say(`    ${link.work.padEnd(10)} ${link.state} since ${when(link.since)}${until}${says}`);
    }
  }
}

function printAccounts(items: readonly Account[]): void {
  table(
    ['account', 'key', 'enrolments', 'passed on'],
    items.map((one) => [
      `${one.engine}/${one.name}`,
      keyWord(one),
      String(one.enrolments),
      one.passedOn ? `${one.passedOn.to.name}, ${when(one.passedOn.at)}` : '–',
    ]),
    'No accounts yet: each engine has one of the agency’s own once it is known; “account add ENGINE NAME” adds another.',
  );
}

/** Which engines matter to a property, and why. */
export function printFit(items: readonly Fit[]): void {
  table(
    ['engine', '', 'why', 'enrolled'],
    items.map((one) => [
      one.engine.id,
      one.fits ? 'fits' : 'not needed',
      one.why,
      one.enrolled.map((name) => name.slice(name.lastIndexOf(':') + 1)).join(' ') || '–',
    ]),
    '',
  );
}

/** The registration plan: what is there, what is worth enrolling, and why. */
export function printPlan(items: readonly Fit[]): void {
  const lines = items.flatMap(({ engine, fits, plan }) =>
    plan.filter(({ there }) => fits || there !== null).map((line) => ({ engine: engine.id, ...line })),
  );
  table(
    ['plan', 'reach', 'what', 'why'],
    lines.map((one) => [
      one.engine,
      `${one.reach}${one.there === null ? ', to enrol' : ', there'}`,
      one.targetForPeople,
      one.why,
    ]),
    'No plan yet: where visitors end up is not known. “variants PROPERTY --look” looks again.',
  );
}

/** A key from a file or from standard input: never from the command line, where others could read it. */
function keyGiven(options: { keyFrom?: string; keyFile?: string }): { keyFrom?: string; key?: string } {
  if (options.keyFrom !== undefined) return { keyFrom: options.keyFrom };
  if (options.keyFile === undefined) return {};
  const key = readText(options.keyFile).trim();
  if (key === '') throw new Usage('The key is empty. Expected the key that the engine gave for the account.');
  return { key };
}

/** `engine list|show|add|fit` */
function engines(program: Command): void {
  const engine = program.command('engine').description('search engines and their rules');
  engine
    .command('list')
    .description('all engines, and how their links stand')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.listEngines();
      output(context, document, ({ items }) => {
        const rows = items.map((one) => [
          one.id,
          audience(one),
          WORKED[one.worked],
          one.reaches.join(' ') || '–',
          one.methods.join(' ') || '–',
          one.takesSitemaps ? 'yes' : 'no',
          linkWord(one),
        ]);
        table(
          ['engine', 'matters to', 'worked', 'reach', 'methods', 'sitemaps', 'link'],
          rows,
          'No engines. “engine add FILE” adds one by its profile.',
        );
      });
      await sayShown(context, { shown: document.items.length, one: 'engine' });
    });
  engine
    .command('show <engine>')
    .description('one engine’s rules in words, its accounts, and how its link stands')
    .option('--json', 'print the document')
    .action(async (id: string, options: { json?: boolean }) => {
      const context = openContext(options);
      const { items } = await context.client.listEngines();
      const wanted = id.toLowerCase();
      const found = items.find((one) => one.id === wanted || one.title.toLowerCase() === wanted);
      if (!found) {
        // The service says which name is nearest.
        await context.client.yard({ query: { engine: id, limit: 1 } });
        throw new Usage(`There is no engine “${id}”.`);
      }
      output(context, found, printEngine, () => ['engine fit PROPERTY', `adopt ${found.id}`]);
    });
  engine
    .command('add <file>')
    .description('add an engine by its profile; nothing else is needed')
    .option('--replace', 'in place of the profile that there is')
    .option('--json', 'print the document')
    .action(async (file: string, options: { replace?: boolean; json?: boolean }) => {
      const context = openContext(options);
      const profile = readText(file);
      const body = { profile, file: basename(file), ...(options.replace === true ? { replace: true } : {}) };
      output(context, await context.client.addEngine({ body }), printEngine, ({ id: added }) => [
        `enrol --missing --engine ${added}`,
      ]);
    });
  engine
    .command('fit <property>')
    .description('which engines matter to a property’s audience, and why')
    .option('--json', 'print the document')
    .action(async (property: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(
        context,
        await context.client.fit({ params: { property } }),
        ({ items }) => {
          printFit(items);
          say();
          printPlan(items);
        },
        () => [`enrol ${property} --fitting`],
      );
    });
}

/** `account list|add|key|pass` */
function accounts(program: Command): void {
  const account = program.command('account').description('accounts at engines');
  account
    .command('list')
    .description('all accounts')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.listAccounts();
      output(context, document, ({ items }) => {
        printAccounts(items);
      });
      await sayShown(context, { shown: document.items.length, one: 'account' });
    });
  account
    .command('add <engine> <name>')
    .description('add an account at an engine')
    .option('--key-from <variable>', 'the environment variable of the service that holds its key')
    .option('--key-file <file>', 'where its key stands, to be kept sealed; “-” for standard input')
    .option('--json', 'print the document')
    .action(
      async (
        engine: string,
        name: string,
        options: { keyFrom?: string; keyFile?: string; json?: boolean },
      ) => {
        const context = openContext(options);
        const body = { engine, name, ...keyGiven(options) };
        output(
          context,
          await context.client.addAccount({ body }),
          (added) => {
            printAccounts([added]);
          },
          (added) => [`enrol PROPERTY --engine ${engine} --account ${added.name}`],
        );
      },
    );
  account
    .command('key <account>')
    .description('give an account, such as ostrime/agency, another key')
    .option('--key-from <variable>', 'the environment variable of the service that holds it')
    .option('--key-file <file>', 'where it stands, to be kept sealed; “-” for standard input')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { keyFrom?: string; keyFile?: string; json?: boolean }) => {
      const given = keyGiven(options);
      if (Object.keys(given).length === 0)
        throw new Usage('Give the key: --key-from VARIABLE or --key-file FILE.');
      const context = openContext(options);
      const edited = await context.client.editAccount({ params: { account: ref }, body: given });
      output(
        context,
        edited,
        (one) => {
          printAccounts([one]);
        },
        () => ['account list'],
      );
    });
  account
    .command('pass <account>')
    .description('mark an account as passed on to its client; nothing new is enrolled under it')
    .option('--to <client>', 'to which client')
    .option('--back', 'it is the agency’s again')
    .option('--json', 'print the document')
    .action(async (ref: string, options: { to?: string; back?: boolean; json?: boolean }) => {
      if ((options.to === undefined) === (options.back !== true))
        throw new Usage('Give --to CLIENT, or --back.');
      const context = openContext(options);
      const body = { passedOnTo: options.to ?? null };
      output(
        context,
        await context.client.editAccount({ params: { account: ref }, body }),
        (one) => {
          printAccounts([one]);
        },
        () => ['account list'],
      );
    });
}

export function engineCommands(program: Command): void {
  engines(program);
  accounts(program);
}
