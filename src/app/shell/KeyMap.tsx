import { Keyboard } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Modal } from '../parts/Modal';

const KEYS: [string, string][] = [
  ['Space', 'Listen, pause'],
  ['Enter, Page Down', 'Start the pass; take what sounds; yes to a question'],
  ['N, →', 'Next string, without this one'],
  ['Page Up', 'Back to the string before'],
  ['1 to 9, 0', 'Choose a string; with more than ten, two digits within a second'],
  ['Z', 'Take back the last kept reading'],
  ['T', 'Sound the target'],
  ['K', 'Type a figure from another device'],
  ['I', 'It is the named string after all'],
  ['F', 'Fit a new string here, step by step'],
  ['S, N', 'While fitting: skip the step, write a note'],
  ['S, R', 'On the octaves: next string, the place once more'],
  ['M, Q', 'On the octaves: moved as told; three plucks a place'],
  ['E, C', 'On the plan: the show; the chime'],
  ['?', 'This map'],
];
const SIMULATED: [string, string][] = [
  ['P, Shift P', 'Pluck, pluck hard (simulated)'],
  ['↑ ↓, with Shift', 'Turn the tuner a little, more (simulated)'],
];

/** The key map, opened with '?'. */
export function KeyMap({ simulated }: { simulated: boolean }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === '?' && !(e.target as HTMLElement).closest('input, textarea, select')) setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <button
        type="button"
        aria-label="Keys"
        className="rounded-md border border-line p-2"
        onClick={() => setOpen(true)}
      >
        <Keyboard size={16} aria-hidden />
      </button>
      <Modal open={open} title="Keys, and the pedal’s" onClose={() => setOpen(false)}>
        <dl className="grid grid-cols-[9rem_1fr] gap-y-2 text-sm">
          {[...KEYS, ...(simulated ? SIMULATED : [])].map(([key, what]) => (
            <div key={key} className="contents">
              <dt className="figure font-bold">{key}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Modal>
    </>
  );
}
