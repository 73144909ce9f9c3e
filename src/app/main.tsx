import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes, useLocation } from 'react-router';
import { Boundary } from './shell/Boundary';
import { Header } from './shell/Header';
import type { World } from './database/database';
import { WorldProvider } from './store/world';
import './styles.css';
import { BenchView } from './views/bench/BenchView';
import { FittingView } from './views/fitting/FittingView';
import { InstrumentView } from './views/instrument/InstrumentView';
import { LogView } from './views/log/LogView';
import { OctaveView } from './views/octave/OctaveView';
import { PlanView } from './views/plan/PlanView';
import { SettlingView } from './views/settling/SettlingView';
import { TrialView } from './views/trial/TrialView';
import { SetView } from './views/set/SetView';

const client = new QueryClient({
  // Everything is on this device: no network decides whether a query runs.
  defaultOptions: {
    queries: { networkMode: 'always', retry: false, refetchOnWindowFocus: false, staleTime: Infinity },
  },
});

function Place({ world }: { world: World }) {
  const { pathname } = useLocation();
  return (
    <Boundary world={world} place={world}>
      <WorldProvider key={world} world={world}>
        <div className="flex h-full flex-col max-sm:h-auto max-sm:min-h-full">
          <Header />
          <main className="flex min-h-0 flex-1 flex-col">
            <Boundary world={world} place={pathname}>
              <Routes>
                <Route path="bench/:instrumentId?" element={<BenchView />} />
                <Route path="instrument/:instrumentId?" element={<InstrumentView />} />
                <Route path="set/:instrumentId?" element={<SetView />} />
                <Route path="fitting/:instrumentId/:stringId?" element={<FittingView />} />
                <Route path="settling/:instrumentId?" element={<SettlingView />} />
                <Route path="trial" element={<TrialView />} />
                <Route path="octave/:instrumentId?" element={<OctaveView />} />
                <Route path="plan" element={<PlanView />} />
                <Route path="log" element={<LogView />} />
                <Route path="*" element={<Navigate to={world === 'demo' ? '/demo/bench' : '/bench'} replace />} />
              </Routes>
            </Boundary>
          </main>
        </div>
      </WorldProvider>
    </Boundary>
  );
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <Routes>
          <Route path="/demo/*" element={<Place world="demo" />} />
          <Route path="/*" element={<Place world="own" />} />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);

// Keeps the app's own files on the device, for places without a network; the records are there anyway.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  navigator.serviceWorker
    .register('/sw.js')
    .catch((error: unknown) => console.warn('No offline copy was kept.', error));
}
