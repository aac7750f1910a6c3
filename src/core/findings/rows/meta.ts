import type { CatalogueEntry } from '../finding.js';
import { valueRows } from './value.js';

/** A meta tag on the home page. */
export const META = {
  ...valueRows({
    area: 'meta',
    holder: 'The tag {name} on {url}, line {line},',
    remedy: 'Please replace the tag {name} on {url}, line {line}, by exactly {tag}',
  }),
  'meta.stands': { grade: 'note', says: 'The tag stands in the head of {url}, line {line}.', remedy: '' },
  'meta.not-html': {
    grade: 'stops',
    says: '{url} is {mediaType}, not an HTML page, so it cannot hold a meta tag.',
    remedy: 'Please make {url} an HTML page with {tag} in its head.',
  },
  'meta.absent': {
    grade: 'stops',
    says: 'No meta tag named {name} is on {url} (other meta tags there: {tags}).',
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
    remedy: 'Please take the comment signs <!-- and --> around {tag} away (line {line} of {url}).',
  },
  'meta.in-noscript': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but inside a noscript element, where engines do not look for it.',
    remedy: 'Please move {tag} out of the noscript element on line {line} of {url}, straight into the head.',
  },
  'meta.in-template': {
    grade: 'stops',
    says: 'The tag is on {url}, line {line}, but inside a template element, which is no part of the page.',
    remedy: 'Please move {tag} out of the template element on line {line} of {url}, straight into the head.',
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
    remedy: 'Please write name= in place of property= on line {line} of {url}: {tag}',
  },
  'meta.wrong-name': {
    grade: 'stops',
    says: 'The right value stands on {url}, line {line}, but in a tag named “{named}” in place of “{name}”.',
    remedy: 'Please correct the tag on line {line} of {url} to exactly {tag}',
  },
  'meta.repeated': {
    grade: 'harms',
    says: 'The tag {name} is on {url} {times} times, with different values; one is right.',
    remedy: 'Please keep only {tag} on {url} and take the other tags named {name} out.',
  },
  'meta.other-variant': {
    grade: 'stops',
    says: 'The tag stands on {other}, but the engine looks at {url}, which is another page.',
    remedy:
      'Please put {tag} on {url} too, or let {url} redirect to {other} or the reverse, so that there is one page.',
  },
  'meta.stale-copy': {
    grade: 'stops',
    says: 'The tag is on the page, but a cache still hands out a copy of {url} without it ({age} old, kept for {left} more).',
    remedy: 'Please empty the page cache for {url}; the copy in it is {age} old and lacks {tag}',
  },
  'meta.going-stale': {
    grade: 'harms',
    says: 'A cached copy of {url} still has the tag, but the page behind it has not: it is gone when the copy is ({left}).',
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
    remedy:
      'Please put {tag} into the head of {url} itself, before it sends its visitors on, or let the server redirect to {to} (status 301).',
  },
  'meta.stands-behind': {
    grade: 'stops',
    says: 'The tag stands at {to}, but {url} only sends its visitors there by {how}: engines that look for the tag stop at {url}.',
    remedy:
      'Please put {tag} into the head of {url} as well, before it sends its visitors on, or let the server redirect to {to} (status 301).',
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
    remedy:
      'Please serve the website at {url} itself, with {tag} in its head, in place of a frame around {frame}',
  },
} as const satisfies Record<string, CatalogueEntry>;
