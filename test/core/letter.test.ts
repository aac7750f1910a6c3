import { describe, expect, it } from 'vitest';
import { LETTER_SENTENCES, letterOf, type Mend, type MendKind } from '../../src/core/letter/letter.js';
import { SENTENCES } from '../../src/core/sheet/sentences.js';

const about = {
  property: 'quay.example',
  at: '2026-11-28 07:00 UTC',
  sums: new Map(),
  left: 0,
  later: [],
  zip: false,
};
const sheet = { places: [], others: [], open: 0, waiting: 0, done: 0 };
const letter = (
  language: 'en' | 'de',
  mends: readonly Mend[],
  link: string | null = null,
  by: { agency?: string | null; thanks?: string } = {},
) =>
  letterOf({
    words: { ...LETTER_SENTENCES[language], ...(by.thanks === undefined ? {} : { thanks: by.thanks }) },
    ...{ sheetWords: SENTENCES[language], language, sheet, about },
    ...{ name: 'Mika', person: 'Marit', mends, link, before: null, agency: by.agency ?? null },
  });

describe.each(['en', 'de'] as const)('a letter in %s', (language) => {
  const kinds = Object.keys(LETTER_SENTENCES[language]).filter((name) =>
    name.startsWith('mend'),
  ) as MendKind[];

  it.each(kinds)('says what is to be mended, and where: %s', (what) => {
    const { subject, text, html } = letter(language, [{ what, site: 'quay.example', detail: 'Do <this>.' }]);
    expect(subject).toBe(LETTER_SENTENCES[language].subjectOther.replace('{property}', 'quay.example'));
    const said = text.replace(/\s+/gu, ' ');
    expect(said).toContain('quay.example');
    expect(said).toContain('Do <this>.');
    expect(said).not.toMatch(/[{}]/u);
    expect(html).toContain('Do &lt;this&gt;.');
    expect(html).toContain(`<html lang="${language}">`);
  });

  it('has its link to be opened, with every sign of it', () => {
    const url = 'https://yard.example/shared/a$&b?c=1&d="2"';
    const { html, text } = letter(language, [], url);
    const shown = 'https://yard.example/shared/a$&amp;b?c=1&amp;d=&quot;2&quot;';
    expect(html).toContain(`<a href="${shown}">${shown}</a>`);
    expect(text).toContain(url);
    expect(letter(language, []).html).not.toContain('<a ');
  });

  it('is signed with the name of the agency, once, where it has one', () => {
    const signed = (agency: string | null, thanks?: string) =>
      letter(language, [], null, { agency, ...(thanks === undefined ? {} : { thanks }) }).text;
    expect(signed('Harbour Lights')).toMatch(/Marit\s+Harbour Lights\s*$/u);
    expect(signed(null)).toMatch(/Marit\s*$/u);
    expect(signed('Harbour Lights', '{person} of Harbour Lights')).toMatch(/\sMarit of Harbour Lights\s*$/u);
  });

  it('has no heading where nothing comes under it, or nothing before it', () => {
    const mend = { what: 'mendName', site: 'quay.example', detail: 'Soon.' } as const;
    for (const mends of [[], [mend]])
      expect(letter(language, mends).text).not.toContain(LETTER_SENTENCES[language].also);
  });
});
