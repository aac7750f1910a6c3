import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, type Stage } from '../support/stage.js';
import { Person, type, type Typed } from './typed.js';

const FERRIES = 'www.saltmarsh-ferries.example';
const SEEDS = 'https://xn--hallig-smerei-ifb.example/';

/** The tasks of a first day, typed as a person types, mistakes and all: each with the commands that it may take at most. */
const TASKS: readonly (readonly [task: string, most: number, lines: readonly Typed[]])[] = [
  [
    'a client and three sites',
    6,
    [
      type(
        'client add "Saltmarsh Ferry Line" --audience "Finland, Esti"',
        /“Esti” is no country\. Did you mean Estonia \(EE\)\?/,
        { status: 2 },
      ),
      type(
        'client add "Saltmarsh Ferry Line" --audience "Finland, Eesti"',
        /Added Saltmarsh Ferry Line as saltmarsh-ferry-line, for FI EE\.[\s\S]*Next: property add ADDRESS --client saltmarsh-ferry-line/,
      ),
      type(
        'property add Saltmarsh-Ferries.example, <https://www.tidewell-clocks.example/index.html> „pebble-rye.example“ --client "saltmarsh ferry line"',
        /saltmarsh-ferries[\s\S]*tidewell-clocks[\s\S]*The page index\.html was left off[\s\S]*pebble-rye/,
      ),
      type('property list --client saltmarsh-ferry-line', /3 properties of saltmarsh-ferry-line; as marit/),
    ],
  ],
  [
    'three methods at three engines',
    17,
    [
      type('enrol ferries --engine house Veldrane ostrime', /“ferries”\. Did you mean saltmarsh-ferries\?/, {
        status: 2,
      }),
      type(
        'enrol saltmarsh-ferries --engine house Veldrane ostrime',
        /Enrolled at House[\s\S]*Enrolled at Veldrane[\s\S]*Enrolled at Ostrime[\s\S]*Next: token saltmarsh-ferries/,
      ),
      type('token saltmarsh-ferries', /One of them is enough for saltmarsh-ferries@house:address/, {
        copies: {
          tag: /@house:address by meta[\s\S]*?(<meta [^>]+>)/,
          path: /@veldrane:address by file[\s\S]*?to be seen at https:\/\/[^/]+(\/[^\s,]+)/,
          content: /@veldrane:address by file[\s\S]*?holding exactly\n\s+(.+)/,
          name: /@ostrime:address by dns[\s\S]*?its file\n\s+(\S+?)\. /,
          value: /@ostrime:address by dns[\s\S]*?value {2}(\S+)/,
        },
      }),
      type('check saltmarsh-ferries', /One method is enough for each: [\s\S]*Next: token/, { status: 1 }),
      type(`rehearsal meta ${FERRIES} {tag}`, /./),
      type(`rehearsal file ${FERRIES} {path} {content}`, /./),
      type('rehearsal txt {name} {value}', /./),
      type('check saltmarsh-ferries', /accept[\s\S]*accept[\s\S]*accept[\s\S]*Next: claim/),
      type(
        'claim --ready saltmarsh-ferries',
        /House confirmed[\s\S]*Ostrime confirmed[\s\S]*Veldrane confirmed[\s\S]*Next: sitemap find/,
      ),
    ],
  ],
  [
    'an engine by hand',
    10,
    [
      type('client add "Hallig Seed Growers" --audience Deutschland', /for DE\./),
      type('property add www.Hallig-Sämerei.example --client hallig-seed-growers', /hallig-saemerei/),
      type('enrol hallig-saemerei --engine BRINDLE', /register .* on Brindle’s own pages/),
      type(`rehearsal page brindle register ${SEEDS}`, /brindle-plank/, {
        copies: {
          page: /([\s\S]*brindle-plank[\s\S]*)/,
          path: /(\/brindle-\w+\.html)/,
          tag: /(<meta [^>]+>)/,
        },
      }),
      type('token hallig-saemerei@brindle --paste {page}', /Read the meta token[\s\S]*Next: token/),
      type('rehearsal meta xn--hallig-smerei-ifb.example {tag}', /./),
      type('check hallig-saemerei@brindle', /accept/),
      type(`rehearsal page brindle claim ${SEEDS} meta`, /confirmed/),
      type('record verdict hallig-saemerei@brindle confirmed', /held/),
    ],
  ],
  [
    'sitemaps',
    7,
    [
      type('sitemap find saltmarsh-ferries --note', /sitemap\.xml/),
      type('sitemap submit saltmarsh-ferries sitemap.xml', /Submitted to Veldrane[\s\S]*Next: sitemap read/),
      type('sitemap read saltmarsh-ferries --sample 0', /waiting|equal/),
      type(`rehearsal sitemap ${FERRIES} /sitemaps/crossings.xml 120`, /./),
      type('rehearsal clock 9d', /./),
      type(
        'sitemap list saltmarsh-ferries',
        /equal[\s\S]*1 sitemap of saltmarsh-ferries[\s\S]*Asking the engines first/,
      ),
      type('sitemap compare saltmarsh-ferries', /gone|went|away|came|fewer/i),
    ],
  ],
  [
    'the next steps of clients',
    16,
    [
      type('client add "Tidewell Clock Menders"', /as tidewell-clock-menders, for everyone/),
      type('property move tidewell-clocks --client tidewell-clock-menders --yes', /Tidewell Clock Menders/),
      type('client add "Pebble & Rye"', /as pebble-rye, for everyone/),
      type('property move pebble-rye --client "pebble & rye" --yes', /Pebble & Rye/),
      type('next --client saltmarsh', /next steps? of saltmarsh|Nothing to do of that kind/),
      type('next --client tidewell', /enrol[\s\S]*of tidewell/),
      type('next --client pebble', /enrol[\s\S]*of pebble/),
      type('next --client hallig', /of hallig/),
      type('next', /as marit sees them/),
      type('yard', /4 properties: [\s\S]*as marit sees them/),
    ],
  ],
  [
    'mistakes, each put right',
    40,
    [
      type('chek saltmarsh-ferries', /unknown command 'chek'[\s\S]*Did you mean check\?/, { status: 2 }),
      type('check', /Name a property \(ferries\) or an enrolment/, { status: 2 }),
      type('check saltmarsh-feries', /Did you mean saltmarsh-ferries\?/, { status: 2 }),
      type('check saltmarsh-ferries@ostrim', /There is no engine “ostrim”\. Did you mean ostrime\?/, {
        status: 2,
      }),
      type('check saltmarsh-ferries@sundrel', /is not enrolled with Sundrel/, { status: 2 }),
      type('check saltmarsh-ferries --method tag', /“tag” is not a method; expected meta, file or dns/, {
        status: 2,
      }),
      type('check saltmarsh-ferries@ostrime', /accept/),
      type('property add quay --client saltmarsh-ferry-line', /“quay” is a suffix|is not a host name/, {
        status: 2,
      }),
      type('property add mail@pebble-rye.example --client pebble-rye', /is a mail address/, { status: 2 }),
      type('property add 192.0.2.10 --client pebble-rye', /is an IP address/, { status: 2 }),
      type('property add ftp://pebble-rye.example --client pebble-rye', /only http:\/\/ and https:\/\/ are/, {
        status: 2,
      }),
      type(
        'property add http://www.pebble-rye.example:8080 --client pebble-rye',
        /is there already as the property pebble-rye/,
        { status: 2 },
      ),
      type('client add "Pebble & Rye"', /is there already, as pebble-rye/, { status: 2 }),
      type('claim', /or give --ready for everything whose token stands/, { status: 2 }),
      type('claim --client pebble-rye', /--client goes with --ready/, { status: 2 }),
      type('enrol pebble-rye', /Give --engine ENGINE…, or --fitting/, { status: 2 }),
      type('enrol pebble-rye --engine kelpwise', /nothing is to be done with it but with Ostrime/, {
        status: 2,
      }),
      type(
        'record verdict hallig-saemerei@brindle yes',
        /“yes” is no verdict; expected confirmed, refused, withdrawn/,
        { status: 2 },
      ),
      type('sitemap compare hallig-saemerei', /has no sitemap|Name one of the sitemaps/, { status: 2 }),
      type('sitemap submit pebble-rye sitemap.xml', /addresses of another variant.*Say --anyway/, {
        status: 2,
      }),
      type('sitemap submit pebble-rye sitemap.xml --anyway', /hold a badge that covers it first/, {
        status: 2,
      }),
      type('next --limit many', /“many” is no number of lines/, { status: 2 }),
      type('yard --badge gold', /“gold” does not fit the badge; expected bare, issued/, { status: 2 }),
    ],
  ],
  [
    'undoing',
    10,
    [
      type(
        'client edit pebble-rye --name "Pebble & Rye Bakery" --audience UK',
        /Pebble & Rye Bakery[\s\S]*GB/,
      ),
      type('property archive saltmarsh-ferries', /holds saltmarsh-ferries@house:address.*Say --anyway/, {
        status: 2,
      }),
      type('property archive saltmarsh-ferries --anyway', /Archived saltmarsh-ferries; the records stay/),
      type('property restore saltmarsh-ferries', /saltmarsh-ferries[\s\S]*Next: check saltmarsh-ferries/),
      type('sitemap withdraw saltmarsh-ferries sitemap.xml --yes', /✓/),
      type('unenrol saltmarsh-ferries@ostrime --yes', /Ended saltmarsh-ferries@ostrime:address/),
      type('unenrol hallig-saemerei@brindle --yes', /Nothing has ended at Brindle yet/, { status: 1 }),
      type('record ended hallig-saemerei@brindle', /Ended hallig-saemerei@brindle:address/),
      type('client archive pebble-rye --anyway', /Archived pebble-rye/),
      type('client restore "pebble & rye bakery"', /Restored Pebble & Rye Bakery as pebble-rye/),
    ],
  ],
];

describe('a first day at the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-first-'));
  const cli = cliAt(() => stage, home);

  beforeAll(async () => {
    stage = await openStage();
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  test.each(TASKS)('%s, in %i commands at most', async (_, most, lines) => {
    const person = new Person(cli);
    await person.types(lines);
    expect(person.count).toBeLessThanOrEqual(most);
  });
});
