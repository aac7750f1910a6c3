import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';

/** scrypt's cost (RFC 7914): 2^15 × 8 × 1 takes 32 MiB and about 100 ms. */
const COST = { N: 1 << 15, r: 8, p: 1 };

function derive(password: string, salt: Buffer, cost: typeof COST): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize('NFKC'), salt, 32, { ...cost, maxmem: 256 * 1024 * 1024 }, (error, key) => {
      if (error) reject(error);
      else resolve(key);
    });
  });
}

/** What is stored of a password: cost, salt and derived key. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt, COST);
  return ['scrypt', COST.N, COST.r, COST.p, salt.toString('base64url'), key.toString('base64url')].join('$');
}

/** Whether a password is the one that was hashed; compared in constant time. */
export async function isPassword(password: string, stored: string): Promise<boolean> {
  const [, n, r, p, salt = '', key = ''] = stored.split('$');
  const wanted = Buffer.from(key, 'base64url');
  const found = await derive(password, Buffer.from(salt, 'base64url'), {
    N: Number(n),
    r: Number(r),
    p: Number(p),
  });
  return wanted.length === found.length && timingSafeEqual(wanted, found);
}
