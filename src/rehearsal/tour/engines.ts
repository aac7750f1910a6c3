import { says, type Tour } from './tour.js';

const HOST = 'www.saltmarsh-ferries.example';

/** The engines that matter to the audience, and one token that serves every site of an account. */
export async function fit(tour: Tour): Promise<void> {
  await tour.step(
    'an engine’s rules, in words',
    ['engine', 'show', 'ostrime'],
    0,
    says('One token for all the sites of an account', 'withdraws after 3 days without the token'),
  );
  await tour.step(
    'which engines matter, and why',
    ['engine', 'fit', 'ferries'],
    0,
    says('Matters in FI, EE', 'Matters only in DE, AT, CH', 'Shows Ostrime’s results'),
  );
  await tour.step(
    'one of them asks about the site',
    ['enrol', 'ferries', '--fitting'],
    1,
    says('Sundrel', 'What the site is'),
  );
  await tour.step(
    'told once, and it is remembered',
    ['enrol', 'ferries', '--engine', 'sundrel', '--fact', 'kind=transport', 'languages=fi et'],
    0,
    says('Enrolled at Sundrel'),
  );
  const file = await tour.put('ferries@ostrime', 'file');
  await tour.step('Ostrime’s file is uploaded', ['rehearsal', 'file', HOST, file.path, file.content], 0);
  await tour.step('and claimed', ['claim', 'ferries@ostrime'], 0, says('held'));
  const clocks = [
    'property',
    'add',
    'tidewell-clocks.example',
    '--client',
    'saltmarsh',
    '--handle',
    'clocks',
  ];
  await tour.step('another site', clocks, 0);
  await tour.step('enrolled with the same engine', ['enrol', 'clocks', '--engine', 'ostrime'], 0);
  await tour.step(
    'needs no new token',
    ['token', 'clocks@ostrime', '--method', 'file'],
    0,
    says(file.content, 'ferries@ostrime'),
  );
}

/** An engine without a link: what its pages show is pasted, and what it says is recorded. */
export async function byHand(tour: Tour): Promise<void> {
  const target = 'https://compass-tea.example/';
  await tour.step(
    'a client with another audience',
    ['client', 'add', 'The Compass Tearooms', '--handle', 'compass', '--audience', 'CH,DE'],
    0,
  );
  await tour.step(
    'and its site',
    ['property', 'add', 'compass-tea.example', '--client', 'compass', '--handle', 'tea'],
    0,
  );
  await tour.step(
    'Brindle has no link',
    ['enrol', 'tea', '--engine', 'brindle'],
    0,
    says('Brindle’s own pages'),
  );
  const page = await tour.step('on its pages', ['rehearsal', 'page', 'brindle', 'register', target], 0);
  const tag = /<meta [^>]*>/.exec(page.out)?.[0] ?? '';
  await tour.step(
    'the wrong thing is told apart',
    ['token', 'tea@brindle', '--paste', '<meta name="sundrel-tally" content="AAAAAAAAAAAAAAAAAAAAAA">'],
    2,
    says('It looks like Sundrel’s token'),
  );
  await tour.step('the tag, pasted whole', ['token', 'tea@brindle', '--paste', tag], 0, says('meta'));
  await tour.step('the developer places it', ['rehearsal', 'meta', 'compass-tea.example', tag], 0);
  await tour.step('it stands', ['check', 'tea@brindle'], 0, says('accept'));
  await tour.step(
    'claimed on Brindle’s pages',
    ['rehearsal', 'page', 'brindle', 'claim', target, 'meta'],
    0,
    says('confirmed'),
  );
  await tour.step(
    'and recorded',
    ['record', 'verdict', 'tea@brindle', 'confirmed', '--method', 'meta'],
    0,
    says('held'),
  );
}

/** A function that an engine switches off is a wait with a date, and everything else goes on. */
export async function misbehaving(tour: Tour): Promise<void> {
  await tour.step('Sundrel pauses', ['rehearsal', 'engine', 'sundrel', '--suspend', 'tokens'], 0);
  await tour.step(
    'a wait, not a failure',
    ['token', 'ferries@sundrel', '--method', 'meta'],
    1,
    says('A wait, not a failure: until'),
  );
  await tour.step('shown with the engine', ['engine', 'list'], 0, says('waits: token until'));
  await tour.step('three weeks later', ['rehearsal', 'clock', '22d'], 0);
  await tour.step(
    'the token comes',
    ['token', 'ferries@sundrel', '--method', 'meta'],
    0,
    says('sundrel-tally'),
  );
}
