import { says, type Tour } from './tour.js';

const HOST = 'skerry-lines.example';
const HOST_MAIL = 'ole@zonen.example';
const DEVELOPER_MAIL = 'mika@reed.example';

/** What clients' people get: letters, links, a report, a hand-over. */
export async function letters(tour: Tour): Promise<void> {
  tour.say('\n--- a client whose keys others hold: they are written to, and do as people do ---');
  await tour.step('a website', ['rehearsal', 'new-site', HOST, 'Skerry Lines'], 0);
  await tour.step('its client', ['client', 'add', 'Skerry Lines', '--handle', 'skerry-co'], 0);
  await tour.step('taken on', ['property', 'add', HOST, '--client', 'skerry-co', '--handle', 'skerry'], 0);
  for (const [engine, reach] of [
    ['veldrane', 'name'],
    ['veldrane', 'address'],
    ['ostrime', 'address'],
  ] as const)
    await tour.step(
      `enrolled at ${engine} by ${reach}`,
      ['enrol', 'skerry', '--engine', engine, '--reach', reach],
      0,
    );
  await tour.step('the tokens', ['token', 'skerry'], 0);
  await tour.step('nobody is there to be asked', ['ask', 'skerry'], 2, says('Nobody is on record'));
  await tour.step(
    'the one who keeps the zone, in German',
    [
      'contact',
      'add',
      'Ole Netzer',
      '--client',
      'skerry-co',
      '--role',
      'host',
      '--email',
      HOST_MAIL,
      '--language',
      'de',
    ],
    0,
  );
  await tour.step(
    'and the developer',
    [
      'contact',
      'add',
      'Mika Reed',
      '--client',
      'skerry-co',
      '--role',
      'developer',
      '--email',
      DEVELOPER_MAIL,
    ],
    0,
  );
  await tour.step('what would be written', ['ask', 'skerry'], 0, says('Guten Tag Ole Netzer,'));
  await tour.step('is sent', ['ask', 'skerry', '--send'], 0, says('Goes to Ole Netzer'));
  await tour.step('it has come', ['rehearsal', 'mail', '--last', '2'], 0, says('Guten Tag Ole Netzer,'));
  await tour.step(
    'the host pastes whole lines for values',
    ['rehearsal', 'read-mail', HOST_MAIL, 'whole-line'],
    0,
    says('with whole lines for values'),
  );
  await tour.step('which is seen', ['check', 'skerry@veldrane:name'], 1, says('IN TXT'));
  await tour.step(
    'he is written to once more',
    ['ask', 'skerry', '--to', 'Ole Netzer', '--send'],
    0,
    says('Noch einmal'),
  );
  await tour.step('and does it right', ['rehearsal', 'read-mail', HOST_MAIL, 'all'], 0, says('did '));
  await tour.step('it stands', ['check', 'skerry@veldrane:name'], 0, says('The TXT record stands'));
  await tour.step('a week goes by', ['rehearsal', 'clock', '7d'], 0);
  await tour.step(
    'what was not answered is among the steps as long as anything is open',
    ['letters', '--open'],
    0,
    says('Ole Netzer'),
  );
  await tour.step(
    'a link for somebody else',
    ['link', 'make', 'skerry', '--word', 'the owner'],
    0,
    says('/shared/'),
  );
  await tour.step('is on record, not its address', ['link', 'list', 'skerry'], 0, says('the owner', 'never'));
  await tour.step(
    'what the owner is told',
    ['report', 'skerry-co'],
    0,
    says('What we did', 'How each website stands'),
  );
  await tour.step('and what she would take along', ['handover', 'skerry-co'], 0, says('who else holds it'));
}
