import { InvalidArgumentError, type Command, type Option } from 'commander';

/** What a place in a list is written as on the command line: what it is made of means nothing to anybody. */
const PLACE = /^p-([\w-]+)$/u;

/** The place where a next page begins, as it is typed. */
export function placeTyped(place: string): string {
  return `p-${Buffer.from(place).toString('base64url')}`;
}

function placeMeant(text: string): string {
  const packed = PLACE.exec(text.trim())?.[1];
  return packed === undefined ? text : Buffer.from(packed, 'base64url').toString();
}

/**
 * Has every option that takes one value refuse a second one, which would silently take the place of the first, and reads places in lists.
 */
export function settleOptions(command: Command): void {
  for (const option of command.options)
    if (!option.variadic && (option.required || option.optional)) settle(option);
  for (const below of command.commands) settleOptions(below);
}

function settle(option: Option): void {
  const own = option.parseArg as ((value: string, before: unknown) => unknown) | undefined;
  let given: string | null = null;
  option.argParser((value: string, before: unknown) => {
    if (given !== null)
      throw new InvalidArgumentError(
        `It was given twice (“${given}” and “${value}”), and takes one: run the command once for each.`,
      );
    given = value;
    const meant = option.long === '--after' ? placeMeant(value) : value;
    return own ? own(meant, before) : meant;
  });
}
