import type { SiteState } from '../../src/rehearsal/state.js';
import type { Ground } from './ground.js';

/**
 * A client's developer who does exactly what a remedy says, and nothing else. What is not understood is not done.
 * @returns whether the sentence asked for something that could be done
 */
export function obey(remedy: string, ground: Ground): boolean {
  const order = ORDERS.find(({ says }) => says.test(remedy));
  const told = order?.says.exec(remedy)?.groups;
  if (!order || !told) return false;
  order.done(ground, told);
  return true;
}

type Told = Readonly<Record<string, string>>;

interface Order {
  readonly says: RegExp;
  readonly done: (ground: Ground, told: Told) => void;
}

const VALUE = String.raw`value (?<value>.+?)(?:\. The one at .*| \(As it stands.*)?$`;

const ORDERS: readonly Order[] = [
  // Records.
  {
    says: new RegExp(
      String.raw`^Please (?:add (?:to|one more TXT record to|one TXT record with the whole value to)|put the TXT record back into) the zone (?<zone>\S+?)(?:, and keep the (?:ones that are there|others))?: name (?<name>\S+?)(?:, type TXT)?, ${VALUE}`,
      'u',
    ),
    done: (ground, told) => {
      addRecord(ground, told);
    },
  },
  {
    says: new RegExp(
      String.raw`^Please add the TXT record at \S+ as well, in the zone (?<zone>\S+): name (?<name>\S+), ${VALUE}`,
      'u',
    ),
    done: (ground, told) => {
      addRecord(ground, told);
    },
  },
  {
    says: /^Please add the record at the DNS host in use .*: name (?<name>\S+), type TXT, value (?<value>.+)$/u,
    done: (ground, told) => {
      addRecord(ground, { ...told, zone: ground.bare });
    },
  },
  {
    says: /^Please enter the TXT record in the zone (?<zone>\S+) once more, (?:with the name (?<name>\S+) alone|so that its whole name is (?<whole>\S+)): .* Value: (?<value>.+?)\. \(/u,
    done: (ground, told) => {
      addRecord(ground, told);
    },
  },
  {
    says: /^Please change the TXT record (?<name>\S+) in the zone (?<zone>\S+) that holds (?<found>.+) to exactly (?<value>.+), and leave all other records as they are\./u,
    done: (ground, told) => {
      const at = wholeName(told);
      const record = ground.state.txt.find(({ name, value }) => name === at && alike(value, told['found']));
      if (!record) throw new Error(`no record at ${at} holds ${told['found'] ?? ''}`);
      ground.state.txt.splice(ground.state.txt.indexOf(record), 1, { name: at, value: told['value'] ?? '' });
    },
  },
  {
    says: /beside the wildcard record that answers for (?<name>\S+), under the wildcard’s own name \(it begins with \*\), value (?<value>\S+)\. /u,
    done: ({ state }, told) => {
      const wild = state.txt.find(
        ({ name }) => name.startsWith('*.') && told['name']?.endsWith(name.slice(1)),
      );
      if (!wild) throw new Error('no wildcard there');
      state.txt.push({ name: wild.name, value: told['value'] ?? '' });
    },
  },
  // Tags.
  {
    says: /^Please move (?<tag><meta [^>]*>) from line (?<line>\d+) of (?<url>\S+) up into the head/u,
    done: (ground, told) => {
      edit(ground, told, (text) =>
        inHead(
          onLine(text, told['line'], (line) => line.replace(told['tag'] ?? '', '')),
          told['tag'],
        ),
      );
    },
  },
  {
    says: /^Please put (?<tag><meta [^>]*>) .*?(?:of|on) (?<url>https?:\/\/\S+?)[,;.]?(?:\s|$)/u,
    done: (ground, told) => {
      edit(ground, told, (text) => inHead(text, told['tag']));
    },
  },
  {
    says: /^Please replace the tag (?<name>\S+) on line (?<line>\d+) of (?<url>\S+), which holds (?<found>.*), by exactly (?<tag><meta [^>]*>), and leave/u,
    done: (ground, told) => {
      editTag(ground, told, told['tag'] ?? '');
    },
  },
  {
    says: /^Please take the tag (?<name>\S+) on line (?<line>\d+) of (?<url>\S+), which holds (?<found>.*), out, and keep/u,
    done: (ground, told) => {
      editTag(ground, told, '');
    },
  },
  {
    says: /^Please write name= in place of property= in the tag on line (?<line>\d+) of (?<url>\S+):/u,
    done: (ground, told) => {
      edit(ground, told, (text) => onLine(text, told['line'], (line) => line.replace('property=', 'name=')));
    },
  },
  // Files.
  {
    says: /^Please copy the file (?:from|at) \S+?(?: to .*?|, )?,? so that (?<url>\S+) shows it/u,
    done: (ground, told) => {
      upload(ground, told['url'] ?? '');
    },
  },
  {
    says: /^Please (?:upload|save) .*?(?:so that (?<url>\S+) shows exactly this content|again|as a plain file|without|unchanged)/u,
    done: (ground, told) => {
      upload(ground, told['url'] ?? ground.placement.place);
    },
  },
  {
    says: /^Please let (?<url>\S+) be read without a sign-in, and show exactly/u,
    done: (ground, told) => {
      upload(ground, told['url'] ?? '');
    },
  },
];

function wholeName({ name = '@', whole, zone = '' }: Told): string {
  return whole ?? (name === '@' ? zone : `${name}.${zone}`);
}

function addRecord({ state }: Ground, told: Told): void {
  state.txt.push({ name: wholeName(told), value: told['value'] ?? '' });
}

/** Whether a value is the one that a sentence shows, in which what cannot be seen is made visible and what is long is cut. */
function alike(value: string, shown = ''): boolean {
  const bare = (text: string) => text.replace(/[^\w=:-]/gu, '').slice(0, 40);
  return bare(value) === bare(shown) || (value === '' && shown === 'nothing');
}

function siteAt({ state }: Ground, url: string): SiteState {
  const { hostname } = new URL(url);
  const site =
    state.sites.find(({ host }) => host === hostname) ??
    state.sites.find(({ aliases }) => aliases.includes(hostname));
  if (!site) throw new Error(`no website at ${url}`);
  return site;
}

/** Edits the page at an address, wherever the rehearsal keeps what it says. */
function edit(ground: Ground, { url = '' }: Told, change: (text: string) => string): void {
  const site = siteAt(ground, url);
  const { pathname } = new URL(url);
  const answer = site.answers[pathname];
  if (answer?.body !== undefined) answer.body = change(answer.body);
  else site.head.push(/<meta [^>]*>/u.exec(change('<head></head>'))?.[0] ?? '');
}

function inHead(text: string, tag = ''): string {
  const head = /<head[^>]*>/iu.exec(text)?.[0];
  return head === undefined ? text : text.replace(head, `${head}\n${tag}`);
}

function onLine(text: string, number: string | undefined, change: (line: string) => string): string {
  return text
    .split('\n')
    .map((line, at) => (at + 1 === Number(number) ? change(line) : line))
    .join('\n');
}

/** Puts something in the place of the one tag that a sentence names by its line and by what it holds. */
function editTag(ground: Ground, told: Told, by: string): void {
  let done = false;
  const change = (tag: string) => {
    const holds = /content\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s>]*))/iu.exec(tag);
    const value = (holds?.[1] ?? holds?.[2] ?? holds?.[3] ?? '').replaceAll('&quot;', '"');
    if (done || !tag.includes(`"${told['name'] ?? ''}"`) || !alike(value, told['found'])) return tag;
    done = true;
    return by;
  };
  edit(ground, told, (text) =>
    onLine(text, told['line'], (line) => line.replace(/<meta\b(?:"[^"]*"|[^>"])*>/giu, (tag) => change(tag))),
  );
  if (!done) throw new Error(`no tag ${told['name'] ?? ''} holds ${told['found'] ?? ''}`);
}

function upload(ground: Ground, url: string): void {
  const { placement } = ground;
  if (placement.method !== 'file') throw new Error('a file is asked for where none is to be placed');
  siteAt(ground, url).answers[new URL(url).pathname] = {
    status: 200,
    body: placement.content,
    headers: { 'content-type': 'text/plain' },
  };
}
