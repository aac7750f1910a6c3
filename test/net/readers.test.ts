import { afterAll, describe, expect, it } from 'vitest';
import type { Body } from '../../src/core/badge/probe/evidence.js';
import { packAll, unpackChunk } from '../../src/readers/address-chunks.js';
import { readPage } from '../../src/readers/pages.js';
import { closeReaders, read, readAway } from '../../src/readers/readers.js';
import { chunksOf } from '../../src/core/sitemap/set/chunks.js';

const URL = 'https://quay.example/berths';
const ORIGINS = ['https://quay.example'];

function pageIn(raw: Uint8Array): Body {
  return { raw, charset: 'utf-8', bytes: raw.length, cut: false, mediaType: 'text/html' };
}

describe('what is read in another thread', () => {
  afterAll(closeReaders);
  const page = new TextEncoder().encode(
    '<!doctype html><html lang="en"><title>Berths</title><a href="/berths/2">Two</a></html>',
  );
  const links = async (body: Body, isAway: boolean) => {
    const given = [body, URL, {}, ORIGINS] as const;
    const found = await (isAway ? readAway(body, 'linksOf', ...given) : read('linksOf', ...given));
    return found.links.map(({ url }) => url);
  };

  it('is copied, or given away where it is nobody else’s, and reads the same', async () => {
    const own = pageIn(page.slice());
    expect(await links(own, false)).toEqual(['https://quay.example/berths/2']);
    expect(own.raw.length).toBe(page.length);
    expect(await links(own, true)).toEqual(['https://quay.example/berths/2']);
    expect(own.raw.length).toBe(0);
  });

  it('stays where it shares its memory with something else', async () => {
    const all = new Uint8Array(page.length * 2);
    all.set(page);
    const shared = pageIn(all.subarray(0, page.length));
    expect(await links(shared, true)).toEqual(['https://quay.example/berths/2']);
    expect(shared.raw).toEqual(page);
  });
});

describe('pages that are read together', () => {
  afterAll(closeReaders);
  const links = async (html: string) =>
    (await readPage(pageIn(new TextEncoder().encode(html)), URL, {}, ORIGINS)).links.map(({ url }) => url);
  const linkTo = (path: string) => `<!doctype html><title>Berths</title><a href="${path}">On</a>`;

  it('are each given what they say themselves, however many wait, and large ones alone', async () => {
    const paths = Array.from({ length: 60 }, (_, at) => `/berths/${String(at)}`);
    const pages = paths.map((path, at) => linkTo(path) + (at % 20 === 7 ? '<p>quay</p>'.repeat(20_000) : ''));
    const read_ = await Promise.all(pages.map(links));
    expect(read_).toEqual(paths.map((path) => [`https://quay.example${path}`]));
  });

  it('fail by themselves where one of them cannot be read', async () => {
    const broken = pageIn(new TextEncoder().encode(linkTo('/a')));
    const all = await Promise.allSettled([
      links(linkTo('/1')),
      links(linkTo('/2')),
      links(linkTo('/3')),
      readPage(broken, URL, null as never, ORIGINS),
      links(linkTo('/4')),
    ]);
    expect(all.map(({ status }) => status)).toEqual([
      'fulfilled',
      'fulfilled',
      'fulfilled',
      'rejected',
      'fulfilled',
    ]);
  });
});

describe('addresses that are kept', () => {
  const addresses = Array.from({ length: 9_000 }, (_, at) => `${URL}/berth-${String(at)}/ölhafen`).sort();

  it('come out of their chunks as they went in, and are packed once', async () => {
    const known = new Set<string>();
    const { count, chunks } = packAll(chunksOf(addresses), known);
    expect(count).toBe(addresses.length);
    expect(chunks.map(({ name }) => name)).toEqual([...known]);
    const back = await Promise.all(
      chunks.map(({ packed }) => (packed ? unpackChunk(packed) : Promise.reject(new Error('not packed')))),
    );
    expect(back.flat()).toEqual(addresses);
    const again = packAll(chunksOf([...addresses, `${URL}/zz`]), known);
    expect(again.chunks.filter(({ packed }) => packed !== null)).toHaveLength(1);
    expect(again.chunks.map(({ name }) => name).slice(0, -1)).toEqual([...known].slice(0, chunks.length - 1));
  });
});
