import { inOrder } from '../../core/profile/fit.js';
import {
  isBorrowing,
  type BorrowingProfile,
  type EngineProfile,
  type Profile,
} from '../../core/profile/profile.js';
import type { Clock } from '../../core/time/clock.js';
import type { Engine } from '../../engines/engine.js';
import { HandEngine } from '../../engines/hand.js';
import { HouseEngine } from '../../engines/house.js';
import { LinkEngine } from '../../engines/link/link-engine.js';
import { FIRST_PAUSE_MS } from '../../engines/link/transport.js';
import type { LinkLog } from '../../engines/link/log.js';
import { VaultFault, type Vault } from '../../engines/vault.js';
import type { Net } from '../../net/net.js';
import type { AccountRow } from '../../store/models/accounts.js';
import type { KeyBases } from './key-bases.js';
import { probe } from './probe.js';

export interface BookParts {
  readonly net: Net;
  readonly clock: Clock;
  readonly env: NodeJS.ProcessEnv;
  /** The variables that may be named as keys; `*` at the end stands for any more. */
  readonly keyVariables: readonly string[];
  /** Hosts with which links may be spoken without TLS: a host, or a domain for all below it. */
  readonly plainLinks: readonly string[];
  readonly keyBases: KeyBases;
  readonly vault: Vault;
  readonly sleep: (ms: number) => Promise<void>;
  /** How the link of an account stands, read and written. */
  readonly logFor: (accountId: string) => LinkLog;
  /** Where profiles that are added are kept; null where none can be. */
  readonly folder: string | null;
}

/** Why nothing is said to a link without TLS. */
export function plainFault(base: string): string {
  return `${new URL(base).host} is spoken to without TLS (http:), so that whoever is between may read the key and choose what is put on clients’ websites; expected https:, or the host in the setting plainLinks of the service`;
}

/** The name of the account that every engine has: the agency's own. */
export const OWN_ACCOUNT = 'agency';

/** Every engine that there is: its profile, and how it is worked under an account. */
export class EngineBook {
  private readonly own = new Map<string, EngineProfile>();
  private readonly borrowing = new Map<string, BorrowingProfile>();

  constructor(
    private readonly parts: BookParts | null,
    profiles: Iterable<Profile>,
  ) {
    for (const profile of profiles) this.add(profile);
  }

  /** A book without engines, for work on the records alone. */
  static readonly EMPTY = new EngineBook(null, []);

  /** Counts the profiles that were taken in: another number, other rules. */
  edition = 0;

  /** Takes a profile in, in place of another one of the same id. */
  add(profile: Profile): void {
    this.edition += 1;
    this.own.delete(profile.id);
    this.borrowing.delete(profile.id);
    if (isBorrowing(profile)) this.borrowing.set(profile.id, profile);
    else this.own.set(profile.id, profile);
    const ordered = inOrder(this.own.values());
    this.own.clear();
    for (const one of ordered) this.own.set(one.id, one);
  }

  get folder(): string | null {
    return this.parts?.folder ?? null;
  }

  get vault(): Vault | null {
    return this.parts?.vault ?? null;
  }

  /** The vault of a running service. Throws Error where nothing can be sealed. */
  requireVault(): Vault {
    if (!this.vault) throw new Error('the service has no vault');
    return this.vault;
  }

  /** Engines that something can be done with, by id. */
  get profiles(): ReadonlyMap<string, EngineProfile> {
    return this.own;
  }

  /** Engines that only show another's results, by id. */
  get borrowed(): ReadonlyMap<string, BorrowingProfile> {
    return this.borrowing;
  }

  all(): ReadonlyMap<string, Profile> {
    return new Map<string, Profile>([...this.own, ...this.borrowing]);
  }

  titleOf(id: string): string {
    return (this.own.get(id) ?? this.borrowing.get(id))?.title ?? id;
  }

  /** Where an account's key comes from, or why there is none. */
  keySource(
    account: AccountRow,
  ): { kind: 'environment'; name: string; set: boolean } | { kind: 'sealed' | 'none' | 'not-needed' } {
    const profile = this.own.get(account.engine);
    if (profile?.worked.how !== 'link') return { kind: 'not-needed' };
    if (account.keySealed != null) return { kind: 'sealed' };
    const name = account.keyFrom ?? (account.name === OWN_ACCOUNT ? profile.worked.keyFrom : undefined);
    if (name === undefined) return { kind: 'none' };
    return { kind: 'environment', name, set: this.variable(name) !== null };
  }

  /** Whether the operator lets a variable be named as a key. */
  mayName(variable: string): boolean {
    return (this.parts?.keyVariables ?? []).some((one) =>
      one.endsWith('*') ? variable.startsWith(one.slice(0, -1)) : variable === one,
    );
  }

  /** Whether the operator lets a link be spoken as its base says: under TLS always, without it where a setting names the host. */
  maySpeakPlainly(base: string): boolean {
    const { protocol, hostname } = new URL(base);
    if (protocol === 'https:') return true;
    return (this.parts?.plainLinks ?? []).some((one) => hostname === one || hostname.endsWith(`.${one}`));
  }

  /** What a variable holds; null where it is not set, or not one that may be named. */
  private variable(name: string): string | null {
    const value = this.mayName(name) ? this.parts?.env[name] : undefined;
    return value === undefined || value === '' ? null : value;
  }

  /** A secret of the service's own for one purpose. */
  secretFor(purpose: string): Buffer {
    if (!this.parts) throw new Error('only a running service has secrets of its own');
    return this.parts.vault.secretFor(purpose);
  }

  /** How an engine is worked under an account; null when its profile is gone. */
  engineFor(account: AccountRow): Engine | null {
    const profile = this.own.get(account.engine);
    if (!this.parts || !profile) return null;
    const { net, clock, sleep, logFor } = this.parts;
    const { worked, title } = profile;
    switch (worked.how) {
      case 'house':
        return new HouseEngine(
          profile,
          clock,
          async (placement) => (await probe(net, clock, placement)).judgement,
        );
      case 'hand':
        return new HandEngine(profile);
      case 'link':
        return new LinkEngine({
          net,
          clock,
          base: worked.base,
          key: () =>
            this.maySpeakPlainly(worked.base)
              ? this.keyOf(account, new URL(worked.base).origin)
              : Promise.resolve({ missing: `${title} is not asked: ${plainFault(worked.base)}.` }),
          title,
          log: logFor(account.id),
          sleep,
          firstPauseMs: FIRST_PAUSE_MS,
        });
    }
  }

  /** @param origin where it is to go */
  private async keyOf(account: AccountRow, origin: string): Promise<{ key: string } | { missing: string }> {
    const source = this.keySource(account);
    const whose = `The account ${account.engine}/${account.name}`;
    if (source.kind === 'sealed' && this.parts && account.keySealed != null) {
      try {
        return { key: this.parts.vault.open(account.keySealed, account.id, origin) };
      } catch (error) {
        if (error instanceof VaultFault) return { missing: `${whose} cannot be used: ${error.message}` };
        throw error;
      }
    }
    if (source.kind !== 'environment' || !this.parts)
      return { missing: `${whose} has no key. “account key” gives it one.` };
    if (!this.mayName(source.name))
      return {
        missing: `${whose} names ${source.name} as its key, which the service may not read: the setting keyVariables says which it may.`,
      };
    const key = this.variable(source.name);
    if (key === null)
      return {
        missing: `${whose} wants its key in the environment variable ${source.name} of the service, which is not set.`,
      };
    const bound = await this.parts.keyBases.bind(source.name, origin);
    return bound === origin
      ? { key }
      : {
          missing: `${whose} cannot be used: the key in ${source.name} was first used with ${bound}, and goes nowhere else than there. If ${origin} is right, give the account a key of its own with “account key”.`,
        };
  }
}
