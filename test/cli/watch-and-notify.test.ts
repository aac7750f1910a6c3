import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DAY } from '../../src/core/time/duration.js';
import { HOOKS_ADDRESS } from '../../src/rehearsal/scenario.js';
import { cliAt } from '../support/built.js';
import { removed } from '../support/removed.js';
import { openStage, placeAll, takeOnFerries, type Stage } from '../support/stage.js';
import { until } from '../support/until.js';

let stage: Stage;
const home = mkdtempSync(join(tmpdir(), 'yardbadge-home-'));
const cli = cliAt(() => stage, home);

beforeAll(async () => {
  stage = await openStage({ 'watch.on': 'true' });
  await placeAll(stage, await takeOnFerries(stage));
  await stage.results(
    stage.marit.claim({ body: { enrolments: ['ferries@veldrane:address'], method: 'meta' } }),
  );
});
afterAll(async () => {
  await stage.close();
  await removed(home);
});

describe('the watch from the command line', () => {
  it('says what is looked at, how often, and when next', async () => {
    const { out, status } = await cli('watch');
    expect(status).toBe(0);
    expect(out).toContain('Watched: 5 placements, the variants of 1 property, 0 sitemaps.');
    expect(out).toMatch(/placement +ferries@veldrane:address meta +1 day/u);
    expect(out).toContain('6 things watched; as marit sees them.');
    expect((await cli('watch', '--limit', '1')).out).toContain('1 of 6 things watched; as marit sees them.');
  });

  it('is paused for a reason, and goes on', async () => {
    const paused = await cli('watch', 'pause', 'ferries', '--why', 'moving house', '--until', '2033-07-01');
    expect(paused.status).toBe(0);
    expect((await cli('watch')).out).toContain('paused: moving house');
    expect((await cli('watch', 'resume', 'ferries')).status).toBe(0);
    expect((await cli('watch')).out).not.toContain('moving house');
  });

  it('leaves all of a client alone, by an option that the command above it has too', async () => {
    expect((await cli('watch', 'pause', '--client', 'saltmarsh', '--why', 'moving')).out).toContain(
      'saltmarsh',
    );
    expect((await cli('watch', 'resume', '--client', 'saltmarsh')).status).toBe(0);
  });

  it('leaves next steps until a day, takes them up again, and hands them on', async () => {
    const [where, kind] = ['ferries@veldrane', '--kind'];
    const off = await cli(
      'next',
      'put-off',
      where,
      kind,
      'submit-sitemap',
      '--until',
      '2033-07-01',
      '--why',
      'no sitemap yet',
    );
    expect(off.out).toContain('1 next step: put off until 2033-07-01 00:00.');
    expect((await cli('next', kind, 'put-off')).out.replace(/\s+/gu, ' ')).toContain(
      'by marit (no sitemap yet): Submit a sitemap',
    );
    expect((await cli('next')).out).toContain('1 put-off');
    expect((await cli('next', 'take-up', where)).status).toBe(0);
    const handed = await cli('next', 'hand', '--client', 'saltmarsh', kind, 'submit-sitemap', '--to', 'me');
    expect(handed.out).toContain('handed to me');
    expect((await cli('next', '--person', 'me')).out).toContain('marit: Submit a sitemap');
    expect((await cli('next', 'hand', 'ferries', '--to', 'nobody')).status).toBe(0);
    expect((await cli('property', 'show', 'ferries')).out).toMatch(/Taking on: \d+ of \d+ done; next: /u);
  });

  it.each<[string, string[], string]>([
    ['a step that nobody named', ['next', 'hand', '--to', 'me'], 'Expected HANDLE, HANDLE@ENGINE'],
    ['a person that is none', ['next', 'hand', 'ferries', '--to', 'Nobody Known'], 'Nobody Known'],
    ['a step that is none', ['next', 'take-up', 'ferries', '--kind', 'enrol-door'], 'Nothing is to be done'],
    ['nothing named', ['watch', 'pause', '--why', 'x'], 'Expected a property, or --client CLIENT, or --all.'],
    ['two things named', ['watch', 'pause', 'ferries', '--all', '--why', 'x'], 'Expected a property'],
    ['a day that is none', ['watch', 'pause', 'ferries', '--why', 'x', '--until', 'soon'], 'soon'],
    ['what is not paused', ['watch', 'resume', 'ferries'], 'nothing to resume'],
    ['a rhythm that is none', ['watch', 'set', 'ferries', '--placement', 'often'], 'often'],
    ['an address that is none', ['notify', '--email', 'nowhere-at-all'], 'nowhere-at-all'],
    ['neither on nor off', ['notify', '--at-once', 'maybe'], 'neither on nor off'],
    ['an hour that is none', ['notify', '--digest', '25:61'], '25:61'],
    ['a zone that is none', ['notify', '--zone', 'Mars/Olympus'], 'Mars/Olympus'],
    ['a webhook that is no web address', ['webhook', 'add', 'gopher://x'], 'gopher://x'],
    ['a notification that is none', ['notifications', 'show', 'nothing'], 'nothing'],
  ])('refuses %s in words, and changes nothing', async (_, args, words) => {
    const { status, out, err } = await cli(...args);
    expect(status).not.toBe(0);
    expect(out).toBe('');
    expect(err).toContain(words);
  });
});

describe('notifications from the command line', () => {
  it('says who is notified of what, and changes it', async () => {
    const { out } = await cli('notify', '--email', 'marit@harbour-lights.example', '--digest', '06:45');
    expect(out).toMatch(/marit +marit@harbour-lights\.example +yes +06:45 UTC +all clients/u);
    const added = await cli('webhook', 'add', `http://${HOOKS_ADDRESS}/told`);
    expect(added.out).toMatch(/with this secret, which is not shown again:\n {2}[\w-]{43}/u);
    expect((await cli('webhook', 'list')).out).toContain(`http://${HOOKS_ADDRESS}/told`);
  });

  it('lists the alerts, and the notifications of them', async () => {
    expect((await cli('alerts')).out).toContain('No alert is open.');
    await stage.order({ do: 'clear', host: 'www.saltmarsh-ferries.example', what: 'meta' });
    await stage.world.advance(1.6 * DAY);
    await until(
      async () => {
        await stage.world.advance(6 * 60_000);
        return stage.marit.listNotifications({});
      },
      ({ items }) => {
        // What waited and stands is told besides.
        const gone = items.filter(({ subject }) => /token gone|slipping/u.test(subject));
        return gone.length === 2 && gone.every(({ state }) => state === 'sent');
      },
    );
    expect((await cli('alerts')).out).toMatch(
      /slipping +ferries +2033-\d\d-\d\d \d\d:\d\d +The meta tag is gone/u,
    );
    const { out } = await cli('notifications');
    expect(out).toContain('ferries: token gone');
    const { items } = await stage.marit.listNotifications({});
    const id = items.find(({ subject }) => subject === 'ferries: token gone')?.id ?? '';
    const shown = await cli('notifications', 'show', id);
    expect(shown.out).toContain('It touches ferries@veldrane:address.');
    expect((await cli('notifications', 'retry', id)).err).toContain('given up');
    expect((await cli('rehearsal', 'mail')).out).toContain('ferries: token gone');
  });
});
