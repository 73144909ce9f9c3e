import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes, useParams } from 'react-router';
import type { World } from './database/database';
import { Boundary } from './shell/Boundary';
import { DemoStrip } from './shell/DemoStrip';
import { Header } from './shell/Header';
import { InstrumentFrame } from './shell/InstrumentFrame';
import { NewVersion } from './shell/NewVersion';
import { VIEWS } from './shell/views';
import { ViewScreen } from './shell/ViewScreen';
import { WorldProvider } from './world/world';
import './styles.css';

const client = new QueryClient({
  // Everything is on this device: no network decides whether a query runs.
  defaultOptions: {
    queries: { networkMode: 'always', retry: false, refetchOnWindowFocus: false, staleTime: Infinity },
  },
});

/** The view that the address names, in its frame. */
function Place({ world }: { world: World }) {
  const { view: path } = useParams();
  const view = VIEWS.find((v) => v.path === path);
  if (!view) return <Navigate to={world === 'demo' ? '/demo/bench' : '/bench'} replace />;
  return (
    <div className="flex h-full flex-col max-sm:h-auto max-sm:min-h-full print:block print:h-auto">
      <Header view={view} />
      <NewVersion />
      <main className="flex min-h-0 flex-1 flex-col">
        {view.of === 'instrument' ? (
          <InstrumentFrame view={view} />
        ) : (
          <>
            <title>{`${view.title} · Slow Anchor`}</title>
            <ViewScreen view={view} />
          </>
        )}
      </main>
      <DemoStrip className="sm:hidden" />
    </div>
  );
}

const inWorld = (world: World) => (
  <Boundary key={world} world={world} place={world}>
    <WorldProvider key={world} world={world}>
      <Place world={world} />
    </WorldProvider>
  </Boundary>
);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <Routes>
          {/* An instrument's view has its id behind it, and some a string's. */}
          <Route path="/demo/:view?/:instrumentId?/:stringId?" element={inWorld('demo')} />
          <Route path="/:view?/:instrumentId?/:stringId?" element={inWorld('own')} />
          <Route path="*" element={<Navigate to="/bench" replace />} />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
