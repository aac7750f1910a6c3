import { gunzipSync } from 'node:zlib';
import type { Standing, Wanted } from '../../core/carry/plan.js';
import { updateZone, type TsigKey } from '../../net/carry/dns-update.js';
import { openFolder } from '../../net/carry/folder.js';
import { openSftp } from '../../net/carry/sftp.js';
import { CarryFault, MOST_BYTES, type FileWay } from '../../net/carry/way.js';
import type { CarryPlaceRow } from '../../store/models/carrying.js';
import { nowText, type Desk } from '../context/desk.js';
import { boundTo, vaultOf } from './places.js';
import { sumOf, type Cargo } from './wanted.js';

/** A place that is open: what stands there can be read, put and taken away. */
export interface OpenPlace {
  standing(names: readonly string[]): Promise<Standing[]>;
  put(cargo: Cargo): Promise<void>;
  takeAway(one: Pick<Wanted, 'name' | 'sum'>): Promise<void>;
  close(): Promise<void>;
}

/** Opens a place by its way; the host key that it shows at first use is pinned. Throws CarryFault. */
export async function openPlace(desk: Desk, row: CarryPlaceRow): Promise<OpenPlace> {
  const { at, way } = row;
  const secret = row.secret == null ? '' : vaultOf(desk).open(row.secret, row.id, boundTo(row));
  switch (way) {
    case 'folder':
      return overFiles(await openFolder(at.root ?? ''));
    case 'sftp': {
      const socket = await desk.net.socket(at.host ?? '', at.port ?? 22);
      let shown: string | null = null;
      const file = await openSftp(
        socket,
        { user: at.user ?? '', root: at.root ?? '', secret, pin: row.pin ?? null },
        (pin) => (shown = pin),
      );
      if (row.pin == null && shown !== null) await pin(desk, row, shown);
      return overFiles(file);
    }
    case 'dns':
      return overDns(desk, row, {
        name: at.keyName ?? '',
        algorithm: at.algorithm ?? 'hmac-sha256',
        secret: Buffer.from(secret, 'base64'),
      });
  }
}

async function pin(desk: Desk, row: CarryPlaceRow, shown: string): Promise<void> {
  await desk.store.write((transaction) =>
    row.update({ pin: shown, pinnedAt: nowText(desk) }, { transaction }),
  );
}

function overFiles(way: FileWay): OpenPlace {
  const sumsOf = (name: string, bytes: Buffer): string[] => {
    if (!name.endsWith('.gz')) return [sumOf(bytes)];
    try {
      return [`gz ${sumOf(gunzipSync(bytes, { maxOutputLength: MOST_BYTES }))}`];
    } catch {
      return [sumOf(bytes)];
    }
  };
  return {
    async standing(names) {
      const found: Standing[] = [];
      for (const name of names) {
        const bytes = await way.read(name);
        if (bytes) found.push({ name, sums: sumsOf(name, bytes) });
      }
      return found;
    },
    put: async ({ name, bytes }) => {
      if (!bytes) throw new CarryFault('refused', `${name} is no file.`);
      await way.write(name, await bytes());
    },
    takeAway: ({ name }) => way.remove(name),
    close: () => way.close(),
  };
}

function overDns(desk: Desk, { at }: CarryPlaceRow, key: TsigKey): OpenPlace {
  const { host = '', port = 53, zone = '' } = at;
  const change = async (act: 'add' | 'remove', name: string, value: string) => {
    await updateZone(await desk.net.socket(host, port), zone, [{ act, name, value }], key, desk.clock.now());
  };
  return {
    standing: async (names) => {
      const found: Standing[] = [];
      for (const name of names) {
        const sums = await desk.net.txtAt(host, port, name);
        if (sums.length > 0) found.push({ name, sums });
      }
      return found;
    },
    put: ({ name, sum }) => change('add', name, sum),
    takeAway: ({ name, sum }) => change('remove', name, sum),
    close: () => Promise.resolve(),
  };
}
