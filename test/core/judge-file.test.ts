import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import type { PageEvidence, PageSeen } from '../../src/core/badge/probe/evidence.js';
import { judge } from '../../src/core/badge/judge/judge.js';
import { placementOf, type FilePlacement } from '../../src/core/badge/placement.js';
import type { EngineProfile } from '../../src/core/profile/profile.js';
import { hop, page } from '../support/evidence.js';
import { ostrime, sundrel, veldrane } from '../support/profiles.js';

const TOKEN = 'abcdef0123456789abcdef01';
const AT = new Date('2026-11-20T08:00:00Z');

function placed(profile: EngineProfile, address = 'https://quay.example/'): FilePlacement {
  const found = placementOf(profile, parseScope('address', address), 'file', TOKEN);
  if (found?.method !== 'file') throw new Error('no file');
  return found;
}

const loose = placed(veldrane);
const strict = placed(sundrel);
const HTML = (body: string) => `<!doctype html><html><body>${body}</body></html>`;
const bytes = (...raw: Uint8Array[]): PageEvidence => {
  const whole = Buffer.concat(raw);
  return page('', {
    body: {
      raw: whole,
      charset: 'utf-8',
      bytes: whole.length,
      cut: false,
      mediaType: 'text/plain',
    },
  });
};
const BOM = Buffer.from([0xef, 0xbb, 0xbf]);
const gone = hop({ url: loose.place, status: 404 });
const answered = (text: string, status = 200): PageSeen => {
  const { hops, end, body } = page(text, {}, [hop({ status })]);
  return { hops, end, body };
};
const found = (url: string, kind: PageEvidence['elsewhere'][number]['kind'], text = loose.content) => ({
  url,
  kind,
  ...answered(text),
});

describe('what stands in place of a file', () => {
  test.each<[string, FilePlacement, PageEvidence, string, 'accept' | 'refuse']>([
    ['the very bytes', strict, page(strict.content), 'file.stands', 'accept'],
    [
      'a line break more, where white space is trimmed',
      loose,
      page(`${loose.content}\n`),
      'file.stands',
      'accept',
    ],
    [
      'a line break more, where every byte counts',
      strict,
      page(`${strict.content}\r\n`),
      'file.line-end',
      'refuse',
    ],
    [
      'a space before, where every byte counts',
      strict,
      page(` ${strict.content}`),
      'file.not-exact',
      'refuse',
    ],
    [
      'a byte order mark, where every byte counts',
      strict,
      bytes(BOM, Buffer.from(strict.content)),
      'file.byte-order-mark',
      'refuse',
    ],
    [
      'a byte order mark, where white space is trimmed',
      loose,
      bytes(BOM, Buffer.from(loose.content)),
      'file.stands',
      'accept',
    ],
    [
      'little-endian, with its mark',
      loose,
      bytes(Buffer.from([0xff, 0xfe]), Buffer.from(loose.content, 'utf16le')),
      'file.encoding',
      'refuse',
    ],
    [
      'little-endian, without a mark',
      loose,
      bytes(Buffer.from(loose.content, 'utf16le')),
      'file.encoding',
      'refuse',
    ],
    [
      'big-endian, with its mark',
      loose,
      bytes(Buffer.from([0xfe, 0xff]), Buffer.from(loose.content, 'utf16le').swap16()),
      'file.encoding',
      'refuse',
    ],
    ['nothing', loose, page(''), 'file.empty', 'refuse'],
    ['the token without its prefix', loose, page(TOKEN), 'file.prefix-missing', 'refuse'],
    ['the prefix twice', loose, page(`veldrane-mooring: ${loose.content}`), 'file.prefix-doubled', 'refuse'],
    ['quotes', loose, page(`"${loose.content}"`), 'file.quotes', 'refuse'],
    ['half of it', loose, page(loose.content.slice(0, 26)), 'file.cut', 'refuse'],
    ['capitals', loose, page(loose.content.toUpperCase()), 'file.case', 'refuse'],
    ['other words', loose, page('hello'), 'file.other-value', 'refuse'],
    ['a page with the right words', loose, page(HTML(loose.content)), 'file.wrapped', 'refuse'],
    ['a page', loose, page(HTML('Welcome')), 'file.page-instead', 'refuse'],
    [
      'a page, as for any address',
      loose,
      page(HTML('Welcome'), { madeUp: answered(HTML('Welcome')) }),
      'file.themed-missing',
      'refuse',
    ],
    [
      'a page, though made-up addresses are missing',
      loose,
      page(HTML('Welcome'), { madeUp: answered('', 404) }),
      'file.page-instead',
      'refuse',
    ],
    ['nothing of that name', loose, page('gone', {}, [gone]), 'file.missing', 'refuse'],
    [
      'the right words with the status of nothing',
      loose,
      page(loose.content, {}, [gone]),
      'file.missing',
      'refuse',
    ],
  ])('%s', (_, placement, evidence, code, forecast) => {
    const judgement = judge(placement, evidence, AT);
    expect([judgement.findings[0]?.code, judgement.forecast]).toEqual([code, forecast]);
  });

  test.each<[PageEvidence['elsewhere'][number]['kind'], string, string]>([
    ['well-known', 'https://quay.example/.well-known/x.txt', 'file.wrong-folder'],
    ['folder-above', 'https://quay.example/clients/x.txt', 'file.wrong-folder'],
    ['property-folder', 'https://quay.example/clocks/x.txt', 'file.at-folder'],
    ['root', 'https://quay.example/x.txt', 'file.at-root'],
    ['other-case', 'https://quay.example/X.txt', 'file.wrong-name'],
    ['other-ending', 'https://quay.example/x.txt.txt', 'file.double-ending'],
  ])('is told to be elsewhere: %s', (kind, url, code) => {
    const { findings } = judge(loose, page('gone', { elsewhere: [found(url, kind)] }, [gone]), AT);
    expect(findings.map((one) => [one.code, one.follows])).toEqual([
      [code, null],
      ['file.missing', code],
    ]);
    expect(findings[0]?.remedy).toContain(url);
  });

  it('is not told to be where something else stands', () => {
    const elsewhere = [found('https://quay.example/.well-known/x.txt', 'well-known', 'other')];
    expect(judge(loose, page('gone', { elsewhere }, [gone]), AT).findings.map(({ code }) => code)).toEqual([
      'file.missing',
    ]);
  });

  test.each([
    ['to the home page', 'https://quay.example/', HTML('Welcome'), 'file.to-home'],
    ['to a sign-in, by its address', 'https://quay.example/login', HTML('Welcome'), 'file.to-sign-in'],
    [
      'to a sign-in, by its form',
      'https://quay.example/members',
      HTML('<input type="password">'),
      'file.to-sign-in',
    ],
    ['to some page', 'https://quay.example/news', HTML('Welcome'), 'file.page-instead'],
    ['to the file', 'https://quay.example/files/x', loose.content, 'file.stands'],
  ])('leads %s', (_, url, text, code) => {
    const hops = [hop({ url: loose.place, status: 302, location: url }), hop({ url })];
    expect(judge(loose, page(text, {}, hops), AT).findings[0]?.code).toBe(code);
  });

  it('is harmless when it is sent compressed or as a download, and says so', () => {
    const headers = { 'content-encoding': 'gzip', 'content-disposition': 'attachment; filename="x.txt"' };
    const { findings, forecast } = judge(loose, page(loose.content, {}, [hop({ headers })]), AT);
    expect(forecast).toBe('accept');
    expect(findings.map(({ code, grade, remedy }) => [code, grade, remedy])).toEqual([
      ['file.stands', 'note', ''],
      ['file.compressed', 'note', ''],
      ['file.download', 'note', ''],
    ]);
  });

  it('is told apart from a copy: an old answer is waited for, a last copy is a harm', () => {
    const headers = { age: '100', 'cache-control': 'max-age=400' };
    const stale = judge(
      loose,
      page('none', { fresh: answered(loose.content) }, [hop({ url: loose.place, status: 404, headers })]),
      AT,
    );
    expect(stale.findings[0]?.code).toBe('file.stale-copy');
    expect(stale.visibleAt).toEqual(new Date('2026-11-20T08:05:00Z'));
    const last = judge(loose, page(loose.content, { fresh: answered('none', 404) }, [hop({ headers })]), AT);
    expect([last.findings[0]?.code, last.forecast]).toEqual(['file.going-stale', 'accept']);
  });

  it('is the same one for every site of an account', () => {
    expect(placed(ostrime).path).toBe('/ostrime-berth.txt');
    expect(placed(ostrime, 'https://quay.example/clocks/').place).toBe(
      'https://quay.example/ostrime-berth.txt',
    );
  });
});
