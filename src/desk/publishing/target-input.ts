import { realpath } from 'node:fs/promises';
import { isAbsolute, resolve, sep } from 'node:path';
import type { NewTarget } from '../../api/documents.js';
import { Problem } from '../../api/problems.js';
import type { TargetProtocol } from '../../core/publish/plan.js';
import { keyFaultOf } from '../../net/targets/sftp.js';
import type { TargetAddress } from '../../store/models/publishing.js';
import type { Desk } from '../context/desk.js';

/** What each way has to know of a target. */
const NEEDS: Readonly<Record<TargetProtocol, readonly (keyof NewTarget)[]>> = {
  folder: ['root'],
  sftp: ['host', 'user', 'root', 'secret'],
  ftps: ['host', 'user', 'root', 'secret'],
  webdav: ['host', 'user', 'root', 'secret'],
  dns: ['host', 'zone', 'keyName', 'secret'],
};
export const PORTS: Readonly<Record<TargetProtocol, number>> = {
  folder: 0,
  sftp: 22,
  ftps: 21,
  webdav: 443,
  dns: 53,
};
/** A zone's key of fewer bytes is none that a server would make. */
const LEAST_KEY_BYTES = 16;

/** Where a target is, of what was given of it. Throws Problem. */
export async function atOf(desk: Desk, given: NewTarget): Promise<TargetAddress> {
  const missing = NEEDS[given.way].filter((key) => given[key] === undefined);
  if (missing.length > 0)
    throw new Problem('bad-input', { says: `A target by ${given.way} needs ${missing.join(', ')} too.` });
  const { root, host, port, user, zone, keyName, algorithm } = given;
  if (given.secret !== undefined) requireSecret(given.way, given.secret);
  if (given.way === 'folder') {
    const fault = await folderFault(desk, root ?? '');
    if (fault !== null) throw new Problem('bad-input', { says: fault });
    return { root: resolve(root ?? '') };
  }
  return {
    ...(root === undefined ? {} : { root }),
    ...(host === undefined ? {} : { host }),
    ...(user === undefined ? {} : { user }),
    ...(zone === undefined ? {} : { zone: zoneName(zone) }),
    ...(keyName === undefined ? {} : { keyName: zoneName(keyName) }),
    ...(algorithm === undefined ? {} : { algorithm }),
    port: port ?? PORTS[given.way],
  };
}

/** A name of the DNS as it is compared: in lower case, without the dot at its end (RFC 4343, RFC 1034 §3.1). */
export function zoneName(name: string): string {
  return name.toLowerCase().replace(/\.$/u, '');
}

/** Throws Problem where a secret is of no use for a way. */
export function requireSecret(way: TargetProtocol, secret: string): void {
  if (way === 'dns' && Buffer.from(secret, 'base64').length < LEAST_KEY_BYTES)
    throw new Problem('bad-input', {
      says: 'The zone’s key must be 16 bytes or more in base 64, as “keymgr -t” or “tsig-keygen” make it.',
    });
  const fault = way === 'sftp' ? keyFaultOf(secret) : null;
  if (fault !== null) throw new Problem('bad-input', { says: fault });
}

const SHOWN: Readonly<Partial<Record<TargetProtocol, { readonly form: RegExp; readonly is: string }>>> = {
  sftp: {
    form: /^SHA256:[A-Za-z0-9+/]{43}$/u,
    is: 'the fingerprint of a host key: “SHA256:” and 43 signs, as “ssh-keygen -lf” writes it',
  },
  ftps: {
    form: /^SHA256:(?:[\dA-F]{2}:){31}[\dA-F]{2}$/u,
    is: 'the fingerprint of a certificate: “SHA256:” and 32 pairs of hexadecimal digits with colons between them',
  },
};

/** Throws Problem where what is to be trusted is no fingerprint that a target of this way could show. */
export function requireFingerprint(way: TargetProtocol, trust: string): void {
  const shown = SHOWN[way === 'webdav' ? 'ftps' : way];
  if (!shown) throw new Problem('bad-input', { says: `A target by ${way} shows no key and no certificate.` });
  if (!shown.form.test(trust))
    throw new Problem('bad-input', { says: `“${trust.slice(0, 80)}” is not ${shown.is}.` });
}

/**
 * Why the service may not write to a folder of this machine, by the settings as they are now and by where the folder really is; null
 * where it may.
 */
export async function folderFault(desk: Desk, root: string): Promise<string | null> {
  const { folders } = desk.publish;
  const isBelow = (folder: string, above: string) => folder === above || folder.startsWith(above + sep);
  const expected = `Expected one below those that the settings name in “publish.folders”: ${folders.join(', ') || 'none are named'}.`;
  const folder = resolve(root);
  const named = folders.filter((one) => isBelow(folder, resolve(one)));
  if (!isAbsolute(root) || named.length === 0)
    return `“${root.slice(0, 200)}” is no folder that the service may write to. ${expected}`;
  const [real, ...above] = await Promise.all(
    [folder, ...folders].map((one) => realpath(one).catch(() => null)),
  );
  if (real == null || above.some((one) => one !== null && isBelow(real, one))) return null;
  return `“${root.slice(0, 200)}” is a link to ${real}, where the service may not write. ${expected}`;
}
