import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { judge } from '../../src/core/badge/judge/judge.js';
import { examine } from '../../src/core/badge/probe/examine.js';
import { readHeadTags, readPage } from '../../src/core/badge/probe/page-tags.js';
import { placementOf } from '../../src/core/badge/placement.js';
import { parseScope } from '../../src/core/address/reach.js';
import { pageEncoding } from '../../src/core/html/encoding.js';
import { isPlain } from '../../src/core/html/plain.js';
import { readHead, readTree } from '../../src/core/html/tree.js';
import type { EngineProfile, MetaRule } from '../../src/core/profile/profile.js';
import { page } from '../support/evidence.js';
import { veldrane } from '../support/profiles.js';
import { STAGE_TIME } from '../support/time.js';

const TOKEN = '84da61f31aa466b6b1022a45';
const bytes = (text: string, ...mark: number[]) =>
  Buffer.concat([Buffer.from(mark), Buffer.from(text, 'latin1')]);

describe('the encoding of a page, by the HTML standard', () => {
  test.each<[string, Buffer, string | null, string, string, string | null]>([
    ['nothing said', bytes('<p>'), null, 'windows-1252', 'default', null],
    ['said in the header', bytes('<p>'), 'text/html; charset=UTF-8', 'utf-8', 'header', null],
    ['said in quotes', bytes('<p>'), 'text/html; charset="latin1"', 'windows-1252', 'header', null],
    [
      'a header that nobody has',
      bytes('<p>'),
      'text/html; charset=nonsense',
      'windows-1252',
      'default',
      null,
    ],
    ['a meta element', bytes('<meta charset=utf-8>'), 'text/html', 'utf-8', 'meta', null],
    [
      'a pragma',
      bytes('<META http-equiv="Content-Type" content="text/html; charset=koi8-r">'),
      null,
      'koi8-r',
      'meta',
      null,
    ],
    [
      'a pragma of another kind',
      bytes('<meta http-equiv=x content="text/html; charset=koi8-r">'),
      null,
      'windows-1252',
      'default',
      null,
    ],
    [
      'a meta element in a comment',
      bytes('<!-- <meta charset=koi8-r> --><meta charset=utf-8>'),
      null,
      'utf-8',
      'meta',
      null,
    ],
    [
      'a meta element too late',
      bytes(`${' '.repeat(1_024)}<meta charset=utf-8>`),
      null,
      'windows-1252',
      'default',
      null,
    ],
    ['a meta element that says UTF-16', bytes('<meta charset=utf-16>'), null, 'utf-8', 'meta', null],
    ['a mark', bytes('<p>', 0xef, 0xbb, 0xbf), null, 'utf-8', 'mark', null],
    ['a mark of UTF-16', bytes('<\0p\0', 0xff, 0xfe), 'text/html', 'utf-16le', 'mark', null],
    ['the other mark of UTF-16', bytes('\0<\0p', 0xfe, 0xff), null, 'utf-16be', 'mark', null],
    [
      'a mark against the header',
      bytes('<\0p\0', 0xff, 0xfe),
      'text/html; charset=utf-8',
      'utf-16le',
      'mark',
      'utf-8',
    ],
    [
      'a header against the page',
      bytes('<meta charset=utf-8>'),
      'text/html; charset=koi8-r',
      'koi8-r',
      'header',
      'utf-8',
    ],
  ])('%s', (_, raw, type, name, by, against) => {
    expect(pageEncoding(raw, type)).toEqual({ name, by, against });
  });
});

describe('the bounds of a page', () => {
  const bolds = (count: number) => Array.from({ length: count }, (_, at) => `<b id=${String(at)}>`).join('');
  test.each([
    ['deep', '<div>'.repeat(2_000), 'depth'],
    [
      'deep in formatting',
      Array.from({ length: 2_000 }, (_, at) => `<b id=${String(at)}>`).join(''),
      'depth',
    ],
    ['opened again and again', `<p>${bolds(400)}${'<p>x'.repeat(300)}`, 'elements'],
    ['wide', '<br>'.repeat(100_001), 'elements'],
    [
      'many attributes',
      `<p ${Array.from({ length: 5_000 }, (_, at) => `a${String(at)}`).join(' ')}>`,
      'attributes',
    ],
    ['as others are', '<div><p>Welcome.</div>'.repeat(500), null],
  ])('%s', (_, text, beyond) => {
    expect(readTree(text).beyond).toBe(beyond);
  });

  it('keep what comes before them', () => {
    const { tags, beyond } = readPage(`<meta name=a content=b>${'<div>'.repeat(2_000)}`, []);
    expect([tags[0]?.name, beyond]).toEqual(['a', 'depth']);
  });
});

describe('what a page is for those who look for a tag', () => {
  const profile = (scripting?: boolean): EngineProfile => {
    const { meta, ...methods } = veldrane.methods;
    if (!meta) throw new Error('no meta rule');
    const rule: MetaRule & { scripting?: boolean } = { ...meta };
    delete rule.scripting;
    return {
      ...veldrane,
      methods: { ...methods, meta: scripting === undefined ? rule : { ...rule, scripting } },
    };
  };
  const placed = (scripting?: boolean) => {
    const found = placementOf(
      profile(scripting),
      parseScope('address', 'https://quay.example/'),
      'meta',
      TOKEN,
    );
    if (found?.method !== 'meta') throw new Error('no placement');
    return found;
  };
  const { tag } = placed();
  const verdict = (text: string, scripting?: boolean) => {
    const { findings, forecast } = judge(placed(scripting), page(text), STAGE_TIME);
    return [findings[0]?.code, forecast];
  };
  // What may not stand in a noscript of the head ends the head for those who run no scripts (HTML standard §13.2.6.4.5).
  const ended = `<!doctype html><head><noscript><img src=x></noscript>${tag}</head>`;

  test.each<[string, string, boolean | undefined, string, string]>([
    ['a noscript before it, for one that runs scripts', ended, true, 'meta.stands', 'accept'],
    ['a noscript before it, for one that runs none', ended, false, 'meta.outside-head', 'refuse'],
    ['a noscript before it, where nobody knows', ended, undefined, 'meta.depends-on-scripts', 'unsure'],
    [
      'a harmless noscript',
      `<head><noscript><link rel=x></noscript>${tag}</head>`,
      undefined,
      'meta.stands',
      'accept',
    ],
    [
      'within a noscript, for one that runs scripts',
      `<head><noscript>${tag}</noscript></head>`,
      true,
      'meta.in-noscript',
      'refuse',
    ],
    [
      'within a noscript, for one that runs none',
      `<head><noscript>${tag}</noscript></head>`,
      false,
      'meta.stands',
      'accept',
    ],
    [
      'a page that refreshes away',
      '<meta http-equiv=refresh content="0; url=/en/">',
      undefined,
      'meta.sends-on',
      'refuse',
    ],
    [
      'a page whose script leads away',
      '<script>location.href="/en/"</script>',
      undefined,
      'meta.sends-on',
      'refuse',
    ],
    [
      'a page that refreshes away, and has it',
      `<head>${tag}<meta http-equiv=refresh content="0; url=/en/">`,
      undefined,
      'meta.stands',
      'accept',
    ],
    ['a page too deep', '<div>'.repeat(2_000), undefined, 'meta.beyond-reading', 'unsure'],
    [
      'a page too deep, with the tag before',
      `<head>${tag}</head>${'<div>'.repeat(2_000)}`,
      undefined,
      'reach.beyond-reading',
      'accept',
    ],
  ])('%s', (_, text, scripting, code, forecast) => {
    expect(verdict(text, scripting)).toEqual([code, forecast]);
  });

  it('is the same whether the head alone is read or the whole page, whatever it is made of', () => {
    const parts = [
      tag,
      tag.replace('content="8', 'content="9'),
      ...[
        '<!doctype html>',
        '<html lang=en>',
        '<head>',
        '</head>',
        '<body>',
        '</body>',
        '<title>Quay</title>',
      ],
      ...[
        '<noscript>',
        '</noscript>',
        '<img src=x>',
        '<link rel=x>',
        '<template>',
        '</template>',
        '<!--',
        '-->',
      ],
      ...['<script>if (a<b) f("<body>")</script>', '<style>', '</style>', '<svg>', '</svg>', '<frameset>'],
      ...[
        '<iframe src="//elsewhere.example/">',
        '<meta name=robots content=noindex>',
        '<p>',
        'Free from noon.',
      ],
      ...['<base href=/>', '<table>', ' ', '\n', '\0', ' '.repeat(2_048), '<div>'.repeat(600)],
    ];
    const hints = [placed().content, `${placed().name}"`];
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...parts), { maxLength: 14 }),
        fc.constantFrom(true, false, undefined),
        (some, scripting) => {
          const text = some.join('');
          const whole = readPage(text, hints, { url: 'https://quay.example/' });
          const seen = page(text);
          const by = examine(placed(scripting), seen, whole);
          const { findings, forecast } = judge(placed(scripting), seen, STAGE_TIME, by);
          const codes = (all: readonly { readonly code: string }[]) => all.map(({ code }) => code);
          const own = judge(placed(scripting), seen, STAGE_TIME);
          expect([own.forecast, codes(own.findings)]).toEqual([forecast, codes(findings)]);
        },
      ),
      { numRuns: 600, seed: 7 },
    );
  });

  it('costs no more for a page that goes on for long behind its head', () => {
    const rest = '<div class=berth><p>Free from noon.</div>'.repeat(3_000);
    const head = `<head><noscript><link rel=x></noscript>${tag}</head><body>`;
    const read = readHead(head + rest, true);
    expect([read.head.length < 4_096, read.rest.length > 100_000]).toEqual([true, true]);
    expect(readHeadTags(head + rest, [], 'https://quay.example/')?.tags).toHaveLength(1);
  });

  test.each([
    ['a frame in it', '<p>Welcome.</p><iframe src=/x>'],
    ['elements without end', '<div>'.repeat(300)],
    ['a tag that goes on', `<p ${'a '.repeat(3_000)}>`],
    ['a tag that never ends', '<p'],
    ['more tags than can be told', '<br>'.repeat(20_001)],
  ])('is read whole with %s', (_, rest) => {
    expect(isPlain(rest)).toBe(false);
    expect(readHeadTags(`<head>${tag}</head><body>${rest}`, [], 'https://quay.example/')).toBeNull();
  });

  it('tells where the tag stands behind a page that sends its visitors on', () => {
    const behind = {
      ...page(`<head>${tag}</head>`),
      url: 'https://quay.example/en/',
      kind: 'sent-on' as const,
    };
    const evidence = page('<meta http-equiv=refresh content="0; url=/en/">', { elsewhere: [behind] });
    expect(judge(placed(), evidence, STAGE_TIME).findings[0]).toMatchObject({
      code: 'meta.stands-behind',
      evidence: { to: 'https://quay.example/en/' },
    });
  });
});
