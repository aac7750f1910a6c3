import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Check, Job, Placement, Sitemap, WorkItem, Yard } from '../api/documents.js';

const PROGRAM = fileURLToPath(new URL('../cli/main.js', import.meta.url));
const HOST = 'www.saltmarsh-ferries.example';

interface Ran {
  readonly status: number;
  readonly out: string;
}

type Holds = (ran: Ran) => boolean;

/** A consultant's day by the real command line: each step is printed, run, and held against what it should be. */
class Tour {
  private failed = 0;
  private held = 0;

  constructor(private readonly folder: string) {}

  /** Runs one command line and checks what came of it. */
  async step(says: string, args: readonly string[], status: number, holds: Holds = () => true): Promise<Ran> {
    const ran = await this.run(args);
    const good = ran.status === status && holds(ran);
    process.stdout.write(`\n# ${says}\n$ yardbadge ${args.map(quoted).join(' ')}\n${ran.out.trimEnd()}\n`);
    if (good) this.held += 1;
    else {
      this.failed += 1;
      process.stdout.write(`!! this did not hold (exit ${String(ran.status)}, expected ${String(status)})\n`);
    }
    return ran;
  }

  /** The same, quietly: what the next step needs to know. */
  async read<T>(args: readonly string[]): Promise<T> {
    const { out } = await this.run([...args, '--json']);
    return JSON.parse(out) as T;
  }

  run(args: readonly string[]): Promise<Ran> {
    return new Promise((done) => {
      execFile(
        process.execPath,
        [PROGRAM, ...args],
        { cwd: this.folder, env: { ...process.env, NO_COLOR: '1' } },
        (error, out, err) => {
          done({ status: typeof error?.code === 'number' ? error.code : 0, out: out + err });
        },
      );
    });
  }

  end(): number {
    process.stdout.write(`\nThe tour: ${String(this.held)} steps held, ${String(this.failed)} did not.\n`);
    return this.failed === 0 ? 0 : 1;
  }
}

function quoted(text: string): string {
  return /^[\w@:./=-]+$/.test(text) ? text : `'${text.replaceAll("'", "'\\''")}'`;
}

function says(...words: string[]): Holds {
  return ({ out }) => words.every((word) => out.includes(word));
}

async function startDemo(folder: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, [PROGRAM, 'demo', '--empty', '--any-ports'], {
    cwd: folder,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((done, fail) => {
    child.stdout.on('data', (piece: Buffer) => {
      if (piece.includes('Ctrl-C')) done();
    });
    child.once('exit', (status) => {
      fail(new Error(`the demo ended with status ${String(status)}`));
    });
  });
  return child;
}

async function takeOn(tour: Tour): Promise<void> {
  await tour.step('an empty yard says what would fill it', ['yard'], 0, says('The yard is empty'));
  await tour.step(
    'a client',
    ['client', 'add', 'Saltmarsh Ferry Line', '--handle', 'saltmarsh', '--audience', 'FI,EE'],
    0,
    says('saltmarsh'),
  );
  await tour.step(
    'nonsense is refused',
    ['property', 'add', 'ftp://saltmarsh-ferries.example', '--client', 'saltmarsh'],
    2,
    says('Expected a web address'),
  );
  await tour.step(
    'an IP address is refused',
    ['property', 'add', '192.0.2.10', '--client', 'saltmarsh'],
    2,
    says('IP address'),
  );
  await tour.step(
    'a bare suffix is refused',
    ['property', 'add', 'co.uk', '--client', 'saltmarsh'],
    2,
    says('suffix'),
  );
  await tour.step(
    'a property, as it came in a mail',
    ['property', 'add', 'Saltmarsh-Ferries.example', '--client', 'saltmarsh', '--handle', 'ferries'],
    0,
    says(`https://${HOST}/`),
  );
  await tour.step(
    'an accented one',
    [
      'property',
      'add',
      'www.Hallig-Sämerei.example/index.html',
      '--client',
      'saltmarsh',
      '--handle',
      'seeds',
    ],
    0,
    says('hallig-sämerei.example', 'xn--'),
  );
  await tour.step('the house first', ['enrol', 'ferries', '--engine', 'house'], 0, says('Enrolled at House'));
  await tour.step(
    'Veldrane for the front door',
    ['enrol', 'ferries', '--engine', 'veldrane', '--reach', 'address'],
    0,
    says(`https://${HOST}/`),
  );
  await tour.step(
    'Veldrane for the whole name',
    ['enrol', 'ferries', '--engine', 'veldrane', '--reach', 'name'],
    0,
    says('by name'),
  );
  await tour.step(
    'once more changes nothing',
    ['enrol', 'ferries', '--engine', 'veldrane', '--reach', 'name'],
    0,
    says('enrolled already'),
  );
}

async function prove(tour: Tour): Promise<void> {
  await tour.step(
    'the tokens, ready to copy',
    ['token', 'ferries'],
    0,
    says('<meta name="veldrane-mooring"', 'IN TXT', '_yardbadge-proof'),
  );
  const { placements } = await tour.read<{ placements: (Placement & { enrolment: string })[] }>([
    'token',
    'ferries',
  ]);
  const put = (enrolment: string, method: string): Placement['put'] => {
    const found = placements.find((one) => one.enrolment === enrolment && one.method === method);
    if (!found) throw new Error(`no ${method} for ${enrolment}`);
    return found.put;
  };
  await tour.step(
    'too early: not placed',
    ['check', 'ferries@veldrane:address'],
    1,
    says('refuse', 'Please put'),
  );
  await tour.step('and so no claim is spent', ['claim', 'ferries@veldrane:address'], 1, says('Not claimed'));
  const file = put('ferries@house:address', 'file');
  const meta = put('ferries@veldrane:address', 'meta');
  const record = put('ferries@veldrane:name', 'dns');
  if (file.kind !== 'file' || meta.kind !== 'meta' || record.kind !== 'dns')
    throw new Error('placements of other kinds than asked for');
  await tour.step('the developer uploads the file', ['rehearsal', 'file', HOST, file.path, file.content], 0);
  await tour.step('puts the tag into the body', ['rehearsal', 'meta', HOST, meta.tag, '--in-body'], 0);
  await tour.step('and adds the record', ['rehearsal', 'txt', record.zone, record.value], 0);
  await tour.step(
    'the check sees where the tag is',
    ['check', 'ferries@veldrane:address', '--method', 'meta'],
    1,
    says('in the body'),
  );
  await tour.step(
    'claimed anyway: refused',
    ['claim', 'ferries@veldrane:address', '--method', 'meta', '--anyway'],
    5,
    says('tag not found', 'in the body'),
  );
  await tour.step('the developer moves the tag', ['rehearsal', 'clear', HOST, 'meta'], 0);
  await tour.step('into the head', ['rehearsal', 'meta', HOST, meta.tag], 0);
  await tour.step('now all is in place', ['check', 'ferries', '--explain'], 0, says('✓ accept', 'over udp'));
  await tour.step(
    'claim what is ready',
    ['claim', '--ready'],
    0,
    says('House confirmed', 'ferries@veldrane:name: held', 'ferries@veldrane:address: held'),
  );
}

async function follow(tour: Tour): Promise<void> {
  await tour.step(
    'the sitemap, in the engine’s form',
    ['sitemap', 'submit', 'ferries', 'sitemap.xml'],
    0,
    says('as /sitemap.xml', `as https://${HOST}/sitemap.xml`),
  );
  await tour.step('our own reading', ['sitemap', 'read', 'ferries'], 0, says('162', 'waiting'));
  await tour.step('a day goes by', ['rehearsal', 'clock', '1d'], 0);
  await tour.step('the engine has read it too', ['sitemap', 'read', 'ferries'], 0, says('equal'));
  const { items } = await tour.read<{ items: Sitemap[] }>(['sitemap', 'list', 'ferries']);
  if (!items.every((one) => one.submissions.every((submission) => submission.counts.gap === 0)))
    throw new Error('the counts are apart');
  await tour.step('where it stands', ['yard'], 0, says('● held', '● held (name)'));
  await tour.step('a redesign loses the tag', ['rehearsal', 'clear', HOST, 'meta'], 0);
  await tour.step('we see it first', ['check', 'ferries@veldrane:address'], 1, says('No meta tag'));
  const next = await tour.step('and it comes first in what to do', ['next'], 0, says('repair'));
  if (!next.out.split('\n')[1]?.startsWith('repair')) throw new Error('the repair does not come first');
  await tour.step(
    'all that happened, by whom',
    ['journal', 'ferries', '--limit', '60'],
    0,
    says('marit', 'was taken on', 'confirmed', 'refused'),
  );
  const yard = await tour.read<Yard>(['yard']);
  const badges = yard.items[0]?.enrolments.map(({ badge }) => badge).join();
  if (badges !== 'held,slipping,held') throw new Error(`badges are ${String(badges)}`);
  const { checks } = await tour.read<{ checks: Check[] }>(['check', 'ferries']);
  const { items: work } = await tour.read<{ items: WorkItem[] }>(['next']);
  const job = await tour.read<Job>(['enrol', 'ferries', '--engine', 'house']);
  if (checks.length !== 7 || work.length === 0 || job.state !== 'done')
    throw new Error('the documents are not whole');
}

const folder = mkdtempSync(join(tmpdir(), 'yardbadge-tour-'));
const tour = new Tour(folder);
const demo = await startDemo(folder);
try {
  await takeOn(tour);
  await prove(tour);
  await follow(tour);
} finally {
  const gone = new Promise((done) => demo.once('exit', done));
  demo.kill('SIGTERM');
  await gone;
  rmSync(folder, { recursive: true, force: true });
}
process.exitCode = tour.end();
