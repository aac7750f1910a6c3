import type { Command } from 'commander';
import type { PastedToken } from '../../api/documents.js';
import { askedEach } from '../confirm.js';
import { finish, openContext, output } from '../context.js';
import { hasTargets } from '../has-targets.js';
import { Usage } from '../exit.js';
import { readText } from '../read-file.js';
import { sayNext } from '../print/next.js';
import { printPlacement } from '../print/placement.js';
import { table } from '../print/table.js';
import { paint, plain, say, when } from '../print/text.js';
import { enrolmentsOf, method, which, type Options } from './enrolment-options.js';

interface TokenOptions extends Options {
  paste?: string;
  anyway?: boolean;
  ofAnother?: boolean;
}

/** Reads what an engine showed, and says what was read out of it. */
async function paste(refs: readonly string[], options: TokenOptions): Promise<void> {
  const [enrolment] = refs;
  if (enrolment === undefined || refs.length > 1)
    throw new Usage('Name the one enrolment that it is for, such as seeds@brindle.');
  const context = openContext(options);
  const text = options.paste === '-' ? readText('-') : (options.paste ?? '');
  const read = await askedEach(
    [
      ...(options.anyway === true ? ['replaces-standing'] : []),
      ...(options.ofAnother === true ? ['token-of-another'] : []),
    ],
    (anyway) =>
      context.client.pasteToken({
        params: { enrolment },
        body: { text, ...method(options.method), anyway },
      }),
    'Take it all the same?',
  );
  if (!read) return;
  output(context, read, ({ items }) => {
    for (const one of items) {
      say(
        `Read the ${one.method} token of ${plain(one.enrolment)}: ${plain(one.token)} (${NEWS[one.news]}).`,
      );
      for (const note of one.notes) say(`  ${plain(note)}`);
    }
    const [first] = items;
    if (first) sayNext(`token ${first.enrolment}`, `check ${first.enrolment}`);
  });
}

const NEWS: Readonly<Record<PastedToken['news'], string>> = {
  first: 'noted',
  same: 'known already',
  changed: 'a different one; what was placed is out of date',
};

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
  const [first] = enrolments;
  const canPublish = first && !context.json && (await hasTargets(context, first.property.handle));
  output(context, document, () => {
    for (const item of job.items)
      if (item.result?.stops === true)
        say(`${paint.red('✗')} ${plain(item.subject)}  ${plain(item.result.says)}`);
    placements.forEach(({ enrolment, placement }, at) => {
      if (at > 0) say();
      printPlacement(enrolment, placement);
    });
    const several = enrolments.filter(({ placements: own }) => own.length > 1);
    if (only.method === undefined && several.length > 0) {
      say();
      const which = several.map(({ name }) => plain(name)).join(', ');
      say(
        `One of them is enough for ${several.length > 3 ? 'each enrolment' : which}: the others need not be placed.`,
      );
    }
    if (first && placements.length > 0)
      sayNext(
        ...(canPublish === true ? [`publish ${first.property.handle} --plan`] : []),
        `advice ${first.name}`,
        `check ${first.name}`,
      );
  });
}

/** `token`, `token forget` */
export function tokenCommand(program: Command): void {
  const token = program
    .command('token [enrolment...]')
    .description('get the tokens, and say exactly what to put where')
    .option('--method <method>', 'only this method: meta, file or dns')
    .option('--paste <text>', 'read the token out of what the engine’s page showed; “-” for standard input')
    .option('--anyway', 'take a pasted token although another one stands in place')
    .option('--of-another', 'take a pasted token although it is on record for another property')
    .option('--all', 'of every enrolment')
    .option('--json', 'print the placements')
    .action((refs: string[], options: TokenOptions) =>
      options.paste === undefined ? tokens(refs, options) : paste(refs, options),
    );
  token
    .command('whose <text>')
    .description(
      'whose token somebody came upon: a tag, a file’s name or content, a TXT record, or the bare value',
    )
    .option('--json', 'print the document')
    .action(async (text: string, options: { json?: boolean }) => {
      const context = openContext(options);
      output(
        context,
        await context.client.whoseToken({ query: { text } }),
        ({ items }) => {
          table(
            ['enrolment', 'client', 'method', 'token', 'stands'],
            items.map(({ enrolment, client, method: by, token: value, replacedAt, endedAt }) => [
              ...[enrolment, client, by, value],
              endedAt !== null
                ? `ended ${when(endedAt)}`
                : replacedAt !== null
                  ? `replaced ${when(replacedAt)}`
                  : 'in force',
            ]),
            'It is no token of ours, now or before: leave it where it stands, and ask whose it is.',
          );
        },
        ({ items: [first] }) => (first ? [`check ${first.enrolment}`] : []),
      );
    });
  token
    .command('forget <enrolment> <method>')
    .description('forget a token that should not have been put on record')
    .action(async (enrolment: string, text: string) => {
      const { method: chosen } = method(text);
      if (chosen === undefined) throw new Usage('Name the method: meta, file or dns.');
      await openContext({}).client.forgetToken({ params: { enrolment, method: chosen } });
      say(`Forgot the ${chosen} token of ${plain(enrolment)}.`);
      sayNext(`token ${plain(enrolment)}`);
    });
}
