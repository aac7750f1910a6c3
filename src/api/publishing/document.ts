import type { PublishAct, TargetProtocol } from '../../core/publish/plan.js';
import type { Role } from '../../core/people/roles.js';

/** A place where files or records of a property are published. */
export interface Target {
  id: string;
  way: TargetProtocol;
  /** Where it is, in words: `sftp://jonas@files.example/srv/www`. */
  says: string;
  /** Whether a password, a private key or a zone's key is sealed for it. */
  hasSecret: boolean;
  /** The host key that it showed when it was first used. */
  pin: string | null;
  pinnedAt: string | null;
  /** Who may publish there at least. */
  role: Role;
  /** Whether the watch may put back what has gone. */
  watchMay: boolean;
  createdAt: string;
}

/** What is done at one target, or would be. */
export interface Publication {
  target: string;
  says: string;
  steps: { act: PublishAct; name: string; says: string; done: boolean }[];
}

export interface NewTarget {
  way: TargetProtocol;
  root?: string;
  host?: string;
  port?: number;
  user?: string;
  zone?: string;
  keyName?: string;
  algorithm?: 'hmac-sha256' | 'hmac-sha384' | 'hmac-sha512';
  /** A password, a private key, or a zone's key in base 64. */
  secret?: string;
  role?: 'lead' | 'consultant';
  watchMay?: boolean;
}
