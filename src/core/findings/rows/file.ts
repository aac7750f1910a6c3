import type { CatalogueEntry } from '../finding.js';
import { valueRows } from './value.js';

const UPLOAD = 'Please upload the file {fileName} so that {url} shows exactly this content: {content}';

/** A file on the web server. */
export const FILE = {
  ...valueRows({
    area: 'file',
    holder: 'The file at {url}',
    change: UPLOAD,
    add: UPLOAD,
    taken: {
      says: 'The file at {url} holds “{found}” ({owner}), and there is room for one content only.',
      remedy:
        'Please leave the file at {url} as it is, and tell us whose “{found}” is: if ours took its place, whoever proves the ownership by it would lose it. We prove ours in another way.',
    },
  }),
  'file.stands': { grade: 'note', says: 'The file stands at {url} with the right content.', remedy: '' },
  'file.missing': { grade: 'stops', says: 'There is no file at {url} (status {status}).', remedy: UPLOAD },
  'file.empty': { grade: 'stops', says: 'The file at {url} is empty.', remedy: UPLOAD },
  'file.themed-missing': {
    grade: 'stops',
    says: 'There is no file at {url}: the website answers 200 with a page for any address, also for one that was made up.',
    remedy: `${UPLOAD} (The website answers 200 for files that do not exist; it should answer 404.)`,
  },
  'file.page-instead': {
    grade: 'stops',
    says: '{url} answers 200, but with an HTML page in place of the file.',
    remedy:
      'Please upload {fileName} as a plain file holding {content}; {url} shows a page of the website now.',
  },
  'file.wrapped': {
    grade: 'stops',
    says: '{url} has the right words, but wrapped in an HTML page; the engine wants the file alone.',
    remedy: 'Please upload {fileName} as a plain file, without the website’s page around it: {content}',
  },
  'file.to-home': {
    grade: 'stops',
    says: '{url} redirects to the home page {other}, as missing files do there.',
    remedy: `${UPLOAD} (It redirects to {other} now.)`,
  },
  'file.to-sign-in': {
    grade: 'stops',
    says: '{url} redirects to a sign-in page, {other}.',
    remedy:
      'Please let {url} be read without a sign-in, and show exactly {content}; it leads to {other} now.',
  },
  'file.encoding': {
    grade: 'stops',
    says: 'The file at {url} has the right words in the encoding {encoding}; engines read UTF-8.',
    remedy:
      'Please save {fileName} as plain text in UTF-8 (it is {encoding} now) and upload it again: {content}',
  },
  'file.byte-order-mark': {
    grade: 'stops',
    says: 'The file at {url} begins with a byte order mark before the right words.',
    remedy: 'Please save {fileName} as UTF-8 without a byte order mark, {bytes} bytes, and upload it again.',
  },
  'file.line-end': {
    grade: 'stops',
    says: 'The file at {url} has the right words and a line break after them: {got} bytes in place of {bytes}, and the engine compares every byte.',
    remedy: 'Please upload {fileName} without a line break at its end: {bytes} bytes, {content}',
  },
  'file.not-exact': {
    grade: 'stops',
    says: 'The file at {url} has the right words, but {got} bytes in place of {bytes}; the engine compares every byte.',
    remedy: 'Please upload {fileName} unchanged: {bytes} bytes, nothing before or after {content}',
  },
  'file.wrong-folder': {
    grade: 'stops',
    says: 'The file was uploaded to {other}; the engine looks for it at {url}.',
    remedy: 'Please copy the file from {other}, so that {url} shows it too.',
  },
  'file.at-folder': {
    grade: 'stops',
    says: 'The file was uploaded into the website’s own folder, {other}; the engine looks for it at the root: {url}.',
    remedy: 'Please copy the file from {other} to the root of the host, so that {url} shows it.',
  },
  'file.at-root': {
    grade: 'stops',
    says: 'The file was uploaded to the root of the host, {other}; the engine looks for it in the website’s folder: {url}.',
    remedy: 'Please copy the file from {other} into the website’s folder, so that {url} shows it.',
  },
  'file.wrong-name': {
    grade: 'stops',
    says: 'The file stands at {other}: capital and small letters of its name differ from {fileName}.',
    remedy: 'Please copy the file at {other} to exactly {fileName}, so that {url} shows it.',
  },
  'file.double-ending': {
    grade: 'stops',
    says: 'The file stands at {other}: its name got another ending than {fileName} has.',
    remedy: 'Please copy the file at {other} to exactly {fileName}, so that {url} shows it.',
  },
  'file.compressed': {
    grade: 'note',
    says: 'The file at {url} is sent compressed, which is harmless.',
    remedy: '',
  },
  'file.download': {
    grade: 'note',
    says: 'The file at {url} is sent as a download, which is harmless.',
    remedy: '',
  },
  'file.stale-copy': {
    grade: 'stops',
    says: 'The file is there, but a cache still hands out an old answer for {url} (kept until {until}).',
    remedy: 'Please empty the cache for {url}: what it hands out is older than the file.',
  },
  'file.going-stale': {
    grade: 'harms',
    says: 'A cached copy of {url} is still right, but the file behind it is not: it is gone when the copy is ({until}).',
    remedy: UPLOAD,
  },
} as const satisfies Record<string, CatalogueEntry>;
