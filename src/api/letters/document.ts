import type { ContactRole } from '../../core/letter/contact.js';

export type { ContactRole };

/** Somebody of a client's, who is written to. */
export interface Contact {
  id: string;
  client: string;
  /** The handle; null where they are there for all of the client. */
  property: string | null;
  name: string;
  role: ContactRole;
  email: string | null;
  language: 'en' | 'de';
  createdAt: string;
}

export interface NewContact {
  client?: string;
  property?: string;
  name: string;
  role: ContactRole;
  email?: string;
  language?: 'en' | 'de';
}

/** Whom is written to, about what. */
export interface LetterInput {
  property?: string;
  client?: string;
  /** Only to these of those who are there: by name or identifier. */
  contacts?: string[];
  /** Only about the tokens of these enrolments. */
  enrolments?: string[];
  /** Only about these alerts, by identifier; beside `enrolments` about both. */
  alerts?: string[];
}

/** What would be written to one contact. */
export interface LetterDraft {
  contact: Contact;
  properties: string[];
  subject: string;
  text: string;
  /** When they were written to about any of it and have not answered; null where never. */
  before: string | null;
}

export interface NewLetters extends LetterInput {
  /** Sent by the product, or copied and sent by whoever writes. */
  way: 'mail' | 'copied';
  /** Whether a shared link to the sheet goes with it. */
  link?: boolean;
  /** In place of what is drafted, where it is to one. */
  subject?: string;
  text?: string;
}

/** A letter that was written. */
export interface Letter {
  id: string;
  contact: string;
  role: ContactRole;
  client: string;
  properties: string[];
  way: 'mail' | 'copied';
  to: string | null;
  subject: string;
  text: string;
  /** Of one that the product sends: whether it was taken. */
  state: 'sent' | 'waiting' | 'dead' | 'copied';
  at: string;
  by: string | null;
  answeredAt: string | null;
  answer: string | null;
}
