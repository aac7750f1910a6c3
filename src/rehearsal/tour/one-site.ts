import type { Check, Job, Sitemap, Worklist, Yard } from '../../api/documents.js';
import { says, type Tour } from './tour.js';

const HOST = 'www.saltmarsh-ferries.example';

export async function takeOn(tour: Tour): Promise<void> {
  await tour.step('an empty yard says what would fill it', ['yard'], 0, says('The yard is empty'));
  await tour.step(
    'a client',
    ['client', 'add', 'Saltmarsh Ferry Line', '--handle', 'saltmarsh', '--audience', 'FI,EE'],
    0,
    says('saltmarsh'),
  );
  await tour.step(
    'nonsense is refused',
    ['property', 'add', 'ftp://saltmarsh-ferries.example', '--client', 'saltmarsh'],
    2,
    says('Expected a web address'),
  );
  await tour.step(
    'an IP address is refused',
    ['property', 'add', '192.0.2.10', '--client', 'saltmarsh'],
    2,
    says('IP address'),
  );
  await tour.step(
    'a bare suffix is refused',
    ['property', 'add', 'co.uk', '--client', 'saltmarsh'],
    2,
    says('suffix'),
  );
  await tour.step(
    'a property, as it came in a mail',
    ['property', 'add', 'Saltmarsh-Ferries.example', '--client', 'saltmarsh', '--handle', 'ferries'],
    0,
    says(`https://${HOST}/`),
  );
  await tour.step(
    'an accented one',
    [
      'property',
      'add',
      'www.Hallig-Sämerei.example/index.html',
      '--client',
      'saltmarsh',
      '--handle',
      'seeds',
    ],
    0,
    says('hallig-sämerei.example', 'xn--'),
  );
  await tour.step('the house first', ['enrol', 'ferries', '--engine', 'house'], 0, says('Enrolled at House'));
  await tour.step(
    'Veldrane for the front door',
    ['enrol', 'ferries', '--engine', 'veldrane', '--reach', 'address'],
    0,
    says(`https://${HOST}/`),
  );
  await tour.step(
    'Veldrane for the whole name',
    ['enrol', 'ferries', '--engine', 'veldrane', '--reach', 'name'],
    0,
    says('by name'),
  );
  await tour.step(
    'once more changes nothing',
    ['enrol', 'ferries', '--engine', 'veldrane', '--reach', 'name'],
    0,
    says('enrolled already'),
  );
}

export async function prove(tour: Tour): Promise<void> {
  await tour.step(
    'the tokens, ready to copy',
    ['token', 'ferries'],
    0,
    says('<meta name="veldrane-mooring"', 'IN TXT', '_yardbadge-proof'),
  );
  await tour.step(
    'too early: not placed',
    ['check', 'ferries@veldrane:address'],
    1,
    says('refuse', 'Please put'),
  );
  await tour.step('and so no claim is spent', ['claim', 'ferries@veldrane:address'], 1, says('Not claimed'));
  const file = await tour.put('ferries@house:address', 'file');
  const meta = await tour.put('ferries@veldrane:address', 'meta');
  const record = await tour.put('ferries@veldrane:name', 'dns');
  await tour.step('the developer uploads the file', ['rehearsal', 'file', HOST, file.path, file.content], 0);
  await tour.step('puts the tag into the body', ['rehearsal', 'meta', HOST, meta.tag, '--in-body'], 0);
  await tour.step('and adds the record', ['rehearsal', 'txt', record.zone, record.value], 0);
  await tour.step(
    'the check sees where the tag is',
    ['check', 'ferries@veldrane:address', '--method', 'meta'],
    1,
    says('in the body'),
  );
  await tour.step(
    'claimed anyway: refused',
    ['claim', 'ferries@veldrane:address', '--method', 'meta', '--anyway'],
    5,
    says('tag not found', 'in the body'),
  );
  await tour.step('the developer moves the tag', ['rehearsal', 'clear', HOST, 'meta'], 0);
  await tour.step('into the head', ['rehearsal', 'meta', HOST, meta.tag], 0);
  await tour.step('now all is in place', ['check', 'ferries', '--explain'], 0, says('✓ accept', 'over udp'));
  await tour.step(
    'claim what is ready',
    ['claim', '--ready'],
    0,
    says('House confirmed', 'ferries@veldrane:name: held', 'ferries@veldrane:address: held'),
  );
}

export async function follow(tour: Tour): Promise<void> {
  await tour.step(
    'which sitemaps there are, and which one to submit',
    ['sitemap', 'find', 'ferries'],
    0,
    says('named in robots.txt', 'index', `submit https://${HOST}/sitemap.xml`),
  );
  await tour.step(
    'the sitemap, in the engine’s form',
    ['sitemap', 'submit', 'ferries', 'sitemap.xml'],
    0,
    says('as /sitemap.xml'),
  );
  await tour.step('our own reading', ['sitemap', 'read', 'ferries'], 0, says('162', 'waiting'));
  await tour.step('a day goes by', ['rehearsal', 'clock', '1d'], 0);
  await tour.step('the engine has read it too', ['sitemap', 'read', 'ferries'], 0, says('equal'));
  const { items } = await tour.read<{ items: Sitemap[] }>(['sitemap', 'list', 'ferries']);
  if (!items.every((one) => one.submissions.every((submission) => submission.counts.gap === 0)))
    throw new Error('the counts are apart');
  await tour.step(
    'a single page, within the day’s ration',
    ['lookup', `https://${HOST}/sitemaps/crossings/page-3`],
    0,
    says('Veldrane lists it', 'lookups are left today'),
  );
  await tour.step(
    'a visit to it',
    ['visit', `https://${HOST}/sitemaps/crossings/page-3`],
    0,
    says('9 of 10 visits'),
  );
  await tour.step('where it stands', ['yard'], 0, says('● held', '● held ×2'));
  await tour.step('a redesign loses the tag', ['rehearsal', 'clear', HOST, 'meta'], 0);
  await tour.step('we see it first', ['check', 'ferries@veldrane:address'], 1, says('No meta tag'));
  const next = await tour.step('and it comes first in what to do', ['next'], 0, says('repair'));
  if (!next.out.split('\n')[1]?.startsWith('repair')) throw new Error('the repair does not come first');
  await tour.step(
    'all that happened, by whom',
    ['journal', 'ferries', '--limit', '60'],
    0,
    says('marit', 'was taken on', 'confirmed', 'refused'),
  );
  const yard = await tour.read<Yard>(['yard']);
  const badges = yard.items[0]?.enrolments.map(({ badge }) => badge).join();
  if (badges !== 'held,slipping,held') throw new Error(`badges are ${String(badges)}`);
  const { checks } = await tour.read<{ checks: Check[] }>(['check', 'ferries']);
  const { items: work } = await tour.read<Worklist>(['next']);
  const job = await tour.read<Job>(['enrol', 'ferries', '--engine', 'house']);
  if (checks.length !== 7 || work.length === 0 || job.state !== 'done')
    throw new Error('the documents are not whole');
}
