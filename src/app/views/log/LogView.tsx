import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { localDay, progressWords } from '../../../core/base';
import { describedIn } from '../../../core/log';
import { Button } from '../../parts/Button';
import { FileInput } from '../../parts/FileInput';
import { FirstStep, LogSketch } from '../../parts/FirstStep';
import { saveFile } from '../../parts/saveFile';
import { useWorld } from '../../world/world';
import { Backup } from './Backup';
import { Entries } from './Entries';
import { asideFile, asideWords } from './aside';
import { reasonOf } from '../../store/database';

/** The browser's own types do not have it yet. */
interface LaunchQueue {
  setConsumer(take: (params: { files: readonly FileSystemFileHandle[] }) => void): void;
}

/** So many instruments or entries are named of an import. */
const NAMED = 3;
const some = (names: readonly string[]): string =>
  names.slice(0, NAMED).join(', ') + (names.length > NAMED ? ` and ${names.length - NAMED} more` : '');

/** Every record, newest first, with export and import. */
export function LogView() {
  const { count, ask, basePath, nowMs, world, damaged, bench, importFile } = useWorld();
  const [, setParams] = useSearchParams();
  const [message, setMessage] = useState('');
  /** Something that came was corrected differently here. */
  const [differs, setDiffers] = useState(false);
  /** The file being taken in, and how far it is. */
  const [taking, setTaking] = useState<{ name: string; done: number; call: AbortController } | undefined>(undefined);
  const input = useRef<HTMLInputElement>(null);
  const latest = useRef<(file: File) => Promise<void>>(take);
  useEffect(() => {
    latest.current = take;
  });
  const stem = `slow-anchor-${world === 'demo' ? 'demonstration-' : ''}${localDay(nowMs(), 0)}`;

  async function take(file: File) {
    const call = new AbortController();
    setMessage('');
    setDiffers(false);
    setTaking({ name: file.name, done: 0, call });
    const onProgress = (done: number) => setTaking((t) => t && { ...t, done });
    try {
      const became = await importFile(file, { signal: call.signal, onProgress });
      if (!became.ok) setMessage(`${file.name}: ${became.message}`);
      else {
        const { fresh, known, gone, strangers, about, differ } = became;
        const named = some(about);
        const stray = strangers > 0 ? ` ${strangers} readings belong to instruments that are not here.` : '';
        const of = named ? `, about ${named}` : '';
        const back =
          fresh === 0 && gone > 0 ? ` ${gone} of them no longer count: they were corrected or taken back here.` : '';
        const other =
          differ.length > 0 ? ` Corrected differently on both: ${some(differ)}. The later correction stands.` : '';
        setDiffers(differ.length > 0);
        setMessage(`${file.name}: ${fresh} new entries${of}; ${known} were here already.${back}${stray}${other}`);
      }
    } catch (error) {
      setMessage(
        call.signal.aborted ? `${file.name}: cancelled. Nothing was imported.` : `${file.name}: ${reasonOf(error)}`,
      );
    }
    setTaking(undefined);
  }

  // Opened from the file manager: the file comes with the window.
  useEffect(() => {
    const { launchQueue } = window as unknown as { launchQueue?: LaunchQueue };
    launchQueue?.setConsumer(({ files }) => {
      void files[0]?.getFile().then((file) => void latest.current(file));
    });
  }, []);

  const give = (as: 'json' | 'csv', name: string) =>
    ask('export', { as, nowMs: Math.round(nowMs()), atLeast: count }).then(
      ({ file }) => saveFile(name, file),
      (error: unknown) => setMessage(`No file was written: ${reasonOf(error)}.`),
    );

  return (
    <div className="mx-auto w-full max-w-4xl overflow-y-auto p-6">
      <h1 className="text-2xl font-bold">History</h1>
      <p className="pt-1 text-sm text-ink2">
        Nothing here is ever changed: a correction is a new entry. Everything stays on this device until you export it.
      </p>
      <div className="flex flex-wrap gap-2 py-4">
        <Button strong onClick={() => void give('json', `${stem}.json`)}>
          Export everything (JSON)
        </Button>
        <Button onClick={() => void give('csv', `${stem}-readings.csv`)}>Export readings (CSV)</Button>
        <Button onClick={() => input.current?.click()}>Import a JSON export</Button>
        <FileInput ref={input} accept=".json,application/json" label="JSON export" onFile={(file) => void take(file)} />
      </div>
      <Backup stem={stem} />
      {taking && (
        <p className="flex items-center gap-3 text-sm">
          <span>{progressWords(`${taking.name} is being checked`, taking.done)}</span>
          <progress className="accent-deep" max={1} value={taking.done} aria-label={`Checking ${taking.name}`} />
          <Button onClick={() => taking.call.abort()}>Cancel</Button>
        </p>
      )}
      {damaged.length > 0 && (
        <p role="alert" className="flex flex-wrap items-center gap-3 pb-2 text-sm text-rust">
          {asideWords(damaged, describedIn(bench))}
          <Button onClick={() => saveFile('slow-anchor-set-aside.json', asideFile(damaged), 'application/json')}>
            Export what could not be read
          </Button>
        </p>
      )}
      <p role="status" data-testid="log-message" className="min-h-6 text-sm font-semibold">
        {message}
        {differs && (
          <button
            type="button"
            className="ml-3 font-normal text-deep underline"
            onClick={() => setParams({ differ: '1' })}
          >
            Choose between them
          </button>
        )}
      </p>
      {count === 0 && (
        <FirstStep drawing={<LogSketch />} to={`${basePath}/add`} words="Add an instrument">
          Nothing is here yet. Everything you read, put on or move is listed here with its time. You can also import
          what another device exported.
        </FirstStep>
      )}
      <Entries />
    </div>
  );
}
