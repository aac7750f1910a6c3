import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** A plain generator of pages from Debian's packages. It makes pages and feeds, and nothing else is asked of it. */
const GENERATOR = '/usr/bin/pelican';

/** How its pages are laid out: as it does by itself, or in folders with `page/N/` for lists. */
export type Layout = 'flat' | 'folders';

export const isGeneratorThere = (): boolean => existsSync(GENERATOR);

const WORDS =
  'anchor ballast bowline capstan dinghy ebb fathom galley halyard islet jetty keel lagoon mooring narrows oar pontoon quay rudder slack thwart upstream vessel wharf yawl'.split(
    ' ',
  );
const word = (at: number): string => WORDS[at % WORDS.length] ?? '';
const IN_FOLDERS = `ARTICLE_URL = 'posts/{slug}/'
ARTICLE_SAVE_AS = 'posts/{slug}/index.html'
CATEGORY_URL = 'about/{slug}/'
CATEGORY_SAVE_AS = 'about/{slug}/index.html'
TAG_URL = 'of/{slug}/'
TAG_SAVE_AS = 'of/{slug}/index.html'
PAGINATION_PATTERNS = ((1, '{base_name}/', '{base_name}/index.html'), (2, '{base_name}/page/{number}/', '{base_name}/page/{number}/index.html'))
`;

/** Makes a log of so many posts, with lists by category, tag and month. @returns the folder of its pages */
export function generateLog(home: string, origin: string, posts: number, layout: Layout): string {
  const content = join(home, 'content');
  const output = join(home, 'www');
  mkdirSync(content, { recursive: true });
  for (let at = 0; at < posts; at += 1) {
    const day = new Date(Date.UTC(2019, 0, 1 + at)).toISOString().slice(0, 10);
    const body = Array.from({ length: 60 }, (_, nth) => word(at * 7 + nth * (1 + (at % 5)))).join(' ');
    writeFileSync(
      join(content, `post-${String(at)}.md`),
      `Title: ${word(at)} and ${word(at * 11 + 3)}, ${String(at)}\nDate: ${day}\nCategory: ${word(at % 6)}\nTags: ${word(6 + (at % 9))}\nSlug: ${word(at)}-${String(at)}\n\n${body}\n`,
    );
  }
  const settings = join(home, 'settings.py');
  writeFileSync(
    settings,
    `AUTHOR = 'Marit'\nSITENAME = 'Log of the quay'\nSITEURL = '${origin}'\nPATH = '${content}'\nTIMEZONE = 'UTC'\nDEFAULT_LANG = 'en'\nDEFAULT_PAGINATION = 10\nCATEGORY_FEED_ATOM = None\nTRANSLATION_FEED_ATOM = None\nAUTHOR_FEED_ATOM = None\nAUTHOR_FEED_RSS = None\nFEED_ALL_ATOM = 'all.atom.xml'\n${layout === 'folders' ? IN_FOLDERS : ''}`,
  );
  execFileSync(GENERATOR, [content, '-o', output, '-s', settings, '-q'], { stdio: 'ignore' });
  return output;
}
