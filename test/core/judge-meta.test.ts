import { describe, expect, it, test } from 'vitest';
import { parseScope } from '../../src/core/address/reach.js';
import { judge } from '../../src/core/badge/judge/judge.js';
import type { Hop, PageEvidence, PageSeen, ReachFailure } from '../../src/core/badge/probe/evidence.js';
import { examine } from '../../src/core/badge/probe/examine.js';
import { placeInText, readPage } from '../../src/core/badge/probe/page-tags.js';
import { placementOf, type MetaPlacement } from '../../src/core/badge/placement.js';
import type { KnownToken } from '../../src/core/badge/token/known-token.js';
import type { EngineProfile } from '../../src/core/profile/profile.js';
import { hop, page } from '../support/evidence.js';
import { ostrime, sundrel, veldrane } from '../support/profiles.js';

const TOKEN = 'abcdef0123456789abcdef01';
const AT = new Date('2026-11-20T08:00:00Z');

function placed(profile: EngineProfile = veldrane): MetaPlacement {
  const found = placementOf(profile, parseScope('address', 'https://quay.example/'), 'meta', TOKEN);
  if (found?.method !== 'meta') throw new Error('no tag');
  return found;
}
const own = placed();
const html = (head: string, body = '') =>
  `<!doctype html>\n<html><head>\n<title>Quay</title>\n${head}\n</head>\n<body>\n${body}\n</body></html>`;
const seen = (text: string, hops: readonly Hop[] = [hop()]): PageSeen => {
  const { end, body } = page(text, {}, hops);
  return { hops, end, body };
};
const first = (evidence: PageEvidence, placement = own) => {
  const { findings, forecast } = judge(placement, evidence, AT);
  return [findings[0]?.code, forecast];
};

describe('where on a page the tag stands', () => {
  test.each<[string, string, string]>([
    ['in the head', html(own.tag), 'meta.stands'],
    ['in a head that nobody wrote down', `<title>Quay</title>${own.tag}<p>Hello`, 'meta.stands'],
    [
      'after the head, before the body: the parser puts it back',
      `<html><head></head>${own.tag}<body></body></html>`,
      'meta.stands',
    ],
    ['after an element that ends the head', html(`<p>banner</p>${own.tag}`), 'meta.outside-head'],
    ['after text that ends the head', html(`banner ${own.tag}`), 'meta.outside-head'],
    ['in the body', html('', own.tag), 'meta.outside-head'],
    ['in a comment', html(`<!-- ${own.tag} -->`), 'meta.in-comment'],
    ['in a comment for one old browser', html(`<!--[if IE]>${own.tag}<![endif]-->`), 'meta.in-comment'],
    ['in a noscript', html(`<noscript>${own.tag}</noscript>`), 'meta.in-noscript'],
    ['in a template', html(`<template>${own.tag}</template>`), 'meta.in-template'],
    [
      'in a script’s string',
      html(`<script>document.write("${own.tag.replaceAll('"', '\\"')}")</script>`),
      'meta.in-script',
    ],
    ['as text', html('', own.tag.replaceAll('<', '&lt;')), 'meta.as-text'],
    ['as text in the title', html('').replace('Quay</title>', `${own.tag}</title>`), 'meta.as-text'],
    ['by property', html(own.tag.replace('name=', 'property=')), 'meta.by-property'],
    ['under another name', html(`<meta name="proof" content="${TOKEN}">`), 'meta.wrong-name'],
    ['nowhere', html('<meta name="robots" content="all">'), 'meta.absent'],
  ])('%s', (_, text, code) => {
    expect(first(page(text))).toEqual([code, code === 'meta.stands' ? 'accept' : 'refuse']);
  });

  it('is told by line and column, and by what ended the head', () => {
    const [finding] = judge(own, page(html(`<div>banner</div>\n${own.tag}`)), AT).findings;
    expect(finding?.evidence).toMatchObject({ line: 5, column: 1, ender: '<div> on line 4' });
    expect(finding?.remedy).toContain('before <div> on line 4');
  });

  it('is told by line and column where all is well too, read without keeping every place', () => {
    const [finding] = judge(own, page(html(`<link rel="icon" href="x">\n  ${own.tag}`)), AT).findings;
    expect(finding).toMatchObject({ code: 'meta.stands', evidence: { line: 5, column: 3 } });
    expect(placeInText('<p>', { name: 'x', content: 'y' })).toEqual({ line: 0, column: 0 });
    expect(readPage(html(own.tag), [], { locations: false }).tags[0]).toMatchObject({
      line: 0,
      where: 'head',
    });
  });

  it('is told from the two that are there when one of them is right', () => {
    const { findings, forecast } = judge(
      own,
      page(html(`<meta name="veldrane-mooring" content="old">${own.tag}`)),
      AT,
    );
    expect(findings.map(({ code, grade }) => [code, grade])).toEqual([
      ['meta.stands', 'note'],
      ['meta.repeated', 'note'],
    ]);
    expect(forecast).toBe('accept');
  });

  it('names the nearest of several that are wrong', () => {
    const text = html(
      `<meta name="veldrane-mooring" content="something else"><meta name="veldrane-mooring" content="“${TOKEN}”">`,
    );
    expect(first(page(text))[0]).toBe('meta.quotes');
  });

  it('tells whose token it is', () => {
    const value = '00112233445566778899aabb';
    const known: KnownToken = {
      value,
      method: 'meta',
      engine: 'sundrel',
      engineTitle: 'Sundrel',
      property: 'own',
      replacedAt: null,
      inUse: true,
    };
    const evidence = page(html(`<meta name="veldrane-mooring" content="${value}">`));
    const context = { own: { engine: 'veldrane', property: 'own' }, known: [known] };
    const [finding] = judge(own, evidence, AT, examine(own, evidence), context).findings;
    expect(finding).toMatchObject({ code: 'meta.other-token' });
    expect(finding?.says).toContain('which is Sundrel’s meta token for the same site');
  });
});

describe('what a page is besides', () => {
  const redirect = (from: string, to: string) => hop({ url: from, status: 301, location: to });
  test.each<[string, PageEvidence, string, string]>([
    [
      'a frame around another site',
      page(html('', '<iframe src="https://elsewhere.example/"></iframe>')),
      'meta.behind-frame',
      'refuse',
    ],
    [
      'a frame, with the tag around it',
      page(html(own.tag, '<iframe src="//elsewhere.example/"></iframe>')),
      'reach.framed',
      'accept',
    ],
    [
      'a page that has a small frame among much else',
      page(html(own.tag, `<iframe src="https://maps.example/"></iframe>${'words '.repeat(90)}`)),
      'meta.stands',
      'accept',
    ],
    [
      'one that asks engines to stay away',
      page(html(`<meta name="robots" content="noindex">${own.tag}`)),
      'reach.keeps-out-tag',
      'accept',
    ],
    [
      'one that lets them come',
      page(html(`<meta name="robots" content="index, follow">${own.tag}`)),
      'meta.stands',
      'accept',
    ],
    [
      'one whose header keeps them out',
      page(html(own.tag), {}, [hop({ headers: { 'x-robots-tag': 'none' } })]),
      'reach.keeps-out-header',
      'accept',
    ],
    ['a slow one', page(html(own.tag), {}, [hop({ ms: 9_000 })]), 'reach.slow', 'accept'],
    ['not a page', page(html(own.tag), { mediaType: 'application/pdf' }), 'meta.not-html', 'refuse'],
    [
      'another variant’s',
      page(html(''), {
        elsewhere: [{ url: 'https://www.quay.example/', kind: 'other-variant', ...seen(html(own.tag)) }],
      }),
      'meta.other-variant',
      'refuse',
    ],
    ['an old copy', page(html(''), { fresh: seen(html(own.tag)) }), 'meta.stale-copy', 'refuse'],
    [
      'the last copy',
      page(html(own.tag), { fresh: seen(html('')) }, [hop({ headers: { age: '5' } })]),
      'meta.going-stale',
      'accept',
    ],
    [
      'one that differs each time, and is no copy',
      page(html(own.tag), { fresh: seen(html('')) }),
      'meta.stands',
      'accept',
    ],
    [
      'behind a wall',
      page('no', { asBrowser: { status: 200 } }, [hop({ status: 403 })]),
      'reach.bot-wall',
      'unsure',
    ],
    [
      'behind a sign-in, for browsers too',
      page('no', { asBrowser: { status: 401 } }, [hop({ status: 401 })]),
      'reach.denied',
      'refuse',
    ],
    [
      'moved six times',
      page(html(own.tag), {}, [
        ...Array.from({ length: 6 }, (_, at) =>
          redirect(`https://quay.example/${String(at)}`, `https://quay.example/${String(at + 1)}`),
        ),
        hop(),
      ]),
      'reach.redirect-limit',
      'refuse',
    ],
    [
      'moved five times',
      page(html(own.tag), {}, [
        ...Array.from({ length: 5 }, (_, at) =>
          redirect(`https://quay.example/${String(at)}`, `https://quay.example/${String(at + 1)}`),
        ),
        hop(),
      ]),
      'meta.stands',
      'accept',
    ],
  ])('%s', (_, evidence, code, forecast) => {
    expect(first(evidence)).toEqual([code, forecast]);
  });

  test.each<[string, EngineProfile, string]>([
    ['https://quay.example/en/', veldrane, 'meta.stands'],
    ['https://quay.example/en/', ostrime, 'meta.stands'],
    ['https://quay.example/en/', sundrel, 'reach.redirected'],
    ['https://www.quay.example/', veldrane, 'meta.stands'],
    ['https://www.quay.example/', ostrime, 'reach.off-host'],
    ['https://harbour.example/', veldrane, 'reach.off-domain'],
    ['https://harbour.example/', ostrime, 'reach.off-domain'],
  ])('moved to %s, for an engine with rules of its own', (url, profile, code) => {
    const placement = placed(profile);
    const evidence = page(html(placement.tag), {}, [redirect('https://quay.example/', url), hop({ url })]);
    expect(first(evidence, placement)[0]).toBe(code);
  });

  test.each<[ReachFailure, boolean, string]>([
    ['tls-self-signed', false, 'refuse'],
    ['tls-chain', false, 'refuse'],
    ['tls-untrusted', false, 'refuse'],
    ['tls-failed', false, 'refuse'],
    ['not-http', false, 'refuse'],
    ['headers-too-large', false, 'refuse'],
    ['timed-out', false, 'unsure'],
    ['timed-out', true, 'refuse'],
    ['cut', true, 'refuse'],
    ['resolver-fails', true, 'refuse'],
  ])('not reached: %s, met again: %s', (failure, again, forecast) => {
    const certificate = {
      subject: 'a',
      issuer: 'Harbour',
      names: ['a.example'],
      validFrom: '2025-01-01T00:00:00Z',
      validUntil: '2026-01-01T00:00:00Z',
    };
    const evidence = page(null, { end: 'failed', again }, [hop({ status: null, failure, certificate })]);
    const { findings, forecast: said } = judge(own, evidence, AT);
    expect([findings[0]?.code, said]).toEqual([`reach.${failure}`, forecast]);
    expect(`${findings[0]?.says ?? ''}${findings[0]?.remedy ?? ''}`).not.toMatch(/\{\w+\}/);
  });
});
