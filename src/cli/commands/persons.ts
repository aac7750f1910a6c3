import { hostname } from 'node:os';
import type { Command } from 'commander';
import type { Role } from '../../api/documents.js';
import { createClient } from '../../client/client.js';
import { keyByPassword } from '../../client/key-by-password.js';
import { openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { readText } from '../read-file.js';
import { plain, say } from '../print/text.js';
import { sayNext } from '../print/next.js';
import { sayShown } from '../print/list-footer.js';
import { table } from '../print/table.js';
import { forgetSignIn, keepSignIn, readSignIn, type SignInHere } from '../sign-in.js';

/** A password from a file, or from standard input; never from the command line, where others could read it. */
function readPassword(file: string | undefined): string {
  const text = readText(file ?? '-').replace(/\r?\n$/, '');
  if (text === '') throw new Usage('Give the password on standard input, or in a file with --password-file.');
  return text;
}

/** How one is signed in, in words. */
function signedInBy({ file, demo }: SignInHere): string {
  if (file === null) return 'by YARDBADGE_KEY';
  return demo === null ? `by ${file}` : `by the demo’s own sign-in, ${file}`;
}

/** `whoami`, `logout` */
function signInCommands(program: Command): void {
  program
    .command('whoami')
    .description('as whom the command line works, where, and by which sign-in')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const here = readSignIn(process.env);
      output(
        context,
        await context.client.whoAmI(),
        ({ person }) => {
          say(`${plain(person.name)} (${person.role}) at ${plain(here.url)}, ${plain(signedInBy(here))}.`);
        },
        () => ['yard', 'next'],
      );
    });
  program
    .command('logout')
    .description('end the sign-in that “login” made, and its key with it')
    .action(async () => {
      const here = readSignIn(process.env);
      if (here.file === null) throw new Usage('Signed in by YARDBADGE_KEY: take it out of the environment.');
      if (here.demo !== null)
        throw new Usage(
          `Nothing to end: ${here.demo} is signed in by the demo itself. “login ${here.url} --name NAME” signs in as somebody else.`,
        );
      const { client } = openContext({});
      const { items } = await client.listKeys();
      const own = items.find(({ current }) => current);
      if (own) await client.endKey({ params: { id: own.id } });
      forgetSignIn(here.file);
      say(`Signed out of ${plain(here.url)}; the key no longer works.`);
      sayNext(`login ${here.url} --name NAME`);
    });
}

/** `person add|list`, `login`, `whoami`, `logout` */
export function personCommands(program: Command): void {
  const person = program.command('person').description('people who may sign in');
  person
    .command('add <name>')
    .description('add a person to the records on this machine: how the first lead comes to be')
    .option('--role <role>', 'lead, consultant or onlooker', 'consultant')
    .option('--password-file <file>', 'where the password stands; standard input otherwise')
    .option('--config <file>', 'the service’s configuration file')
    .option('--data <file>', 'the records, in place of what the configuration says')
    .action(
      async (
        name: string,
        options: { role: string; passwordFile?: string; config?: string; data?: string },
      ) => {
        if (!['lead', 'consultant', 'onlooker'].includes(options.role)) {
          throw new Usage(`“${options.role}” is not a role; expected lead, consultant or onlooker.`);
        }
        const password = readPassword(options.passwordFile);
        if (password.length < 12) throw new Usage('A password must have at least 12 characters.');
        const [{ loadSettings }, { addPersonHere }] = await Promise.all([
          import('../../service/settings/load.js'),
          import('../../service/persons.js'),
        ]);
        const { settings } = await loadSettings(options.config, process.env, { data: options.data });
        await addPersonHere(settings, { name, role: options.role as Role, password });
        say(`Added ${plain(name)} as ${options.role}.`);
      },
    );
  person
    .command('list')
    .description('everybody who may sign in')
    .option('--json', 'print the document')
    .action(async (options: { json?: boolean }) => {
      const context = openContext(options);
      const document = await context.client.listPersons();
      output(context, document, ({ items }) => {
        table(
          ['name', 'role'],
          items.map((one) => [one.name, one.role]),
          '',
        );
      });
      await sayShown(context, { shown: document.items.length, one: 'person' });
    });
  program
    .command('login <url>')
    .description('sign the command line in; the password comes on standard input')
    .requiredOption('--name <name>', 'as whom')
    .option('--password-file <file>', 'where the password stands; standard input otherwise')
    .action(async (url: string, options: { name: string; passwordFile?: string }) => {
      if (!/^https?:\/\/[^/\s]+/iu.test(url))
        throw new Usage(`“${url}” is no address of a service; expected such as http://127.0.0.1:7420.`);
      const base = url.replace(/\/+$/, '');
      const key = await keyByPassword(
        base,
        options.name,
        readPassword(options.passwordFile),
        `command line on ${hostname()}`,
      );
      const file = keepSignIn(process.env, { url: base, key });
      const { person: signedIn } = await createClient({ url: base, key }).whoAmI();
      say(`Signed in to ${base} as ${plain(signedIn.name)} (${signedIn.role}). The key is kept in ${file}.`);
      sayNext('yard', 'next');
    });
  signInCommands(program);
}
