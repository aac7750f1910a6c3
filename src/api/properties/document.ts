import type { Named } from '../parts/document.js';

export interface Property {
  id: string;
  handle: string;
  client: Named & { name: string };
  /** As it was taken on, in the form for machines, and for people. */
  address: string;
  addressForPeople: string;
  host: { ascii: string; unicode: string; registrable: string };
  frontDoor: { address: string | null; forPeople: string | null; says: string | null; seenAt: string | null };
  /** What engines asked of it at registration, by the fact's id. */
  facts: Record<string, string>;
  /** What the client's people can get at; what is absent nobody has said. */
  access: Access;
  /** How often what of it is looked at, where it is not as usual; ISO 8601. */
  rhythms: { placement?: string; variants?: string; sitemap?: string };
  /** The day on which its registered name ends, as its owner said; null where nobody did. */
  nameEnds: string | null;
  createdAt: string;
  archivedAt: string | null;
  version: number;
}

export interface Access {
  zone?: 'yes' | 'no';
  files?: 'yes' | 'no';
  pages?: 'yes' | 'no';
}

export interface NewProperty extends Property {
  /** What was changed in the pasted address, in words. */
  notes: string[];
  /** The job that looks for the front door. */
  job: string;
}
