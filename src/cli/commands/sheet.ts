import { writeFileSync } from 'node:fs';
import { Option, type Command } from 'commander';
import type { PlacementSheet } from '../../api/documents.js';
import { openContext } from '../context.js';
import { hasTargets } from '../has-targets.js';
import { Usage } from '../exit.js';
import { plain, sayAside, sayBlock, sayJson } from '../print/text.js';
import { given } from '../../api/given.js';

interface SheetOptions {
  client?: string;
  language?: 'en' | 'de';
  as: 'text' | 'markdown' | 'html' | 'zip';
  open?: boolean;
  out?: string;
  json?: boolean;
}

/** `sheet P|--client C` */
export function sheetCommand(program: Command): void {
  program
    .command('sheet [property]')
    .description('what is to be placed, for whoever holds the keys: in order by place, each visited once')
    .option('--client <client>', 'of all properties of a client')
    .addOption(new Option('--language <language>', 'in which it is written').choices(['en', 'de']))
    .addOption(
      new Option('--as <form>', 'as what it is written')
        .choices(['text', 'markdown', 'html', 'zip'])
        .default('text'),
    )
    .option('--open', 'only what is to be done')
    .option('--out <file>', 'write it to this file')
    .option('--json', 'print the document with all forms')
    .action(async (property: string | undefined, options: SheetOptions) => {
      if ((property === undefined) === (options.client === undefined))
        throw new Usage('Name a property, or a client with --client.');
      const context = openContext(options);
      const { client } = context;
      const whom = {
        ...given({ property, client: options.client, language: options.language }),
        ...(options.open === true ? { open: true } : {}),
      };
      if (options.as === 'zip') {
        if (options.out === undefined) throw new Usage('A ZIP is written to a file: give --out sheet.zip.');
        writeFileSync(options.out, await client.sheetZip(whom));
        sayAside(`Written to ${options.out}.`);
        return;
      }
      const sheet = await client.showSheet({ query: whom });
      if (options.json === true) sayJson(sheet);
      else if (options.out === undefined) sayBlock(shown(sheet[options.as]));
      else {
        writeFileSync(options.out, sheet[options.as]);
        sayAside(`Written to ${options.out}: ${said(sheet)}`);
      }
      if (options.json !== true && sheet.missing.length > 0)
        sayAside(
          `Not on it, since no token is known yet: ${sheet.missing.map(plain).join(', ')}. “token ENROLMENT” gets it.`,
        );
      if (
        options.json !== true &&
        property !== undefined &&
        sheet.open > 0 &&
        (await hasTargets(context, property))
      )
        sayAside(
          `It has targets: “publish ${plain(property)} --plan” shows what can be put there from here.`,
        );
    });
}

/** A text of several lines, each without what a terminal would take for an order. */
function shown(text: string): string {
  return text.trimEnd().split('\n').map(plain).join('\n');
}

function said({ open, done }: PlacementSheet): string {
  return `${String(open)} to be done, ${String(done)} done.`;
}
