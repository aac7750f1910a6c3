import { unzipSync, strFromU8 } from 'fflate';
import { parse } from 'parse5';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openStage, registerByHand, type Stage } from '../support/stage.js';

const HOST = 'www.saltmarsh-ferries.example';
const ENGINES = ['house', 'veldrane', 'ostrime', 'sundrel', 'brindle'];
type Language = 'en' | 'de';

/** What stands in a block of the Markdown that follows a label. */
function block(markdown: string, label: string): string[] {
  const at = markdown.indexOf(label);
  if (at < 0) return [];
  const [, inside = ''] = /```\n([^]*?)\n```/u.exec(markdown.slice(at)) ?? [];
  return inside.split('\n').filter((line) => line !== '');
}

describe('a placement sheet, done as it says', () => {
  let stage: Stage;
  const enrolments = async () => (await stage.marit.listEnrolments({ query: { property: 'ferries' } })).items;
  const sheet = (language: Language = 'en') =>
    stage.marit.showSheet({ query: { property: 'ferries', language } });
  const access = (zone: 'yes' | 'no', files: 'yes' | 'no', pages: 'yes' | 'no') =>
    stage.marit.editProperty({ params: { property: 'ferries' }, body: { access: { zone, files, pages } } });
  /** Every check of one method says that the engine would accept. */
  const allStand = async (method: 'meta' | 'file' | 'dns') => {
    const asked = (await enrolments()).filter(({ placements }) =>
      placements.some((one) => one.method === method),
    );
    expect(asked.length).toBeGreaterThan(0);
    await stage.results(stage.marit.check({ body: { enrolments: asked.map(({ name }) => name), method } }));
    for (const { name, placements } of await enrolments()) {
      const own = placements.find((one) => one.method === method);
      if (own) expect([name, own.check?.forecast]).toEqual([name, 'accept']);
    }
  };
  const clear = async () => {
    for (const what of ['meta', 'files', 'txt']) await stage.order({ do: 'clear', host: HOST, what });
  };

  beforeAll(async () => {
    stage = await openStage();
    const { marit } = stage;
    await marit.addClient({ body: { name: 'Saltmarsh Ferry Line', handle: 'saltmarsh' } });
    const { job } = await marit.addProperty({
      body: { client: 'saltmarsh', address: HOST, handle: 'ferries' },
    });
    await marit.finished({ id: job });
    for (const reach of ['address', 'name'] as const)
      for (const engine of ENGINES)
        await stage
          .results(marit.enrol({ body: { properties: ['ferries'], engines: [engine], reach } }))
          // Not every engine has every reach.
          .catch(() => []);
    await stage.results(marit.getTokens({ body: { enrolments: ['ferries'] } }));
    await registerByHand(stage, 'ferries', 'brindle');
  });
  afterAll(() => stage.close());

  it('has each place once, with what is to be done of all engines, in both languages', async () => {
    await access('yes', 'no', 'no');
    const english = await sheet();
    expect(english.title).toBe(`What to place for ${HOST}`);
    expect(english.open).toBeGreaterThan(2);
    expect(english.markdown.match(/## In the DNS zone/gu)).toHaveLength(1);
    const german = await sheet('de');
    expect(german.markdown).toContain('## In der DNS\\-Zone'.replace('\\-', '-'));
    expect(german.html).toContain('<html lang="de">');
    expect(german.open).toBe(english.open);
    await expect(stage.marit.showSheet({ query: {} })).rejects.toMatchObject({
      problem: { code: 'bad-input' },
    });
  });

  it('is right as lines of a zone file', async () => {
    await clear();
    for (const line of block((await sheet()).markdown, 'lines of a zone file')) {
      const [, name = '', strings = ''] = /^(\S+)\. \d+ IN TXT (.+)$/u.exec(line) ?? [];
      const value = [...strings.matchAll(/"((?:[^"\\]|\\.)*)"/gu)]
        .map(([, part = '']) => part.replace(/\\(.)/gu, '$1'))
        .join('');
      await stage.order({ do: 'txt', name, value });
    }
    await allStand('dns');
    const { open, done, text } = await sheet();
    expect(open).toBe(0);
    expect(done).toBeGreaterThan(2);
    expect(text).toContain('Everything stands where it must.');
    // Of a sheet of what is to be done nothing is left then but that.
    const left = await stage.marit.showSheet({ query: { property: 'ferries', open: true } });
    expect(left.text).toContain('Everything stands where it must.');
    expect(left.markdown).not.toContain('## In the DNS zone');
  });

  it('is right as a panel has it, names without the zone and whole ones', async () => {
    for (const isWhole of [false, true]) {
      await clear();
      await stage.results(stage.marit.check({ body: { enrolments: ['ferries'], method: 'dns' } }));
      const { markdown } = await sheet();
      const field = (name: string) =>
        [...markdown.matchAll(new RegExp(`^- ${name}: \`(.+)\`$`, 'gmu'))].map(([, value = '']) => value);
      const names = field(isWhole ? 'Whole name' : 'Name, without the zone');
      const values = field('Value');
      expect(names.length).toBe(values.length);
      for (const [at, name] of names.entries()) {
        const zone = 'saltmarsh-ferries.example';
        const whole = isWhole ? name : name === '@' ? zone : `${name}.${zone}`;
        await stage.order({ do: 'txt', name: whole, value: values[at] });
      }
      await allStand('dns');
    }
  });

  it('is right as a block of tags for the head', async () => {
    await clear();
    await access('no', 'no', 'yes');
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    const { markdown } = await sheet();
    const tags = block(markdown.slice(markdown.indexOf('## In the head')), '**');
    expect(tags.length).toBeGreaterThan(1);
    for (const tag of tags) await stage.order({ do: 'meta', host: HOST, tag });
    await allStand('meta');
  });

  it('is right as files of the ZIP, with their sums', async () => {
    await clear();
    await access('no', 'yes', 'no');
    await stage.results(stage.marit.check({ body: { enrolments: ['ferries'] } }));
    const { files } = await sheet();
    expect(files.length).toBeGreaterThan(1);
    const packed = unzipSync(await stage.marit.sheetZip({ property: 'ferries' }));
    expect(Object.keys(packed)).toEqual(expect.arrayContaining(['sheet.html', 'sheet.md', 'sheet.txt']));
    for (const { path, content, sha256 } of files) {
      expect(strFromU8(packed[`upload/${path}`] ?? new Uint8Array())).toBe(content);
      const digest = Buffer.from(await crypto.subtle.digest('SHA-256', packed[`upload/${path}`] as never));
      expect(digest.toString('hex')).toBe(sha256);
      await stage.order({ do: 'file', host: HOST, path: `/${path}`, content });
    }
    await allStand('file');
  });

  it('is a page of its own that fetches nothing, and of a client as well', async () => {
    const { html } = await stage.marit.showSheet({ query: { client: 'saltmarsh' } });
    expect(html).not.toMatch(/<(?:script|link|img|iframe)\b|url\(/u);
    expect(parse(html).childNodes.length).toBeGreaterThan(0);
    const { client } = await stage.person('odile', 'onlooker');
    expect((await client.showSheet({ query: { property: 'ferries' } })).done).toBe((await sheet()).done);
    const body = { client: 'saltmarsh', address: 'bare.example', handle: 'bare' };
    await stage.marit.finished({ id: (await stage.marit.addProperty({ body })).job });
    await expect(stage.marit.showSheet({ query: { property: 'bare' } })).rejects.toMatchObject({
      problem: { code: 'nothing-to-place' },
    });
  });
});
