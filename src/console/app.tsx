import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, type ReactNode } from 'react';
import { Link, Route, Routes } from 'react-router';
import { api, followChanges, isSignedOut, sayError } from './api.js';
import { Notice } from './parts/notice.js';
import { Shell } from './parts/shell.js';
import { JournalPage } from './pages/journal.js';
import { MorningPage } from './pages/morning.js';
import { NextPage } from './pages/next.js';
import { SignInPage } from './pages/sign-in.js';
import { YardPage } from './pages/yard.js';

/** Loaded when it is first opened. */
const SitemapPages = lazy(() =>
  import('./pages/sitemaps/pages.js').then((module) => ({ default: module.SitemapPages })),
);

const WatchPage = lazy(() => import('./pages/watch.js').then((module) => ({ default: module.WatchPage })));
const CasesPage = lazy(() => import('./pages/cases.js').then((module) => ({ default: module.CasesPage })));
const TellingPage = lazy(() =>
  import('./pages/telling.js').then((module) => ({ default: module.TellingPage })),
);
const EnginesPage = lazy(() =>
  import('./pages/engines/page.js').then((module) => ({ default: module.EnginesPage })),
);
const ArchivePage = lazy(() =>
  import('./pages/archive.js').then((module) => ({ default: module.ArchivePage })),
);
const PropertyPage = lazy(() =>
  import('./pages/property.js').then((module) => ({ default: module.PropertyPage })),
);

function Later({ children }: { children: ReactNode }) {
  return <Suspense fallback={<p className="waiting text-faint">Opening the page …</p>}>{children}</Suspense>;
}

/** Everything behind the sign-in. */
export function App() {
  const session = useQuery({ queryKey: ['session'], queryFn: () => api.whoAmI(), retry: false });
  const isIn = session.data !== undefined;
  useEffect(() => (isIn ? followChanges() : undefined), [isIn]);
  if (session.isPending) return <p className="waiting p-6 text-faint">Opening the yard book …</p>;
  if (session.error) {
    if (isSignedOut(session.error)) return <SignInPage />;
    return (
      <main className="p-6">
        <Notice kind="stops">{sayError(session.error)}</Notice>
      </main>
    );
  }
  const { person } = session.data;
  return (
    <Shell person={person}>
      <Routes>
        <Route path="/" element={<YardPage person={person} />} />
        <Route path="/morning" element={<MorningPage person={person} />} />
        <Route path="/next" element={<NextPage person={person} />} />
        <Route
          path="/sitemaps"
          element={
            <Later>
              <SitemapPages person={person} which="all" />
            </Later>
          }
        />
        <Route
          path="/sitemaps/:id"
          element={
            <Later>
              <SitemapPages person={person} which="one" />
            </Later>
          }
        />
        {(['inside', 'plain'] as const).map((which) => (
          <Route
            key={which}
            path={`/sitemaps/:id/${which}`}
            element={
              <Later>
                <SitemapPages person={person} which={which} />
              </Later>
            }
          />
        ))}
        <Route
          path="/engines"
          element={
            <Later>
              <EnginesPage person={person} />
            </Later>
          }
        />
        <Route
          path="/watch"
          element={
            <Later>
              <WatchPage person={person} />
            </Later>
          }
        />
        <Route
          path="/cases"
          element={
            <Later>
              <CasesPage person={person} />
            </Later>
          }
        />
        <Route
          path="/telling"
          element={
            <Later>
              <TellingPage person={person} />
            </Later>
          }
        />
        <Route
          path="/archive"
          element={
            <Later>
              <ArchivePage person={person} />
            </Later>
          }
        />
        <Route path="/journal" element={<JournalPage />} />
        <Route
          path="/properties/:handle"
          element={
            <Later>
              <PropertyPage person={person} />
            </Later>
          }
        />
        <Route
          path="*"
          element={
            <Notice kind="note">
              This page does not exist. <Link to="/">Go to the yard</Link>.
            </Notice>
          }
        />
      </Routes>
    </Shell>
  );
}
