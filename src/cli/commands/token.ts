import type { Command } from 'commander';
import { finish, openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { printPlacement } from '../print/put.js';
import { paint, plain, say } from '../print/text.js';
import { enrolmentsOf, method, which, type Options } from './chosen.js';

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

/** `token` */
export function tokenCommand(program: Command): void {
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
}
