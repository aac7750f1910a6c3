import { Command, CommanderError } from 'commander';
import { byHandCommands } from './commands/manual.js';
import { clientCommands } from './commands/clients.js';
import { engineCommands } from './commands/engines.js';
import { adviceCommand } from './commands/advice.js';
import { publishCommands } from './commands/publish.js';
import { checkCommand } from './commands/check.js';
import { claimCommand } from './commands/claim.js';
import { enrolCommand } from './commands/enrol.js';
import { variantsCommand } from './commands/variants.js';
import { tokenCommand } from './commands/token.js';
import { historyCommand } from './commands/history.js';
import { journalCommands } from './commands/journal.js';
import { nextCommands } from './commands/next.js';
import { keyCommands } from './commands/keys.js';
import { personCommands } from './commands/persons.js';
import { propertyCommands } from './commands/properties.js';
import { recordsCommands } from './commands/records.js';
import { robotsCommand } from './commands/robots.js';
import { rehearsalCommands } from './commands/rehearsal.js';
import { serviceCommands } from './commands/service.js';
import { letterCommands } from './commands/letters.js';
import { reportCommand } from './commands/report.js';
import { handoverCommand } from './commands/handover.js';
import { wordingCommands } from './commands/wording.js';
import { linkCommands } from './commands/links.js';
import { sheetCommand } from './commands/sheet.js';
import { pageLookupCommands } from './commands/page-lookups.js';
import { sitemapCommands } from './commands/sitemaps.js';
import { notifyCommands } from './commands/notify.js';
import { wordsCommand } from './commands/words.js';
import { watchCommands } from './commands/watch.js';
import { exitFor, EXIT } from './exit.js';
import { wordsIn } from './help-words.js';
import { settleOptions } from './options.js';
import { sayError } from './print/text.js';

function build(): Command {
  const program = new Command('yardbadge')
    .description(
      'Registers client websites with search engines, checks ownership tokens before a claim, keeps badges and sitemaps.',
    )
    .option('-V, --version', 'print the version')
    .showHelpAfterError('(--help shows what is expected)')
    .addHelpText('after', '\n“yardbadge words” says what bare, slipping, house, spare and alert mean.')
    .addHelpText('afterAll', ({ command }) => (command.parent ? wordsIn(command) : ''))
    // What stands behind the name of a command is that command's, not of the one above it.
    .enablePositionalOptions()
    .exitOverride();
  for (const add of [
    serviceCommands,
    personCommands,
    keyCommands,
    clientCommands,
    propertyCommands,
    engineCommands,
    enrolCommand,
    variantsCommand,
    adviceCommand,
    tokenCommand,
    sheetCommand,
    linkCommands,
    letterCommands,
    wordingCommands,
    reportCommand,
    handoverCommand,
    checkCommand,
    claimCommand,
    byHandCommands,
    sitemapCommands,
    publishCommands,
    robotsCommand,
    pageLookupCommands,
    watchCommands,
    notifyCommands,
    journalCommands,
    nextCommands,
    historyCommand,
    recordsCommands,
    wordsCommand,
    rehearsalCommands,
  ]) {
    add(program);
  }
  settleOptions(program);
  return program;
}

/** Runs one command line and sets the exit status. */
export async function run(argv: readonly string[]): Promise<void> {
  try {
    await build().parseAsync([...argv]);
  } catch (error) {
    if (error instanceof CommanderError) {
      process.exitCode = error.exitCode === 0 ? EXIT.done : EXIT.usage;
      return;
    }
    const known = exitFor(error);
    const says =
      known?.says ??
      `Something went wrong in the program itself: ${error instanceof Error ? error.message : String(error)}`;
    sayError(says);
    process.exitCode = known?.status ?? EXIT.failed;
  }
}
