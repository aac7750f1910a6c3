import { randomBytes } from 'node:crypto';
import { addressText } from '../../core/address/web-address.js';
import type { Body } from '../../core/badge/probe/evidence.js';
import { folderOf, headerDate } from '../../core/sitemap/make/choose.js';
import {
  afterReading,
  beforeReading,
  isPage,
  kindOf,
  type Outcome,
} from '../../core/sitemap/make/outcome.js';
import type { PageFace } from '../../core/sitemap/make/face.js';
import type { PageRead } from '../../core/sitemap/make/page-read.js';
import { Pace } from '../../core/sitemap/make/pace.js';
import type { Recipe, Source } from '../../core/sitemap/make/recipe.js';
import { isSameSketch } from '../../core/sitemap/make/sketch.js';
import { Frontier, type FoundBy, type New, type Via } from '../../core/sitemap/make/frontier.js';
import { forbiddingOf, isUnreachable, keptFromUs } from '../../core/sitemap/forbidding.js';
import type { RobotsSeen } from '../../core/robots/robots.js';
import { requireGoing } from '../../cancellation/cancellation.js';
import { Overtaxed } from '../../readers/overtaxed.js';
import { readPage } from '../../readers/pages.js';
import { readOr } from '../../readers/readers.js';
import type { PropertyRow } from '../../store/models/clients.js';
import type { MakingEnd, MakingRow, NamedWay } from '../../store/models/making.js';
import { frontDoorOf } from '../context/front-door.js';
import { nowText, type Desk } from '../context/desk.js';
import { agentsOf, robotsAt } from '../context/robots.js';
import { variantsOf } from '../sitemaps/variants-of.js';
import { hasFailures } from './retained-pages.js';
import { addressesOf } from './other-sources.js';
import { Politeness } from './politeness.js';
import { PageBook, type PageMore, type Waiting } from './page-book.js';
import { unasked } from './skipped.js';

/** Pages that are worked on at once for each request at once: others are read or written down meanwhile. */
const LANES_A_REQUEST = 2;
/** At the least. */
const LANES = 8;
/** Addresses that are fetched from the records at a time. */
const LOOK_AHEAD = 400;

/** Sources in the order in which they are gone through: what the site's own links lead to first, so that the rest shows as what nothing links to. */
const IN_ORDER: readonly Source[] = ['site', 'menus', 'list', 'feed', 'sitemap'];

/** What a page was like at the gathering before, and since when. */
export interface FormerPage {
  readonly face: string | null;
  readonly seenAt: string | null;
}

/** What is known of the gathering before. */
export interface Former {
  /** What some pages were like, those that were there. */
  readonly pages: (urls: readonly string[]) => Promise<ReadonlyMap<string, FormerPage>>;
  /** Pages that stood then and were not met now; null where there was none before. */
  readonly unmet: () => AsyncIterable<string> | null;
}

/**
 * One gathering of a property's addresses. All that it knows is on record, so that another process may go on with it: of what is
 * under way at a crash, the pages of a second or two are read again.
 */
export class Gathering {
  private readonly begun = performance.now();
  private readonly msBefore: number;
  /** Of what waits in the queue, what was there at the gathering before. */
  private before: ReadonlyMap<string, FormerPage> = new Map();
  private bytes: number;
  private read = 0;
  private end: MakingEnd = 'all';
  private queue: Waiting[] = [];
  private book!: PageBook;
  private ways!: Frontier;
  private origins: readonly string[] = [];
  private readonly recipe: Recipe;
  private readonly mostAtOnce: number;
  private politeness!: Politeness;

  constructor(
    private readonly desk: Desk,
    private readonly property: PropertyRow,
    private readonly row: MakingRow,
    private readonly former: Former,
  ) {
    this.msBefore = row.ms;
    this.bytes = row.bytes;
    this.recipe = row.recipe;
    this.mostAtOnce = this.recipe.reach.atOnce ?? desk.sitemaps.atOnce;
  }

  /** Goes through all sources. @returns why it ended */
  async run(): Promise<MakingEnd> {
    const door = addressText(frontDoorOf(this.property));
    const { others } = await variantsOf(this.property);
    const robots = await robotsAt((url) => this.desk.net.page(url), door);
    this.origins = [new URL(door).origin, ...others];
    await this.pacedBy(robots);
    const forbids = this.forbidding(robots);
    const missing = await this.missing(door, forbids);
    this.ways = new Frontier({ door, others, reach: this.recipe.reach, missing, forbids });
    this.book = await PageBook.open(this.desk.store, this.row.id, () => ({
      ms: this.ms,
      bytes: this.bytes,
      atOnce: this.politeness.atOnce,
      named: JSON.stringify(this.named()),
    }));
    for await (const url of this.book.known()) this.ways.know(url);
    const { in: inside = 0, out = 0 } = await this.book.counts();
    this.read = inside + out;
    const sources = IN_ORDER.filter((one) => this.recipe.sources.includes(one));
    for (const [at, source] of sources.entries()) {
      if (at < this.row.phase) continue;
      await this.begin(source, door, robots);
      await this.goOn(source);
      await this.row.update({ phase: at + 1 });
      if (this.end !== 'all') break;
    }
    if (this.end === 'all') await this.byHand();
    if (this.end === 'all') await this.whatStood();
    await this.book.flush();
    return this.end;
  }

  private get ms(): number {
    return this.msBefore + Math.round(performance.now() - this.begun - this.politeness.restedMs);
  }

  /** A wait that the robots.txt asks for is kept to, and told. */
  private async pacedBy(robots: RobotsSeen): Promise<void> {
    const { agent } = this.desk.net.settings;
    const delay = robots.status === 200 ? await readOr('crawlDelayIn', null, robots, agent) : null;
    this.politeness = new Politeness(
      this.desk.clock,
      new Date(this.row.startedAt),
      new Pace(this.mostAtOnce, delay),
      async () => this.book.flush(),
    );
    await this.row.update({ delay });
  }

  private named(): NamedWay[] {
    return [...this.ways.named.values()];
  }

  private forbidding(robots: RobotsSeen): (path: string) => string | null {
    if (isUnreachable(robots))
      return () =>
        `the robots.txt answers ${robots.status === null ? 'nothing' : String(robots.status)}, which forbids everything until it does (RFC 9309)`;
    const engines = forbiddingOf(robots, agentsOf(this.desk));
    const us = keptFromUs(robots, this.desk.net.settings.agent);
    return (path) => {
      const found = engines?.(path);
      if (found) return `${found.rule} (line ${String(found.line)}, ${found.whom})`;
      return us?.(path) === true ? 'the rules for us, or for everyone' : null;
    };
  }

  /** What the website shows at an address that it cannot have; null where it says that there is nothing, or may not be asked. */
  private async missing(door: string, forbids: (path: string) => string | null): Promise<PageFace | null> {
    const { pathname, href } = new URL(`yb${randomBytes(6).toString('hex')}`, door);
    if (forbids(pathname) !== null) return null;
    const { hop, body } = await this.desk.net.one(href);
    if (hop.status !== 200 || body === null || !isPage(body.mediaType)) return null;
    return (await this.content(href, body, hop.headers))?.face ?? null;
  }

  private async begin(source: Source, door: string, robots: RobotsSeen): Promise<void> {
    if (source === 'site' || source === 'menus') {
      this.take(door, { by: 'door', depth: 0, from: null, run: 0 });
      return;
    }
    for await (const urls of addressesOf(this.desk, this.property, this.recipe, source, robots)) {
      for (const url of urls) this.take(url, { by: source, depth: 1, from: null, run: 0 });
      await this.book.keepUp();
      if (this.isBeyond()) return;
    }
  }

  /** Where something failed, what stood before and was not met is asked for: what leads to it may be what failed. */
  private async whatStood(): Promise<void> {
    await this.book.flush();
    const stood = this.former.unmet();
    if (stood === null || !(await hasFailures(this.desk.store, this.row.id))) return;
    for await (const url of stood) this.take(url, { by: 'link', depth: 1, from: null, run: 0 });
    await this.goOn('list');
  }

  /** Addresses put in by hand are looked at like others. */
  private async byHand(): Promise<void> {
    for (const url of this.recipe.selection.add) this.take(url, { by: 'hand', depth: 1, from: null, run: 0 });
    await this.goOn('list');
  }

  private take(found: string, via: Via): void {
    const admitted = this.ways.admit(found, via);
    if (admitted.kind === 'new') this.write(this.ways.inRow(admitted, via.run), via);
  }

  private write({ url, depth, run, out, detail }: New, via: Via): void {
    this.book.add({
      url,
      depth,
      run,
      foundBy: via.by,
      state: out === null ? 'waiting' : 'out',
      why: out,
      detail,
      fromUrl: via.from,
    });
  }

  /** Looks at all that waits, and at what that leads to. */
  private async goOn(source: Source): Promise<void> {
    for (;;) {
      this.queue = (await this.book.waiting(LOOK_AHEAD)).reverse();
      if (this.queue.length === 0) return;
      this.before = await this.former.pages(this.queue.map(({ url }) => url));
      // Where one ends early, the others end what they have in hand before anything goes on.
      const length = Math.max(LANES, this.mostAtOnce * LANES_A_REQUEST);
      const lanes = await Promise.allSettled(Array.from({ length }, () => this.lane(source)));
      const broken = lanes.find((one) => one.status === 'rejected');
      if (broken) throw broken.reason;
      if (this.end !== 'all') return;
    }
  }

  private async lane(source: Source): Promise<void> {
    for (let next = this.queue.pop(); next; next = this.queue.pop()) {
      requireGoing();
      if (this.isBeyond()) return;
      const needless = unasked(next.url, this.ways);
      if (needless) {
        this.book.end({ ...next, ...needless, folder: folderOf(next.url) });
        await this.book.keepUp();
        continue;
      }
      await this.look(next, source);
      await this.book.keepUp();
    }
  }

  private isBeyond(): boolean {
    const { pages, minutes, megabytes } = this.recipe.reach;
    if (this.end === 'all') {
      if (this.read >= pages) this.end = 'pages';
      else if (this.ms > minutes * 60_000) this.end = 'minutes';
      else if (this.bytes > megabytes * 1_000_000) this.end = 'megabytes';
    }
    return this.end !== 'all';
  }

  private async look(page: Waiting, source: Source): Promise<void> {
    const answer = await this.politeness.ask(page.url, () => {
      this.read += 1;
      return this.desk.net.one(page.url, this.mostAtOnce);
    });
    if (answer === null) {
      // It is still to be looked at, once the website wants to be asked again.
      this.read -= 1;
      return;
    }
    const { hop, body } = answer;
    this.bytes += body?.bytes ?? 0;
    const mediaType = body?.mediaType ?? null;
    const outcome = beforeReading(hop, mediaType);
    const content =
      outcome === null && body !== null ? await this.content(page.url, body, hop.headers) : null;
    if (content) this.follow(page, content, source);
    const after = outcome ?? (content ? afterReading(page.url, content) : BEYOND);
    // Where an address leads on, that is no page more on the way.
    if (after.leadsTo !== null)
      this.take(after.leadsTo, {
        by: 'link',
        depth: page.depth,
        from: page.url,
        run: page.run + 1,
        isOn: true,
      });
    this.ways.met(page.url, after.out === 'gone', content !== null);
    this.close(page, after, { mediaType, headers: hop.headers, content });
  }

  private async content(
    url: string,
    body: Body,
    headers: Readonly<Record<string, string>>,
  ): Promise<PageRead | null> {
    try {
      return await readPage(body, url, headers, this.origins);
    } catch (error) {
      if (error instanceof Overtaxed) return null;
      throw error;
    }
  }

  private follow(page: Waiting, content: PageRead, source: Source): void {
    // Of menus only those of the front door are followed, and theirs.
    if (source === 'menus' && page.depth > 1) return;
    if (source !== 'site' && source !== 'menus') return;
    if (content.links.length === 0 && content.unfollowed > 0) this.ways.tell('nofollow', page.url);
    if (content.framed.length > 0) this.ways.tell('frame', page.url);
    const linked = content.links.filter(({ inMenu }) => source === 'site' || inMenu);
    const found: [string, FoundBy][] = linked.map(({ url, inMenu }) => [url, inMenu ? 'menu' : 'link']);
    const beside = source === 'site' ? [...content.siblings.map(({ url }) => url), ...content.framed] : [];
    this.takeAll(page, content, [...found, ...beside.map((url): [string, FoundBy] => [url, 'link'])]);
  }

  /** Takes all to which a page leads; those of its own shape last, for whether they go on in a row depends on the others. */
  private takeAll(page: Waiting, content: PageRead, found: readonly (readonly [string, FoundBy])[]): void {
    const alike: [New, Via][] = [];
    let isOwn = this.ways.hasOwn(page.url, content);
    for (const [url, by] of found) {
      const via = { by, depth: page.depth + 1, from: page.url, run: 0 };
      const admitted = this.ways.admit(url, via);
      if (admitted.kind !== 'new') continue;
      if (admitted.isAlike) alike.push([admitted, via]);
      else {
        isOwn ||= admitted.out === null && (this.ways.isRich(admitted.url) || DOCUMENT.test(admitted.url));
        this.write(admitted, via);
      }
    }
    const run = isOwn ? 0 : page.run + 1;
    for (const [one, via] of alike) this.write(this.ways.inRow(one, run), via);
  }

  private close(
    page: Waiting,
    outcome: Outcome,
    seen: { mediaType: string | null; headers: Readonly<Record<string, string>>; content: PageRead | null },
  ): void {
    const { content, mediaType, headers } = seen;
    const face = content?.face.sketch ?? null;
    const learnt = content !== null && outcome.out === null ? this.ways.learn(page.url, content) : NOTHING;
    for (const url of learnt.back) this.take(url, { by: 'link', depth: page.depth, from: page.url, run: 0 });
    const out = learnt.isDouble ? 'double' : outcome.out;
    const former = out === null ? this.before.get(page.url) : undefined;
    this.book.end({
      ...page,
      state: out === null ? 'in' : 'out',
      why: out,
      detail: outcome.detail,
      kind: out === null ? kindOf(page.url, page.depth, mediaType, content) : null,
      folder: folderOf(page.url),
      title: content?.title ?? null,
      modified: content?.data.modified ?? null,
      header: headerDate(headers, this.desk.clock.now()),
      seenAt: this.seenAt(face, former),
      face,
      more: content && out === null ? moreOf(content) : null,
    });
  }

  /** Since when a page is as it is, as far as we saw it: only what was seen otherwise before has changed. */
  private seenAt(face: string | null, former: FormerPage | undefined): string | null {
    if (face === null || former?.face == null) return null;
    return isSameSketch(face, former.face) ? former.seenAt : `${nowText(this.desk).slice(0, 19)}Z`;
  }
}

/** Of what was not read nothing is learnt. */
const NOTHING: ReturnType<Frontier['learn']> = { isDouble: false, back: [] };

/** Addresses of documents, as lists of downloads have them. */
const DOCUMENT = /\.(?:pdf|docx?|xlsx?|pptx?|od[tsp]|epub|ps|rtf)(?:$|\?)/iu;

const BEYOND: Outcome = { out: 'no-page', detail: 'more than can be read', leadsTo: null };

function moreOf({ images, data, siblings, language, linksBeyond }: PageRead): string | null {
  const more: PageMore & { beyond?: number } = {
    ...(images.length > 0 ? { images: images } : {}),
    ...(data.videos.length > 0 ? { videos: data.videos } : {}),
    ...(siblings.length > 0 ? { siblings } : {}),
    ...(data.published === null ? {} : { published: data.published }),
    ...(language === null ? {} : { language: language.slice(0, 35) }),
    ...(linksBeyond > 0 ? { beyond: linksBeyond } : {}),
  };
  return Object.keys(more).length === 0 ? null : JSON.stringify(more);
}
