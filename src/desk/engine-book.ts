import { inOrder } from '../core/profile/fit.js';
import {
  isBorrowing,
  type BorrowingProfile,
  type EngineProfile,
  type Profile,
} from '../core/profile/profile.js';
import type { Clock } from '../core/time/clock.js';
import type { Engine } from '../engines/engine.js';
import { HandEngine } from '../engines/hand.js';
import { HouseEngine } from '../engines/house.js';
import { LinkEngine } from '../engines/link/link-engine.js';
import type { LinkLog } from '../engines/link/log.js';
import { VaultFault, type Vault } from '../engines/vault.js';
import type { Net } from '../net/net.js';
import type { AccountRow } from '../store/models/accounts.js';
import { lookAt } from './look.js';

export interface BookParts {
  readonly net: Net;
  readonly clock: Clock;
  readonly env: NodeJS.ProcessEnv;
  readonly vault: Vault;
  readonly sleep: (ms: number) => Promise<void>;
  /** How the link of an account stands, read and written. */
  readonly logFor: (accountId: string) => LinkLog;
  /** Where profiles that are added are kept; null where none can be. */
  readonly folder: string | null;
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

  /** Takes a profile in, in place of another one of the same id. */
  add(profile: Profile): void {
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
    return { kind: 'environment', name, set: (this.parts?.env[name] ?? '') !== '' };
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
          async (placement) => (await lookAt(net, clock, placement)).judgement,
        );
      case 'hand':
        return new HandEngine(profile);
      case 'link':
        return new LinkEngine({
          net,
          clock,
          base: worked.base,
          key: () => this.keyOf(account),
          title,
          log: logFor(account.id),
          sleep,
        });
    }
  }

  private keyOf(account: AccountRow): { key: string } | { missing: string } {
    const source = this.keySource(account);
    const whose = `The account ${account.engine}/${account.name}`;
    if (source.kind === 'sealed' && this.parts && account.keySealed != null) {
      try {
        return { key: this.parts.vault.open(account.keySealed, account.id) };
      } catch (error) {
        if (error instanceof VaultFault) return { missing: `${whose} cannot be used: ${error.message}` };
        throw error;
      }
    }
    if (source.kind !== 'environment') return { missing: `${whose} has no key. “account key” gives it one.` };
    const key = this.parts?.env[source.name];
    return key === undefined || key === ''
      ? {
          missing: `${whose} wants its key in the environment variable ${source.name} of the service, which is not set.`,
        }
      : { key };
  }
}
