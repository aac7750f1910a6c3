import { randomUUID } from 'node:crypto';
import {
  claimAnswer,
  enrolmentAnswer,
  enrolmentsAnswer,
  holdersAnswer,
  lookupAnswer,
  sitemapAnswer,
  sitemapsAnswer,
  tokenAnswer,
} from '../link/answers.js';
import { Departure, expectAnswer, expectProblem, expectStatus, type Asking } from './asking.js';

/** What the rules work with: one enrolment that is made for the purpose and ended at the end. */
export interface Ground {
  readonly asking: Asking;
  readonly reach: 'name' | 'address';
  readonly target: string;
  readonly facts: Readonly<Record<string, string>>;
  /** The engine's identifier of the enrolment; set by the first rules. */
  enrolment: string;
  /** A method by which it has handed out a token. */
  method: string;
}

/** One thing that every engine must do. */
export interface Rule {
  readonly says: string;
  /** Throws Departure. */
  readonly holds: (ground: Ground) => Promise<void>;
}

function body({ reach, target, facts }: Ground): object {
  return { reach, target, ...(Object.keys(facts).length === 0 ? {} : { facts }) };
}

/** The link's rules, in the order in which they build on each other. */
export const RULES: readonly Rule[] = [
  {
    says: 'asks for a key (RFC 6750), and refuses a wrong one with 401 and a problem document',
    holds: async ({ asking }) => {
      expectProblem(await asking.send('GET', '/enrolments', { key: null }), [401]);
      expectProblem(await asking.send('GET', '/enrolments', { key: 'a-key-that-nobody-has' }), [401]);
    },
  },
  {
    says: 'enrols, and answers a repeated request with the same enrolment',
    holds: async (ground) => {
      const idempotencyKey = randomUUID();
      const send = () => ground.asking.send('POST', '/enrolments', { body: body(ground), idempotencyKey });
      const first = expectAnswer(await send(), 201, enrolmentAnswer);
      const second = expectAnswer(await send(), 201, enrolmentAnswer);
      if (first.id !== second.id)
        throw new Departure(`one Idempotency-Key made two enrolments, ${first.id} and ${second.id}`);
      if (first.target !== ground.target)
        throw new Departure(`asked for ${ground.target}, enrolled ${first.target}`);
      ground.enrolment = first.id;
    },
  },
  {
    says: 'enrols what is there already once, under another key too',
    holds: async (ground) => {
      const again = await ground.asking.send('POST', '/enrolments', {
        body: body(ground),
        idempotencyKey: randomUUID(),
      });
      const { id } = expectAnswer(again, 201, enrolmentAnswer);
      if (id !== ground.enrolment)
        throw new Departure(`the same target was enrolled twice, as ${ground.enrolment} and ${id}`);
    },
  },
  {
    says: 'refuses an enrolment that it cannot read, with a problem document',
    holds: async ({ asking }) => {
      const odd = { reach: 'street', target: 7 };
      expectProblem(
        await asking.send('POST', '/enrolments', { body: odd, idempotencyKey: randomUUID() }),
        [400, 422],
      );
    },
  },
  {
    says: 'lists its enrolments, page by page, each once',
    holds: async ({ asking, enrolment }) => {
      const seen: string[] = [];
      let after: string | null = null;
      for (let pages = 0; pages < 1000; pages += 1) {
        const path: string =
          after === null ? '/enrolments' : `/enrolments?after=${encodeURIComponent(after)}`;
        const { items, next } = expectAnswer(await asking.send('GET', path), 200, enrolmentsAnswer);
        seen.push(...items.map(({ id }) => id));
        after = next;
        if (after === null) break;
      }
      if (after !== null) throw new Departure('the list names a next page without end');
      if (new Set(seen).size !== seen.length) throw new Departure('the list names an enrolment twice');
      if (!seen.includes(enrolment)) throw new Departure(`the list does not name ${enrolment}`);
    },
  },
  {
    says: 'shows one enrolment with its ownership, not confirmed yet',
    holds: async ({ asking, enrolment }) => {
      const { ownership } = expectAnswer(
        await asking.send('GET', `/enrolments/${enrolment}`),
        200,
        enrolmentAnswer,
      );
      if (ownership.state === 'held') throw new Departure('it is held before anybody claimed it');
    },
  },
  {
    says: 'does not know an enrolment that is not there: 404, no-such-enrolment',
    holds: async ({ asking }) => {
      expectProblem(await asking.send('GET', '/enrolments/nobody-knows-this'), [404], 'no-such-enrolment');
    },
  },
  {
    says: 'hands out a token by at least one method, the same each time',
    holds: async (ground) => {
      for (const method of ['meta', 'file', 'dns']) {
        const path = `/enrolments/${ground.enrolment}/tokens/${method}`;
        const answer = await ground.asking.send('GET', path);
        if (answer.status >= 400) {
          expectProblem(answer, [422]);
          continue;
        }
        const first = expectAnswer(answer, 200, tokenAnswer);
        const second = expectAnswer(await ground.asking.send('GET', path), 200, tokenAnswer);
        if (first.token !== second.token) throw new Departure(`two tokens by ${method}, one after the other`);
        if (first.method !== method) throw new Departure(`asked for ${method}, got ${first.method}`);
        ground.method = method;
      }
      if (ground.method === '') throw new Departure('no token by meta, file or dns');
    },
  },
  {
    says: 'refuses a method that there is not',
    holds: async ({ asking, enrolment }) => {
      expectProblem(await asking.send('GET', `/enrolments/${enrolment}/tokens/pigeon`), [404, 422]);
    },
  },
  {
    says: 'does not know a claim that was never sent: 404, no-such-claim',
    holds: async ({ asking, enrolment }) => {
      const path = `/enrolments/${enrolment}/claims/${randomUUID()}`;
      expectProblem(await asking.send('GET', path), [404], 'no-such-claim');
    },
  },
  {
    says: 'judges a claim once: a second look at it has the first verdict',
    holds: async ({ asking, enrolment, method }) => {
      const path = `/enrolments/${enrolment}/claims/${randomUUID()}`;
      const sent = expectAnswer(await asking.send('PUT', path, { body: { method } }), 200, claimAnswer);
      const again = expectAnswer(await asking.send('PUT', path, { body: { method } }), 200, claimAnswer);
      const asked = expectAnswer(await asking.send('GET', path), 200, claimAnswer);
      if (new Set([sent.verdict, again.verdict, asked.verdict]).size > 1)
        throw new Departure('one claim has several verdicts');
      if (sent.verdict === 'refused' && sent.reason === '')
        throw new Departure('it refused without a reason');
    },
  },
  {
    says: 'names everybody who holds a site, page by page, to those who hold it, and refuses others with a problem document',
    holds: async ({ asking, enrolment }) => {
      const answer = await asking.send('GET', `/enrolments/${enrolment}/holders`);
      if (answer.status >= 400) expectProblem(answer, [403], 'not-held');
      else {
        const { items } = expectAnswer(answer, 200, holdersAnswer);
        if (!items.some(({ own }) => own)) throw new Departure('it names holders to one who is none of them');
      }
      expectProblem(
        await asking.send('GET', '/enrolments/nobody-knows-this/holders'),
        [404],
        'no-such-enrolment',
      );
    },
  },
  {
    says: 'takes a sitemap or refuses it with a problem document, and lists what it took',
    holds: async ({ asking, enrolment, target, reach }) => {
      const address = reach === 'address' ? `${target}sitemap.xml` : `https://${target}/sitemap.xml`;
      const sent = await asking.send('POST', `/enrolments/${enrolment}/sitemaps`, {
        body: { address },
        idempotencyKey: randomUUID(),
      });
      const { items } = expectAnswer(
        await asking.send('GET', `/enrolments/${enrolment}/sitemaps`),
        200,
        sitemapsAnswer,
      );
      if (sent.status >= 400) return expectProblem(sent, [403, 422]);
      const { id } = expectAnswer(sent, 201, sitemapAnswer);
      if (!items.some((one) => one.id === id)) throw new Departure('it took a sitemap and does not list it');
      expectStatus(await asking.send('DELETE', `/enrolments/${enrolment}/sitemaps/${id}`), 204);
    },
  },
  {
    says: 'looks an address up and takes a visit request, or refuses either with a problem document',
    holds: async ({ asking, enrolment, target, reach }) => {
      const address = reach === 'address' ? target : `https://${target}/`;
      const ask = (what: string) =>
        asking.send('POST', `/enrolments/${enrolment}/${what}`, {
          body: { address },
          idempotencyKey: randomUUID(),
        });
      const lookup = await ask('lookups');
      if (lookup.status >= 400) expectProblem(lookup, [403, 422, 429, 503]);
      else expectAnswer(lookup, 200, lookupAnswer);
      const visit = await ask('visits');
      if (visit.status >= 400) expectProblem(visit, [403, 422, 429, 503]);
      else expectStatus(visit, 202);
    },
  },
  {
    says: 'ends an enrolment, and does not know it afterwards',
    holds: async ({ asking, enrolment }) => {
      expectStatus(await asking.send('DELETE', `/enrolments/${enrolment}`), 204);
      expectProblem(await asking.send('GET', `/enrolments/${enrolment}`), [404], 'no-such-enrolment');
    },
  },
];

export interface Held {
  readonly says: string;
  /** What departs from the rule; null when it holds. */
  readonly departure: string | null;
}

/** Tries every rule, one after the other. One that does not hold does not stop the rest. */
export async function conform(ground: Omit<Ground, 'enrolment' | 'method'>): Promise<Held[]> {
  const whole: Ground = { ...ground, enrolment: '', method: '' };
  const held: Held[] = [];
  for (const { says, holds } of RULES) {
    try {
      await holds(whole);
      held.push({ says, departure: null });
    } catch (error) {
      if (!(error instanceof Departure)) throw error;
      held.push({ says, departure: error.message });
    }
  }
  return held;
}
