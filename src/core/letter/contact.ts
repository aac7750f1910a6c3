import type { SheetPlaceKind } from '../sheet/sheet.js';

/** Who somebody is to a website: whoever makes its pages, whoever keeps its zone and server, whoever owns it. */
export const CONTACT_ROLES = ['developer', 'host', 'owner'] as const;
export type ContactRole = (typeof CONTACT_ROLES)[number];

/** An address, in what somebody wrote of whom to write to (RFC 5321 §4.1.2, as it is used). */
const ADDRESS = /[^\s<>@,;:"()]+@[^\s<>@,;:"()]+\.[^\s<>@,;:"().]+/u;

/**
 * Whom to write to, in what was noted with a client, such as `Ida Kiln <ida@kiln.example>, mornings`.
 * @returns null where there is no address in it
 */
export function contactNoted(text: string | null): { readonly name: string; readonly email: string } | null {
  const found = ADDRESS.exec(text ?? '');
  if (!found) return null;
  const [email] = found;
  const [before = ''] = (text ?? '').slice(0, found.index).split(/[<,;:("]+$/u);
  const name = before
    .replace(/[<>"(),;:]+/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim();
  return { email, name: name === '' ? email : name.slice(0, 80) };
}

export interface ContactAt {
  readonly id: string;
  readonly role: ContactRole;
  /** Null where somebody is there for all of the client. */
  readonly propertyId: string | null;
}

/** Who is there for a property: of each role those who are there for it alone, else those who are there for all. */
export function contactsFor<Contact extends ContactAt>(
  contacts: readonly Contact[],
  propertyId: string,
): Contact[] {
  return CONTACT_ROLES.flatMap((role) => {
    const own = contacts.filter((one) => one.role === role);
    const alone = own.filter((one) => one.propertyId === propertyId);
    return alone.length > 0 ? alone : own.filter((one) => one.propertyId === null);
  });
}

/** By whom something is done best, the best first: whoever of them is there. */
const DONE_BY: Readonly<Record<SheetPlaceKind | 'website' | 'name', readonly ContactRole[]>> = {
  zone: ['host', 'developer', 'owner'],
  head: ['developer', 'host', 'owner'],
  root: ['developer', 'host', 'owner'],
  website: ['developer', 'host', 'owner'],
  name: ['owner', 'host', 'developer'],
};

/** The one of those who are there to whom something goes. @returns null where nobody is there */
export function contactFor<Contact extends ContactAt>(
  what: keyof typeof DONE_BY,
  there: readonly Contact[],
): Contact | null {
  for (const role of DONE_BY[what]) {
    const found = there.find((one) => one.role === role);
    if (found) return found;
  }
  return null;
}
