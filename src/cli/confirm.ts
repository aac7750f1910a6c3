import { isAsking } from '../api/asks.js';
import { ApiProblem } from '../client/client.js';
import { Usage } from './exit.js';
import { plain } from './print/text.js';

/**
 * Asks the one at the terminal.
 * @returns null where nobody is there to ask
 */
export async function agrees(question: string): Promise<boolean | null> {
  if (!process.stdin.isTTY || !process.stdout.isTTY) return null;
  const { createInterface } = await import('node:readline/promises');
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  try {
    return /^y(es)?$/i.test((await lines.question(`${plain(question)} [y/N] `)).trim());
  } finally {
    lines.close();
  }
}

/**
 * Whether something that is not easily undone is wanted: as an option said, or as the one at the terminal says.
 * @param says what is done then, in a sentence
 * @throws Usage where nobody is there to ask
 */
export async function isSaid(yes: boolean | undefined, says: string, question = 'Do it?'): Promise<boolean> {
  if (yes === true) return true;
  const isWanted = await agrees(`${says} ${question}`);
  if (isWanted === null) throw new Usage(`${says} Say --yes to do it.`);
  return isWanted;
}

/** By which option somebody says that they want it all the same, where a command may be asked about more than one thing. */
const OPTIONS: Readonly<Record<string, string>> = {
  'one-page': '--page',
  'token-of-another': '--of-another',
};

/**
 * As `unlessUnwanted`, for what may be asked about more than one thing: each is asked about by itself.
 * @param answered what the one who asks has said already, by the codes of the problems
 */
export async function askedEach<T>(
  answered: readonly string[],
  work: (answered: string[]) => Promise<T>,
  question: string,
): Promise<T | null> {
  const all = [...answered];
  for (;;)
    try {
      return await work(all);
    } catch (error) {
      if (!(error instanceof ApiProblem) || !isAsking(error.problem.code) || all.includes(error.problem.code))
        throw error;
      const { code } = error.problem;
      const says = error.message.replace('Say “anyway”', `Say ${OPTIONS[code] ?? '--anyway'}`);
      const isWanted = await agrees(`${says.replace(/ Say --.*$/u, '')} ${question}`);
      if (isWanted === null) throw new Usage(says);
      if (!isWanted) return null;
      all.push(code);
    }
}

/**
 * Does something that the service may answer with a reason not to: that is shown, and asked about.
 * @param anyway whether the one who asks has said so already
 * @param work does it; once more with `true` where the one at the terminal wants it all the same
 * @param question what is asked then
 * @returns null where it is not wanted
 * Throws Usage where nobody is there to ask.
 */
export async function unlessUnwanted<T>(
  anyway: boolean,
  work: (anyway: boolean) => Promise<T>,
  question: string,
): Promise<T | null> {
  try {
    return await work(anyway);
  } catch (error) {
    if (!(error instanceof ApiProblem) || !isAsking(error.problem.code)) throw error;
    // It is said to a person here, whose word for “anyway” is the option.
    const says = error.message.replace('Say “anyway”', 'Say --anyway');
    const isWanted = await agrees(`${says.replace(/ Say --anyway.*$/u, '')} ${question}`);
    if (isWanted === null) throw new Usage(says);
    return isWanted ? work(true) : null;
  }
}
