import type { CatalogueEntry } from '../finding.js';
import { valueRows } from './value.js';

const KEEP =
  'Please add one more TXT record to the zone {zone}, and keep the ones that are there: name {recordName}, value {value}';
const AT_NAME =
  'Please add the TXT record at {name} as well, in the zone {zone}: name {recordName}, value {value}. The one at {other} may stay.';
const ADD = 'Please add to the zone {zone}: name {recordName}, type TXT, value {value}';

/** A TXT record in the client's zone. */
export const DNS = {
  ...valueRows({
    area: 'dns',
    holder: 'The TXT record at {name}',
    change:
      'Please change the TXT record {recordName} in the zone {zone} that holds {found} to exactly {value}, and leave all other records as they are.',
    add: KEEP,
    taken: {
      says: 'At {name} stands “{found}” ({owner}), and the engine reads a record only where it stands alone.',
      remedy:
        'Please leave the TXT records at {name} in the zone {zone} as they are, and tell us whose “{found}” is. The engine reads a record there only where it stands alone: with ours beside it, or in its place, whoever proves the ownership by it would lose it. We prove ours in another way.',
    },
  }),
  'dns.stands': { grade: 'note', says: 'The TXT record stands at {name}.', remedy: '' },
  'dns.no-name': {
    grade: 'stops',
    says: 'The name {name} does not exist in the DNS, so it has no TXT record.',
    remedy: ADD,
  },
  'dns.no-record': { grade: 'stops', says: 'There is no TXT record at {name}.', remedy: ADD },
  'dns.absent': {
    grade: 'stops',
    says: 'No TXT record at {name} is ours (others there: {records}).',
    remedy: KEEP,
  },
  'dns.doubled-name': {
    grade: 'stops',
    says: 'The record stands at {other}: the panel put the zone’s name behind a name that had it already.',
    remedy:
      'Please enter the TXT record in the zone {zone} once more, with the name {recordName} alone: the panel adds the rest by itself. Value: {value}. (The one at {other} does no harm.)',
  },
  'dns.doubled-label': {
    grade: 'stops',
    says: 'The record stands at {other}: the label is there twice, since the panel put it before a name that had it already.',
    remedy:
      'Please enter the TXT record in the zone {zone} once more, so that its whole name is {name}: the panel adds the label by itself. Value: {value}. (The one at {other} does no harm.)',
  },
  'dns.at-www': {
    grade: 'stops',
    says: 'The record stands at {other}; the engine looks at {name}.',
    remedy: AT_NAME,
  },
  'dns.at-parent': {
    grade: 'stops',
    says: 'The record stands at {other}, above the name that the engine looks at: {name}.',
    remedy: AT_NAME,
  },
  'dns.wrong-label': {
    grade: 'stops',
    says: 'The record stands under another label, at {other}; the engine looks at {name}.',
    remedy: AT_NAME,
  },
  'dns.no-label': {
    grade: 'stops',
    says: 'The record stands at {other}, without the label; the engine looks at {name}.',
    remedy: AT_NAME,
  },
  'dns.parted': {
    grade: 'stops',
    says: 'The value at {name} was parted into two records: {found}.',
    remedy:
      'Please add one TXT record with the whole value to the zone {zone}, and keep the others: name {recordName}, value {value}',
  },
  'dns.alias-hides': {
    grade: 'stops',
    says: '{name} is an alias (CNAME) for {alias}, so a TXT record of its own cannot be seen there.',
    act: 'ask',
    remedy:
      'Please leave the alias {name} as it is: the website may hang on it. If the zone of {alias} is yours, add a TXT record there: name {alias}, value {value}. If it is not, tell us, and we prove the ownership in another way.',
  },
  'dns.wildcard': {
    grade: 'stops',
    says: 'What answers at {name} is a wildcard record of the zone; the name has no TXT record of its own.',
    act: 'ask',
    remedy:
      'Please add one more TXT record to the zone {zone} beside the wildcard record that answers for {name}, under the wildcard’s own name (it begins with *), value {value}. A record at {name} itself would end the wildcard there, and with it whatever else the wildcard gives that name.',
  },
  'dns.host-by-wildcard': {
    grade: 'stops',
    says: '{owner} has its addresses ({addresses}) from a wildcard record of the zone {zone} alone. A record at {name} would end that, and nobody would reach {owner} any more.',
    act: 'ask',
    remedy:
      'Please put nothing at {name} yet, since the wildcard record stops answering for {owner} as soon as anything stands at or below that name. Tell us whether {owner} can have address records of its own; if not, we prove the ownership in another way.',
  },
  'dns.servers-disagree': {
    grade: 'stops',
    open: true,
    says: 'The servers of the zone disagree about {name}: {with} has the record, {without} has not.',
    remedy:
      'Please see that all name servers of {zone} have the same data: {with} has the record {recordName}, {without} has not.',
  },
  'dns.wrong-host': {
    grade: 'stops',
    says: 'The record was put where nobody asks: {aside} has it, but the domain is delegated to {delegated}.',
    remedy:
      'Please add the record at the DNS host in use ({delegated}): name {recordName}, type TXT, value {value}',
  },
  'dns.remembered': {
    grade: 'stops',
    open: true,
    says: 'All servers of the zone have the record; the resolver {resolver} still remembers the old answer, until {until}.',
    remedy:
      'Please leave the record {recordName} as it is: the zone’s servers have it, and everybody sees it once others have forgotten the old answer ({until}).',
  },
  'dns.going-stale': {
    grade: 'stops',
    open: true,
    says: 'No server of the zone has the record any more; the resolver {resolver} only remembers it, until {until}.',
    remedy: 'Please put the TXT record back into the zone {zone}: name {recordName}, value {value}',
  },
  'dns.server-lame': {
    grade: 'harms',
    says: 'Some servers to which {zone} is delegated do not answer for it: {lame}.',
    remedy: 'Please have these name servers answer for {zone} again: {lame}.',
  },
  'dns.server-fails': {
    grade: 'stops',
    says: 'The DNS answers {rcode} for {name} ({servers}).',
    remedy: 'Please check the name servers of {zone}: they answer {rcode} for {name} ({servers}).',
  },
  'dns.no-answer': {
    grade: 'stops',
    open: true,
    says: 'The DNS gave no answer for {name} ({failure}).',
    remedy: 'Please check that the name servers of {zone} can be reached.',
  },
  'dns.over-tcp': {
    grade: 'note',
    says: 'The answer for {name} is too large for a datagram; it came over TCP, which engines ask by too.',
    remedy: '',
  },
  'dns.many-records': {
    grade: 'note',
    says: 'There are {records} TXT records at {name}, ours among them or not; that is much, but allowed.',
    remedy: '',
  },
} as const satisfies Record<string, CatalogueEntry>;
