import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import './styles.css';
import { App } from './app';

const queries = new QueryClient({
  // The server may be on the boat: that there is no network says nothing about it.
  defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false, networkMode: 'always' } },
});

// Opens without a server from now on. Another version waits until this page is closed.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  const first = !navigator.serviceWorker.controller;
  // What was read before it was there is read once more, so that it is kept: also what no view shows now.
  navigator.serviceWorker.addEventListener('controllerchange', () => first && void queries.invalidateQueries({ refetchType: 'all' }));
  void navigator.serviceWorker.register('/service-worker.js').catch(() => undefined);
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* At once, not as a transition: two choices in a row must not be written from the same old address. */}
      <BrowserRouter useTransitions={false}>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
