import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { Chooser, folderOf, headerDate, pathOf } from '../../src/core/sitemap/make/choose.js';
import { atomText, rssText } from '../../src/core/sitemap/make/feed.js';
import { redirectVerdicts, ruleFor } from '../../src/core/sitemap/make/hand-out.js';
import { afterReading, beforeReading, kindOf } from '../../src/core/sitemap/make/outcome.js';
import { readForMaking } from '../../src/core/sitemap/make/page-read.js';
import { dateIn } from '../../src/core/sitemap/make/page-data.js';
import type { RedirectRule } from '../../src/core/profile/profile.js';
import { USUAL_SELECTION, type Selection } from '../../src/core/sitemap/make/recipe.js';
import { PageWords } from '../../src/core/sitemap/make/page-words.js';
import { fnv1a } from '../../src/core/text/fnv.js';
import { isSameSketch, KEPT, piecesOf, sketchOf } from '../../src/core/sitemap/make/sketch.js';
import type { PageFace } from '../../src/core/sitemap/make/face.js';
import {
  normal,
  shapeOf,
  sound,
  Frontier,
  type Shown,
  type Via,
} from '../../src/core/sitemap/make/frontier.js';
import {
  escaped,
  indexText,
  SitemapWriter,
  type Entry,
  type WrittenFile,
} from '../../src/core/sitemap/make/write.js';
import { SitemapReader } from '../../src/core/sitemap/reader.js';
import { requireProtocol } from '../support/protocol.js';
import { veldrane } from '../support/profiles.js';

const DOOR = 'https://www.quay.example/';
const NOW = new Date('2033-05-18T09:00:00Z');
const SPACES = { images: 'urn:i', videos: 'urn:v', news: 'urn:n' };

function page(html: string, headers: Record<string, string> = {}, url = DOOR) {
  return readForMaking(html, url, headers, ['https://www.quay.example', 'http://quay.example']);
}

describe('what a page says to the one who makes a sitemap', () => {
  const urls = (html: string, headers = {}) => page(html, headers).links.map(({ url }) => url);
  test.each([
    ['a plain link', '<a href=/a>', ['https://www.quay.example/a']],
    ['an area of a map', '<map><area href=b></map>', ['https://www.quay.example/b']],
    ['what stands behind # is no other page', '<a href=/a#x><a href=/a#y>', ['https://www.quay.example/a']],
    ['base comes first', '<base href=/in/><base href=/no/><a href=a>', ['https://www.quay.example/in/a']],
    ['other websites are left', '<a href=https://elsewhere.example/>', []],
    ['other origins of the same are not', '<a href=http://quay.example/x>', ['http://quay.example/x']],
    ['nofollow', '<a rel="me NoFollow" href=/a><a href=/b>', ['https://www.quay.example/b']],
    ['a robots tag that closes the page', '<meta name=robots content="index, nofollow"><a href=/a>', []],
    ['and its short form', '<meta name=ROBOTS content=none><a href=/a>', []],
    ['no link is in a template', '<template><a href=/a></template>', []],
    ['nor in a comment', '<!--<a href=/a>-->', []],
    ['what is no web address', '<a href=mailto:x@y><a href=javascript:x><a href="http://[">', []],
    ['a link without an address', '<a name=x>', []],
  ])('%s', (_, html, expected) => {
    expect(urls(html)).toEqual(expected);
  });

  it('leaves the links alone where the header asks for it', () => {
    expect(urls('<a href=/a>', { 'x-robots-tag': 'nofollow' })).toEqual([]);
    expect(urls('<a href=/a>', { 'x-robots-tag': 'otherbot: nofollow' })).toHaveLength(1);
    expect(page('<a href=/a rel=nofollow><a href=https://b.example/>')).toMatchObject({
      unfollowed: 1,
      elsewhere: 1,
    });
  });

  it('knows links of menus', () => {
    const html =
      '<body><header><a href=/1></header><nav><ul><li><a href=/2></ul></nav><div role=navigation><a href=/3></div><article><header><a href=/4></header></article><a href=/2>';
    expect(
      page(html)
        .links.filter(({ inMenu }) => inMenu)
        .map(({ url }) => pathOf(url)),
    ).toEqual(['/1', '/2', '/3']);
  });

  it('reads canonical links, siblings, feeds and images', () => {
    const html =
      '<link rel=canonical href=/own><link rel=alternate hreflang=de href=/de><link rel=alternate type=application/atom+xml href=/f><img src=p.png><img src=p.png><html lang=fi>';
    expect(page(html)).toMatchObject({
      canonical: 'https://www.quay.example/own',
      siblings: [{ language: 'de', url: 'https://www.quay.example/de' }],
      feeds: ['https://www.quay.example/f'],
      images: ['https://www.quay.example/p.png'],
    });
    expect(page('', { link: '</own>; rel="canonical"' }).canonical).toBe('https://www.quay.example/own');
  });

  test.each([
    [
      '<script type="application/ld+json">{"@type":"NewsArticle","datePublished":"2033-01-02","dateModified":"2033-02-03T04:05:06+0100"}</script>',
      '2033-02-03T04:05:06+01:00',
      'article',
    ],
    [
      '<script type="application/ld+json">{"@graph":[{"@type":["Thing","Product"],"dateModified":"2033-01-01"}]}</script>',
      '2033-01-01',
      'product',
    ],
    [
      '<meta property=article:modified_time content=2033-03-03><meta property=og:type content=article>',
      '2033-03-03',
      'article',
    ],
    ['<time itemprop=dateModified datetime="2033-04-04T10:00">', '2033-04-04', 'page'],
    ['<time datetime=2033-04-04>', null, 'page'],
    ['<script type="application/ld+json">{"@type":"Article","dateModified":"soon"</script>', null, 'page'],
    ['<link rel=next href=/2>', null, 'page'],
    ['<link rel=next href=/2><p><a href=/a>a long list of what there is</a>', null, 'page'],
  ])('%s: %s, %s', (html, modified, kind) => {
    const read = page(html);
    expect(read.data.modified).toBe(modified);
    expect(kindOf('https://www.quay.example/x', 2, 'text/html', read)).toBe(kind);
  });

  it('takes a video only with all that one needs', () => {
    const video = (more: object) =>
      page(
        `<script type="application/ld+json">${JSON.stringify({ '@type': 'VideoObject', name: 'n', description: 'd', thumbnailUrl: ['/t.jpg'], ...more })}</script>`,
      ).data.videos;
    expect(video({ contentUrl: '/v.mp4' })).toEqual([
      {
        thumbnail: 'https://www.quay.example/t.jpg',
        title: 'n',
        description: 'd',
        content: 'https://www.quay.example/v.mp4',
        player: null,
      },
    ]);
    expect(video({})).toEqual([]);
  });

  it('is bounded, whatever it is given', () => {
    const many = page(Array.from({ length: 12_000 }, (_, at) => `<a href=/${String(at)}>`).join(''));
    expect(many.links.length).toBe(10_000);
    expect(many.linksBeyond).toBe(2_000);
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 300 }),
        (text) => void page(`<a href="${text}">${text}`),
      ),
      { numRuns: 300 },
    );
  });
  test.each([
    ['2033-01-01', '2033-01-01'],
    [' 2033-01-01T10:00Z ', '2033-01-01T10:00Z'],
    ['2033-01-01 10:00', '2033-01-01'],
    ['2033-13-01', null],
    ['yesterday', null],
    [null, null],
  ])('the date %s is %s', (text, date) => {
    expect(dateIn(text)).toBe(date);
  });
});

/** Words as they are kept of a page. */
function hashed(some: readonly string[]): number[] {
  return some.map((word) => fnv1a(word));
}

/** What a page shows that is like none of another number. */
function shown(number: number, more: Partial<PageFace> = {}): Shown {
  const sketch = sketchOf(hashed(Array.from({ length: 60 }, (_, at) => `w${String(at)}of${String(number)}`)));
  return {
    face: { sketch, text: number, name: number, isShell: false, isOwn: false, ...more },
    plain: sketch,
  };
}

describe('the words of a page', () => {
  test('are those of any script, in lower case and by their hash', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'grapheme' })), (texts) => {
        const words = new PageWords();
        for (const text of texts) words.take(text);
        const all = texts.flatMap((text) => text.match(/[\p{L}\p{N}]+/gu) ?? []);
        expect([...words.hashes]).toEqual(all.map((word) => fnv1a(word.slice(0, 100).toLowerCase())));
      }),
    );
  });
  it('are without those of a calendar, and no more than five thousand', () => {
    const words = new PageWords();
    words.take('Tides of Montag, 14 mars 2026 and the 3RD, week 53; 1850 boats, 54 men, 12345.');
    const kept = ['tides', 'of', 'and', 'the', 'week', 'boats', '54', 'men', '12345'];
    expect([...words.plain]).toEqual(kept.map((word) => fnv1a(word)));
    words.take('word '.repeat(10_000));
    expect(words.hashes).toHaveLength(5_000);
  });
});

describe('a sketch', () => {
  const words = (count: number, seed = 0) =>
    Array.from({ length: count }, (_, at) => `word${String((at * 7 + seed) % 997)}`);
  it('knows a page again by its words, a counter more or less', () => {
    const page = sketchOf(hashed(words(400)));
    expect(sketchOf(hashed(words(400)))).toBe(page);
    expect(isSameSketch(page, sketchOf(hashed([...words(400), 'seen', '17', 'times'])))).toBe(true);
    expect(isSameSketch(page, sketchOf(hashed(words(400, 500).reverse())))).toBe(false);
  });
  it('takes a page without words for no other', () => {
    expect(sketchOf([])).toBeNull();
    expect(isSameSketch(null, null)).toBe(false);
    expect(sketchOf(hashed(['one']))).toHaveLength(8);
  });

  test('has the least pieces there are, each once and in order, however the words come', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('quay', 'berth', 'tide', 'hull', 'rope'), { maxLength: 400 }),
        (some) => {
          // A piece depends on its word and the two before it: each is known by the sketch of those three alone.
          const all = new Set<number>();
          some.forEach((_, at) => {
            const own = piecesOf(sketchOf(hashed(some.slice(Math.max(0, at - 2), at + 1))) ?? '');
            const before =
              at === 0 ? [] : piecesOf(sketchOf(hashed(some.slice(Math.max(0, at - 2), at))) ?? '');
            if (at < 3) own.forEach((piece) => all.add(piece));
            else own.filter((piece) => !before.includes(piece)).forEach((piece) => all.add(piece));
          });
          const pieces = piecesOf(sketchOf(hashed(some)) ?? '');
          expect(pieces).toEqual([...new Set(pieces)].sort((a, b) => a - b));
          expect(pieces).toEqual([...all].sort((a, b) => a - b).slice(0, KEPT));
        },
      ),
    );
  });
});

describe('the ways of a gathering', () => {
  const ways = (more: Partial<ConstructorParameters<typeof Frontier>[0]> = {}) =>
    new Frontier({
      door: DOOR,
      others: new Set(['http://quay.example']),
      reach: { depth: 20, row: 60 },
      missing: null,
      forbids: undefined,
      ...more,
    });
  const via = (more: Partial<Via> = {}): Via => ({ by: 'link', depth: 1, from: DOOR, run: 0, ...more });
  const out = (url: string, more: Partial<Via> = {}, own = ways()) => {
    const admitted = own.admit(url, via(more));
    return admitted.kind === 'new' ? admitted.out : admitted.kind;
  };

  test.each([
    ['https://www.quay.example/a', null],
    ['https://elsewhere.example/a', 'elsewhere'],
    ['nonsense', 'elsewhere'],
    ['https://www.quay.example/logo.PNG', null],
    [`https://www.quay.example/${'a'.repeat(2_100)}`, 'too-long'],
    ['https://www.quay.example/a/b/a/b/a/b/a/', 'repeating'],
  ])('%s: %s', (url, expected) => {
    expect(out(url)).toBe(expected);
  });

  it('goes no further than it may', () => {
    expect(out('https://www.quay.example/a', { depth: 21 })).toBe('too-deep');
    expect(out('https://www.quay.example/a', { depth: 21, by: 'list' })).toBeNull();
    expect(
      out(
        'https://www.quay.example/no/a',
        {},
        ways({ forbids: (path) => (path.startsWith('/no') ? 'a rule' : null) }),
      ),
    ).toBe('forbidden');
    expect(out('https://www.quay.example/b', {}, ways({ door: 'https://www.quay.example/folder/' }))).toBe(
      'outside',
    );
  });

  it('takes an address once, whichever of its forms is met', () => {
    const own = ways();
    const url = (found: string) => {
      const admitted = own.admit(found, via());
      return admitted.kind === 'new' ? admitted.url : admitted.kind;
    };
    expect(url('http://quay.example/a?PHPSESSID=abc&b=1#x')).toBe('https://www.quay.example/a?b=1');
    expect(url('https://www.quay.example/a?b=1')).toBe('known');
    expect(url('https://www.quay.example/c;jsessionid=12AB?d=1')).toBe('https://www.quay.example/c?d=1');
    expect([...own.named.values()].map(({ kind }) => kind)).toEqual(['variant', 'session', 'session']);
  });

  /** Goes along a row of addresses. @returns how many are gone to, and how deep the last is */
  const along = (own: Frontier, has: (at: number) => boolean, most = 400) => {
    let via: Via | null = { by: 'link', depth: 1, from: DOOR, run: 0 };
    let depth = 0;
    for (let at = 1; via && at <= most; at += 1) {
      const found = own.admit(`${DOOR}row/${String(at)}`, via);
      if (found.kind !== 'new') throw new Error('not new');
      const admitted = own.inRow(found, via.run);
      if (admitted.out !== null) return { at: at - 1, depth, why: admitted.out };
      ({ depth } = admitted);
      const isOwn = own.hasOwn(admitted.url, shown(has(at) ? at : 0));
      via = { by: 'link', depth: depth + 1, from: admitted.url, run: isOwn ? 0 : admitted.run + 1 };
    }
    return { at: most, depth, why: null };
  };

  it('leaves a calendar after sixty of its pages that have nothing of their own', () => {
    const own = ways();
    // The first three are told apart by nothing that was met before.
    expect(along(own, () => false)).toMatchObject({ at: 62, why: 'endless' });
    expect(own.named.get('endless /row/#')?.kind).toBe('endless');
    expect(along(ways({ reach: { depth: 20, row: 200 } }), () => false)).toMatchObject({ at: 202 });
  });

  it('reads a list to its end, as one link from the front door, however long it is', () => {
    expect(along(ways(), () => true)).toEqual({ at: 400, depth: 1, why: null });
    expect(along(ways(), (at) => at % 50 === 0)).toMatchObject({ at: 400, why: null });
  });

  it('leaves what has hundreds of addresses by its parameters and nothing of its own, not what has a parameter', () => {
    const own = ways();
    const kinds = (query: (at: number) => string, has: (at: number) => number) =>
      Array.from({ length: 400 }, (_, at) => {
        const url = `${DOOR}shelf?${query(at)}`;
        if (own.isMixture(url)) return 'left';
        own.hasOwn(url, shown(has(at)));
        return 'read';
      }).filter((one) => one === 'left').length;
    expect(
      kinds(
        (at) => `id=${String(at)}`,
        () => 1,
      ),
    ).toBe(0);
    expect(
      kinds(
        (at) => `forum=1&topic=${String(at)}`,
        (at) => at,
      ),
    ).toBe(0);
    expect(
      kinds(
        (at) => `colour=${String(at)}&size=1`,
        () => 1,
      ),
    ).toBe(99);
  });

  describe('parameters that make no difference', () => {
    const admitted = (own: Frontier, path: string) => {
      const found = own.admit(`${DOOR}${path}`, via());
      return found.kind === 'new' ? found.url.slice(DOOR.length) : found.kind;
    };
    it('are known where the page without them shows the same', () => {
      const own = ways();
      own.learn(`${DOOR}b`, shown(77));
      for (let at = 0; at < 8; at += 1) own.learn(`${DOOR}b?visit=${String(at)}`, shown(77));
      expect(admitted(own, 'b?visit=99')).toBe('b');
    });
    it('are never known by their name: another page may need it', () => {
      const own = ways();
      own.learn(`${DOOR}wish`, shown(1));
      for (let at = 0; at < 60; at += 1) own.learn(`${DOOR}wish?id=${String(at)}`, shown(1));
      expect(admitted(own, 'wish?id=99')).toBe('wish');
      expect(admitted(own, 'thing?id=99')).toBe('thing?id=99');
    });
    it('are known in a folder once eight of its pages show the same without them', () => {
      const own = ways();
      for (let at = 0; at < 8; at += 1) {
        own.learn(`${DOOR}shop/${'abcdefgh'[at] ?? ''}`, shown(at));
        own.learn(`${DOOR}shop/${'abcdefgh'[at] ?? ''}?from=menu`, shown(at));
      }
      expect(admitted(own, 'shop/z?from=menu')).toBe('shop/z');
      expect(admitted(own, 'news/z?from=menu')).toBe('news/z?from=menu');
    });
    it('are tried again now and then, and nothing that was kept back is lost', () => {
      const own = ways();
      const isThere = (at: number) => at >= 70;
      const learn = (at: number) => own.learn(`${DOOR}t?id=${String(at)}`, shown(isThere(at) ? at : 0));
      for (let at = 0; at < 50; at += 1) learn(at);
      const back: string[] = [];
      const gone: number[] = [];
      for (let at = 50; at < 200; at += 1) {
        if (!admitted(own, `t?id=${String(at)}`).includes('id=')) continue;
        gone.push(at);
        back.push(...learn(at).back);
      }
      const all = [...gone, ...back.map((url) => Number(url.split('=')[1]))];
      expect(new Set(all).size).toBe(150);
    });
  });

  it('asks no more for what leads to nothing', () => {
    const own = ways();
    for (let at = 0; at < 50; at += 1) own.met(`${DOOR}gone/${String(at)}`, true, false);
    own.met(`${DOOR}page/1`, false, true);
    expect(['gone/77', 'page/77', 'other/1'].map((path) => own.isHopeless(DOOR + path))).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('asks no more for files of a kind of which twenty were no page, and for all where one was', () => {
    const own = ways();
    for (let at = 0; at < 20; at += 1) own.met(`${DOOR}img/${String(at)}.jpg`, false, false);
    for (let at = 0; at < 20; at += 1) own.met(`${DOOR}wiki/File:${String(at)}.jpg`, false, at === 3);
    expect(['img/x.jpg', 'img/x.html', 'wiki/File:x.jpg'].map((path) => own.isFile(DOOR + path))).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('knows a double by its slash, its case and its file name', () => {
    const own = ways();
    const isDouble = (path: string, number: number) => own.learn(DOOR + path, shown(number)).isDouble;
    expect(isDouble('Folder/', 1)).toBe(false);
    expect(isDouble('folder', 1)).toBe(true);
    expect(isDouble('folder/index.html', 1)).toBe(true);
    expect(isDouble('folder/INDEX.html', 2)).toBe(false);
  });

  it('takes nothing for a double that is not the same to the last word, or may be made another by a script', () => {
    const own = ways();
    const learn = (path: string, more: Partial<PageFace>) => own.learn(DOOR + path, shown(5, more)).isDouble;
    learn('a', {});
    expect(learn('a?price=2', { text: 6 })).toBe(false);
    expect(learn('a?name=2', { name: 6 })).toBe(false);
    expect(own.named.get('alike /a?price=#')?.count).toBe(1);
    expect(learn('a?x=2', {})).toBe(true);
    learn('app', { isShell: true });
    expect(learn('app?id=2', { isShell: true })).toBe(false);
    learn('own', { isOwn: true });
    expect(learn('own?id=2', { isOwn: true })).toBe(false);
  });

  it('tells of pages that show the same elsewhere, and of those that look like a missing one', () => {
    const own = ways({ missing: shown(9).face });
    own.learn(`${DOOR}a`, shown(1));
    expect(own.learn(`${DOOR}b`, shown(1)).isDouble).toBe(false);
    own.learn(`${DOOR}c`, shown(9));
    expect([...own.named.values()].map(({ kind, first }) => [kind, first])).toEqual([
      ['identical', `${DOOR}b`],
      ['missing', `${DOOR}c`],
    ]);
  });

  test.each([
    ['%7Equay/%62erth', '~quay/berth'],
    ['a%2fb', 'a%2Fb'],
    ['m%C3%B6we', 'm%C3%B6we'],
    ['100%', '100%25'],
  ])('%s is %s (RFC 3986 §6.2.2)', (path, expected) => {
    expect(normal(DOOR + path)).toBe(DOOR + expected);
  });

  it('writes addresses in the characters that the protocol wants', () => {
    fc.assert(
      fc.property(
        fc.webUrl({ withQueryParameters: true }),
        fc.string({ unit: 'binary', maxLength: 20 }),
        (url, more) => {
          const href = new URL(`${url}/` + more.replace(/[#]/gu, '')).href;
          const text = sound(href);
          expect(text).toMatch(/^(?:[\w\-.~:/?#[\]@!$&'()*+,;=]|%[0-9a-f]{2})+$/iu);
          expect(new URL(text).href).toBe(text);
          expect(sound(text)).toBe(text);
        },
      ),
    );
  });
  it('gives addresses that differ by numbers one shape', () => {
    expect(shapeOf('/a/2026/11?b=3')).toBe('/a/#/#?b=#');
  });
});

describe('what came of a look', () => {
  const hop = (more: object) => ({
    url: DOOR,
    address: null,
    status: 200,
    location: null,
    headers: {},
    certificate: null,
    failure: null,
    detail: null,
    ms: 1,
    ...more,
  });
  test.each([
    [{}, 'text/html', null],
    [{ status: 404 }, null, 'gone'],
    [{ status: 410 }, null, 'gone'],
    [{ status: 503 }, null, 'refused'],
    [{ status: 301, location: 'https://www.quay.example/b' }, null, 'redirect'],
    [{ status: null, failure: 'timed-out' as const }, null, 'no-answer'],
    [{}, 'image/png', 'no-page'],
  ])('%j of %s: %s', (more, mediaType, expected) => {
    expect(beforeReading(hop(more), mediaType)?.out ?? null).toBe(expected);
  });
  it('lets documents in, unread', () => {
    expect(beforeReading(hop({}), 'application/pdf')).toMatchObject({ out: null });
    expect(kindOf(`${DOOR}a.pdf`, 3, 'application/pdf', null)).toBe('document');
  });
  test.each([
    ['<meta name=robots content=noindex>', 'stays-away'],
    ['<link rel=canonical href=/other>', 'canonical'],
    ['<link rel=canonical href=/>', null],
    ['<meta http-equiv=refresh content="0;url=/next">', 'sent-on'],
    ['<p>plain', null],
  ])('%s: %s', (html, expected) => {
    expect(afterReading(DOOR, page(html)).out).toBe(expected);
  });
});

describe('choosing', () => {
  const chooser = (more: Partial<Selection>) => new Chooser({ ...USUAL_SELECTION, ...more }, NOW);
  const at = (path: string, kind = 'page' as const) => ({ url: `https://www.quay.example${path}`, kind });
  it('goes by patterns, kinds and hands', () => {
    const own = chooser({
      include: ['/news/*', '/tides'],
      exclude: ['/news/old/*$'],
      without: ['listing'],
      drop: [`${DOOR}news/x`],
    });
    expect(
      ['/news/a', '/tides/1', '/shop/', '/news/old/a', '/news/x'].map((path) => own.against(at(path))),
    ).toEqual([null, null, 'not-included', 'excluded', 'by-hand']);
    expect(own.against({ url: `${DOOR}news/list`, kind: 'listing' })).toBe('kind');
  });
  it('believes who is to be believed, and no time to come', () => {
    const dates = { page: '2034-01-01', header: '2033-02-02T00:00:00Z', seen: '2033-03-03' };
    expect(chooser({}).changedAt({ dates })).toBe('2033-02-02T00:00:00Z');
    expect(chooser({ dates: ['seen'] }).changedAt({ dates })).toBe('2033-03-03');
    expect(chooser({ dates: [] }).changedAt({ dates })).toBeNull();
  });
  it('says of a page what the first rule says that is for it', () => {
    const own = chooser({
      weighing: [
        { depth: 0, priority: 1 },
        { pattern: '/news/*', frequency: 'daily' },
        { kind: 'page', priority: 0.3, frequency: 'yearly' },
      ],
    });
    expect(own.weighing({ ...at('/'), depth: 0 })).toEqual({ priority: 1, frequency: 'yearly' });
    expect(own.weighing({ ...at('/news/a'), depth: 3 })).toEqual({ priority: 0.3, frequency: 'daily' });
    expect(chooser({}).weighing({ ...at('/'), depth: 0 })).toEqual({});
  });
  test.each([
    [{ 'last-modified': 'Mon, 02 May 2033 10:00:00 GMT' }, '2033-05-02T10:00:00Z'],
    [{ 'last-modified': 'Wed, 18 May 2033 09:00:00 GMT', date: 'Wed, 18 May 2033 09:00:01 GMT' }, null],
    [{ 'last-modified': 'soon' }, null],
    [{ 'last-modified': 'Mon, 02 May 2044 10:00:00 GMT' }, null],
    [{}, null],
  ])('a header %j says %s', (headers, expected) => {
    expect(headerDate(headers, NOW)).toBe(expected);
  });
  it('counts by the first folder', () => {
    expect(['/', '/a', '/a/', '/a/b?c/d'].map((path) => folderOf(`https://www.quay.example${path}`))).toEqual(
      ['/', '/', '/a/', '/a/'],
    );
  });
});

describe('writing', () => {
  function written(
    entries: readonly Entry[],
    bounds?: ConstructorParameters<typeof SitemapWriter>[2],
  ): WrittenFile[] {
    const files: WrittenFile[] = [];
    const writer = new SitemapWriter(SPACES, (file) => files.push(file), bounds);
    for (const entry of entries) writer.add(entry);
    writer.end();
    return files;
  }
  function findingsOf(text: string): string[] {
    const reader = new SitemapReader(`${DOOR}sitemap.xml`, NOW);
    reader.write(text);
    return reader.end().findings.map(({ code }) => code);
  }
  const entry = fc.record({
    path: fc.string({ unit: 'grapheme', maxLength: 30 }),
    lastmod: fc.option(
      fc
        .date({ min: new Date('2001-01-01'), max: NOW, noInvalidDate: true })
        .map((date) => date.toISOString()),
      { nil: null },
    ),
    priority: fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { nil: undefined }),
    title: fc.string({ unit: 'binary', maxLength: 20 }),
  });

  it('holds to the protocol whatever the addresses are, and our own reader finds nothing', () => {
    fc.assert(
      fc.property(fc.array(entry, { minLength: 1, maxLength: 30 }), (all) => {
        const entries = new Map(
          all.map(({ path, lastmod, priority, title }) => {
            const url = sound(
              new URL(`/x${encodeURI(path.replace(/\p{Cs}/gu, '')).replace(/#/gu, '')}`, DOOR).href,
            );
            return [
              url,
              {
                url,
                lastmod,
                ...(priority === undefined ? {} : { priority }),
                images: [`${DOOR}${encodeURIComponent(title.replace(/\p{Cs}/gu, ''))}`],
                news: { name: title, language: 'en', published: '2033-01-01', title },
              },
            ] as const;
          }),
        );
        const [file] = written([...entries.values()]);
        const { entries: seen } = requireProtocol(file?.text ?? '');
        expect(seen.map(({ loc }) => loc)).toEqual([...entries.keys()]);
        const found = findingsOf(file?.text ?? '').filter((code) => code !== 'sitemap.dates-alike');
        expect(found).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });

  const many = (count: number, from = 0) =>
    Array.from({ length: count }, (_, at): Entry => ({
      url: `${DOOR}page-${String(at + from).padStart(7, '0')}`,
      lastmod: null,
    }));
  const SMALL = { fewest: 50, most: 400, endsAt: 64, bytes: 1_000_000 };

  it('splits so that one page more touches one file', () => {
    const before = written(many(5_000), SMALL);
    const more = [...many(5_000), { url: `${DOOR}page-0002500b`, lastmod: null }].sort((a, b) =>
      a.url < b.url ? -1 : 1,
    );
    const after = written(more, SMALL);
    expect(before.length).toBeGreaterThan(10);
    const texts = new Set(before.map(({ text }) => text));
    const changed = after.filter(({ text }) => !texts.has(text));
    expect(changed.length).toBeLessThanOrEqual(2);
    expect(before.every(({ entries }) => entries <= SMALL.most)).toBe(true);
    expect(new Set(after.map(({ name }) => name)).size).toBe(after.length);
    const index = requireProtocol(
      indexText(after.map(({ name }) => ({ url: DOOR + name, lastmod: '2033-01-01' }))),
    );
    expect(index.root).toBe('sitemapindex');
  });

  it('keeps to the bounds of the protocol by itself', () => {
    const files = written(many(120_000));
    expect(files.length).toBeGreaterThan(2);
    for (const { text, entries } of files) expect(requireProtocol(text).entries.length).toBe(entries);
    const long = Array.from({ length: 30 }, (_, at) => ({
      url: `${DOOR}${String(at)}${'x'.repeat(1_990)}`,
      lastmod: null,
    }));
    expect(
      written(long, { ...SMALL, fewest: 1_000, most: 1_000, bytes: 10_000 }).length,
    ).toBeGreaterThanOrEqual(6);
  });

  it('leaves out what XML knows no sign for', () => {
    expect(escaped('a\u0000<b>&\u0007\ud800"')).toBe('a&lt;b&gt;&amp;&quot;');
  });

  it('writes feeds that our own reader reads', () => {
    const items = [
      { url: `${DOOR}a`, title: 'A & B', changedAt: '2033-05-01' },
      { url: `${DOOR}b`, title: '<b>', changedAt: '2033-04-01T10:00:00Z' },
    ];
    for (const text of [
      atomText(`${DOOR}recent.atom`, 'Quay', items),
      rssText(`${DOOR}recent.rss`, 'Quay', items),
    ]) {
      expect(findingsOf(text)).toEqual([]);
      const reader = new SitemapReader(`${DOOR}recent`, NOW);
      reader.write(text);
      expect(reader.end().entries).toBe(2);
    }
  });
});

describe('handing out', () => {
  it('writes rules for both ways, those first that nobody notices', () => {
    const rules = ruleFor(`${DOOR}sitemap.xml`, 'https://yard.example/made/word/sitemap.xml');
    expect(rules.map(({ how }) => how)).toEqual(['proxy', 'proxy', 'redirect', 'redirect', 'redirect']);
    expect(rules[0]?.text).toContain('proxy_pass https://yard.example/made/word/$1;');
  });
  it('knows who goes along with a redirect', () => {
    const from = new URL(`${DOOR}sitemap.xml`);
    const { file } = veldrane.methods;
    if (!file) throw new Error('Veldrane takes files');
    const verdicts = (redirects: RedirectRule, to: string) =>
      redirectVerdicts([{ ...veldrane, methods: { file: { ...file, redirects } } }], from, new URL(to)).map(
        ({ redirect }) => redirect,
      );
    expect(verdicts('host', 'https://yard.example/x')).toEqual([false]);
    expect(verdicts('host', 'http://www.quay.example/x')).toEqual([true]);
    expect(verdicts('registrable', 'https://files.quay.example/x')).toEqual([true]);
  });
});
