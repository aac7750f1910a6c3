import type { Role } from '../parts/document.js';

export interface Person {
  id: string;
  name: string;
  role: Role;
  createdAt: string;
}

export interface Key {
  id: string;
  /** `session` is a sign-in of the console. */
  kind: 'key' | 'session';
  label: string;
  /** The program that signed in, as it calls itself; null where it said nothing. */
  agent: string | null;
  createdAt: string;
  /** To the hour; null where it was never used. */
  usedAt: string | null;
  /** Null for one of before keys came to an end. */
  expiresAt: string | null;
  /** Whether this request came with it. */
  current: boolean;
}

export interface NewKey extends Pick<Key, 'id' | 'label' | 'createdAt' | 'expiresAt'> {
  /** The secret itself: told this once, kept only as a hash. */
  key: string;
}
