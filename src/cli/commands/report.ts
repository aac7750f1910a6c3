import { writeFileSync } from 'node:fs';
import { Option, type Command } from 'commander';
import type { ReportAsked } from '../../api/documents.js';
import { isSaid, unlessUnwanted } from '../confirm.js';
import { openContext, output, type Context } from '../context.js';
import { Usage } from '../exit.js';
import { table } from '../print/table.js';
import { plain, say, sayAside, sayBlock, sayJson, when } from '../print/text.js';
import { timeGiven } from '../time-given.js';
import { given } from '../../api/given.js';

interface ReportOptions {
  from?: string;
  to?: string;
  as: 'markdown' | 'html' | 'json';
  out?: string;
  keep?: boolean;
  sendTo?: string;
  contact?: string;
  kept?: boolean;
  show?: string;
  language?: 'en' | 'de';
  yes?: boolean;
  anyway?: boolean;
  json?: boolean;
}

/** `report C` */
export function reportCommand(program: Command): void {
  program
    .command('report <client>')
    .description(
      'the report for a client’s owner: how each website stands, what changed, what we did, what they have to do',
    )
    .option('--from <day>', 'from this day on; thirty days where none is named')
    .option('--to <day>', 'until this day')
    .addOption(
      new Option('--as <form>', 'as what it is written')
        .choices(['markdown', 'html', 'json'])
        .default('markdown'),
    )
    .option('--out <file>', 'write it to this file')
    .option('--keep', 'keep it as it is now')
    .option('--send-to <address>', 'keep it, and send it there')
    .option('--contact <name>', 'keep it, and send it to one of the client’s people')
    .addOption(
      new Option('--language <language>', 'in which it is written; as its receiver reads otherwise').choices([
        'en',
        'de',
      ]),
    )
    .option('--yes', 'send it at once; without it, the mail is shown first')
    .option('--anyway', 'send it once more, though it went there within a day')
    .option('--kept', 'those that were kept')
    .option('--show <report>', 'one that was kept, as it was')
    .option('--json', 'print the document')
    .action(report);
}

async function report(client: string, options: ReportOptions): Promise<void> {
  const context = openContext(options);
  const { from, to, sendTo, contact } = options;
  const span = {
    ...given({ language: options.language }),
    ...(from === undefined ? {} : { from: await timeGiven(context, from) }),
    ...(to === undefined ? {} : { to: await timeGiven(context, to) }),
  };
  if (options.kept === true) {
    output(context, await context.client.listKeptReports({ params: { client } }), ({ items }) => {
      table(
        ['report', 'at (UTC)', 'of', 'sent to', 'by'],
        items.map((one) => [
          one.id,
          when(one.at),
          one.title,
          one.sentTo ?? 'nobody',
          one.by ?? 'the service',
        ]),
        'None was kept yet.',
      );
    });
    return;
  }
  if (options.show !== undefined) {
    const kept = await context.client.showKeptReport({ params: { id: options.show } });
    put(options, options.as === 'html' ? kept.html : kept.markdown);
    return;
  }
  if (options.keep === true || sendTo !== undefined || contact !== undefined) {
    await keep(context, client, { ...options, span });
    return;
  }
  const written = await context.client.writeReport({ params: { client }, query: span });
  if (options.json === true || (options.as === 'json' && options.out === undefined)) sayJson(written.report);
  else
    put(
      options,
      options.as === 'json' ? `${JSON.stringify(written.report, null, 2)}\n` : written[options.as],
    );
}

/** Keeps a report; one that goes to somebody is shown before it goes, as the mail that they get. */
async function keep(
  context: Context,
  client: string,
  { sendTo, contact, yes, anyway = false, span }: ReportOptions & { span: ReportAsked },
): Promise<void> {
  const to = contact ?? sendTo;
  const language = span.language ?? (await languageOf(context, client, to));
  const body = {
    ...{ ...span, language },
    ...given({ email: sendTo, contact }),
  };
  if (to !== undefined && yes !== true) {
    const { mail } = await context.client.writeReport({ params: { client }, query: { ...span, language } });
    for (const line of [mail.subject, '', ...mail.text.trimEnd().split('\n'), '']) sayAside(plain(line));
    if (!(await isSaid(yes, `This goes to ${plain(to)}, with the whole report as a page.`, 'Send it?')))
      return;
  }
  const kept = await unlessUnwanted(
    anyway,
    (again) =>
      context.client.keepReport({
        params: { client },
        body: { ...body, ...(again ? { anyway: again } : {}) },
      }),
    'Send it once more?',
  );
  if (kept === null) return;
  output(
    context,
    kept,
    ({ title, sentTo }) => {
      say(`${plain(title)} is kept${sentTo === null ? '.' : `, and goes to ${plain(sentTo)}.`}`);
    },
    ({ id }) => [`report ${client} --show ${id}`, `report ${client} --kept`],
  );
}

/** The language in which somebody of the client's reads; English where nobody is known by that name or address. */
async function languageOf(
  { client: api }: Context,
  client: string,
  to: string | undefined,
): Promise<'en' | 'de'> {
  if (to === undefined) return 'en';
  const wanted = to.toLowerCase();
  const { items } = await api.listContacts({ query: { client } });
  const found = items.find(
    ({ id, name, email }) => id === to || name.toLowerCase() === wanted || email?.toLowerCase() === wanted,
  );
  return found?.language ?? 'en';
}

function put({ out, as }: ReportOptions, text: string): void {
  if (out === undefined) {
    if (as === 'html') throw new Usage('A page is written to a file: give --out report.html.');
    sayBlock(text.trimEnd().split('\n').map(plain).join('\n'));
    return;
  }
  writeFileSync(out, text);
  sayAside(`Written to ${out}.`);
}
