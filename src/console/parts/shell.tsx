import { useState, type ReactNode } from 'react';
import { NavLink } from 'react-router';
import type { Person } from '../../api/documents.js';
import { api, queries } from '../api.js';
import { keepTheme, readTheme, type Theme } from '../theme.js';
import { Button } from './button.js';

const PAGES = [
  { to: '/morning', title: 'Morning' },
  { to: '/', title: 'Yard' },
  { to: '/next', title: 'Next steps' },
  { to: '/sitemaps', title: 'Sitemaps' },
  { to: '/engines', title: 'Engines' },
  { to: '/watch', title: 'Watch' },
  { to: '/notifications', title: 'Notifications' },
  { to: '/journal', title: 'Journal' },
];

async function signOut(): Promise<void> {
  await api.signOut();
  queries.clear();
  location.assign('/');
}

function ThemeButton() {
  const [theme, setTheme] = useState<Theme>(readTheme);
  const other: Theme = theme === 'light' ? 'dark' : 'light';
  const change = () => {
    keepTheme(other);
    setTheme(other);
  };
  return (
    <Button onClick={change} aria-label={`Use the ${other} colours`}>
      {other === 'dark' ? 'Dark' : 'Light'}
    </Button>
  );
}

/** What stands around every page: the book's spine with its pages, and who is reading. */
export function Shell({ person, children }: { person: Person; children: ReactNode }) {
  return (
    <>
      <a href="#page" className="sr-only focus:not-sr-only focus:absolute focus:bg-sheet focus:p-2">
        To the page
      </a>
      <header className="border-b-2 border-ink bg-sheet print:hidden">
        <div className="mx-auto flex max-w-7xl flex-wrap items-center gap-x-6 gap-y-1 px-4 py-2">
          <span className="font-slab text-lg">Yard Badge</span>
          <nav aria-label="Pages" className="flex flex-wrap gap-x-4">
            {PAGES.map(({ to, title }) => (
              <NavLink
                key={to}
                to={to}
                end
                className={({ isActive }) =>
                  `py-1 no-underline ${isActive ? 'border-b-2 border-accent font-semibold text-ink' : 'text-accent'}`
                }
              >
                {title}
              </NavLink>
            ))}
          </nav>
          <div className="ml-auto flex items-center gap-2 text-sm">
            <span className="text-faint">
              {person.name}, {person.role}
            </span>
            <ThemeButton />
            <Button onClick={() => void signOut()}>Sign out</Button>
          </div>
        </div>
      </header>
      <main id="page" tabIndex={-1} className="mx-auto max-w-7xl px-4 py-4 outline-none">
        {children}
      </main>
    </>
  );
}
