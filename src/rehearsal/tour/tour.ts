import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Placement } from '../../api/documents.js';

export const PROGRAM = fileURLToPath(new URL('../../cli/main.js', import.meta.url));

interface Ran {
  readonly status: number;
  /** All that was said, the answer and what is said beside it. */
  readonly out: string;
  /** The answer alone, as a program would read it. */
  readonly answer: string;
}

type Put = Placement['put'];

type Holds = (ran: Ran) => boolean;

/** A consultant's day by the real command line: each step is printed, run, and held against what it should be. */
export class Tour {
  private failed = 0;
  private held = 0;

  constructor(
    private readonly folder: string,
    /** Where what is said goes. */
    private readonly write: (text: string) => void,
  ) {}

  /** Runs one command line and checks what came of it. */
  async step(says: string, args: readonly string[], status: number, holds: Holds = () => true): Promise<Ran> {
    const ran = await this.run(args);
    // Whatever was done, what is kept ready is what the facts say.
    const verified = await this.run(['records', 'verify']);
    const good = ran.status === status && holds(ran) && verified.status === 0;
    this.write(`\n# ${says}\n$ yardbadge ${args.map(quoted).join(' ')}\n${ran.out.trimEnd()}\n`);
    if (good) this.held += 1;
    else {
      this.failed += 1;
      this.write(
        `!! this did not hold (exit ${String(ran.status)}, expected ${String(status)})\n${verified.status === 0 ? '' : verified.out}\n`,
      );
    }
    return ran;
  }

  /** Prints a line beside the steps. */
  say(text: string): void {
    this.write(`${text}\n`);
  }

  /** Holds something that no single command shows. */
  hold(what: string, isSo: boolean): void {
    this.say(`${isSo ? '✓' : '!! this did not hold:'} ${what}`);
    if (isSo) this.held += 1;
    else this.failed += 1;
  }

  /** The same, quietly: what the next step needs to know. */
  async read<T>(args: readonly string[]): Promise<T> {
    const { answer } = await this.run([...args, '--json']);
    return JSON.parse(answer) as T;
  }

  /** What has to be put where for an enrolment, by one kind of placement. */
  async put<Kind extends Put['kind']>(enrolment: string, kind: Kind): Promise<Extract<Put, { kind: Kind }>> {
    const { placements } = await this.read<{ placements: Placement[] }>(['token', enrolment]);
    const found = placements.find(({ put }) => put.kind === kind);
    if (!found) throw new Error(`no ${kind} for ${enrolment}`);
    return found.put as Extract<Put, { kind: Kind }>;
  }

  run(args: readonly string[]): Promise<Ran> {
    return new Promise((done) => {
      execFile(
        process.execPath,
        [PROGRAM, ...args],
        { cwd: this.folder, env: { ...process.env, NO_COLOR: '1' } },
        (error, out, err) => {
          done({ status: typeof error?.code === 'number' ? error.code : 0, out: out + err, answer: out });
        },
      );
    });
  }

  /** Says how many steps of all parts held. @returns the status to end with */
  static end(...parts: readonly Tour[]): number {
    const sum = (of: 'held' | 'failed') => parts.reduce((all, part) => all + part[of], 0);
    process.stdout.write(
      `\nThe tour: ${String(sum('held'))} steps held, ${String(sum('failed'))} did not.\n`,
    );
    return sum('failed') === 0 ? 0 : 1;
  }
}

function quoted(text: string): string {
  return /^[\w@:./=-]+$/.test(text) ? text : `'${text.replaceAll("'", "'\\''")}'`;
}

/** Holds when every one of these words came back. */
export function says(...words: string[]): Holds {
  return ({ out }) => words.every((word) => out.includes(word));
}
