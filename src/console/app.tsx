import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Link, Outlet, Route, Routes, useLocation } from 'react-router';
import { api, followChanges, isSignedOut, sayError } from './api.js';
import { Broken } from './parts/broken.js';
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
const AlertsPage = lazy(() => import('./pages/alerts.js').then((module) => ({ default: module.AlertsPage })));
const NotificationsPage = lazy(() =>
  import('./pages/notifications.js').then((module) => ({ default: module.NotificationsPage })),
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

/** Pages that are loaded when they are opened. */
function Later() {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
      <Suspense fallback={<p className="waiting text-faint">Opening the page …</p>}>
        <Outlet />
      </Suspense>
    </ErrorBoundary>
  );
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
        <Route element={<Later />}>
          <Route path="/" element={<YardPage person={person} />} />
          <Route path="/morning" element={<MorningPage person={person} />} />
          <Route path="/next" element={<NextPage person={person} />} />
          <Route path="/sitemaps" element={<SitemapPages person={person} which="all" />} />
          <Route path="/sitemaps/:id" element={<SitemapPages person={person} which="one" />} />
          {(['contents', 'plain'] as const).map((which) => (
            <Route
              key={which}
              path={`/sitemaps/:id/${which}`}
              element={<SitemapPages person={person} which={which} />}
            />
          ))}
          <Route path="/engines" element={<EnginesPage person={person} />} />
          <Route path="/watch" element={<WatchPage person={person} />} />
          <Route path="/alerts" element={<AlertsPage person={person} />} />
          <Route path="/notifications" element={<NotificationsPage person={person} />} />
          <Route path="/archive" element={<ArchivePage person={person} />} />
          <Route path="/journal" element={<JournalPage />} />
          <Route path="/properties/:handle" element={<PropertyPage person={person} />} />
          <Route
            path="*"
            element={
              <Notice kind="note">
                This page does not exist. <Link to="/">Go to the yard</Link>.
              </Notice>
            }
          />
        </Route>
      </Routes>
    </Shell>
  );
}
