import type { Socket } from 'node:net';
import { gunzipSync } from 'node:zlib';
import type { Standing, Wanted } from '../../core/publish/plan.js';
import { updateZone, type TsigKey } from '../../net/targets/dns-update.js';
import { openFolder } from '../../net/targets/folder.js';
import { openFtps } from '../../net/targets/ftps.js';
import type { Secured } from '../../net/targets/secured.js';
import { openSftp } from '../../net/targets/sftp.js';
import { bounded, TargetFault, MOST_BYTES, type FileTarget } from '../../net/targets/file-target.js';
import { openWebDav } from '../../net/targets/webdav.js';
import { machineClock } from '../../net/time/machine-clock.js';
import { PropertyRow } from '../../store/models/clients.js';
import type { TargetRow } from '../../store/models/publishing.js';
import { nowText, type Desk } from '../context/desk.js';
import { note } from '../context/journal.js';
import { checksum } from '../context/checksum.js';
import { boundTo, targetSays } from './targets.js';
import { folderFault, zoneName } from './target-input.js';
import type { Cargo } from './cargo.js';

/** A target that is open: what stands there can be read, put and taken away. */
export interface OpenTarget {
  standing(names: readonly string[]): Promise<Standing[]>;
  /** @param nonce by which what is left half-done is found again */
  put(cargo: Cargo, nonce: string): Promise<void>;
  /** Ends a `put` that was cut off: what stood there before stands there again, and nothing half-done is left. */
  settle(name: string, nonce: string): Promise<void>;
  takeAway(one: Pick<Wanted, 'name' | 'sum'>): Promise<void>;
  close(): Promise<void>;
}

/** Opens a target by its way; the host key or certificate that it shows at first use is pinned. Throws TargetFault. */
export async function openTarget(desk: Desk, row: TargetRow): Promise<OpenTarget> {
  const { at, way } = row;
  const secret = row.secret == null ? '' : desk.book.requireVault().open(row.secret, row.id, boundTo(row));
  const { host = '', port = 0 } = at;
  const login = { user: at.user ?? '', root: at.root ?? '', secret };
  let shown: string | null = null;
  const secured = async (socket: Socket): Promise<Secured> => {
    const over = await desk.net.secured(socket, host, row.pin ?? null);
    shown = over.shown;
    return over;
  };
  switch (way) {
    case 'folder': {
      // The settings may name fewer by now, and what stood there may have become a link.
      const fault = await folderFault(desk, at.root ?? '');
      if (fault !== null) throw new TargetFault('refused', fault);
      return overFiles(await openFolder(at.root ?? ''));
    }
    case 'sftp': {
      const socket = await desk.net.socket(host, port);
      const file = await openSftp(socket, { ...login, pin: row.pin ?? null }, (pin) => (shown = pin));
      await pinned(desk, row, shown);
      return overFiles(file);
    }
    case 'ftps': {
      const socket = await desk.net.socket(host, port);
      const file = await openFtps(socket, { ...login, host }, secured);
      await pinned(desk, row, shown);
      return overFiles(file);
    }
    case 'webdav': {
      const file = await openWebDav({ ...login, host, port }, async () => {
        const { socket } = await secured(await desk.net.socket(host, port));
        return socket;
      });
      await pinned(desk, row, shown);
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

/** Pins what a target showed: at first use, and when another certificate was shown for which a known authority vouches. */
async function pinned(desk: Desk, row: TargetRow, shown: string | null): Promise<void> {
  const { pin } = row;
  if (shown === null || pin === shown) return;
  const property = await PropertyRow.findByPk(row.propertyId, { rejectOnEmpty: true });
  await desk.store.write(async (transaction) => {
    await row.update({ pin: shown, pinnedAt: nowText(desk) }, { transaction });
    if (pin == null) return;
    await note(desk, { personId: null }, transaction, {
      kind: 'publish.target',
      says: `The target ${targetSays(row)} of ${property.handle} shows another certificate than before, for which a known authority vouches: ${shown}.`,
      property,
    });
  });
}

function overFiles(unbounded: FileTarget): OpenTarget {
  const way = bounded(unbounded);
  const sumsOf = (name: string, bytes: Buffer): string[] => {
    if (!name.endsWith('.gz')) return [checksum(bytes)];
    try {
      return [`gz ${checksum(gunzipSync(bytes, { maxOutputLength: MOST_BYTES }))}`];
    } catch {
      return [checksum(bytes)];
    }
  };
  return {
    async standing(names) {
      const found: Standing[] = [];
      for (const name of names) {
        try {
          const bytes = await way.read(name);
          if (bytes) found.push({ name, sums: sumsOf(name, bytes) });
        } catch (error) {
          // One that cannot be read is no reason to leave the others.
          if (!(error instanceof TargetFault) || error.kind === 'unreached') throw error;
          found.push({ name, sums: [], fault: error.message });
        }
      }
      return found;
    },
    put: async ({ name, bytes }, nonce) => {
      if (!bytes) throw new TargetFault('refused', `${name} is no file.`);
      await way.write(name, await bytes(), nonce);
    },
    settle: (name, nonce) => way.settle(name, nonce),
    takeAway: ({ name }) => way.remove(name),
    close: () => way.close(),
  };
}

/** Of a record that stands alone, in seconds. */
const TTL = 3_600;

function overDns(desk: Desk, { at }: TargetRow, key: TsigKey): OpenTarget {
  const { host = '', port = 53 } = at;
  const zone = zoneName(at.zone ?? '');
  const recordsAt = (name: string) => desk.net.txtAt(host, port, name);
  const change = async (act: 'add' | 'remove', name: string, value: string) => {
    // All records of a name live equally long (RFC 2181 §5.2), so ours goes by those that stand there.
    const [other] = act === 'add' ? await recordsAt(name) : [];
    // The server goes by the clock of the world, also where the service's own goes faster for a rehearsal (RFC 8945 §5.2.3).
    const now = machineClock.now();
    await updateZone(
      await desk.net.socket(host, port),
      zone,
      [{ act, name, value, ttl: other?.ttl ?? TTL }],
      key,
      now,
    );
  };
  return {
    standing: async (names) => {
      const found: Standing[] = [];
      for (const name of names) {
        const sums = (await recordsAt(name)).map(({ value }) => value);
        if (sums.length > 0) found.push({ name, sums });
      }
      return found;
    },
    put: ({ name, sum }) => change('add', name, sum),
    settle: () => Promise.resolve(),
    takeAway: ({ name, sum }) => change('remove', name, sum),
    close: () => Promise.resolve(),
  };
}
