import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { says, type Tour } from './tour.js';

const HOST = 'lighthouse-charts.example';
const ENGINES = ['veldrane', 'ostrime', 'sundrel'];
/** What Sundrel wants to know of a site. */
const FACTS = ['--fact', 'kind=museum', 'languages=fi'];

/** From nothing to held badges and a sitemap that engines have read, without a person touching the website. */
export async function published(tour: Tour, folder: string): Promise<void> {
  const root = join(folder, '.yardbadge/web/charts');
  mkdirSync(root, { recursive: true });
  tour.say('\n--- a website whose keys the agency holds: nobody touches it by hand ---');
  await tour.step('a website of thirty pages', ['rehearsal', 'new-site', HOST, 'Lighthouse Charts'], 0);
  await tour.step('that link to one another', ['rehearsal', 'pages', HOST, '30'], 0);
  await tour.step('and have a web root', ['rehearsal', 'web-root', HOST, root], 0);
  await tour.step(
    'its client',
    ['client', 'add', 'Lighthouse Charts', '--handle', 'lighthouse', '--audience', 'FI'],
    0,
  );
  await tour.step(
    'taken on',
    ['property', 'add', HOST, '--client', 'lighthouse', '--handle', 'charts'],
    0,
    says(`https://${HOST}/`),
  );
  for (const engine of ENGINES)
    await tour.step(
      `enrolled at ${engine}`,
      ['enrol', 'charts', '--engine', engine, '--reach', 'address', ...(engine === 'sundrel' ? FACTS : [])],
      0,
    );
  await tour.step('the tokens', ['token', 'charts'], 0);
  await tour.step(
    'nothing can be published before a target is added',
    ['publish', 'charts'],
    2,
    says('charts has no target yet'),
  );
  await tour.step(
    'a folder that nobody allowed is refused',
    ['target', 'add', 'charts', '--folder', '/etc'],
    2,
    says('is no folder that the service may write to'),
  );
  await tour.step(
    'the web root is',
    ['target', 'add', 'charts', '--folder', root, '--watch'],
    0,
    says('the watch puts back'),
  );
  await tour.step(
    'what would be published',
    ['publish', 'charts', '--plan'],
    0,
    says('3 to put', 'the token of Ostrime'),
  );
  await tour.step(
    'it is published, and checked as everybody sees it',
    ['publish', 'charts', '--yes'],
    0,
    says('Published:', 'charts@veldrane:address by file'),
  );
  for (const engine of ENGINES)
    await tour.step(
      `and claimed at ${engine}`,
      ['claim', `charts@${engine}`, '--method', 'file'],
      0,
      says('confirmed'),
    );
  await tour.step(
    'the addresses for a sitemap',
    ['sitemap', 'make', 'charts'],
    0,
    says('would be written', 'there was no more'),
  );
  await tour.step(
    'are written',
    ['sitemap', 'write', 'charts'],
    0,
    says('Our own reader finds nothing wrong'),
  );
  await tour.step('and published too', ['publish', 'charts', '--yes'], 0, says('/sitemap.xml'));
  await tour.step('read as it stands', ['sitemap', 'read', 'charts', '--sample', '3'], 0, says('clean'));
  await tour.step(
    'and made known',
    ['sitemap', 'submit', 'charts', '/sitemap.xml'],
    0,
    says('Submitted to Veldrane'),
  );
  await tour.step('a week later', ['rehearsal', 'clock', '8d'], 0);
  await tour.step(
    'the engines have read it',
    ['sitemap', 'read', 'charts', '--sample', '0'],
    0,
    says('equal'),
  );
}
