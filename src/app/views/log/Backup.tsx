import { useState } from 'react';
import { Button } from '../../parts/Button';
import { sinceTime } from '../../parts/format';
import { saveFile } from '../../parts/saveFile';
import { REMIND_ENTRIES, useBackup, useSpace } from '../../world/backup';
import { useNow } from '../../world/now';
import { useWorld } from '../../world/world';

const megabytes = (bytes: number | undefined) => (bytes === undefined ? '?' : `${(bytes / 1e6).toFixed(0)} MB`);

/** The copy outside the browser: when it was made, how much is newer, where to it goes. @param stem how a file is called */
export function Backup({ stem }: { stem: string }) {
  const { zone, lasting, world } = useWorld();
  const now = useNow(60000);
  const { last, unsaved, folder, canChoose, choose, intoFolder, download } = useBackup();
  const space = useSpace();
  const [message, say] = useState('');
  const tell = (done: Promise<string>) => void done.then(say);
  return (
    <section aria-label="Backup" className="mb-4 border-y border-line py-3 text-sm">
      <p>
        {last
          ? `Last backup ${sinceTime(last.atMs, now, zone)}${last.folder ? `, in ${last.folder}` : ''}. ${unsaved} entries are newer.`
          : 'There is no backup yet. If this browser is cleared, everything is lost.'}
        {unsaved >= REMIND_ENTRIES && <b> Back up now.</b>}
      </p>
      <div className="flex flex-wrap items-center gap-2 pt-2">
        <Button strong={unsaved >= REMIND_ENTRIES} onClick={() => tell(download(`${stem}-backup.json`, saveFile))}>
          Save a backup file
        </Button>
        {canChoose && (
          <Button onClick={() => tell(choose())}>
            {folder ? `Another folder than ${folder.name}` : 'Back up to a folder by itself'}
          </Button>
        )}
        {folder && <Button onClick={() => tell(intoFolder(folder))}>Write to {folder.name} now</Button>}
        <span role="status" data-testid="backup-message">
          {message}
        </span>
      </div>
      <p className="pt-2 text-xs text-ink2">
        {space?.usage !== undefined && `${megabytes(space.usage)} used of ${megabytes(space.quota)}. `}
        {world === 'own' &&
          (lasting
            ? 'The browser has promised to keep it.'
            : 'The browser has not promised to keep it when room runs short.')}
      </p>
    </section>
  );
}
