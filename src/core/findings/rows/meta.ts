import type { CatalogueEntry } from '../finding.js';
import { valueRows } from './value.js';

/** A meta tag on the home page. */
export const META = {
  ...valueRows({
    area: 'meta',
    holder: 'The tag {name} on {url}, line {line},',
    change:
      'Please replace the tag {name} on line {line} of {url}, which holds {found}, by exactly {tag}, and leave all other tags as they are.',
    add: 'Please put {tag} into the head of {url} as well, and keep the tag {name} that is there: the engine reads both. Then empty the page cache.',
    taken: {
      says: 'The tag {name} on {url}, line {line}, holds “{found}” ({owner}), and the engine reads {which}.',
      remedy:
        'Please leave the tag {name} on line {line} of {url} as it is, and tell us whose “{found}” is. The engine reads {which}: if ours took its place, whoever proves the ownership by it would lose it. We prove ours in another way.',
    },
  }),
  'meta.stands': { grade: 'note', says: 'The tag stands in the head of {url}, line {line}.', remedy: '' },
  'meta.not-html': {
    grade: 'stops',
    says: '{url} is {mediaType}, not an HTML page, so it cannot hold a meta tag.',
    remedy: 'Please make {url} an HTML page with {tag} in its head.',
  },
  'meta.absent': {
    grade: 'stops',
    says: 'No meta tag named {name} is in the head of {url} (other meta tags there: {tags}).',
    remedy: 'Please put {tag} into the head of {url}, then empty the page cache.',
  },
  'meta.outside-head': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but in the body: {ender} ends the head before it, and engines read it only in the head.',
    remedy: 'Please move {tag} from line {line} of {url} up into the head, before {ender}',
  },
  'meta.in-comment': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but inside a comment, which nobody reads.',
    remedy:
      'Please put {tag} straight into the head of {url}; on line {line} it stands inside a comment, which may stay.',
  },
  'meta.in-noscript': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but inside a noscript element, where engines do not look for it.',
    remedy: 'Please put {tag} straight into the head of {url}, outside the noscript element on line {line}.',
  },
  'meta.in-template': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but inside a template element, which is no part of the page.',
    remedy: 'Please put {tag} straight into the head of {url}, outside the template element on line {line}.',
  },
  'meta.in-script': {
    grade: 'stops',
    says: 'The tag is put into {url} by a script (line {line}): engines that read the page as it is sent do not see it.',
    remedy:
      'Please put {tag} into the head of {url} as the server sends it, not by a script or a tag loader.',
  },
  'meta.as-text': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, as visible text: its signs were escaped on the way.',
    remedy:
      'Please put {tag} into the template of {url} as HTML, not as text (line {line} shows it to visitors now).',
  },
  'meta.by-property': {
    grade: 'stops',
    says: 'The tag on {url}, line {line}, says property="{name}" where engines read name="{name}".',
    act: 'change',
    remedy: 'Please write name= in place of property= in the tag on line {line} of {url}: {tag}',
  },
  'meta.wrong-name': {
    grade: 'stops',
    says: 'The right value stands on {url}, line {line}, but in a tag named “{named}” in place of “{name}”.',
    remedy:
      'Please put {tag} into the head of {url} as well; the tag on line {line} has the right value under another name, and may stay.',
  },
  'meta.repeated': {
    grade: 'note',
    says: 'The tag {name} is on {url} {times} times, with different values; the engine reads ours, and the others may be somebody else’s.',
    remedy: '',
  },
  'meta.repeated-own': {
    grade: 'stops',
    act: 'change',
    says: 'The tag {name} is on {url} {times} times, and the engine reads it only where it stands once. On line {line} it holds “{found}”, a second one of ours.',
    remedy:
      'Please take the tag {name} on line {line} of {url}, which holds {found}, out, and keep exactly {tag}: the engine wants it once.',
  },
  'meta.other-variant': {
    grade: 'stops',
    says: 'The tag stands on {other}, but the engine looks at {url}, which is another page.',
    remedy: 'Please put {tag} into the head of {url} too, and keep it on {other}.',
  },
  'meta.stale-copy': {
    grade: 'stops',
    says: 'The tag is on the page, but a cache still hands out a copy of {url} without it (kept until {until}).',
    remedy: 'Please empty the page cache for {url}: the copy in it lacks {tag}',
  },
  'meta.going-stale': {
    grade: 'harms',
    says: 'A cached copy of {url} still has the tag, but the page behind it has not: it is gone when the copy is ({until}).',
    remedy: 'Please put {tag} back into the head of {url}: only a cached copy still has it.',
  },
  'meta.beyond-bound': {
    grade: 'stops',
    open: true,
    says: 'The first {bytes} bytes of {url} do not have the tag; the page is larger, and engines stop reading early too.',
    remedy: 'Please put {tag} at the beginning of the head of {url}; the page is very large.',
  },
  'meta.sends-on': {
    grade: 'stops',
    says: '{url} only sends its visitors on to {to}, by {how}: engines that look for the tag stop at {url}, and it is not there.',
    remedy: 'Please put {tag} into the head of {url} itself, before it sends its visitors on.',
  },
  'meta.stands-behind': {
    grade: 'stops',
    says: 'The tag stands at {to}, but {url} only sends its visitors there by {how}: engines that look for the tag stop at {url}.',
    remedy:
      'Please put {tag} into the head of {url} as well, before it sends its visitors on, and keep it at {to}.',
  },
  'meta.depends-on-scripts': {
    grade: 'stops',
    open: true,
    says: 'The tag stands in the head of {url} for {whom}, and not for the others: {ender} ends the head for those. Whether this engine runs scripts is not known; its profile can say so (scripting).',
    remedy: 'Please move {tag} up in the head of {url}, before {ender}: then everybody finds it there.',
  },
  'meta.beyond-reading': {
    grade: 'stops',
    open: true,
    says: '{url} has more {what} than can be read as engines read it, and the tag does not stand before that. An engine may give up sooner or later than we do.',
    remedy:
      'Please put {tag} at the beginning of the head of {url}, and have its markup looked at: {what} are far beyond what a page needs.',
  },
  'meta.behind-frame': {
    grade: 'stops',
    says: '{url} is only a frame around {frame}: engines read the frame’s page, which does not have the tag.',
    remedy: 'Please put {tag} into the head of {url} itself, the page that holds the frame around {frame}.',
  },
} as const satisfies Record<string, CatalogueEntry>;
