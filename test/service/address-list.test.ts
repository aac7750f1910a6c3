import { createHash } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { AddressList, cameAndWent } from '../../src/desk/making/address-list.js';

const inOrder = (addresses: Iterable<string>) =>
  [...new Set(addresses)].sort((a, b) => Buffer.compare(Buffer.from(a), Buffer.from(b)));

async function packed(addresses: readonly string[]) {
  const list = new AddressList();
  for (const address of addresses) await list.add(address);
  return { ...(await list.end()), count: list.count };
}

test.each([0, 1, 1_999, 2_000, 2_001, 9_000])(
  'a list of %i addresses is what its lines are',
  async (count) => {
    const addresses = Array.from({ length: count }, (_, at) => `https://quay.example/öl/${String(at)}`);
    const list = await packed(addresses);
    const text = addresses.map((address) => `${address}\n`).join('');
    expect(gunzipSync(list.packed).toString()).toBe(text);
    expect(list).toMatchObject({
      count,
      bytes: Buffer.byteLength(text),
      sum: createHash('sha256').update(text).digest('hex'),
    });
  },
);

const ADDRESS = fc
  .tuple(fc.constantFrom('a', 'ö', '\ufffd', '\u{1f6a2}', '%C3'), fc.integer({ min: 0, max: 12_000 }))
  .map(([sign, nth]) => `https://quay.example/${sign}/${String(nth)}`);

test('what came and went between two is what sets say, however long they are', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(ADDRESS, { maxLength: 300 }),
      fc.array(ADDRESS, { maxLength: 300 }),
      fc.integer({ min: 0, max: 5_000 }),
      async (some, others, same) => {
        const both = Array.from({ length: same }, (_, at) => `https://quay.example/m/${String(at)}`);
        const before = inOrder([...some, ...both]);
        const now = inOrder([...others, ...both]);
        const [old, young] = [new Set(before), new Set(now)];
        expect(await cameAndWent((await packed(before)).packed, (await packed(now)).packed)).toEqual({
          came: now.filter((address) => !old.has(address)).length,
          went: before.filter((address) => !young.has(address)).length,
        });
      },
    ),
    { numRuns: 40 },
  );
});

test('a list that is cut off or is none is told as a fault, and touches nothing else', async () => {
  const whole = (await packed(Array.from({ length: 5_000 }, (_, at) => `https://quay.example/${String(at)}`)))
    .packed;
  for (const broken of [whole.subarray(0, whole.length - 9), Buffer.from('no list'), Buffer.alloc(0)]) {
    await expect(cameAndWent(broken, whole)).rejects.toThrow();
    await expect(cameAndWent(whole, broken)).rejects.toThrow();
  }
});
