import { says, type Tour } from './tour.js';

const HOST = 'tidewell-clocks.example';

/** What goes wrong with a placement, told apart before a claim is spent: whose fault, since when, until when. */
export async function mishaps(tour: Tour): Promise<void> {
  await tour.step('enrolled by name', ['enrol', 'clocks', '--engine', 'veldrane', '--reach', 'name'], 0);
  await tour.step(
    'which method, and what it costs later',
    ['advice', 'clocks@veldrane'],
    0,
    says('★ best', 'Outlives redesigns', 'property edit clocks'),
  );
  const record = await tour.put('clocks@veldrane:name', 'dns');
  await tour.step(
    'the panel puts the zone behind the name',
    ['rehearsal', 'txt', `${HOST}.${HOST}`, record.value],
    0,
  );
  await tour.step(
    'and the check finds it there',
    ['check', 'clocks@veldrane:name'],
    1,
    says('the panel put the zone’s name behind', 'so also: No TXT record'),
  );
  await tour.step('the resolver was asked too early', ['rehearsal', 'odd-name', HOST, '--remember', '2h'], 0);
  await tour.step('before the record came', ['rehearsal', 'txt', HOST, record.value], 0);
  await tour.step(
    'so it is a wait, not a repair',
    ['check', 'clocks@veldrane:name', '--explain'],
    1,
    says('still remembers the old answer, until ', 'wait until', 'ns2.harbour-names.example'),
  );
  await tour.step('two hours later', ['rehearsal', 'clock', '2h'], 0);
  await tour.step('everybody sees it', ['check', 'clocks@veldrane:name'], 0, says('✓ accept'));
  await tour.step('and it is claimed', ['claim', '--ready'], 0, says('clocks@veldrane:name: held'));
}
