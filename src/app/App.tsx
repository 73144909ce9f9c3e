import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate, Route, Routes, useParams } from 'react-router';
import { Boundary } from './shell/Boundary';
import { DemoStrip } from './shell/DemoStrip';
import { Header } from './shell/Header';
import { InstrumentFrame } from './shell/InstrumentFrame';
import { NewVersion } from './shell/NewVersion';
import { Notices } from './shell/Notices';
import { PLACES, VIEWS, viewsAt } from './shell/views';
import { ViewScreen } from './shell/ViewScreen';
import { ViewTabs } from './shell/ViewTabs';
import { AutoBackup } from './world/backup';
import type { Means } from './world/means';
import { WorldProvider } from './world/world';
import type { StoreName } from './store/database';

/** The view that the address names, in its frame. */
function Place({ world, offline }: { world: StoreName; offline: boolean }) {
  const { view: path } = useParams();
  const view = VIEWS.find((v) => v.path === path);
  const base = world === 'demo' ? '/demo' : '';
  if (!view) return <Navigate to={`${base}/bench`} replace />;
  return (
    <div className="flex h-full flex-col max-sm:h-auto max-sm:min-h-full short:h-auto short:min-h-full print:block print:h-auto">
      <AutoBackup />
      <Header view={view} />
      {offline && <NewVersion />}
      <Notices />
      <main className="flex min-h-0 flex-1 flex-col">
        {view.of === 'instrument' ? (
          <InstrumentFrame view={view} />
        ) : (
          <>
            <title>{`${view.title} · Slow Anchor`}</title>
            <ViewTabs
              label={PLACES[view.place]}
              tabs={viewsAt(view.place).map((v) => ({ title: v.title, to: `${base}/${v.path}` }))}
            />
            <ViewScreen view={view} />
          </>
        )}
      </main>
      <DemoStrip className="sm:hidden" />
    </div>
  );
}

interface Props {
  /** Its own files are kept on the device. */
  offline?: boolean;
  /** What the worlds are made of, where it is not the browser's. */
  means?: (world: StoreName) => Means;
}

/** The whole app, under a router. */
export function App({ offline = false, means }: Props) {
  const [client] = useState(
    () =>
      new QueryClient({
        // Everything is on this device: no network decides whether a query runs.
        defaultOptions: {
          queries: { networkMode: 'always', retry: false, refetchOnWindowFocus: false, staleTime: Infinity },
        },
      }),
  );
  const inWorld = (world: StoreName) => (
    <Boundary key={world} world={world} place={world}>
      <WorldProvider key={world} world={world} means={means?.(world)}>
        <Place world={world} offline={offline} />
      </WorldProvider>
    </Boundary>
  );
  return (
    <QueryClientProvider client={client}>
      <Routes>
        {/* An instrument's view has its id behind it, and some a string's. */}
        <Route path="/demo/:view?/:instrumentId?/:stringId?" element={inWorld('demo')} />
        <Route path="/:view?/:instrumentId?/:stringId?" element={inWorld('own')} />
        <Route path="*" element={<Navigate to="/bench" replace />} />
      </Routes>
    </QueryClientProvider>
  );
}
