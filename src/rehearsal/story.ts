import { machineClock } from '../net/time/machine-clock.js';
import { orderFor } from './developer.js';
import { MISHAPS, type Mishap } from './mishaps.js';
import { SEEDS } from './scenario.js';
import { SitemapScenes } from './sitemap-scenes.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** How far back the story begins, so that it ends about now. */
export const STORY_MS = 17 * DAY;

/** Tells the demo's story: what the agency at the harbour did in the last two weeks, by the product's own API. */
export class Story extends SitemapScenes {
  async tell(): Promise<void> {
    await Promise.all([this.ferries(), this.clocks(), this.ropes(), this.bakery(), this.others()]);
    await this.later(3 * HOUR);
    await Promise.all([this.ferriesPlaced(), this.buttons()]);
    await this.later(20 * HOUR);
    await Promise.all([this.ferriesClaimed(), this.buttonsClaimed()]);
    await this.later(7 * DAY);
    await Promise.all([this.seeds(), this.tea(), this.bakeryMoves(), this.ferriesGrow(131)]);
    await this.later(2 * DAY);
    await this.ferriesGrow(138);
    await this.later(3 * DAY);
    await Promise.all([this.read('tea'), this.ferriesGrow(136)]);
    await this.order({ do: 'clear', host: 'tidewell-clocks.example', what: 'txt' });
    await this.later(DAY);
    // The clock mender's new theme lost the tag; the day before, the host had reset the zone.
    await this.order({ do: 'clear', host: 'tidewell-clocks.example', what: 'meta' });
    await this.seedsCounted();
    await this.sundrelPauses();
    await this.later(Math.max(0, machineClock.now().getTime() - 2 * HOUR - this.world.file.now().getTime()));
    await Promise.all([this.ropesPlacedLate(), this.othersPlaced()]);
    await this.seedsFall(SEEDS);
    await this.later(2 * HOUR);
    await this.morning();
  }

  /** Nearly everything will go well: held at four engines, by name and by address, and the sitemap is read. */
  private async ferries(): Promise<void> {
    await this.takeOn(
      'Saltmarsh Ferry Line',
      'saltmarsh',
      ['FI', 'EE'],
      'Saltmarsh-Ferries.example',
      'ferries',
    );
    await this.enrol('ferries', ['house', 'veldrane', 'ostrime', 'sundrel'], 'address', {
      kind: 'transport',
      languages: 'fi et en',
    });
    await this.enrol('ferries', ['veldrane'], 'name');
    await Promise.all([
      this.tokens(['ferries@house', 'ferries@ostrime'], 'file'),
      this.tokens('ferries@veldrane'),
      this.tokens('ferries@sundrel', 'meta'),
    ]);
  }

  private async ferriesPlaced(): Promise<void> {
    await Promise.all([
      this.place('ferries@house:address', 'file'),
      this.place('ferries@veldrane:name', 'dns'),
      this.place('ferries@veldrane:address', 'meta'),
      this.place('ferries@ostrime:address', 'file'),
      this.place('ferries@sundrel:address', 'meta'),
    ]);
  }

  private async ferriesClaimed(): Promise<void> {
    await this.claim('ferries');
    await this.ferriesSubmitted();
  }

  /** Held by name and by address; an update of the theme will take both away. */
  private async clocks(): Promise<void> {
    await this.takeOn(
      'Tidewell Clock Menders',
      'tidewell',
      [],
      'https://www.tidewell-clocks.example/index.html',
      'clocks',
    );
    await this.enrol('clocks', ['house', 'veldrane', 'ostrime'], 'address');
    await this.enrol('clocks', ['veldrane'], 'name');
    await Promise.all([
      this.tokens(['clocks@house', 'clocks@ostrime'], 'file'),
      this.tokens('clocks@veldrane:name'),
      this.tokens('clocks@veldrane:address', 'meta'),
    ]);
    await Promise.all([
      this.place('clocks@house:address', 'file'),
      this.place('clocks@veldrane:name', 'dns'),
      this.place('clocks@veldrane:address', 'meta'),
    ]);
    await this.claim('clocks');
    // By name and by address: once would have been enough.
    await this.submitted(
      await this.noted('clocks', '/sitemap.xml'),
      'clocks@veldrane:address',
      'clocks@veldrane:name',
    );
  }

  /** The token of one engine was got and never placed: it is void by now. */
  private async ropes(): Promise<void> {
    await this.takeOn('Bollard Ropeworks', 'bollard', ['LV', 'EE'], 'bollard-ropes.example', 'ropes');
    await this.enrol('ropes', ['house', 'ostrime', 'sundrel'], 'address', {
      kind: 'shop',
      languages: 'lv en',
    });
    await Promise.all([this.tokens('ropes@house', 'meta'), this.tokens('ropes@sundrel')]);
    await this.place('ropes@house:address', 'meta');
    await this.claim('ropes@house:address');
  }

  /** Held where it lived: over http, without www. */
  private async bakery(): Promise<void> {
    await this.takeOn('Pebble & Rye Bakery', 'pebble', [], 'pebble-rye.example', 'bakery');
    await this.enrol('bakery', ['house', 'veldrane'], 'address');
    await Promise.all([this.tokens('bakery@house', 'file'), this.tokens('bakery@veldrane', 'meta')]);
    await Promise.all([
      this.place('bakery@house:address', 'file'),
      this.place('bakery@veldrane:address', 'meta'),
    ]);
    await this.claim('bakery');
  }

  /** A new host brings https and www, and does not take every address along. */
  private async bakeryMoves(): Promise<void> {
    const to = 'https://www.pebble-rye.example/';
    await this.order({ do: 'odd-variant', origin: 'https://www.pebble-rye.example', how: 'page' });
    await this.order({ do: 'odd-variant', origin: 'http://pebble-rye.example', how: 'redirect', to });
    await this.order({
      do: 'odd-variant',
      origin: 'http://www.pebble-rye.example',
      how: 'redirect',
      to,
      status: 302,
    });
    await this.order({ do: 'odd-variant', origin: 'https://pebble-rye.example', how: 'page' });
    await this.jonas.finished(await this.jonas.lookAtVariants({ body: { properties: ['bakery'] } }));
    await this.bakeryNoted();
  }

  /** By the time that the developer placed the tag, another had taken its token's place. */
  private async ropesPlacedLate(): Promise<void> {
    const old = await this.placement('ropes@sundrel:address', 'meta');
    await this.order(orderFor(old));
  }

  /** A dozen clients more, whose developers did each something else than was asked for. */
  private async others(): Promise<void> {
    await Promise.all(
      MISHAPS.map(async ({ client, handle, site }) => {
        await this.marit.addClient({ body: { name: client, handle: `${handle}-client` } });
        const { job } = await this.marit.addProperty({
          body: { client: `${handle}-client`, address: site.host, handle },
        });
        await this.marit.finished({ id: job });
      }),
    );
    const kinds = new Map(MISHAPS.map((one) => [`${one.engine} ${one.reach}`, one]));
    await Promise.all(
      [...kinds.values()].map(async ({ engine, reach }) => {
        const some = MISHAPS.filter((one) => one.engine === engine && one.reach === reach);
        const body = { properties: some.map(({ handle }) => handle), engines: [engine], reach };
        await this.marit.finished(await this.marit.enrol({ body }));
      }),
    );
    // One job for each method: many small ones would keep the one who starts the demo waiting.
    await Promise.all(
      (['meta', 'file', 'dns'] as const).map(async (method) => {
        const enrolments = MISHAPS.filter((one) => one.method === method).map(nameOf);
        await this.marit.finished(await this.marit.getTokens({ body: { enrolments, method } }));
      }),
    );
  }

  private async othersPlaced(): Promise<void> {
    await Promise.all(
      MISHAPS.map(async (one) => {
        const { put } = await this.placement(nameOf(one), one.method);
        for (const order of one.orders(put)) await this.order(order);
      }),
    );
  }

  /** The tag was put into the body, and somebody claimed all the same. */
  private async buttons(): Promise<void> {
    await this.takeOn('The Button Museum', 'button-museum', [], 'button-museum.example', 'buttons');
    await this.enrol('buttons', ['house', 'veldrane'], 'address');
    await Promise.all([this.tokens('buttons@house', 'file'), this.tokens('buttons@veldrane')]);
    await this.place('buttons@house:address', 'file');
    const { put } = await this.placement('buttons@veldrane:address', 'meta');
    if (put.kind === 'meta')
      await this.order({ do: 'meta', host: 'www.button-museum.example', tag: put.tag, inBody: true });
  }

  private async buttonsClaimed(): Promise<void> {
    await this.check('buttons');
    await this.jonas.finished(await this.jonas.claim({ body: { enrolments: ['buttons@house:address'] } }));
    await this.jonas.finished(
      await this.jonas.claim({
        body: { enrolments: ['buttons@veldrane:address'], method: 'meta', anyway: true },
      }),
    );
    await this.museumNoted();
  }

  /** One engine is worked by hand and holds; another was only enrolled. */
  private async seeds(): Promise<void> {
    await this.takeOn('Hallig Seed Growers', 'hallig', ['DE', 'AT'], 'www.Hallig-Sämerei.example', 'seeds');
    await this.enrol('seeds', ['house', 'veldrane', 'brindle'], 'address');
    await this.tokens('seeds@house', 'dns');
    await this.place('seeds@house:address', 'dns');
    await this.check('seeds');
    await this.byHand('seeds', 'file');
    await this.check('seeds@brindle');
    const target = await this.target('seeds@brindle');
    const said = await this.order({
      do: 'page',
      engine: 'brindle',
      visit: { ask: 'claim', target, method: 'file' },
    });
    if (!said.includes('confirmed')) throw new Error(said);
    await this.jonas.recordVerdict({
      params: { enrolment: 'seeds@brindle' },
      body: { verdict: 'confirmed', method: 'file' },
    });
    await this.submitted(await this.noted('seeds', 'sitemap.xml'), 'seeds@brindle');
    await this.read('seeds');
  }

  private async seedsCounted(): Promise<void> {
    const { items } = await this.jonas.listSitemaps({ query: { property: 'seeds' } });
    const submission = items[0]?.submissions[0];
    if (submission)
      await this.jonas.recordReading({ params: { id: submission.id }, body: { found: 86, listed: 71 } });
  }

  /** The client has an account of its own at one engine, and by hand the tag stands but nobody claimed yet. */
  private async tea(): Promise<void> {
    await this.takeOn('The Compass Tearooms', 'compass', ['CH', 'DE'], 'compass-tea.example', 'tea');
    await this.enrol('tea', ['house', 'brindle'], 'address');
    await this.byHand('tea', 'meta');
    const key = this.world.keys['ostrime']?.['client'] ?? '';
    await this.marit.addAccount({ body: { engine: 'ostrime', name: 'compass-own', key } });
    await this.marit.finished(
      await this.marit.enrol({
        body: { properties: ['tea'], engines: ['ostrime'], account: 'compass-own' },
      }),
    );
    await this.tokens('tea@ostrime', 'meta');
    await this.place('tea@ostrime:address', 'meta');
    await this.claim('tea@ostrime');
    await this.teaSubmitted();
    await this.marit.editAccount({
      params: { account: 'ostrime/compass-own' },
      body: { passedOnTo: 'compass' },
    });
  }

  /** An engine switches one of its functions off for weeks. */
  private async sundrelPauses(): Promise<void> {
    await this.order({ do: 'engine', engine: 'sundrel', suspend: { work: 'sitemaps', ms: 24 * DAY } });
    await this.submitted(await this.noted('ferries', 'sitemap.xml'), 'ferries@sundrel');
  }

  /** The morning's round: everything is checked and read once more. */
  private async morning(): Promise<void> {
    const [checks, readings, variants] = await Promise.all([
      this.marit.check({ body: { all: true } }),
      this.marit.readSitemaps({ body: { all: true, sample: 8 } }),
      this.marit.lookAtVariants({ body: { properties: ['bakery', 'light', 'tides'] } }),
    ]);
    await Promise.all([
      this.marit.finished(checks),
      this.marit.finished(readings),
      this.marit.finished(variants),
    ]);
  }
}

function nameOf({ handle, engine, reach }: Mishap): string {
  return `${handle}@${engine}:${reach}`;
}
