import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { copyAge, mayBeCopy } from '../../src/core/badge/probe/copy-age.js';
import { furtherNames, furtherPages } from '../../src/core/badge/probe/further-probes.js';
import {
  placementOf,
  type DnsPlacement,
  type FilePlacement,
  type MetaPlacement,
} from '../../src/core/badge/placement.js';
import { readProfile } from '../../src/core/profile/schema.js';
import type { EngineProfile, Method } from '../../src/core/profile/profile.js';
import { hop, page } from '../support/evidence.js';
import { ostrime, sundrel, veldrane } from '../support/profiles.js';

function placement(method: 'meta', profile: EngineProfile, address: string): MetaPlacement;
function placement(method: 'file', profile: EngineProfile, address: string): FilePlacement;
function placement(method: 'dns', profile: EngineProfile, address: string): DnsPlacement;
function placement(method: Method, profile: EngineProfile, address: string) {
  const found = placementOf(profile, parseScope('address', address), method, 'abcdef0123456789');
  if (!found) throw new Error('no placement');
  return found;
}

describe('further looks at a page', () => {
  const meta = placement('meta', veldrane, 'https://quay.example/');
  const answered = (status: number, headers: Record<string, string> = {}) =>
    page('<p>x</p>', {}, [hop({ status, headers })]);
  test.each([
    ['stands', answered(200), true, { fresh: false, asBrowser: false, elsewhere: [] }],
    ['stands in what may be a copy', answered(200, { age: '9' }), true, { fresh: true, elsewhere: [] }],
    [
      'is absent',
      answered(200),
      false,
      { fresh: true, elsewhere: [{ url: 'https://www.quay.example/', kind: 'other-variant' }] },
    ],
    ['is kept out of', answered(403), false, { asBrowser: true, fresh: false, elsewhere: [] }],
    [
      'is not answered for',
      page(null, { end: 'failed' }, [hop({ status: null, failure: 'refused' })]),
      false,
      { fresh: false, elsewhere: [{ kind: 'other-variant' }] },
    ],
  ])('that %s', (_, first, stands, expected) => {
    expect(furtherPages(meta, first, stands, 'word')).toMatchObject(expected);
  });

  it('goes from www to the bare name', () => {
    const www = placement('meta', veldrane, 'https://www.quay.example/');
    expect(furtherPages(www, answered(200), false, 'word').elsewhere[0]?.url).toBe('https://quay.example/');
  });
});

describe('further looks for a file', () => {
  const missing = page('gone', {}, [hop({ status: 404 })]);
  const places = (file: FilePlacement) =>
    furtherPages(file, missing, false, 'word').elsewhere.map(
      ({ url, kind }) => `${kind} ${new URL(url).pathname}`,
    );

  it('go to the likely folders and names, each once', () => {
    const all = places(placement('file', ostrime, 'https://quay.example/'));
    expect(all).toEqual([
      'well-known /.well-known/ostrime-berth.txt',
      'other-case /OSTRIME-BERTH.TXT',
      'other-case /Ostrime-berth.txt',
      'other-ending /ostrime-berth.txt.txt',
      'other-ending /ostrime-berth.txt.html',
      'other-ending /ostrime-berth',
    ]);
  });
  it('go to the property’s own folder and the one above it', () => {
    const all = places(placement('file', ostrime, 'https://quay.example/clients/clocks/'));
    expect(all.slice(0, 2)).toEqual([
      'property-folder /clients/clocks/ostrime-berth.txt',
      'folder-above /clients/ostrime-berth.txt',
    ]);
  });
  it('go to the root where the file belongs into a folder', () => {
    expect(places(placement('file', sundrel, 'https://quay.example/'))[0]).toBe(
      'folder-above /sundrel-abcdef0123456789',
    );
  });
  it('are spared where something else stands there, and a made-up neighbour is asked for where a page does', () => {
    const file = placement('file', ostrime, 'https://quay.example/');
    expect(furtherPages(file, page('other words'), false, 'word')).toMatchObject({
      elsewhere: [],
      madeUp: null,
    });
    expect(furtherPages(file, page('<!doctype html><html>'), false, 'word').madeUp).toBe(
      'https://quay.example/word-ostrime-berth.txt',
    );
  });

  it('end at the folder for an engine whose files belong there', () => {
    const read = readProfile({
      id: 'folder',
      title: 'Folder',
      worked: { how: 'hand' },
      reaches: ['address'],
      token: { per: 'enrolment' },
      methods: { file: { base: 'folder', path: '/proof.txt', content: '{token}' } },
    });
    if (!('profile' in read)) throw new Error(read.faults.join());
    const file = placement('file', read.profile as EngineProfile, 'https://quay.example/clocks/');
    expect(file.place).toBe('https://quay.example/clocks/proof.txt');
    expect(places(file)[0]).toBe('root /proof.txt');
  });
});

describe('further names', () => {
  const names = (dns: DnsPlacement, labels: string[] = []) =>
    furtherNames(dns, labels).map(({ name, kind }) => `${kind} ${name}`);
  test.each([
    [
      'at the name itself',
      placement('dns', veldrane, 'https://quay.example/'),
      ['doubled quay.example.quay.example', 'www www.quay.example', 'other-label _x.quay.example'],
    ],
    [
      'at www',
      placement('dns', veldrane, 'https://www.quay.example/'),
      ['doubled www.quay.example.quay.example', 'parent quay.example', 'other-label _x.www.quay.example'],
    ],
    [
      'under a label',
      placement('dns', ostrime, 'https://quay.example/'),
      [
        'doubled _ostrime-challenge.quay.example.quay.example',
        'label-doubled _ostrime-challenge._ostrime-challenge.quay.example',
        'www _ostrime-challenge.www.quay.example',
        'no-label quay.example',
        'other-label _x.quay.example',
        'other-label ostrime-challenge.quay.example',
      ],
    ],
  ])('%s', (_, dns, expected) => {
    expect(names(dns, ['_x'])).toEqual(expected);
  });
});

describe('the age of a copy (RFC 9111)', () => {
  test.each<[Record<string, string>, boolean, number | null, number | null]>([
    [{}, false, null, null],
    [{ age: '30', 'cache-control': 'public, max-age=600' }, true, 30, 570],
    [{ age: '30', 'cache-control': 'max-age=600, s-maxage=60' }, true, 30, 30],
    [{ age: '900', 'cache-control': 'max-age=600' }, true, 900, 0],
    [{ via: '1.1 harbour' }, true, null, null],
    [{ 'x-cache': 'HIT from harbour' }, true, null, null],
    [{ 'x-cache': 'MISS' }, false, null, null],
    [{ 'cache-control': 'max-age="120"' }, false, null, 120],
    [{ date: 'Wed, 25 Nov 2026 08:00:00 GMT', expires: 'Wed, 25 Nov 2026 08:10:00 GMT' }, false, null, 600],
    [{ age: 'soon', 'cache-control': 'no-max-age=5' }, true, null, null],
  ])('%j', (headers, copy, age, left) => {
    const seen = hop({ headers });
    expect([mayBeCopy(seen), copyAge(seen).age, copyAge(seen).left]).toEqual([copy, age, left]);
  });
});
