import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { faultIn, placesIn, usualWords } from '../../src/core/wording/wording.js';
import { filled } from '../../src/core/sheet/sentences.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

describe('a sentence in somebody’s own words', () => {
  it('fills in what ours fills in, all of it and nothing else', () => {
    const usual = 'For {engine} at {place}.';
    expect(faultIn(usual, 'At {place}, for {engine}!')).toBeNull();
    expect(faultIn(usual, 'For {engine}.')).toContain('{place} has to be in it');
    expect(faultIn(usual, '{engine} {place} {secret}')).toContain('{secret} is nothing that is filled in');
    expect(faultIn(usual, '{engine} {place} {')).toContain('brace');
    expect(faultIn(usual, ' ')).toBe('It says nothing.');
    expect(faultIn(usual, '{engine} {place}\nBcc: x@y.example')).toBe('It is to be one line.');
    expect(faultIn(usual, '{engine} {place} \u001b[31m')).toContain('control character');
    expect(faultIn(usual, `{engine} {place} ${'x'.repeat(2_000)}`)).toContain('at most');
    for (const language of ['en', 'de'] as const)
      for (const words of Object.values(usualWords(language)))
        for (const says of Object.values(words)) expect([says, faultIn(says, says)]).toEqual([says, null]);
  });

  it('that fits leaves no gap, whatever it is', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (before, after) => {
        const says = `${before}{engine}${after}`;
        if (faultIn('for {engine}', says) !== null) return;
        expect(placesIn(filled(says, { engine: 'Veldrane' }))).toEqual([]);
      }),
    );
  });
});

describe('an agency’s own wording', () => {
  let stage: Stage;
  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
    await stage.marit.addContact({
      body: { client: 'saltmarsh', name: 'Mika', role: 'developer', email: 'mika@reed.example' },
    });
  });
  afterAll(() => stage.close());

  it('is shown on real data before it is kept, and is then on every sheet and letter', async () => {
    const { marit } = stage;
    const intro = {
      language: 'en',
      part: 'sheet',
      name: 'intro',
      says: 'Ahoy, {property} wants something.',
    } as const;
    const preview = await marit.previewWording({ body: { ...intro, property: 'ferries' } });
    expect(preview.sheet).toContain('Ahoy, www.saltmarsh-ferries.example wants something.');
    const before = await marit.showSheet({ query: { property: 'ferries' } });
    expect(before.text).not.toContain('Ahoy');
    await marit.editWording({ body: intro });
    expect((await marit.showSheet({ query: { property: 'ferries' } })).text).toContain('Ahoy, ');
    expect((await marit.showSheet({ query: { property: 'ferries', language: 'de' } })).text).not.toContain(
      'Ahoy',
    );
    const hello = { language: 'en', part: 'letter', name: 'hello', says: 'Dear {name},' } as const;
    expect(
      (await marit.previewWording({ body: { ...hello, property: 'ferries' } })).letters[0]?.text,
    ).toContain('Dear Mika,');
    await marit.editWording({ body: hello });
    expect((await marit.draftLetters({ body: { property: 'ferries' } })).items[0]?.text).toContain(
      'Dear Mika,',
    );
    const own = (await marit.listWording()).items.filter(({ isOwn }) => isOwn).map(({ name }) => name);
    expect(own.sort()).toEqual(['hello', 'intro']);
    const back = await marit.editWording({ body: { ...intro, says: null } });
    expect(back).toMatchObject({ isOwn: false, says: back.usual });
    expect((await marit.showSheet({ query: { property: 'ferries' } })).text).not.toContain('Ahoy');
  });

  it('is refused where it does not fit, with what was expected', async () => {
    const body = { language: 'de', part: 'sheet', name: 'intro', says: 'Hallo {wer}' } as const;
    await expect(stage.marit.editWording({ body })).rejects.toMatchObject({
      problem: { code: 'bad-wording' },
    });
    await expect(stage.marit.editWording({ body: { ...body, name: 'constructor' } })).rejects.toMatchObject({
      problem: { code: 'no-such-sentence' },
    });
    const { client: jonas } = await stage.person('jonas', 'consultant');
    await expect(jonas.editWording({ body })).rejects.toMatchObject({ problem: { code: 'not-allowed' } });
  });
});
