import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { number, plotOf } from '../../src/core/report/plot.js';
import { outcomeOf } from '../../src/core/report/report.js';
import { orderFor } from '../../src/rehearsal/developer.js';
import { openStage, takeOnFerries, type Stage } from '../support/stage.js';

const DAY = 24 * 3_600_000;

describe('what is written for an owner', () => {
  it('says what became of a harm, and how long before an engine acted', () => {
    const harm = { property: 'quay', says: '', seenAt: '2026-05-01T00:00:00Z', overAt: null, actedAt: null };
    expect(outcomeOf(harm)).toBe('Open; no engine has acted on it so far.');
    expect(outcomeOf({ ...harm, overAt: '2026-05-04T00:00:00Z' })).toBe(
      'Mended after 3 days, before any engine acted on it.',
    );
    expect(outcomeOf({ ...harm, actedAt: '2026-05-06T00:00:00Z' })).toBe(
      'Seen 5 days before an engine acted on it; not mended yet.',
    );
  });

  it('draws counts that hold until the next one, each line with its name, apart from one another', () => {
    const svg = plotOf(
      {
        url: 'https://quay.example/sitemap.xml',
        ours: [
          { at: '2026-05-01T00:00:00Z', count: 10 },
          { at: '2026-05-06T00:00:00Z', count: 1_200_000 },
        ],
        engines: [{ engine: '<Engine>', found: [{ at: '2026-05-02T00:00:00Z', count: 1_200_000 }] }],
      },
      '2026-05-01T00:00:00Z',
      '2026-05-11T00:00:00Z',
    );
    expect(svg).toMatch(/M56\.0 \d+\.\d+H\d+\.\dV10\.0H510\.0/u);
    expect(svg).toContain('&lt;Engine&gt; 1\u202F200\u202F000');
    const [first = 0, second = 0] = [...svg.matchAll(/<text x="516" y="([\d.]+)"/gu)].map(([, y]) =>
      Number(y),
    );
    expect(second - first).toBeGreaterThanOrEqual(12);
    expect([number(0), number(999), number(1_000)]).toEqual(['0', '999', '1\u202F000']);
  });
});

describe('a report of a client', () => {
  let stage: Stage;
  beforeAll(async () => {
    stage = await openStage();
    await takeOnFerries(stage);
  });
  afterAll(() => stage.close());

  it('tells what is on record, harms with what became of them, and what they have to do', async () => {
    const { marit } = stage;
    const { items } = await marit.listEnrolments({ query: { property: 'ferries' } });
    for (const { placements } of items) for (const one of placements) await stage.order(orderFor(one));
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    await stage.results(marit.claim({ body: { enrolments: ['ferries'] } }));
    await stage.world.advance(DAY);
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'meta' });
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'txt' });
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'files' });
    await stage.world.advance(DAY);
    // One look that sees nothing may be a slip of the network: the second one tells.
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    await stage.world.advance(DAY / 4);
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    const slipped = await marit.writeReport({ params: { client: 'saltmarsh' } });
    expect(slipped.report.totals.slipping).toBeGreaterThan(0);
    expect(slipped.report.toDo.length).toBeGreaterThan(0);
    expect(slipped.report.harms[0]).toMatchObject({
      ...{ property: 'www.saltmarsh-ferries.example', overAt: null, actedAt: null },
    });
    expect(slipped.report.did.map(({ says }) => says).join(' ')).toContain(
      'Registered at Veldrane: the whole domain saltmarsh-ferries.example.',
    );
    const changed = slipped.report.changed.map(({ says }) => says).join(' ');
    expect(changed).toContain('House confirmed the ownership of https://www.saltmarsh-ferries.example/.');
    // Nothing that only we name so.
    expect(slipped.markdown).not.toMatch(/@|enrolled|\bbadge/u);
    expect(slipped.html).toContain('data:image/svg+xml;base64,');
    for (const { placements } of items) for (const one of placements) await stage.order(orderFor(one));
    await stage.world.advance(DAY);
    await stage.results(marit.check({ body: { enrolments: ['ferries'] } }));
    const mended = await marit.writeReport({ params: { client: 'saltmarsh' } });
    expect(mended.report.harms[0]?.overAt).not.toBeNull();
    expect(mended.markdown).toContain('before any engine acted on it');
    await expect(
      marit.writeReport({ params: { client: 'saltmarsh' }, query: { from: '2030-01-01T00:00:00Z' } }),
    ).rejects.toMatchObject({ problem: { code: 'bad-span' } });
  });

  it('is sent with the page, and kept as it was', async () => {
    const { marit } = stage;
    await marit.addContact({
      body: { client: 'saltmarsh', name: 'Saga Salt', role: 'owner', email: 'saga@saltmarsh.example' },
    });
    const kept = await marit.keepReport({ params: { client: 'saltmarsh' }, body: { contact: 'Saga Salt' } });
    expect(kept).toMatchObject({ sentTo: 'saga@saltmarsh.example', by: 'marit' });
    const mailTo = (address: string) => stage.world.post.mails.findLast(({ to }) => to === address);
    const arrived = (address: string) =>
      expect.poll(() => mailTo(address)?.subject ?? null, { timeout: 20_000 }).not.toBeNull();
    await arrived('saga@saltmarsh.example');
    const mail = mailTo('saga@saltmarsh.example');
    expect(mail?.subject).toMatch(/^Saltmarsh Ferry Line: how your websites stand, /u);
    // A mail as people read it, not the marks of a text that is to become a page.
    expect(mail?.text).not.toMatch(/^#|\*\*|^- /mu);
    expect(mail?.html).toContain('<h2');
    expect(mail?.files).toEqual([expect.stringMatching(/\.html$/u)]);
    // What was sent just now is sent once more only at a word.
    const again = { params: { client: 'saltmarsh' }, body: { contact: 'Saga Salt' } };
    await expect(marit.keepReport(again)).rejects.toMatchObject({ problem: { code: 'report-sent' } });
    const before = await marit.showKeptReport({ params: { id: kept.id } });
    await marit.editClient({ params: { client: 'saltmarsh' }, body: { name: 'Another Name' } });
    expect(await marit.showKeptReport({ params: { id: kept.id } })).toEqual(before);
    expect((await marit.listKeptReports({ params: { client: 'saltmarsh' } })).items).toHaveLength(1);
    // Who reads German gets it in German, to the last word of ours.
    await marit.addContact({
      body: {
        ...{ client: 'saltmarsh', name: 'Wiebke Thaden', role: 'owner', language: 'de' },
        email: 'wiebke@saltmarsh.example',
      },
    });
    const german = await marit.keepReport({
      params: { client: 'saltmarsh' },
      body: { contact: 'Wiebke Thaden' },
    });
    await arrived('wiebke@saltmarsh.example');
    const whole = await marit.showKeptReport({ params: { id: german.id } });
    const read = mailTo('wiebke@saltmarsh.example');
    expect(read?.subject).toMatch(/^Another Name: Stand Ihrer Websites, [\d-]+ bis [\d-]+$/u);
    expect(whole.html).toContain('<html lang="de">');
    for (const text of [read?.text ?? '', read?.html ?? '', whole.markdown, whole.html])
      expect(text.replace(/<style>.*?<\/style>/su, '')).not.toMatch(
        /\b(?:the|of|nothing|confirmed|registered|gone|held|addresses|found)\b/iu,
      );
    expect(readFileSync(join(stage.folder, 'logo.svg'), 'utf8')).toContain('<svg');
  });
});
