import type { AnswerState } from '../../src/rehearsal/state.js';
import { html, type FileGround } from './ground.js';
import type { Scene } from './scenes.js';
import { STAGE_TIME } from '../support/time.js';

type File = Scene<FileGround>;

/** Something at the very address where the file belongs. */
const there = (what: string, first: File['first'], answer: (ground: FileGround) => AnswerState): File => ({
  what,
  first,
  arrange: (ground) =>
    void ground.answer(ground.placement.path, {
      headers: { 'content-type': 'text/plain' },
      ...answer(ground),
    }),
});

/** The right file, or one that says something else, at some address. */
const said = (what: string, first: File['first'], body: (ground: FileGround) => string): File =>
  there(what, first, (g) => ({ status: 200, body: body(g) }));

const put = (
  what: string,
  first: string,
  path: (ground: FileGround) => string,
  more: Partial<File> = {},
): File => ({
  what,
  first,
  arrange: (ground) =>
    void ground.site({
      files: { [path(ground)]: { content: ground.placement.content, type: 'text/plain' } },
    }),
  ...more,
});

/** At a path of its own, and at one that all who prove by the engine share, so that another’s is not touched. */
const shared = (own: string, other: string) => (g: FileGround) => (g.placement.isOwnPath ? own : other);
const exactly = (loose: string, strict: string) => (ground: FileGround) =>
  ground.placement.compare === 'exact' ? strict : loose;
const bytes = (...pieces: readonly (string | Buffer)[]) =>
  Buffer.concat(pieces.map((piece) => Buffer.from(piece as string))).toString('base64');
const named = (g: FileGround, name: string) => g.placement.path.replace(g.placement.fileName, name);
const otherCase = (g: FileGround) =>
  named(g, g.placement.fileName.charAt(0).toUpperCase() + g.placement.fileName.slice(1));
const isAtRoot = (g: FileGround) => !g.placement.path.startsWith('/.well-known/');
const valueOf = (g: FileGround, token: string) => g.placement.content.replace(g.token, token);
const lead = (g: FileGround, location: string, more: Record<string, AnswerState> = {}) =>
  void g.site({ answers: { [g.placement.path]: { status: 302, headers: { location } }, ...more } });
const follows = (none: string, other: string) => (g: FileGround) =>
  g.placement.redirects === 'none' ? none : other;

export const FILE_SCENES: readonly File[] = [
  said('the file stands', 'file.stands', (g) => g.placement.content),
  there('sent as a page', 'file.stands', (g) => ({
    status: 200,
    body: g.placement.content,
    headers: { 'content-type': 'text/html' },
  })),
  there('sent compressed', 'file.stands', (g) => ({ status: 200, gzip: true, body: g.placement.content })),
  there('sent as a download', 'file.stands', (g) => ({
    status: 200,
    body: g.placement.content,
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': 'attachment; filename="x.txt"',
    },
  })),
  said('a line break at the end', exactly('file.stands', 'file.line-end'), (g) => `${g.placement.content}\n`),
  said(
    'a line break of another system',
    exactly('file.stands', 'file.line-end'),
    (g) => `${g.placement.content}\r\n`,
  ),
  said('spaces before', exactly('file.stands', 'file.not-exact'), (g) => `  ${g.placement.content}`),
  there('a byte order mark', exactly('file.stands', 'file.byte-order-mark'), (g) => ({
    status: 200,
    base64: true,
    body: bytes(Buffer.from([0xef, 0xbb, 0xbf]), g.placement.content),
  })),
  there('in another encoding, with its mark', 'file.encoding', (g) => ({
    status: 200,
    base64: true,
    body: bytes(Buffer.from([0xff, 0xfe]), Buffer.from(g.placement.content, 'utf16le')),
  })),
  there('in another encoding, without a mark', 'file.encoding', (g) => ({
    status: 200,
    base64: true,
    body: bytes(Buffer.from(g.placement.content, 'utf16le')),
  })),
  { what: 'no file', first: 'file.missing', arrange: (g) => void g.site() },
  there('gone', 'file.missing', () => ({ status: 410, body: 'gone' })),
  there('the right words with 404', 'file.missing', (g) => ({ status: 404, body: g.placement.content })),
  {
    what: 'a themed page for everything',
    first: 'file.themed-missing',
    arrange: (g) => void g.answer('*', { status: 200, body: html('', '<h1>Not at this mooring</h1>') }),
  },
  there('a page in its place', 'file.page-instead', () => ({
    status: 200,
    body: html('', '<h1>Welcome</h1>'),
  })),
  there('wrapped in a page', 'file.wrapped', (g) => ({
    status: 200,
    body: html('', `<p>${g.placement.content}</p>`),
  })),
  there('wrapped in a paragraph alone', 'file.wrapped', (g) => ({
    status: 200,
    body: `<p>${g.placement.content}</p>`,
  })),
  said('an empty file', 'file.empty', () => ''),
  said('another engine’s token', shared('file.other-token', 'file.taken'), (g) => valueOf(g, g.foreign)),
  said('an older token of ours', 'file.replaced-token', (g) => valueOf(g, g.old)),
  said('cut short', 'file.cut', (g) => g.placement.content.slice(0, -6)),
  said('in the other case', 'file.case', (g) => g.placement.content.toUpperCase()),
  said('in quotes', 'file.quotes', (g) => `"${g.placement.content}"`),
  said('in curly quotes', 'file.quotes', (g) => `“${g.placement.content}”`),
  said(
    'a character nobody sees',
    'file.invisible',
    (g) => `${g.placement.content.slice(0, 9)}\u00ad${g.placement.content.slice(9)}`,
  ),
  said('more than the value', 'file.extra', (g) => `${g.placement.content} # do not delete`),
  said('two letters wrong', 'file.typo', (g) => `${g.placement.content.slice(0, -2)}zz`),
  said('something else', shared('file.other-value', 'file.taken'), () => 'to do'),
  put(
    'in the folder for well-known files',
    'file.wrong-folder',
    (g) => `/.well-known/${g.placement.fileName}`,
    { fits: isAtRoot },
  ),
  put('at the root', 'file.wrong-folder', (g) => `/${g.placement.fileName}`, { fits: (g) => !isAtRoot(g) }),
  put('in the property’s own folder', 'file.at-folder', (g) => `/shop/${g.placement.fileName}`, {
    at: 'folder',
  }),
  put('in the property’s own folder, at the root besides', 'file.stands', (g) => g.placement.path, {
    at: 'folder',
  }),
  put('with another case in its name', 'file.wrong-name', otherCase),
  put('with its ending twice', 'file.double-ending', (g) =>
    named(g, `${g.placement.fileName}${/\.\w+$/.exec(g.placement.fileName)?.[0] ?? '.txt'}`),
  ),
  put('saved as a page', 'file.double-ending', (g) => named(g, `${g.placement.fileName}.html`)),
  {
    what: 'redirects to the home page',
    first: follows('reach.redirected', 'file.to-home'),
    arrange: (g) => {
      lead(g, '/');
    },
  },
  {
    what: 'redirects to a sign-in',
    first: follows('reach.redirected', 'file.to-sign-in'),
    arrange: (g) => {
      lead(g, '/login?next=x', { '/login': { status: 200, body: html('', '<input type="password">') } });
    },
  },
  {
    what: 'redirects to the file on the same host',
    first: follows('reach.redirected', 'file.stands'),
    arrange: (g) => {
      lead(g, '/files/token', { '/files/token': { status: 200, body: g.placement.content } });
    },
  },
  {
    what: 'redirects to the file on www',
    first: follows('reach.redirected', 'reach.off-host'),
    arrange: (g) => {
      const at = `www.${g.bare}`;
      g.site({
        aliases: [],
        answers: {
          [g.placement.path]: { status: 301, headers: { location: `https://${at}${g.placement.path}` } },
        },
      });
      g.state.sites.push({
        ...g.site(),
        host: at,
        aliases: [],
        answers: { [g.placement.path]: { status: 200, body: g.placement.content } },
      });
      g.state.sites.splice(-2, 1);
    },
  },
  there('behind a sign-in', 'reach.denied', () => ({ status: 401, body: 'who are you' })),
  there('forbidden', 'reach.denied', () => ({ status: 403, body: 'no' })),
  there('the server has an error', 'reach.server-error', () => ({ status: 500, body: 'oops' })),
  {
    what: 'a cache that still says there is none',
    first: 'file.stale-copy',
    arrange: (g) => {
      const copy = {
        path: g.placement.path,
        status: 404,
        html: 'none',
        at: STAGE_TIME.toISOString(),
        seconds: 900,
      };
      g.site({ copy, files: { [g.placement.path]: { content: g.placement.content, type: 'text/plain' } } });
    },
  },
  {
    what: 'only a cache still has it',
    first: 'file.going-stale',
    arrange: (g) => {
      const { path, content: html } = g.placement;
      g.site({ copy: { path, html, at: STAGE_TIME.toISOString(), seconds: 900 } });
    },
  },
  {
    what: 'an expired certificate',
    first: 'reach.tls-expired',
    arrange: (g) =>
      void g.site({
        certificate: 'expired',
        files: { [g.placement.path]: { content: g.placement.content, type: 'text/plain' } },
      }),
  },
];
