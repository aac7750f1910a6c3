import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';
import { chmodSync, existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';

/** What keeps the keys of accounts from being opened; for the one who runs the service. */
export class VaultFault extends Error {}

const KEY_BYTES = 32;
const NONCE_BYTES = 12;
const VERSION = 'v2';

/**
 * Keeps engines' keys encrypted: AES-256-GCM (NIST SP 800-38D) with a random 96-bit nonce, the account's id and the origin
 * where it may go as associated data, so that a sealed key serves no other account and goes nowhere else. The key to it lies
 * in a file of mode 0600.
 */
export class Vault {
  private key: Buffer | null = null;

  /** @param file made at the first sealing, if it is not there */
  constructor(private readonly file: string) {}

  /** @returns text that can be stored: version, nonce, tag and cipher text */
  seal(secret: string, accountId: string, origin: string): string {
    const nonce = randomBytes(NONCE_BYTES);
    const cipher = createCipheriv('aes-256-gcm', this.theKey(true), nonce).setAAD(bound(accountId, origin));
    const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
    return [VERSION, ...[nonce, cipher.getAuthTag(), sealed].map((part) => part.toString('base64url'))].join(
      '.',
    );
  }

  /** What was sealed. Throws VaultFault when the file is another one, the text was changed, or it was sealed for elsewhere. */
  open(sealed: string, accountId: string, origin: string): string {
    const [version, ...parts] = sealed.split('.');
    const [nonce, tag, text] = parts.map((part) => Buffer.from(part, 'base64url'));
    if (version !== VERSION || !nonce || !tag || !text)
      throw new VaultFault(
        'its key was sealed by another version, which did not bind it to the engine’s address. Give it anew with “account key”.',
      );
    try {
      const decipher = createDecipheriv('aes-256-gcm', this.theKey(false), nonce)
        .setAAD(bound(accountId, origin))
        .setAuthTag(tag);
      return Buffer.concat([decipher.update(text), decipher.final()]).toString('utf8');
    } catch (error) {
      if (error instanceof VaultFault) throw error;
      throw new VaultFault(
        `its key cannot be opened: it was sealed for another address than ${origin}, or with another key file than ${this.file}. Give it anew with “account key” if it may go there.`,
      );
    }
  }

  /** A secret of the service's own for one purpose, the same as long as the key file is (HKDF, RFC 5869). */
  secretFor(purpose: string): Buffer {
    return Buffer.from(hkdfSync('sha256', this.theKey(true), '', `yardbadge ${purpose}`, KEY_BYTES));
  }

  private theKey(make: boolean): Buffer {
    this.key ??= this.readKey(make);
    return this.key;
  }

  private readKey(make: boolean): Buffer {
    // An empty file is somebody's word that the key is lost for good, and that there shall be another.
    const isEmpty = existsSync(this.file) && statSync(this.file).size === 0;
    if (!existsSync(this.file) || isEmpty) {
      if (!make)
        throw new VaultFault(`The key file ${this.file} is not there, and keys were sealed with it.`);
      writeFileSync(this.file, `${randomBytes(KEY_BYTES).toString('base64url')}\n`, {
        mode: 0o600,
        flag: isEmpty ? 'w' : 'wx',
      });
      chmodSync(this.file, 0o600);
    }
    const mode = statSync(this.file).mode & 0o777;
    if ((mode & 0o077) !== 0)
      throw new VaultFault(
        `The key file ${this.file} can be read by others (mode ${mode.toString(8)}): expected 600. “chmod 600” mends it.`,
      );
    const key = Buffer.from(readFileSync(this.file, 'utf8').trim(), 'base64url');
    if (key.length !== KEY_BYTES)
      throw new VaultFault(
        `The key file ${this.file} must hold 32 bytes in base64url; it holds ${String(key.length)}.`,
      );
    return key;
  }
}

function bound(accountId: string, origin: string): Buffer {
  return Buffer.from(JSON.stringify([accountId, origin]));
}
