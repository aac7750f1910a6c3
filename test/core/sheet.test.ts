import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blocksOf } from '../../src/core/sheet/blocks.js';
import { CATALOGUE } from '../../src/core/findings/catalogue.js';
import { REASON_CODES, reasonFor } from '../../src/core/sheet/reasons.js';
import { filled, SENTENCES, SHEET_LANGUAGES } from '../../src/core/sheet/sentences.js';
import { sheetOf, type SheetToken } from '../../src/core/sheet/sheet.js';
import { asHtml } from '../../src/core/sheet/page.js';
import { asMarkdown, asText } from '../../src/core/sheet/sheet-formats.js';

const dns = (place: string, value: string, ttl: number | null = null) =>
  ({
    kind: 'dns',
    zone: 'quay.example',
    recordName: place === 'quay.example' ? '@' : '_mooring',
    place,
    value,
    ttl,
  }) as const;
const meta = (value: string) =>
  ({
    kind: 'meta',
    page: 'https://quay.example/',
    tag: `<meta name="mooring" content="${value}">`,
    name: 'mooring',
    content: value,
  }) as const;
const file = (path: string, content = 'berth') =>
  ({
    kind: 'file',
    url: `https://quay.example${path}`,
    path,
    fileName: path.slice(path.lastIndexOf('/') + 1),
    content,
  }) as const;

function token(engine: string, thing: SheetToken['thing'], more: Partial<SheetToken> = {}): SheetToken {
  return {
    engine,
    enrolment: `quay@${engine}`,
    enrolmentId: `quay@${engine}`,
    thing,
    seen: 'unknown',
    says: null,
    isAdvised: false,
    isHeldBy: false,
    isAsked: false,
    before: null,
    ...more,
  };
}

const ABOUT = {
  property: 'quay.example',
  at: '2026-11-25 09:00',
  sums: new Map([['/berth.txt', 'abc']]),
  left: 0,
  later: [] as string[],
  zip: true,
};
const written = (tokens: SheetToken[], language: 'en' | 'de' = 'en', about = ABOUT) => {
  const blocks = blocksOf(sheetOf(tokens), SENTENCES[language], about);
  return { markdown: asMarkdown(blocks), text: asText(blocks), html: asHtml(blocks, language) };
};

describe('a sheet', () => {
  it('visits each place once, in the order in which people go there, with one method for each enrolment', () => {
    const sheet = sheetOf([
      token('Veldrane', meta('a')),
      token('Veldrane', dns('quay.example', 'v=1'), { isAdvised: true }),
      token('Ostrime', dns('_mooring.quay.example', 'o=1'), { isAdvised: true }),
      token('Sundrel', file('/berth.txt'), { isAdvised: true }),
    ]);
    expect(sheet.places.map(({ kind, where, tasks }) => [kind, where, tasks.length])).toEqual([
      ['zone', 'quay.example', 2],
      ['root', 'quay.example', 1],
    ]);
    expect(sheet.others.map(({ kind }) => kind)).toEqual(['head']);
    expect([sheet.open, sheet.done]).toEqual([3, 0]);
  });

  it('strikes what stands, says what has to stay, what to change and what may go, and proposes nothing beside what stands', () => {
    const sheet = sheetOf([
      token('Veldrane', meta('a'), { seen: 'right', before: meta('old') }),
      token('Veldrane', dns('quay.example', 'v=1'), { isAdvised: true }),
      token('Ostrime', file('/berth.txt'), { seen: 'right', isHeldBy: true }),
      token('Sundrel', meta('s'), { seen: 'wrong', says: 'It stands in a comment.', isAdvised: true }),
      token('House', meta('h'), { before: meta('h-old'), isAdvised: true }),
    ]);
    const states = sheet.places.flatMap(({ tasks }) =>
      tasks.map(({ engine, state }) => `${engine} ${state}`),
    );
    expect(states).toEqual([
      'House put',
      'Sundrel change',
      'Veldrane may-go',
      'Veldrane done',
      'Ostrime stays',
    ]);
    expect(sheet.others).toEqual([]);
    const { markdown } = written([
      token('Veldrane', meta('a'), { seen: 'right', before: meta('old') }),
      token('Sundrel', meta('s'), { seen: 'wrong', says: 'It stands in a comment.', isAdvised: true }),
    ]);
    expect(markdown).toContain('Now: It stands in a comment.');
    expect(markdown).toContain('- [x] `<meta name="mooring" content="a">`');
    expect(markdown).toContain('- [ ] `<meta name="mooring" content="old">`');
  });

  it('has the very same thing once, for all who want it', () => {
    const same = dns('quay.example', 'shared');
    const sheet = sheetOf([
      token('Veldrane', same, { isAdvised: true, enrolment: 'a' }),
      token('Kelpwise', same, { isAdvised: true, enrolment: 'b', seen: 'right' }),
    ]);
    expect(sheet.places[0]?.tasks).toMatchObject([{ engine: 'Veldrane, Kelpwise', state: 'put' }]);
  });

  it('says that there is nothing to do where there is nothing', () => {
    const { text } = written([token('Veldrane', meta('a'), { seen: 'right' })]);
    expect(text).toContain(SENTENCES.en.allDone);
    expect(text).not.toContain(SENTENCES.en.headHow.slice(0, 20));
  });

  it('is written in every language, with every sentence of it and nothing left unfilled', () => {
    const all = [
      token('Veldrane', dns('quay.example', 'v=1'), { isAdvised: true, enrolment: 'a' }),
      token('Veldrane', meta('a'), { enrolment: 'a' }),
      token('Ostrime', meta('o'), { isAdvised: true, seen: 'wrong', says: 'x', enrolment: 'b' }),
      token('Sundrel', file('/berth.txt'), { isAdvised: true, enrolment: 'c' }),
      token('House', meta('h'), { seen: 'right', before: meta('old'), enrolment: 'd' }),
      token('Brindle', meta('b'), { seen: 'right', isHeldBy: true, enrolment: 'e' }),
    ];
    for (const language of SHEET_LANGUAGES) {
      const words = SENTENCES[language];
      // These two are filled in where a check is known, and come with it.
      const looked = { at: '2026-11-25 08:00', until: '2026-11-25 12:00' };
      const soon = token('Kelpwise', meta('k'), {
        seen: 'soon',
        says: filled(words.until, looked),
        enrolment: 'f',
      });
      const missing = token('Mirefen', meta('m'), {
        seen: 'missing',
        says: filled(words.notThere, looked),
        isAdvised: true,
        enrolment: 'g',
      });
      const blocked = token('Gannet', file('/perch.txt', 'p'), {
        seen: 'blocked',
        says: filled(words.holdsNow, { found: 'x' }),
        enrolment: 'h',
      });
      const { text } = written([...all, soon, missing, blocked], language, {
        ...ABOUT,
        left: 3,
        later: ['Sundrel'],
      });
      const waiting = written([soon], language).text;
      const over = written([token('House', meta('h'), { seen: 'right' })], language).text;
      const flat = `${text} ${waiting} ${over}`.replace(/\s+/gu, ' ');
      for (const [key, sentence] of Object.entries(words)) {
        const parts = sentence.split(/\{\w+\}/u).map((part: string) => part.replace(/\s+/gu, ' ').trim());
        for (const part of parts) expect([key, flat.includes(part)]).toEqual([key, true]);
      }
      expect(flat).not.toMatch(/\{\w+\}/u);
    }
    expect(Object.keys(SENTENCES.de)).toEqual(Object.keys(SENTENCES.en));
    expect(filled('a {b} {c}', { b: 1 })).toBe('a 1 {c}');
  });

  it('says what is only to be waited for, and asks for nothing there', () => {
    const soon = token('Veldrane', meta('a'), { seen: 'soon', says: 'A cache has an old copy.' });
    const sheet = sheetOf([soon]);
    expect([sheet.open, sheet.waiting, sheet.done]).toEqual([0, 1, 0]);
    const { text, markdown } = written([soon]);
    expect(text).toContain('A cache has an old copy.');
    expect(text).not.toContain(SENTENCES.en.allDone);
    expect(markdown).not.toContain('```');
  });

  it('has a reason in both languages for codes of the catalogue, and for any other finding', () => {
    for (const code of REASON_CODES) expect(Object.keys(CATALOGUE)).toContain(code);
    // Whatever a sentence is filled from, what is missing is not shown as a gap.
    for (const code of Object.keys(CATALOGUE))
      for (const language of SHEET_LANGUAGES) {
        const says = reasonFor(code, {}, language);
        expect([code, /\{\w+\}/u.test(says), says === '']).toEqual([code, false, false]);
      }
    const owned = reasonFor('dns.other-token', { owner: 'the token of other-client' }, 'en');
    expect(owned).not.toContain('other-client');
    expect(reasonFor('dns.at-www', { other: 'www.quay.example', name: 'quay.example' }, 'de')).toBe(
      'Der Eintrag steht unter www.quay.example und darf dort bleiben; er muss auch unter quay.example stehen.',
    );
  });

  it('keeps the TTL of what stands beside a record, since all at a name have one', () => {
    const beside = written([token('Veldrane', dns('quay.example', 'v=1', 86_400), { isAdvised: true })]);
    expect(beside.text).toContain('quay.example. 86400 IN TXT "v=1"');
    expect(beside.text).toContain('update add quay.example. 86400 IN TXT "v=1"');
    const alone = written([token('Veldrane', dns('quay.example', 'v=1'), { isAdvised: true })]);
    expect(alone.text).toContain('update add quay.example. 3600 IN TXT "v=1"');
  });

  it('carries whatever a token is made of unharmed through each form', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 40 }).filter((one) => !/[\r\n\0]/u.test(one)),
        (value) => {
          const { html, markdown, text } = written([
            token('Veldrane', dns('quay.example', value), { isAdvised: true }),
          ]);
          const shown = html.slice(html.lastIndexOf('<dd>') + 4, html.lastIndexOf('</dd></dl>'));
          const unescaped = shown
            .replace(/&lt;/gu, '<')
            .replace(/&gt;/gu, '>')
            .replace(/&quot;/gu, '"')
            .replace(/&amp;/gu, '&');
          expect(unescaped).toBe(value);
          expect(text).toContain(`    ${value}\n`);
          expect(markdown).toContain(value);
        },
      ),
    );
  });
});
