import { encode, type Answer, type Packet } from 'dns-packet';
import { answerTo, type DnsAnswer } from './ground.js';
import { HOST } from './site.js';

type Names = (query: Packet, via: 'udp' | 'tcp') => DnsAnswer | undefined;

const asks = (query: Packet, type: string) => query.questions?.[0]?.type === type;
const nameIn = (query: Packet) => query.questions?.[0]?.name ?? '';
/** Answers TXT questions in an odd way, and the rest as usual. */
const txt =
  (odd: Names): Names =>
  (query, via) =>
    asks(query, 'TXT') ? odd(query, via) : undefined;
const record = (name: string, data: string | string[]): Answer => ({ type: 'TXT', name, ttl: 60, data });
/** A packet whose bytes are changed once it is written. */
const bent = (query: Packet, bend: (bytes: Buffer) => Buffer): Buffer =>
  bend(Buffer.from(encode(answerTo(query))));
const noise = (length: number, seed: number) =>
  Buffer.from(Array.from({ length }, (_, at) => ((at + seed) * 7919 + (at >> 3)) & 255));
const withId = (query: Packet, rest: Buffer): Buffer => {
  const id = Buffer.alloc(2);
  id.writeUInt16BE(query.id ?? 0);
  return Buffer.concat([id, rest]);
};

/** What hostile or broken name servers could answer. */
export const NAMES: readonly (readonly [what: string, names: Names])[] = [
  ['silence', txt(() => null)],
  ['silence to everything', () => null],
  ['noise', txt(() => noise(200, 1))],
  ['noise under the right identifier', txt((query) => withId(query, noise(300, 2)))],
  ['three bytes', txt(() => Buffer.from([1, 2, 3]))],
  ['a head without a body', txt((query) => bent(query, (bytes) => bytes.subarray(0, 12)))],
  ['a packet that breaks off', txt((query) => bent(query, (bytes) => bytes.subarray(0, bytes.length - 3)))],
  [
    'a thousand datagrams',
    txt((query) => Array.from({ length: 1000 }, (_, at) => answerTo(query, { id: at }))),
  ],
  ['another identifier', txt((query) => answerTo(query, { id: ((query.id ?? 0) + 1) & 0xffff }))],
  [
    'another question',
    txt((query) => answerTo(query, { questions: [{ type: 'TXT', name: 'other.example' }] })),
  ],
  ['a question instead of an answer', txt((query) => ({ ...answerTo(query), type: 'query' }))],
  ['no question', txt((query) => answerTo(query, { questions: [] }))],
  [
    'two questions',
    txt((query) => answerTo(query, { questions: [...(query.questions ?? []), { type: 'TXT', name: HOST }] })),
  ],
  [
    'records of another name',
    txt((query) => answerTo(query, { answers: [record('other.example', 'yardbadge-proof=x')] })),
  ],
  [
    'an alias to itself',
    txt((query) =>
      answerTo(query, { answers: [{ type: 'CNAME', name: nameIn(query), data: nameIn(query) }] }),
    ),
  ],
  [
    'aliases in a circle',
    txt((query) =>
      answerTo(query, {
        answers: [
          { type: 'CNAME', name: nameIn(query), data: 'a.example' },
          { type: 'CNAME', name: 'a.example', data: nameIn(query) },
        ],
      }),
    ),
  ],
  [
    'aliases without end',
    txt((query, via) =>
      answerTo(
        query,
        via === 'udp'
          ? { flags: 0x0600 }
          : {
              answers: Array.from({ length: 900 }, (_, at): Answer => ({
                type: 'CNAME',
                name: at === 0 ? nameIn(query) : `a${String(at)}.example`,
                data: `a${String(at + 1)}.example`,
              })),
            },
      ),
    ),
  ],
  [
    'three hundred records',
    txt((query, via) =>
      answerTo(
        query,
        via === 'udp'
          ? { flags: 0x0600 }
          : { answers: Array.from({ length: 300 }, (_, at) => record(nameIn(query), `x${String(at)}`)) },
      ),
    ),
  ],
  [
    'a record of sixty kilobytes',
    txt((query, via) =>
      answerTo(
        query,
        via === 'udp'
          ? { flags: 0x0600 }
          : { answers: [record(nameIn(query), Array<string>(230).fill('x'.repeat(255)))] },
      ),
    ),
  ],
  ['a record of nothing', txt((query) => answerTo(query, { answers: [record(nameIn(query), [''])] }))],
  [
    'control characters',
    txt((query) => answerTo(query, { answers: [record(nameIn(query), '\u001b[2J\u0000\u0007\u202e')] })),
  ],
  [
    'bytes that are no text',
    txt((query) =>
      answerTo(query, { answers: [{ type: 'TXT', name: nameIn(query), ttl: 60, data: [noise(200, 3)] }] }),
    ),
  ],
  [
    'a TTL out of all bounds',
    txt((query) =>
      answerTo(query, { answers: [{ ...record(nameIn(query), 'x'), ttl: 0xffffffff } as Answer] }),
    ),
  ],
  ['truncated for ever', txt((query) => answerTo(query, { flags: 0x0600 }))],
  [
    'a pointer to itself',
    txt((query) =>
      bent(query, (bytes) => {
        const changed = Buffer.from(bytes);
        changed.writeUInt16BE(0xc00c, 12);
        return changed;
      }),
    ),
  ],
  [
    'records that are promised and not there',
    txt((query) =>
      bent(query, (bytes) => {
        const changed = Buffer.from(bytes);
        changed.writeUInt16BE(0xffff, 6);
        return changed;
      }),
    ),
  ],
  ...Array.from(
    { length: 16 },
    (_, code) =>
      [`the code ${String(code)}`, txt((query) => answerTo(query, { flags: 0x0400 | code }))] as const,
  ),
  [
    'referrals down for ever',
    (query) =>
      asks(query, 'TXT')
        ? answerTo(query, {
            flags: 0,
            authorities: [{ type: 'NS', name: nameIn(query), ttl: 60, data: `ns.${HOST}` }],
          })
        : undefined,
  ],
  [
    'a referral upwards',
    txt((query) =>
      answerTo(query, {
        flags: 0,
        authorities: [{ type: 'NS', name: '.', ttl: 60, data: 'ns.elsewhere.example' }],
      }),
    ),
  ],
  [
    'a hundred name servers',
    (query) =>
      asks(query, 'NS')
        ? answerTo(query, {
            answers: Array.from({ length: 100 }, (_, at): Answer => ({
              type: 'NS',
              name: nameIn(query),
              ttl: 60,
              data: `n${String(at)}.${HOST}`,
            })),
          })
        : undefined,
  ],
  [
    'name servers inside',
    (query) =>
      asks(query, 'A') && nameIn(query).startsWith('ns.')
        ? answerTo(query, { answers: [{ type: 'A', name: nameIn(query), ttl: 60, data: '127.0.0.1' }] })
        : undefined,
  ],
  [
    'name servers that no way leads to',
    (query) =>
      asks(query, 'AAAA') && nameIn(query).startsWith('ns.')
        ? answerTo(query, { answers: [{ type: 'AAAA', name: nameIn(query), ttl: 60, data: '2a00:dead::1' }] })
        : asks(query, 'A') && nameIn(query).startsWith('ns.')
          ? answerTo(query)
          : undefined,
  ],
  [
    'glue for a stranger',
    (query) =>
      asks(query, 'NS')
        ? answerTo(query, {
            answers: [{ type: 'NS', name: nameIn(query), ttl: 60, data: 'ns.elsewhere.example' }],
            additionals: [{ type: 'A', name: 'ns.elsewhere.example', ttl: 60, data: '10.0.0.1' }],
          })
        : undefined,
  ],
  [
    'a start of authority of a stranger',
    (query) =>
      asks(query, 'SOA')
        ? answerTo(query, {
            answers: [
              {
                type: 'SOA',
                name: 'elsewhere.example',
                ttl: 60,
                data: { mname: 'a', rname: 'b', serial: 1, refresh: 1, retry: 1, expire: 1, minimum: 1 },
              },
            ],
          })
        : undefined,
  ],
  [
    'a start of authority out of all bounds',
    (query) =>
      asks(query, 'SOA')
        ? answerTo(query, {
            answers: [
              {
                type: 'SOA',
                name: nameIn(query),
                ttl: 0x7fffffff,
                data: {
                  mname: 'a',
                  rname: 'b',
                  serial: 0xffffffff,
                  refresh: 0xffffffff,
                  retry: 0xffffffff,
                  expire: 0xffffffff,
                  minimum: 0xffffffff,
                },
              },
            ],
          })
        : undefined,
  ],
  [
    'a website inside',
    (query) =>
      asks(query, 'A') && nameIn(query) === HOST
        ? answerTo(query, { answers: [{ type: 'A', name: HOST, ttl: 0, data: '169.254.169.254' }] })
        : undefined,
  ],
  [
    'a website at many addresses',
    (query) =>
      asks(query, 'A') && nameIn(query) === HOST
        ? answerTo(query, {
            answers: Array.from({ length: 20 }, (_, at): Answer => ({
              type: 'A',
              name: HOST,
              ttl: 0,
              data: `192.0.2.${String(at + 100)}`,
            })),
          })
        : undefined,
  ],
];
