import type { Enrolment, Job, Method } from '../../api/documents.js';
import type { Context } from '../context.js';
import { Usage } from '../exit.js';

export const METHODS: readonly Method[] = ['meta', 'file', 'dns'];

/** The method that was asked for, if any. Throws Usage on what is none. */
export function method(text: string | undefined): { method?: Method } {
  if (text === undefined) return {};
  const known = METHODS.find((one) => one === text);
  if (known === undefined) throw new Usage(`“${text}” is not a method; expected meta, file or dns.`);
  return { method: known };
}

/** Which enrolments are meant. Throws Usage where nobody said. */
export function which(
  refs: readonly string[],
  all: boolean | undefined,
): { enrolments?: string[]; all?: boolean } {
  if (all === true) return { all: true };
  if (refs.length === 0)
    throw new Usage('Name a property (ferries) or an enrolment (ferries@veldrane), or give --all.');
  return { enrolments: [...refs] };
}

/** The enrolments that a job was about, as they stand now. */
export async function enrolmentsOf(context: Context, job: Job): Promise<Enrolment[]> {
  const names = [
    ...new Set(
      job.items.flatMap((item) => (item.result?.enrolment === undefined ? [] : [item.result.enrolment])),
    ),
  ];
  const properties = [...new Set(names.map((name) => name.slice(0, name.lastIndexOf('@'))))];
  const lists = await Promise.all(
    properties.map((property) => context.client.listEnrolments({ query: { property } })),
  );
  return lists.flatMap(({ items }) => items).filter(({ name }) => names.includes(name));
}

export interface Options {
  all?: boolean;
  method?: string;
  json?: boolean;
}
