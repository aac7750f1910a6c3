import { existsSync } from 'node:fs';
import { counted } from '../api/plural.js';
import type { Store } from '../store/store.js';
import { SettingsFault } from './settings/load.js';

/**
 * A key file that is missing while secrets on record were sealed with it is not made anew without a word: with another key nothing could
 * open them, and they would have to be given again one by one.
 * @throws SettingsFault
 */
export async function requireKeyFile(store: Pick<Store, 'select'>, file: string): Promise<void> {
  if (existsSync(file)) return;
  const [sealed] = await store.select<{ accounts: number; hooks: number; places: number }>(
    `SELECT (SELECT COUNT(*) FROM accounts WHERE keySealed IS NOT NULL) AS accounts,
            (SELECT COUNT(*) FROM hooks WHERE endedAt IS NULL) AS hooks,
            (SELECT COUNT(*) FROM carry_places WHERE secret IS NOT NULL) AS places`,
  );
  const { accounts = 0, hooks = 0, places = 0 } = sealed ?? {};
  if (accounts + hooks + places === 0) return;
  const what = [
    ...(accounts === 0 ? [] : [counted(accounts, 'engine account’s key', 'engine accounts’ keys')]),
    ...(hooks === 0 ? [] : [counted(hooks, 'webhook’s secret', 'webhooks’ secrets')]),
    ...(places === 0 ? [] : [counted(places, 'target’s secret', 'targets’ secrets')]),
  ].join(', ');
  throw new SettingsFault(
    `The key file ${file} is not there, and ${what} on record can be opened with it alone. Put it back from its backup. If it is lost for good, put an empty file there: the service makes a new key, and those secrets have to be given anew.`,
  );
}
