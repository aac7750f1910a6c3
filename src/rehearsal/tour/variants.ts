import { says, type Tour } from './tour.js';

const BARE = 'http://pebble-rye.example';
const WWW = 'https://www.pebble-rye.example';

/** The addresses by which a site answers, which of them a badge covers, and a move that would have gone unnoticed. */
export async function variants(tour: Tour): Promise<void> {
  await tour.step('a bakery', ['client', 'add', 'Pebble & Rye Bakery', '--handle', 'pebble'], 0);
  await tour.step(
    'lives at plain http, whatever was pasted',
    ['property', 'add', 'https://www.pebble-rye.example/', '--client', 'pebble', '--handle', 'bakery'],
    0,
    says(`${BARE}/`),
  );
  await tour.step(
    'four variants, one of them the front door',
    ['variants', 'bakery'],
    0,
    says('front door', 'leads to the front door permanently', 'is not encrypted', 'leads from https to'),
  );
  await tour.step(
    'enrolled where it lives',
    ['enrol', 'bakery', '--engine', 'veldrane'],
    0,
    says(`${BARE}/`),
  );
  await tour.step('its tag', ['token', 'bakery', '--method', 'meta'], 0);
  const tag = await tour.put('bakery@veldrane:address', 'meta');
  await tour.step('is placed', ['rehearsal', 'meta', 'www.pebble-rye.example', tag.tag], 0);
  await tour.step('and claimed', ['claim', 'bakery'], 0, says('held'));
  await tour.step('a new host brings https and www', ['rehearsal', 'odd-variant', WWW, 'page'], 0);
  await tour.step(
    'and sends the old address there',
    ['rehearsal', 'odd-variant', BARE, 'redirect', `${WWW}/`],
    0,
  );
  await tour.step(
    'the move is told, with what follows',
    ['variants', 'bakery', '--look'],
    0,
    says(
      'http to https, the bare name to www',
      `○ Enrol ${WWW}/ at Veldrane.`,
      'No badge held at Veldrane covers',
      'which only leads to',
    ),
  );
  await tour.step(
    'and stands among the next steps',
    ['next'],
    0,
    says('which the enrolments at Veldrane do not cover'),
  );
  await tour.step(
    'the plan, with its reasons',
    ['enrol', 'bakery', '--fitting', '--show'],
    0,
    says('address, to enrol', `${WWW}/`, 'every method can prove it'),
  );
  await tour.step('is followed', ['enrol', 'bakery', '--fitting'], 0, says(`${WWW}/`));
  await tour.step(
    'a robots.txt that forbids everything',
    ['rehearsal', 'file', 'www.pebble-rye.example', '/robots.txt', 'User-agent: *\nDisallow: /'],
    0,
  );
  await tour.step(
    'makes all other work void',
    ['variants', 'bakery', '--look'],
    1,
    says('forbids engines to fetch', 'Please take'),
  );
  await tour.step('so it comes first', ['next'], 0, says('mend-site', 'forbids engines'));
  await tour.step(
    'what was so before is kept',
    ['variants', 'bakery', '--history'],
    1,
    says('before', 'where visitors end up'),
  );
}
