import { useEffect, useState } from 'react';
import { useInUse } from '../guided/inUse';

/** Keeps the app's own files on the device, for places without a network, and tells when a newer version lies ready. */
export function NewVersion() {
  const [ready, setReady] = useState<ServiceWorker | undefined>(undefined);
  const busy = useInUse();
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    const workers = navigator.serviceWorker;
    const watch = (registration: ServiceWorkerRegistration) => {
      // One that waits beside one in use is newer; the first of all waits for nobody.
      const look = () => workers.controller && registration.waiting && setReady(registration.waiting);
      look();
      registration.addEventListener('updatefound', () =>
        registration.installing?.addEventListener('statechange', look),
      );
    };
    workers.register('/sw.js').then(watch, (error: unknown) => console.warn('No offline copy was kept.', error));
  }, []);
  if (!ready) return null;
  const take = () => {
    navigator.serviceWorker.addEventListener('controllerchange', () => window.location.reload(), { once: true });
    ready.postMessage({ type: 'SKIP_WAITING' });
  };
  return (
    <p role="status" className="flex h-7 items-center gap-3 bg-land px-5 text-sm print:hidden">
      A new version is ready. {busy ? 'Reload when you have finished.' : 'Reload when you like.'}
      {!busy && (
        <button type="button" className="underline underline-offset-4" onClick={take}>
          Reload
        </button>
      )}
    </p>
  );
}
