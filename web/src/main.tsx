import { QueryClient, QueryClientProvider, type FetchQueryOptions } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { unstable_HistoryRouter as HistoryRouter } from 'react-router';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import './styles.css';
import { ApiError } from './api/client';
import { chartQuery, logbookQuery, logQuery, tripsQuery, waterQuery, watersQuery } from './api/queries';
import { pageHistory } from './parts/dialog-history';
import { wordsLoaded } from './state/language';
import { views } from './views/load';

/** A server that is busy or just coming up is asked for longer than one that is not there. */
const again = (failures: number, error: Error): boolean => failures < (error instanceof ApiError && error.status === 503 ? 5 : 1);

/** After the page is there, ms. */
const AFTER_MS = 3000;

const queries = new QueryClient({
  // The server may be on the boat: that there is no network says nothing about it.
  defaultOptions: { queries: { staleTime: 30_000, retry: again, refetchOnWindowFocus: false, networkMode: 'always' } },
});

// Opens without a server from now on. Another version waits until this page is closed.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  const first = !navigator.serviceWorker.controller;
  // What was read before it was there is read once more, so that it is kept: also what no view shows now.
  navigator.serviceWorker.addEventListener('controllerchange', () => first && void queries.invalidateQueries({ refetchType: 'all' }));
  // What is seen first does not wait for it: it fetches all that there is.
  const register = (): void => void navigator.serviceWorker.register('/service-worker.js').catch(() => undefined);
  if (first) addEventListener('load', () => setTimeout(register, AFTER_MS));
  else register();
}

// The code of the view and what it shows are fetched side by side, not one after the other.
const water = localStorage.getItem('water');
const view = location.pathname.split('/')[1];
void queries.prefetchQuery(watersQuery);
if (view === 'logbook') void queries.prefetchQuery(tripsQuery);
if (water) {
  const first = [waterQuery(water), chartQuery(water), logQuery(water), ...(view === 'patterns' ? [logbookQuery(water)] : [])];
  for (const query of first) void queries.prefetchQuery(query as FetchQueryOptions);
}
await wordsLoaded;
void views[view as keyof typeof views]?.();
const { App } = await import('./app');

const pages = pageHistory();
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* At once, not as a transition: two choices in a row must not be written from the same old address. */}
      <HistoryRouter history={pages} useTransitions={false}>
        <App />
      </HistoryRouter>
    </QueryClientProvider>
  </StrictMode>,
);
