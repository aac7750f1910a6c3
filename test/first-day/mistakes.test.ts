import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { runCli, type Ran } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';
import { words } from './typed.js';

/** What is typed, what is said, and what comes on standard input. */
type Mistake = readonly [typed: string, says: RegExp, input?: string];

const COMMANDS: readonly Mistake[] = [
  ['chek ferries', /unknown command 'chek'/],
  ['sitemaps list', /unknown command 'sitemaps'/],
  ['propertys list', /unknown command 'propertys'/],
  ['client remove saltmarsh', /unknown command 'remove'/],
  ['property delete ferries', /This deletes everything that is on record of ferries.*Say --yes/],
  ['sitemap add ferries x.xml', /unknown command 'add'/],
  ['engine remove house', /unknown command 'remove'/],
  ['key', /Usage: yardbadge key/],
  ['record', /Usage: yardbadge record/],
  ['client add', /missing required argument 'name'/],
  ['client add One Two', /too many arguments/],
  ['client show', /missing required argument 'client'/],
  ['property add', /required option '--client <client>' not specified/],
  ['property add quay.example', /required option '--client <client>' not specified/],
  ['property move ferries', /required option '--client <client>' not specified/],
  ['property show', /missing required argument 'property'/],
  ['login', /required option '--name <name>' not specified/],
  ['login http://127.0.0.1:1', /required option '--name <name>' not specified/],
  ['variants', /Name a property|missing|expected/i],
  ['advice', /missing required argument 'enrolment'/],
  ['check', /Name a property \(ferries\) or an enrolment \(ferries@veldrane\), or give --all/],
  ['token', /Name a property \(ferries\) or an enrolment \(ferries@veldrane\), or give --all/],
  ['claim', /or give --ready for everything whose token stands/],
  ['unenrol', /missing required argument 'enrolment'/],
  ['adopt', /missing required argument 'engine'/],
  ['record verdict ferries@house', /missing required argument 'verdict'/],
  ['record counts ferries@brindle', /missing required argument 'sitemap'/],
  ['token forget ferries@house', /missing required argument 'method'/],
  ['sitemap read', /Name a property, or give --all/],
  ['sitemap submit ferries', /missing required argument 'address'/],
  ['sitemap withdraw ferries', /Name a sitemap, or give --spare/],
  ['lookup', /Name|address/],
  ['engine add', /missing required argument 'file'/],
  ['account add house', /missing required argument 'name'/],
];

const OPTIONS: readonly Mistake[] = [
  ['check ferries --methd dns', /unknown option '--methd'/],
  ['check ferries --method', /argument missing/],
  ['check ferries --method txt', /“txt” is not a method; expected meta, file or dns/],
  ['token ferries --method DNS', /“DNS” is not a method; expected meta, file or dns/],
  ['claim ferries --method tag', /“tag” is not a method/],
  ['claim --client saltmarsh', /--client goes with --ready/],
  ['claim ferries --ready --client saltmarsh', /--client goes with --ready, in place of names/],
  ['enrol ferries', /Give --engine ENGINE…, or --fitting/],
  ['enrol --engine house', /Name properties; or give --client/],
  ['enrol ferries --engine house --fitting', /Give --engine ENGINE…, or --fitting/],
  ['enrol ferries --engine', /argument missing/],
  ['enrol ferries --engine house --reach domain', /“domain” is not a reach; expected name or address/],
  ['enrol ferries --engine house --reach name', /does not register by name; it takes address/],
  ['enrol ferries --engine house --account ours', /no account “ours” at House/],
  ['enrol ferries --engine sundrel --fact museum', /“museum” tells nothing; expected such as kind=museum/],
  ['enrol ferries --engine sundrel --fact colour=red', /No engine asks for “colour”/],
  ['enrol ferries --engine sundrel --fact kind=boat', /kind|boat/],
  ['enrol ferries --engine house --address elsewhere.example', /does not belong to ferries/],
  ['enrol ferries --engine house --address nonsense', /is not a host name|is a suffix/],
  ['enrol ferries --show --engine house', /--show shows the plan of --fitting/],
  ['enrol ferries --missing --engine house', /not both/],
  ['enrol ferries --engine house --client saltmarsh', /not both/],
  ['next --limit 0', /“0” is no number of lines; expected 1 to 500/],
  ['next --limit 9999', /“9999” is no number of lines; expected 1 to 500/],
  ['next --limit ten', /“ten” is no number of lines/],
  ['next --acts boss', /“boss” does not fit who acts; expected us, client, engine or time/],
  ['next --kind fix', /“fix” does not fit the kind of step; expected mend-site/],
  ['next --engine gogle', /There is no engine “gogle”/],
  ['next --client salt-mash', /There is no client “salt-mash”\. Did you mean saltmarsh\?/],
  ['next --property fery', /Did you mean ferries\?|No property has the handle/],
  ['next --after yesterday', /“after” is not what an earlier page said/],
  [
    'yard --badge gold',
    /“gold” does not fit the badge; expected bare, issued, in-place, held, slipping or lost/,
  ],
  ['yard --limit -1', /“-1” is no number of lines|argument missing/],
  ['journal --limit many', /“many” is no number of lines/],
  ['journal --limit 0', /“0” is no number of lines; expected 1 to 500/],
  ['watch --limit 501', /“501” is no number of lines; expected 1 to 500/],
  ['journal nobody', /No property has the handle or address “nobody”/],
  ['sitemap list --order size', /“size” does not fit the order; expected/],
  ['sitemap list --limit few', /--limit “few” is no number/],
  ['sitemap read ferries --sample some', /--sample “some” is no number; expected such as 50/],
  ['sitemap read ferries --sample -3', /--sample “-3” is no number|argument missing/],
  ['sitemap compare ferries --from never', /ferries has no sitemap|no reading/i],
  ['property edit ferries', /Nothing to change: give --handle/],
  ['property edit ferries --zone maybe', /“maybe” is no answer for --zone; expected yes or no/],
  [
    'property edit ferries --handle "My Ferries"',
    /“My Ferries” does not fit the handle; expected lower-case letters, digits and hyphens/,
  ],
  ['property edit ferries --handle clocks', /“clocks” is there already/],
  ['property add quay.example --client saltmarsh --handle FERRIES', /does not fit the handle/],
  ['property add one.example two.example --client saltmarsh --handle one', /--handle names one property/],
  ['client edit saltmarsh', /Nothing to change: give --name/],
  ['client edit saltmarsh --audience Atlantis', /“Atlantis” is no country/],
  ['client add Quay --audience "FI EX"', /“EX” is no country/],
  ['client add Quay --audience Finlnd', /“Finlnd” is no country\. Did you mean Finland \(FI\)\?/],
  ['client add Quay --handle "Quay Side"', /does not fit the handle/],
  ['client add ""', /The client’s name is empty/],
  [
    'client add "Saltmarsh Ferry Line"',
    /A client called Saltmarsh Ferry Line is there already, as saltmarsh/,
  ],
  ['client add "saltmarsh ferry line" --handle other', /is there already, as saltmarsh/],
  ['person add odile --role boss', /“boss” is not a role; expected lead, consultant or onlooker/],
  ['job nothing', /There is no job “nothing”/],
  ['job --stop', /Name|job/],
  ['key end nothing', /You have no key “nothing”/],
  [
    'record verdict ferries@brindle perhaps',
    /“perhaps” is no verdict; expected confirmed, refused, withdrawn/,
  ],
  ['record verdict ferries@brindle refused', /Give the reason that Brindle showed/],
  [
    'record verdict ferries@brindle confirmed --on tomorrow',
    /is still to come; expected when the engine said so/,
  ],
  ['record verdict ferries@brindle confirmed --on 2099-01-01', /is still to come/],
  ['record verdict ferries@brindle withdrawn --reason gone', /there is no badge to withdraw/],
  ['record verdict ferries@house confirmed', /House is not a manual engine/],
  ['record counts ferries@brindle sitemap.xml', /Give what it says: --found NUMBER, or --trouble WORDS/],
  ['record counts ferries@brindle sitemap.xml --found lots', /“lots” is no count of addresses found/],
  ['record counts ferries@brindle sitemap.xml --found 5', /No sitemap “sitemap\.xml” was submitted/],
  ['record ended ferries@house', /“unenrol ferries@house:address” ends it there/],
  ['unenrol ferries@house', /Say --yes to do it/],
  ['unenrol ferries@brindle', /is to be ended on Brindle’s own pages\. Say --yes/],
  ['adopt house', /House is the agency’s own/],
  ['adopt brindle', /Brindle is a manual engine/],
  ['adopt kelpwise', /shows Ostrime’s results/],
  ['account add brindle second --key abc', /account|key/i],
  ['account edit house/agency', /unknown command 'edit'/],
  ['serve --port ships', /“ships” is no whole number; expected one for “listen\.port”\. \(flag\)/],
  ['serve --config nowhere.yaml', /nowhere\.yaml: there is no such file/],
  ['rehearsal clock soon', /“soon” is not a length of time; expected such as 90s/],
  ['rehearsal meta nowhere.example <meta>', /has no website nowhere\.example/],
];

const NAMES: readonly Mistake[] = [
  ['check feries', /“feries”\. Did you mean ferries\?|nor a part of it\. Did you mean ferries\?/],
  ['check ferreis@house', /Did you mean ferries\?/],
  ['check ferries@hous', /There is no engine “hous”\. Did you mean house\?/],
  ['check ferries@gogle', /There is no engine “gogle”\. Known are: house/],
  ['check ferries@ostrime', /ferries is not enrolled with Ostrime\. “enrol ferries --engine …” does it/],
  ['check ferries@veldrane:domain', /“domain” is neither a reach nor an address; expected name or address/],
  ['check ferries@house:www.elsewhere.example', /is not enrolled with House by www\.elsewhere\.example/],
  ['check ferries@house#other', /There is no engine|no account/],
  ['check @house', /name it before the “@”, as in ferries@veldrane/],
  ['check ferries@', /There is no engine “”|Known are/],
  ['check s', /fits|no enrolment|not enrolled|nothing to check/i],
  ['property show clo-ks', /Did you mean clocks\?/],
  [
    'property archive ferr',
    /Did you mean ferries\? What changes something takes the whole handle or address/,
  ],
  ['property restore ferries', /ferries is not archived/],
  ['property restore nowhere', /No property has the handle or address “nowhere”/],
  ['property move clocks --client nobody', /There is no client “nobody”/],
  ['property look feries', /Did you mean ferries\?/],
  ['client show nobody', /There is no client “nobody”\. “client list” shows those there are/],
  ['client show "Saltmarsch Ferry Line"', /Did you mean Saltmarsh Ferry Line\?/],
  ['client archive saltmarsh', /has 2 properties \(clocks, ferries\)/],
  ['client restore saltmarsh', /Saltmarsh Ferry Line is not archived/],
  ['engine show houze', /There is no engine “houze”\. Did you mean house\?/],
  ['engine fit nowhere', /No property has the handle or address “nowhere”/],
  ['variants nowhere', /No property has the handle or address “nowhere”/],
  ['advice ferries@nowhere', /There is no engine “nowhere”/],
  ['sitemap show ferries', /ferries/],
  ['sitemap submit ferries sitemap.xml', /hold a badge that covers it first/],
  ['sitemap submit ferries sitemap.xml --to ferries@ostrime', /is not enrolled with Ostrime/],
  ['sitemap note ferries https://elsewhere.example/sitemap.xml', /./],
  ['sitemap withdraw ferries sitemap.xml', /No engine knows sitemap\.xml of ferries/],
  ['lookup https://www.saltmarsh-ferries.example/', /No held badge covers/],
  ['lookup timetable', /“timetable” is no whole address/],
  ['visit https://elsewhere.example/', /No enrolment covers https:\/\/elsewhere\.example\//],
  ['token forget ferries@house smoke', /“smoke” is not a method; expected meta, file or dns/],
  [
    'token forget ferries@brindle dns',
    /No dns token is known for ferries@brindle:address\. There is nothing to forget/,
  ],
  ['account pass nobody/else --to saltmarsh', /There is no account “nobody\/else”/],
];

const PASTED: readonly Mistake[] = [
  ['property add "" --client saltmarsh', /Nothing was given\. Expected a web address/],
  [
    'property add quay --client saltmarsh',
    /“quay” is a suffix under which names are registered, not a name of its own/,
  ],
  ['property add "quay example" --client saltmarsh', /is not a host name/],
  ['property add com --client saltmarsh', /is a suffix under which names are registered/],
  ['property add co.uk --client saltmarsh', /is a suffix under which names are registered/],
  ['property add 192.0.2.1 --client saltmarsh', /is an IP address/],
  ['property add [2001:db8::1] --client saltmarsh', /is an IP address/],
  ['property add 0x7f.1 --client saltmarsh', /is an IP address/],
  ['property add marit@quay.example --client saltmarsh', /is a mail address/],
  ['property add mailto:marit@quay.example --client saltmarsh', /is a mail address/],
  ['property add ftp://quay.example --client saltmarsh', /“ftp:\/\/” is not how websites are reached/],
  ['property add quay.example:99999 --client saltmarsh', /Port 99999 does not exist/],
  ['property add -quay-.example --client saltmarsh', /is not a host name|unknown option/],
  ['property add qu„ay.example --client saltmarsh', /is not a host name/],
  [
    'property add http://saltmarsh-ferries.example --client saltmarsh',
    /is the same site as https:\/\/saltmarsh-ferries\.example\//,
  ],
  [
    'property add „WWW.Saltmarsh-Ferries.example“, --client saltmarsh',
    /is there already as the property ferries/,
  ],
  ['property add saltmarsh-ferries.example:8443 --client saltmarsh', /is the same site/],
  [
    'property add https://saltmarsh-ferries.example/ --client saltmarsh',
    /is there already, as the property ferries/,
  ],
  ['token ferries@brindle --paste ""', /Nothing was pasted\. Expected what Brindle shows/],
  ['token ferries@brindle --paste "see attachment"', /is none of what Brindle shows/],
  [
    'token ferries@brindle --paste "<meta name=veldrane-mooring content=84da61f31aa466b6b1022a45>"',
    /The tag is named “veldrane-mooring”; Brindle’s is named “brindle-plank”/,
  ],
  [
    'token ferries@brindle --paste "<meta name=brindle-plank content=abc…>"',
    /cut short|not Brindle’s token|characters/,
  ],
  ['token ferries@brindle --paste "<meta name=brindle-plank>"', /is not of Brindle’s form|characters/],
  ['token ferries@brindle --paste "brindle-plank=x y z"', /none of what Brindle shows|not Brindle’s token/],
  [
    'token ferries@brindle --paste -',
    /There are 2 tokens by dns in it/,
    'brindle-plank=AAAAAAAAAAAAAAAAAAAA\nbrindle-plank=BBBBBBBBBBBBBBBBBBBB\n',
  ],
  [
    'token ferries@brindle --method file --paste "brindle-plank=AAAAAAAAAAAAAAAAAAAA"',
    /takes|file|none of what/,
  ],
  ['token ferries@house --paste "<meta name=yardbadge-proof content=zzz>"', /token|House/],
  ['token ferries clocks --paste x', /Name the one enrolment that it is for/],
  ['token --paste x', /Name the one enrolment that it is for/],
];

const FILES: readonly Mistake[] = [
  ['engine add nowhere.yaml', /nowhere\.yaml: there is no such file/],
  ['engine add {empty}', /The profile is empty/],
  ['engine add {broken}', /broken\.txt: line 1, column 6/],
  ['engine add {list}', /list\.txt: Keys with values were expected/],
  ['engine add {unknown}', /“worked” is missing[\s\S]*“colour” is nothing that is asked for here/],
  ['engine add {house}', /“methods” is missing/],
  ['lookup --from nowhere.txt', /nowhere\.txt: there is no such file/],
  ['lookup --from {empty}', /Give whole addresses, or a file with one a line by --from/],
  ['lookup --from {words}', /“timetable” is no whole address/],
  ['visit --from -', /Give whole addresses, or a file with one a line by --from/, ''],
  [
    'login http://127.0.0.1:1 --name marit --password-file nowhere.txt',
    /nowhere\.txt: there is no such file/,
  ],
  ['login http://127.0.0.1:1 --name marit', /Give the password on standard input/, ''],
  ['login http://127.0.0.1:1 --name marit', /No answer from http:\/\/127\.0\.0\.1:1/, 'lantern\n'],
  ['login nonsense --name marit', /“nonsense” is no address of a service/, 'lantern\n'],
  ['login {url} --name marit', /The name or the password is wrong/, 'not-the-word\n'],
  ['person add marit', /at least 12 characters/, 'short\n'],
];

const ALL = [...COMMANDS, ...OPTIONS, ...NAMES, ...PASTED, ...FILES];

/** Words of the programs below ours, and of nobody else. */
const RAW =
  /must be|is required\b|is not allowed|does not match|"[a-z]+(\[\d+\])?"|Invalid URL|\bundefined\b|\[object|Error:|ENOENT|EISDIR|SQLITE|Something went wrong|\.js:\d+:\d+/u;

describe('mistakes at the command line', () => {
  let stage: Stage;
  const home = mkdtempSync(join(tmpdir(), 'yardbadge-slips-'));
  const files: Record<string, string> = {};
  const ran = new Map<Mistake, Ran>();

  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    const { job } = await stage.marit.addProperty({
      body: { client: 'saltmarsh', address: 'tidewell-clocks.example', handle: 'clocks' },
    });
    await stage.marit.finished({ id: job });
    await stage.results(stage.marit.enrol({ body: { properties: ['ferries'], engines: ['brindle'] } }));
    mkdirSync(join(home, 'files'));
    const texts = {
      empty: '',
      broken: 'id: [eel\n  title: x',
      list: '- one\n- two\n',
      unknown: 'id: eel\ntitle: Eel\ncolour: green\n',
      house: 'id: veldrane\ntitle: Veldrane\n',
      words: 'timetable\nfares\n',
    };
    for (const [name, text] of Object.entries(texts)) {
      files[name] = join(home, 'files', `${name}.txt`);
      writeFileSync(files[name], text);
    }
    files['url'] = stage.url;
    // A few at a time, as many as there are cores for.
    const waiting = [...ALL];
    const lane = async (): Promise<void> => {
      for (let next = waiting.shift(); next; next = waiting.shift()) ran.set(next, await run(next));
    };
    await Promise.all([lane(), lane()]);
    // Two hundred programs, on whatever machine beside whatever else.
  }, 900_000);
  afterAll(async () => {
    await stage.close();
    await removed(home);
  });

  function run([typed, , input]: Mistake): Promise<Ran> {
    const args = words(typed).map((word) =>
      word.replace(/\{(\w+)\}/gu, (_, name: string) => files[name] ?? ''),
    );
    const env = {
      YARDBADGE_URL: stage.url,
      YARDBADGE_KEY: stage.key,
      YARDBADGE_REHEARSAL: join(stage.folder, 'rehearsal.json'),
      XDG_CONFIG_HOME: home,
    };
    return runCli(args, env, input, home);
  }

  test.each(ALL)('%s', (...mistake) => {
    const [typed, says] = mistake as unknown as Mistake;
    const came = [...ran].find(([one]) => one[0] === typed && one[1] === says)?.[1];
    const screen = (came?.out ?? '') + (came?.err ?? '');
    expect(screen).toMatch(says);
    expect(screen).not.toMatch(RAW);
    expect(screen.length).toBeLessThan(2_000);
  });

  test('are a hundred and fifty, and each is one', () => {
    expect(ALL.length).toBeGreaterThanOrEqual(150);
    if (process.env['YARDBADGE_READ_ALOUD'] === '1')
      for (const [[typed], { status, out, err }] of ran)
        process.stdout.write(`\n$ ${typed}   → ${String(status)}\n${(err || out).slice(0, 500)}`);
  });
});
