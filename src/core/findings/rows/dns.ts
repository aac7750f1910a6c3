import type { CatalogueEntry } from '../finding.js';
import { valueRows } from './value.js';

const ADD = 'Please add to the zone {zone}: name {recordName}, type TXT, value {value}';

/** A TXT record in the client's zone. */
export const DNS = {
  ...valueRows({
    area: 'dns',
    holder: 'The TXT record at {name}',
    remedy: 'Please change the TXT record {recordName} in the zone {zone} to exactly {value}',
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
    remedy:
      'Please add one more TXT record to the zone {zone}, and keep the others: name {recordName}, value {value}',
  },
  'dns.doubled-name': {
    grade: 'stops',
    says: 'The record stands at {other}: the panel put the zone’s name behind a name that had it already.',
    remedy:
      'Please change the record’s name in the zone {zone} to {recordName}; it stands at {other} now. Value: {value}',
  },
  'dns.doubled-label': {
    grade: 'stops',
    says: 'The record stands at {other}: the label is there twice, since the panel put it before a name that had it already.',
    remedy:
      'Please change the record’s name in the zone {zone} to {recordName}; it stands at {other} now. Value: {value}',
  },
  'dns.at-www': {
    grade: 'stops',
    says: 'The record stands at {other}; the engine looks at {name}.',
    remedy: 'Please move the TXT record from {other} to {name}: name {recordName}, value {value}',
  },
  'dns.at-parent': {
    grade: 'stops',
    says: 'The record stands at {other}, above the name that the engine looks at: {name}.',
    remedy: 'Please move the TXT record from {other} to {name}: name {recordName}, value {value}',
  },
  'dns.wrong-label': {
    grade: 'stops',
    says: 'The record stands under another label, at {other}; the engine looks at {name}.',
    remedy: 'Please move the TXT record from {other} to {name}: name {recordName}, value {value}',
  },
  'dns.no-label': {
    grade: 'stops',
    says: 'The record stands at {other}, without the label; the engine looks at {name}.',
    remedy: 'Please move the TXT record from {other} to {name}: name {recordName}, value {value}',
  },
  'dns.parted': {
    grade: 'stops',
    says: 'The value at {name} was parted into two records: {found}.',
    remedy:
      'Please enter one TXT record in the zone {zone} in place of the two: name {recordName}, value {value}',
  },
  'dns.alias-hides': {
    grade: 'stops',
    says: '{name} is an alias (CNAME) for {alias}, so a TXT record of its own cannot be seen there.',
    remedy: 'Please put the TXT record at {alias}, or end the alias {name}: value {value}',
  },
  'dns.wildcard': {
    grade: 'stops',
    says: 'What answers at {name} is a wildcard record of the zone; the name has no TXT record of its own.',
    remedy:
      'Please add a TXT record of its own for {name} to the zone {zone}: name {recordName}, value {value}',
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
    says: 'All servers of the zone have the record; the resolver {resolver} still remembers the old answer, for {left}.',
    remedy:
      'Please leave the record {recordName} as it is: the zone’s servers have it, and in {left} everybody sees it.',
  },
  'dns.going-stale': {
    grade: 'stops',
    open: true,
    says: 'No server of the zone has the record any more; the resolver {resolver} only remembers it, for {left}.',
    remedy: 'Please put the TXT record back into the zone {zone}: name {recordName}, value {value}',
  },
  'dns.server-lame': {
    grade: 'harms',
    says: 'Some servers to which {zone} is delegated do not answer for it: {lame}.',
    remedy: 'Please mend the name servers of {zone}, or take them out of the delegation: {lame}.',
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
