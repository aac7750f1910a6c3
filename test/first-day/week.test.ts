import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, test } from 'vitest';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, type Stage } from '../support/stage.js';
import { Person, type, type Typed } from './typed.js';

const FERRIES = 'www.saltmarsh-ferries.example';
const BARE = 'saltmarsh-ferries.example';
/** Wrong use, something stops. */
const USE = { status: 2 };
const STOPS = { status: 1 };

/** A week as a newcomer types it, day by day, with every mistake that such a week had: what each must say, and what it must not do. */
const DAYS: readonly (readonly [day: string, lines: readonly Typed[]])[] = [
  [
    'Monday: what is no website is not taken on, and what was by mistake goes again',
    [
      type(
        'client add "Saltmarsh Ferry Line" --audience "FI EE" --contact "Wiebke Thaden <wiebke@saltmarsh.example>"',
        /as saltmarsh-ferry-line/,
      ),
      type('contact list --client saltmarsh-ferry-line', /Wiebke Thaden\s+owner/),
      type(
        `property add "https://user:pw@${BARE}:8443/a b" --client saltmarsh-ferry-line`,
        /expected|Expected/,
        USE,
      ),
      type(`property add ${BARE}/cart?x=1 --client saltmarsh-ferry-line`, /one page.*Say --page/i, USE),
      type(
        `property add ${BARE} tidewell-clocks.example ${BARE} nonsense --client saltmarsh-ferry-line`,
        /saltmarsh-ferries[\s\S]*tidewell-clocks[\s\S]*Not taken on, 2 of 4:[\s\S]*nonsense/,
        STOPS,
      ),
      type('property delete tidewell-clocks', /Say --yes/, USE),
      type('property delete tidewell-clocks --yes', /tidewell-clocks was deleted/),
      type('property show tidewell-clocks', /No property has the handle or address/, USE),
    ],
  ],
  [
    'Tuesday: one engine’s record stands, and another’s is put beside it',
    [
      type('enrol saltmarsh-ferries --engine veldrane --reach name', /Enrolled at Veldrane/),
      type('token saltmarsh-ferries@veldrane:name', /by dns/, {
        copies: { value: /value {2}(\S+)/ },
      }),
      type(`rehearsal txt ${BARE} "owner-proof=of-somebody-else"`, /./),
      type('check saltmarsh-ferries@veldrane:name', /add one (?:more )?TXT record[\s\S]*keep/i, STOPS),
      type('sheet saltmarsh-ferries', /take none away/),
      type(`rehearsal txt ${BARE} {value}`, /./),
      type('check saltmarsh-ferries@veldrane:name', /accept/),
      type('claim saltmarsh-ferries@veldrane:name', /Veldrane confirmed/),
      type('sheet saltmarsh-ferries --open', /stays|Everything stands|nothing to be done/i),
      type('enrol saltmarsh-ferries --engine house ostrime', /Enrolled at House[\s\S]*Enrolled at Ostrime/),
      type('unenrol saltmarsh-ferries@ostrime', /Say --yes/, USE),
    ],
  ],
  [
    'Wednesday: verdicts and pasted pages are asked about where nobody can know',
    [
      type('enrol saltmarsh-ferries --engine brindle', /Brindle’s own pages/),
      type(`rehearsal page brindle register https://${FERRIES}/`, /brindle-plank/, {
        copies: {
          page: /([\s\S]*brindle-plank[\s\S]*)/,
          tag: /(<meta [^>]+>)/,
          path: /(\/brindle-\w+\.html)/,
        },
      }),
      type('token saltmarsh-ferries@brindle --paste {page}', /meta[\s\S]*file|file[\s\S]*meta/),
      type(
        'record verdict saltmarsh-ferries@brindle confirmed',
        /Say by which|does not see|Say --anyway/,
        USE,
      ),
      type(`rehearsal meta ${FERRIES} {tag}`, /./),
      type('check saltmarsh-ferries@brindle', /accept/),
      type('record verdict saltmarsh-ferries@brindle confirmed', /held/),
      type('record mistake saltmarsh-ferries@brindle', /in-place|taken back/i),
      type('record verdict saltmarsh-ferries@brindle confirmed', /held/),
      type('token whose {tag}', /saltmarsh-ferries@brindle:address[\s\S]*in force/),
      type('token whose "<meta name=a content=0123456789abcdef>"', /no token of ours/),
    ],
  ],
  [
    'Thursday: no sitemap goes out unread, and days are what the calendar has',
    [
      type('sitemap note saltmarsh-ferries /nothing.xml', /nothing\.xml/),
      type('sitemap submit saltmarsh-ferries /nothing.xml --anyway', /404|cannot be read/, STOPS),
      type('sitemap drop saltmarsh-ferries /nothing.xml --yes', /./),
      type('next --property saltmarsh-ferries', /next steps? of saltmarsh-ferries/),
      type('sitemap find saltmarsh-ferries --note', /sitemap\.xml/),
      type('sitemap submit saltmarsh-ferries /sitemap.xml --to saltmarsh-ferries@veldrane:name', /Submitted/),
      type('sitemap submit saltmarsh-ferries /sitemap.xml --to veldrane:name', /knows .* already/),
      type('sitemap withdraw saltmarsh-ferries /sitemap.xml --from veldrane:name --yes', /✓/),
      type('report saltmarsh-ferry-line --from 2026-11-31', /“2026-11-31” is no day/, USE),
      type(
        'next put-off saltmarsh-ferries --until tomorrow --why "their developer is away"',
        /put off until 2033-/,
      ),
      type('next take-up saltmarsh-ferries', /./),
      type('next put-off saltmarsh-ferries --until 15.12.2033 --why later', /put off until 2033-12-15/),
      type('next take-up saltmarsh-ferries', /./),
      type('yard --client saltmarsh-ferry-line --client other', /--client|twice|once/, USE),
    ],
  ],
  [
    'Friday: a token that was placed is seen without a word, and an owner is told in their language, once',
    [
      type('token saltmarsh-ferries@house', /by meta/, { copies: { tag: /by meta[\s\S]*?(<meta [^>]+>)/ } }),
      type('next --property saltmarsh-ferries --kind place', /House|house/),
      type(`rehearsal meta ${FERRIES} {tag}`, /./),
      type('rehearsal clock 2d', /./),
      type('rehearsal clock 10m', /./),
      // Nobody has had it looked at.
      type('next --property saltmarsh-ferries --kind claim', /The token stands: claim at House/),
      type(
        'contact add "Ole Netzer" --client saltmarsh-ferry-line --role host --email ole@zonen.example --language de',
        /Ole/,
      ),
      type('report saltmarsh-ferry-line --contact "Ole Netzer"', /Stand Ihrer Websites[\s\S]*Say --yes/, USE),
      type('report saltmarsh-ferry-line --contact "Ole Netzer" --yes', /goes to ole@zonen\.example/),
      type('report saltmarsh-ferry-line --contact "Ole Netzer" --yes', /Say --anyway/, USE),
      type('handover saltmarsh-ferry-line --begin', /./),
      type('handover saltmarsh-ferry-line --call-off', /./),
      type('claim --ready --client saltmarsh-ferry-line', /House confirmed/),
      type('yard', /held/),
    ],
  ],
];

describe('a first week at the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-week-'));
  const cli = cliAt(() => stage, home);

  beforeAll(async () => {
    stage = await openStage({ 'watch.on': 'true' });
  });
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  const person = new Person(cli);
  test.each(DAYS)('%s', async (_, lines) => {
    await person.types(lines);
  });
});
