import { Button } from '../../parts/Button';
import { Modal } from '../../parts/Modal';

interface Props {
  asks: 'skip' | 'note' | undefined;
  onClose: () => void;
  onKeep: (text: string) => void;
}

/** Why a step is skipped, or a note to it. */
export function NoteSheet({ asks, onClose, onKeep }: Props) {
  return (
    <Modal
      open={asks !== undefined}
      title={asks === 'skip' ? 'Skip this step' : 'A note to this step'}
      onClose={onClose}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onKeep(String(new FormData(e.currentTarget).get('text') ?? '').trim());
        }}
      >
        <label className="text-sm font-semibold">
          {asks === 'skip' ? 'Why (you can leave this empty)' : 'What to remember next time'}
          <input
            name="text"
            maxLength={400}
            autoFocus
            className="mt-1 w-full rounded-md border border-ink2 bg-sheet px-2 py-1"
          />
        </label>
        <div className="flex gap-2 pt-4">
          <Button strong type="submit">
            {asks === 'skip' ? 'Skip it' : 'Save the note'}
          </Button>
          <Button onClick={onClose}>Back to the step</Button>
        </div>
      </form>
    </Modal>
  );
}
