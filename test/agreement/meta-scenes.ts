import { site } from '../../src/rehearsal/scenario.js';
import { html, type MetaGround } from './ground.js';
import type { Scene } from './scenes.js';
import { STAGE_TIME } from '../support/time.js';

type Meta = Scene<MetaGround>;

/** The tag with another value than it should have. */
const valued = (
  what: string,
  first: Meta['first'],
  value: (ground: MetaGround) => string,
  more: Partial<Meta> = {},
): Meta => ({
  what,
  first,
  arrange: (ground) => {
    ground.page(`<meta name="${ground.placement.name}" content="${value(ground)}">`);
  },
  ...more,
});

/** The right tag, somewhere or somehow. */
const tagged = (
  what: string,
  first: string,
  head: (tag: string) => string,
  body: (tag: string) => string = () => '',
): Meta => ({
  what,
  first,
  arrange: (ground) => {
    ground.page(head(ground.placement.tag), body(ground.placement.tag));
  },
});

const exactly = (loose: string, strict: string) => (ground: MetaGround) =>
  ground.placement.compare === 'exact' ? strict : loose;
/** Where the engine reads any tag of the name, and where it does not, so that another’s is not touched. */
const besides = (any: string, other: string) => (ground: MetaGround) =>
  ground.placement.many === 'any' ? any : other;
const half = (text: string) => text.slice(0, Math.ceil(text.length / 2));
const now = () => STAGE_TIME.toISOString();

export const META_SCENES: readonly Meta[] = [
  tagged('the tag stands', 'meta.stands', (tag) => tag),
  tagged('the tag in capitals, without quotes', 'meta.stands', (tag) =>
    tag.replace('<meta name', '<META NAME').replace(/content="([^"]*)"/, 'content=$1'),
  ),
  tagged('the tag closed as in XML', 'meta.stands', (tag) => tag.replace('>', ' />')),
  {
    ...tagged('the tag twice, both right', '', (tag) => tag + tag),
    first: (g) => (g.placement.many === 'one' ? 'meta.repeated-own' : 'meta.stands'),
  },
  {
    what: 'the name in capitals',
    first: 'meta.stands',
    arrange: (g) => void g.page(g.placement.tag.replace(g.placement.name, g.placement.name.toUpperCase())),
  },
  {
    what: 'a mark before the page',
    first: 'meta.stands',
    arrange: (g) => void g.answer('/', { status: 200, body: `\ufeff${html(g.placement.tag, '')}` }),
  },
  {
    what: 'sent compressed',
    first: 'meta.stands',
    arrange: (g) =>
      void g.answer('/', { status: 200, gzip: true, body: html(g.placement.tag, '<p>x</p>'.repeat(500)) }),
  },
  {
    what: 'no tag',
    first: 'meta.absent',
    arrange: (g) => void g.page('<meta name="description" content="Quay">'),
  },
  {
    what: 'no tag, and a refresh to a page with it',
    first: 'meta.sends-on',
    arrange: (g) => void g.page('<meta http-equiv="refresh" content="0; url=/home">').answers['/home'],
  },
  tagged(
    'an element that ends the head before it',
    'meta.outside-head',
    (tag) => `<div>banner</div>\n${tag}`,
  ),
  tagged('an image before it', 'meta.outside-head', (tag) => `<img src="/x.png" alt="">\n${tag}`),
  tagged(
    'in the body',
    'meta.outside-head',
    () => '',
    (tag) => tag,
  ),
  tagged('in a comment', 'meta.in-comment', (tag) => `<!-- ${tag} -->`),
  tagged(
    'in a comment of the body',
    'meta.in-comment',
    () => '',
    (tag) => `<!-- ${tag} -->`,
  ),
  tagged('in a noscript', 'meta.in-noscript', (tag) => `<noscript>${tag}</noscript>`),
  tagged('in a template', 'meta.in-template', (tag) => `<template>${tag}</template>`),
  tagged('written by a script', 'meta.in-script', (tag) => `<script>document.write('${tag}')</script>`),
  {
    what: 'put together by a script',
    first: 'meta.in-script',
    arrange: (g) =>
      void g.page(
        `<script>const m=document.createElement('meta');m.content="${g.placement.content}";document.head.append(m)</script>`,
      ),
  },
  tagged(
    'escaped, so visible as text',
    'meta.as-text',
    () => '',
    (tag) => `<p>${tag.replace(/</g, '&lt;').replace(/>/g, '&gt;')}</p>`,
  ),
  {
    what: 'said by property=',
    first: 'meta.by-property',
    arrange: (g) => void g.page(g.placement.tag.replace('name=', 'property=')),
  },
  {
    what: 'the right value under another name',
    first: 'meta.wrong-name',
    arrange: (g) => void g.page(`<meta name="site-proof" content="${g.placement.content}">`),
  },
  {
    what: 'twice, the last of them right',
    first: (g) => (['any', 'last'].includes(g.placement.many) ? 'meta.stands' : 'meta.taken'),
    arrange: (g) => void g.page(`<meta name="${g.placement.name}" content="older">${g.placement.tag}`),
  },
  {
    what: 'twice, the first of them right',
    first: (g) => (['any', 'first'].includes(g.placement.many) ? 'meta.stands' : 'meta.taken'),
    arrange: (g) => void g.page(`${g.placement.tag}<meta name="${g.placement.name}" content="older">`),
  },
  {
    what: 'twice, one right and one of ours that is broken',
    first: (g) => (g.placement.many === 'one' ? 'meta.repeated-own' : 'meta.stands'),
    arrange: (g) =>
      void g.page(
        g.placement.many === 'last'
          ? `<meta name="${g.placement.name}" content="“${g.placement.content}”">${g.placement.tag}`
          : `${g.placement.tag}<meta name="${g.placement.name}" content="“${g.placement.content}”">`,
      ),
  },
  {
    what: 'twice, none right',
    first: besides('meta.other-value', 'meta.taken'),
    arrange: (g) =>
      void g.page(
        `<meta name="${g.placement.name}" content="older"><meta name="${g.placement.name}" content="oldest">`,
      ),
  },
  valued('the whole tag as the value', 'meta.whole-tag', (g) => g.placement.tag.replace(/"/g, '&quot;')),
  valued('another engine’s token', besides('meta.other-token', 'meta.taken'), (g) => g.foreign),
  valued('an older token of ours', 'meta.replaced-token', (g) => g.old),
  valued(
    'another property’s token',
    besides('meta.other-token', 'meta.taken'),
    (g) => g.known[3]?.value ?? '',
  ),
  valued('cut short', 'meta.cut', (g) => half(g.placement.content)),
  valued('its beginning missing', 'meta.cut', (g) => g.placement.content.slice(4)),
  valued('in the other case', 'meta.case', (g) => g.placement.content.toUpperCase()),
  valued(
    'a space inside',
    'meta.spaces',
    (g) => `${half(g.placement.content)} ${g.placement.content.slice(half(g.placement.content).length)}`,
  ),
  {
    ...valued('spaces around it', '', (g) => `  ${g.placement.content} `),
    first: exactly('meta.stands', 'meta.spaces'),
  },
  valued('in curly quotes', 'meta.quotes', (g) => `“${g.placement.content}”`),
  valued(
    'a character nobody sees',
    'meta.invisible',
    (g) => `${half(g.placement.content)}\u200b${g.placement.content.slice(half(g.placement.content).length)}`,
  ),
  valued('more behind it', 'meta.extra', (g) => `${g.placement.content}-ferries`),
  valued('a letter wrong', 'meta.typo', (g) => `${g.placement.content.slice(0, -2)}zz`),
  valued('something else', besides('meta.other-value', 'meta.taken'), () => 'to be filled in'),
  valued('nothing', 'meta.blank', () => ''),
  {
    what: 'on www but not on the bare name',
    first: 'meta.other-variant',
    arrange: (g) => {
      g.site({ aliases: [], answers: { '/': { status: 200, body: html('', '') } } });
      g.state.sites.push(
        site(`www.${g.bare}`, 'Quay', '', {
          answers: { '/': { status: 200, body: html(g.placement.tag, '') } },
        }),
      );
    },
  },
  {
    what: 'on the bare name but not on www',
    at: 'www',
    first: 'meta.other-variant',
    arrange: (g) => {
      g.site({ aliases: [], answers: { '/': { status: 200, body: html(g.placement.tag, '') } } });
      g.state.sites.push(
        site(`www.${g.bare}`, 'Quay', '', { answers: { '/': { status: 200, body: html('', '') } } }),
      );
    },
  },
  {
    what: 'a cached copy without it',
    first: 'meta.stale-copy',
    arrange: (g) =>
      void g.site({ head: [g.placement.tag], copy: { html: html('', ''), at: now(), seconds: 3600 } }),
  },
  {
    what: 'only a cached copy with it',
    first: 'meta.going-stale',
    arrange: (g) => void g.site({ copy: { html: html(g.placement.tag, ''), at: now(), seconds: 3600 } }),
  },
  {
    what: 'the page asks engines to stay away',
    first: 'reach.keeps-out-tag',
    arrange: (g) => void g.page(`<meta name="robots" content="noindex">${g.placement.tag}`),
  },
  {
    what: 'a header asks engines to stay away',
    first: 'reach.keeps-out-header',
    arrange: (g) => void g.page(g.placement.tag, '', { 'x-robots-tag': 'noindex, nofollow' }),
  },
  {
    what: 'a frame around another site',
    first: 'meta.behind-frame',
    arrange: (g) => void g.page('', '<iframe src="https://elsewhere.example/" width="100%"></iframe>'),
  },
  {
    what: 'a frameset around another site',
    first: 'meta.behind-frame',
    arrange: (g) =>
      void g.answer('/', {
        status: 200,
        body: '<html><head><title>x</title></head><frameset rows="100%"><frame src="https://elsewhere.example/"></frameset></html>',
      }),
  },
  {
    what: 'a frame, with the tag around it',
    first: 'reach.framed',
    arrange: (g) => void g.page(g.placement.tag, '<iframe src="https://elsewhere.example/"></iframe>'),
  },
  {
    what: 'sent as plain text',
    first: 'meta.not-html',
    arrange: (g) => void g.page(g.placement.tag, '', { 'content-type': 'text/plain' }),
  },
  {
    what: 'an empty page',
    first: 'reach.empty',
    arrange: (g) => void g.answer('/', { status: 200, body: '' }),
  },
  {
    what: 'behind two megabytes',
    first: 'meta.beyond-bound',
    arrange: (g) => void g.page(`<style>${'x'.repeat(2_200_000)}</style>${g.placement.tag}`),
  },
];
