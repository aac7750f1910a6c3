import { dayTyped, isRelative } from '../../api/day-typed.js';
import { api, Told } from '../api.js';
import { Field } from './field.js';

interface DayFieldProps {
  label: string;
  name: string;
  hint?: string;
  required?: boolean;
  defaultValue?: string;
}

/** A day, written as everywhere here and typed as people do. */
export function DayField({ hint, ...props }: DayFieldProps) {
  const typed = 'For example 2026-12-15, 15.12.2026, tomorrow or in 3 weeks.';
  return <Field {...props} autoComplete="off" hint={hint === undefined ? typed : `${hint} ${typed}`} />;
}

/** A day that was typed, as the API takes it: its first instant in UTC. What goes by today goes by the service’s clock. Throws Told. */
export async function dayGiven(text: string): Promise<string> {
  const now = isRelative(text) ? new Date((await api.whoAmI()).now) : new Date(0);
  const time = dayTyped(text, now);
  if (time === null)
    throw new Told(`“${text}” is no day; expected such as 2026-12-15, 15.12.2026, tomorrow or in 3 weeks.`);
  return time.toISOString();
}

/** As `dayGiven`, under a name; nothing where nothing was typed. */
export async function dayUnder<Name extends string>(
  name: Name,
  text: string | undefined,
): Promise<Partial<Record<Name, string>>> {
  return text === undefined || text === ''
    ? {}
    : ({ [name]: await dayGiven(text) } as Partial<Record<Name, string>>);
}
