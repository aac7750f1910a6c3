import type { Command } from 'commander';
import type { Job } from '../../api/documents.js';
import { agrees } from '../confirm.js';
import { finish, openContext, output } from '../context.js';
import { Usage } from '../exit.js';
import { printCheck } from '../print/check.js';
import { sayNext } from '../print/next.js';
import { paint, plain, say } from '../print/text.js';
import { method, type Options } from './enrolment-options.js';
import { given } from '../../api/given.js';

function printClaims({ items }: Job): void {
  if (items.length === 0) say(paint.dim('Nothing is ready to be claimed. “next” shows what to do first.'));
  for (const { result, state } of items) {
    const mark = result?.stops === true ? paint.red('✗') : paint.green('✓');
    say(`${mark} ${plain(result?.says ?? state)}`);
    if (result?.stops === true && result.check) printCheck(result.check);
    if (result?.problem?.code === 'forecast-refuses') say(paint.dim('    --anyway claims all the same.'));
  }
}

function propertyIn(enrolment: string): string {
  return enrolment.slice(0, enrolment.lastIndexOf('@'));
}

interface ClaimOptions extends Options {
  ready?: boolean;
  client?: string;
  anyway?: boolean;
}

/** What is to be claimed. Throws Usage where nobody said. */
function chosenFor(
  refs: readonly string[],
  { ready, client }: ClaimOptions,
): { enrolments?: string[]; client?: string; ready?: boolean } {
  if (client !== undefined && (ready !== true || refs.length > 0))
    throw new Usage('--client goes with --ready, in place of names: “claim --ready --client CLIENT”.');
  if (refs.length === 0 && ready !== true)
    throw new Usage(
      'Name a property (ferries) or an enrolment (ferries@veldrane), or give --ready for everything whose token stands.',
    );
  return {
    ...(refs.length === 0 ? {} : { enrolments: [...refs] }),
    ...given({ client }),
    ...(ready === true ? { ready } : {}),
  };
}

/** `claim` */
export function claimCommand(program: Command): void {
  program
    .command('claim [enrolment...]')
    .description('ask engines to confirm ownership; one that would refuse is not asked')
    .option('--ready', 'everything whose token our check sees; of the properties named, or of --client')
    .option('--client <client>', 'of one client, with --ready')
    .option('--method <method>', 'by this method: meta, file or dns')
    .option('--anyway', 'although our check says that the engine will refuse')
    .option('--json', 'print the job')
    .action(async (refs: string[], options: ClaimOptions) => {
      const chosen = chosenFor(refs, options);
      const context = openContext(options);
      const body = {
        ...chosen,
        ...method(options.method),
        ...(options.anyway === true ? { anyway: true } : {}),
      };
      const job = await finish(context, await context.client.claim({ body }));
      output(context, job, printClaims);
      const held = job.items.flatMap(({ result }) =>
        result?.stops === false && result.enrolment !== undefined ? [propertyIn(result.enrolment)] : [],
      );
      if (held[0] !== undefined && options.json !== true) sayNext(`sitemap find ${held[0]} --note`, 'next');
      const spared = job.items.flatMap(({ result }) =>
        result?.problem?.code === 'forecast-refuses' && result.enrolment !== undefined
          ? [result.enrolment]
          : [],
      );
      if (spared.length === 0 || options.json === true) return;
      // Where nobody is there to ask, nothing is claimed against the forecast.
      if ((await agrees(`Claim ${spared.join(', ')} all the same?`)) !== true) return;
      const anyway = { enrolments: spared, anyway: true, ...method(options.method) };
      output(context, await finish(context, await context.client.claim({ body: anyway })), printClaims);
    });
}
