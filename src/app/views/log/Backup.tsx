import { useState } from 'react';
import { Button } from '../../parts/Button';
import { sinceTime } from '../../parts/format';
import { saveFile } from '../../parts/saveFile';
import { REMIND_ENTRIES, useBackup, useSpace } from '../../world/backup';
import { useNow } from '../../world/now';
import { useWorld } from '../../world/world';
import { MINUTE, counted } from '../../../core/base';

const megabytes = (bytes: number | undefined) => (bytes === undefined ? '?' : `${(bytes / 1e6).toFixed(0)} MB`);

/** The copy outside the browser: when it was made, how much is newer, where to it goes. @param stem how a file is called */
export function Backup({ stem }: { stem: string }) {
  const { zone, lasting, world } = useWorld();
  const now = useNow(MINUTE);
  const { last, failed, unsaved, folder, found, canChoose, choose, intoFolder, download, bringBack, beginNew } =
    useBackup();
  const space = useSpace();
  const [message, say] = useState('');
  const tell = (done: Promise<string>) => void done.then(say);
  return (
    <section aria-label="Backup" className="mb-4 border-y border-line py-3 text-sm">
      <p>
        {last
          ? `Last backup ${sinceTime(last.atMs, now, zone)}${last.folder ? `, in ${last.folder}` : ''}. ${counted(unsaved, 'entry is', 'entries are')} newer.`
          : 'There is no backup yet. If this browser is cleared, everything is lost.'}
        {unsaved >= REMIND_ENTRIES && <b> Back up now.</b>}
      </p>
      {failed && (
        <p role="alert" className="pt-1 text-rust">
          The last one failed. {failed}
        </p>
      )}
      {found && (
        <div role="group" aria-label="A backup was found" className="mt-2 rounded-md border border-ink2 bg-sheet p-3">
          <p>
            Here is a backup of {found.entries} entries ({found.file.name}). {found.missing} of them are not in this
            log. Bring it back, or keep it and begin a new one?
          </p>
          <div className="flex flex-wrap gap-2 pt-2">
            <Button strong onClick={() => tell(bringBack(found))}>
              Bring it back
            </Button>
            <Button onClick={() => tell(beginNew(found))}>Keep it and begin a new one</Button>
          </div>
        </div>
      )}
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
