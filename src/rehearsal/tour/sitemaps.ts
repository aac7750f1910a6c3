import { says, type Tour } from './tour.js';

const HOST = 'www.saltmarsh-ferries.example';
const TO = ['--to', 'ferries@veldrane:address'];

/** Sitemaps over the weeks: what came and went, what the engine makes of it, and what is one too many. */
export async function sitemaps(tour: Tour): Promise<void> {
  await tour.step(
    'the season begins: more crossings',
    ['rehearsal', 'sitemap', HOST, '/sitemaps/crossings.xml', '131'],
    0,
  );
  await tour.step('a day later', ['rehearsal', 'clock', '1d'], 0);
  await tour.step(
    'our count runs ahead of the engine’s, which was right when it looked',
    ['sitemap', 'read', 'ferries', '--sample', '5'],
    0,
    says('169 (was 162)', 'found what was there then, 162; by now there are 169'),
  );
  await tour.step(
    'which addresses came',
    ['sitemap', 'compare', 'ferries', 'sitemap.xml', '--limit', '3'],
    0,
    says('7 came, 0 went.', '/sitemaps/crossings/page-125'),
  );
  await tour.step('the engine looks again', ['rehearsal', 'clock', '3d'], 0);
  await tour.step('and has them too', ['sitemap', 'read', 'ferries', '--sample', '0'], 0, says('equal'));
  await tour.step(
    'somebody wants a sitemap submitted that the index holds: that is refused',
    ['sitemap', 'submit', 'ferries', '/sitemaps/crossings.xml', ...TO],
    1,
    says('which holds', 'that is enough'),
  );
  await tour.step(
    'he insists',
    ['sitemap', 'submit', 'ferries', '/sitemaps/crossings.xml', ...TO, '--anyway'],
    0,
    says('Submitted to Veldrane'),
  );
  await tour.step(
    'it is called a duplicate',
    ['sitemap', 'list', 'ferries'],
    0,
    says('duplicate', 'beside the index https'),
  );
  await tour.step(
    'and taken off in one step',
    ['sitemap', 'withdraw', 'ferries', '--spare', '--yes'],
    0,
    says('Withdrawn from Veldrane.'),
  );
  await tour.step(
    'half of the crossings go overnight',
    ['rehearsal', 'sitemap', HOST, '/sitemaps/crossings.xml', '60'],
    0,
  );
  await tour.step(
    'that is told, with the sentence to send',
    ['sitemap', 'read', 'ferries', '--sample', '0'],
    1,
    says('98, after 169', 'Please check why'),
  );
  await tour.step(
    'one sitemap with what is in it, and how it went',
    ['sitemap', 'show', 'ferries', '/sitemap.xml'],
    0,
    says('/sitemaps/harbours.xml', '60', '2 readings since'),
  );
}
