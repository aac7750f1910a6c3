import type { Clock } from '../../core/time/clock.js';
import type { Store } from '../../store/store.js';

/**
 * Where the key of each environment variable goes: to the origin with which it was first used, and nowhere else. Whoever may
 * write a profile says where an engine is, but not where the keys of others are sent.
 */
export class KeyBases {
  private readonly known = new Map<string, string>();

  constructor(
    private readonly store: Store,
    private readonly clock: Clock,
  ) {}

  /** The origin that a variable's key is for; it becomes the one that is asked for, where there was none. */
  async bind(variable: string, origin: string): Promise<string> {
    const known = this.known.get(variable);
    if (known !== undefined) return known;
    const bound = await this.store.write(async (transaction) => {
      await this.store.run(
        'INSERT OR IGNORE INTO key_bases (variable, origin, since) VALUES ($variable, $origin, $since)',
        { variable, origin, since: this.clock.now().toISOString() },
        transaction,
      );
      const [row] = await this.store.select<{ origin: string }>(
        'SELECT origin FROM key_bases WHERE variable = $variable',
        { variable },
        transaction,
      );
      return row?.origin ?? origin;
    });
    this.known.set(variable, bound);
    return bound;
  }
}
