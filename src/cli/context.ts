import type { SingleBar } from 'cli-progress';
import type { Job, JobItem } from '../api/documents.js';
import type { ProblemCode } from '../api/problems.js';
import { routes, type RouteName } from '../api/routes.js';
import { createClient, type Client } from '../client/client.js';
import { EXIT, isEngineCode } from './exit.js';
import { sayNext } from './print/next.js';
import { paint, plain, say, sayAside, sayJson } from './print/text.js';
import { readSignIn } from './sign-in.js';

/** What every command works with. */
export interface Context {
  readonly client: Client;
  readonly json: boolean;
}

export function openContext(options: { json?: boolean }): Context {
  const { url, key, demo } = readSignIn(process.env);
  let isSaid = false;
  const onRequest = (name: RouteName): void => {
    // What is answered with a job may have begun before its identifier is here.
    if (routes[name].status === 202) process.once('SIGINT', leaveEarly);
    if (demo === null || isSaid || routes[name].method === 'GET') return;
    isSaid = true;
    sayAside(`As ${demo}, by the demo’s own sign-in. “login ${url} --name NAME” works as somebody else.`);
  };
  return { client: createClient({ url, key, wait: 2, onRequest }), json: options.json === true };
}

/**
 * Prints the document, or what `show` makes of it and what can be done next.
 * @param next the commands that come next, as they would be typed
 */
export function output<T>(
  context: Context,
  document: T,
  show: (document: T) => void,
  next: (document: T) => readonly string[] = () => [],
): void {
  if (context.json) {
    sayJson(document);
    return;
  }
  show(document);
  sayNext(...next(document));
}

/** How far a job is, how fast it goes and how much time is left; loaded only where somebody looks. */
async function progressBar(): Promise<SingleBar> {
  const { SingleBar } = await import('cli-progress');
  return new SingleBar({
    format: ' {bar}  {value} of {total}  {pace}',
    barCompleteChar: '█',
    barIncompleteChar: '░',
    barsize: 28,
    clearOnComplete: true,
    hideCursor: null,
    gracefulExit: false,
  });
}

/** How fast a job goes and how much time is left, once that can be told. */
function paceOf(total: number, finished: number, seconds: number): string {
  if (seconds < 1 || finished === 0) return '';
  const left = ((total - finished) * seconds) / finished;
  const time = left < 90 ? `${String(Math.ceil(left))} s` : `${String(Math.ceil(left / 60))} min`;
  return `${(finished / seconds).toFixed(1)} a second, about ${time} left`;
}

/** Waits for a job, its progress on stderr, and sets the exit status by what came of it. */
export async function finish(context: Context, started: Pick<Job, 'id'>): Promise<Job> {
  const bar = process.stderr.isTTY ? await progressBar() : null;
  const begun = performance.now();
  const heard = hearCtrlC(context, started.id, () => bar?.stop());
  const job = await context.client.finished(started, ({ total, finished }) => {
    // One piece has nothing to show.
    if (!bar || total < 2) return;
    const pace = paceOf(total, finished, (performance.now() - begun) / 1000);
    if (bar.isActive) bar.update(finished, { pace });
    else bar.start(total, finished, { pace });
  });
  bar?.stop();
  heard.end();
  if (job.state === 'stopped')
    process.stderr.write(`${plain(`The work was stopped; “job ${job.id} --resume” goes on with it.`)}\n`);
  process.exitCode = job.state === 'stopped' ? EXIT.stops : statusOf(job.items);
  return job;
}

/** Ctrl-C before it is known under which identifier the work goes on. */
function leaveEarly(): void {
  sayAside('The work goes on without you: “job” lists it, “job ID --stop” stops it.');
  process.exit(EXIT.stops);
}

/** How long a second Ctrl-C is waited for, in milliseconds. */
const SECOND_MS = 3_000;

/** A first Ctrl-C leaves the work to the service and says so; a second one soon after stops it. */
function hearCtrlC(context: Context, id: string, clear: () => void): { end: () => void } {
  let leaving: NodeJS.Timeout | null = null;
  const hear = (): void => {
    if (leaving) {
      clearTimeout(leaving);
      context.client.stopJob({ params: { id } }).then(
        () => {
          sayAside(`Stopped; “job ${id} --resume” goes on with it.`);
          process.exit(EXIT.stops);
        },
        (error: unknown) => {
          sayAside(error instanceof Error ? error.message : String(error));
          process.exit(EXIT.stops);
        },
      );
      return;
    }
    clear();
    sayAside(
      `The work goes on without you: “job ${id}” shows how far it is, “job ${id} --stop” stops it. Ctrl-C once more stops it now.`,
    );
    leaving = setTimeout(() => process.exit(EXIT.stops), SECOND_MS);
  };
  process.removeListener('SIGINT', leaveEarly);
  process.on('SIGINT', hear);
  return {
    end: () => {
      process.removeListener('SIGINT', hear);
      if (leaving) clearTimeout(leaving);
    },
  };
}

/** Whether the engine put a piece off: nothing failed, and it is to be waited for. */
function isWait({ result }: JobItem): boolean {
  return result?.problem?.code === 'engine-waits';
}

function statusOf(items: readonly JobItem[]): number {
  if (items.some((item) => FAILURES.has(item.result?.problem?.code ?? ''))) return EXIT.failed;
  if (items.some((item) => item.result?.problem && isEngineCode(item.result.problem.code)))
    return EXIT.engineSaidNo;
  return items.some((item) => item.result?.stops === true) ? EXIT.stops : EXIT.done;
}

/** Problems of a piece of work that are faults of the service itself. */
const FAILURES: ReadonlySet<string> = new Set<ProblemCode>([
  'internal',
  'records-full',
  'records-damaged',
  'given-up',
]);

/** One line for each piece of a job. */
export function printItems(job: Job, empty: string): void {
  if (job.items.length === 0) say(paint.dim(empty));
  for (const item of job.items) {
    const mark = isWait(item)
      ? paint.magenta('…')
      : item.result?.stops === true
        ? paint.red('✗')
        : paint.green('✓');
    say(`${mark} ${paint.bold(plain(item.subject))}  ${plain(item.result?.says ?? item.state)}`);
  }
}
