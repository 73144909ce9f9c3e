import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Mic, MicOff } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Source } from '../../../core/records';
import { Button } from '../../parts/Button';
import type { TrackPoint } from '../../../core/pitch';
import { listInputs } from '../../sound/sources';

interface Props {
  listening: Source | undefined;
  /** The newest point of the trace, and whether the input was overdriven in the last seconds. */
  point: TrackPoint | undefined;
  clipped: boolean;
  passRunning: boolean;
  stepping: boolean;
  /** The app itself sounds. */
  deaf: boolean;
  demo: boolean;
  onListen: () => void;
  onMicrophone: (deviceId?: string) => void;
  onFile: (file: File) => void;
  onTake: () => void;
  onNext: () => void;
  onStop: () => void;
  onTone: () => void;
  onTakeBack: () => void;
  onType: () => void;
  onInsist: () => void;
  onCheckInput: () => void;
}

const FLOOR_DB = -72;

function sourceName(listening: Source | undefined): string {
  if (listening === 'microphone') return 'input';
  if (listening === 'simulated') return 'simulated';
  return listening === 'file' ? 'file' : 'not listening';
}

/** The bar at the foot: listening, the next step, the other ways to bring a sound or a figure in, the level. */
export function SoundBar(p: Props) {
  const fileInput = useRef<HTMLInputElement>(null);
  const [inputs, setInputs] = useState<{ id: string; name: string }[]>([]);
  const levelDb = p.point?.levelDb ?? null;
  const along = (db: number) => Math.max(0, Math.min(1, (db - FLOOR_DB) / -FLOOR_DB));
  const level = p.listening && levelDb !== null ? along(levelDb) : 0;
  const item = 'block w-full rounded px-3 py-2 text-left text-sm data-focus:bg-paper';
  return (
    <div
      role="toolbar"
      aria-label="Sound"
      className="on-bar flex flex-wrap items-center gap-2 bg-bar px-4 py-3 text-onbar max-sm:sticky max-sm:bottom-0 max-sm:z-10 max-sm:flex-nowrap max-sm:overflow-x-auto max-sm:whitespace-nowrap max-sm:px-2"
    >
      <Button
        onBar
        strong={p.listening !== undefined}
        hint="Space"
        aria-pressed={p.listening !== undefined}
        onClick={p.onListen}
      >
        {p.listening ? <Mic size={16} aria-hidden /> : <MicOff size={16} aria-hidden />}
        {p.listening ? 'Listening' : 'Listen'}
      </Button>
      <Button onBar hint="Enter" strong={!p.stepping} onClick={p.onTake}>
        {p.stepping ? 'Take it' : 'Start a check pass'}
      </Button>
      {p.stepping && (
        <Button onBar hint="N" onClick={p.onNext}>
          Next string
        </Button>
      )}
      {p.passRunning && (
        <Button onBar onClick={p.onStop}>
          Stop the pass
        </Button>
      )}
      <Button onBar hint="T" onClick={p.onTone}>
        Sound the note
      </Button>
      <Button onBar hint="Z" onClick={p.onTakeBack}>
        Take back
      </Button>
      <Menu>
        <MenuButton
          onClick={() => void listInputs().then(setInputs)}
          className="rounded-lg border border-ink2 px-3 py-1.5 text-sm font-medium text-onbar"
        >
          More
        </MenuButton>
        <MenuItems anchor="top start" className="z-20 w-72 rounded-lg border border-line bg-sheet p-1 text-ink">
          <MenuItem>
            <button type="button" className={item} onClick={p.onType}>
              Type a figure from another device
            </button>
          </MenuItem>
          <MenuItem>
            <button type="button" className={item} onClick={() => fileInput.current?.click()}>
              Open a WAV file
            </button>
          </MenuItem>
          <MenuItem>
            <button type="button" className={item} onClick={p.onCheckInput}>
              Check the input
            </button>
          </MenuItem>
          <MenuItem>
            <button type="button" className={item} onClick={p.onInsist}>
              It is the named string after all (I)
            </button>
          </MenuItem>
          {inputs.length === 0 ? (
            <MenuItem>
              <button type="button" className={item} onClick={() => p.onMicrophone()}>
                Listen to the microphone
              </button>
            </MenuItem>
          ) : (
            inputs.map((i) => (
              <MenuItem key={i.id}>
                <button type="button" className={item} onClick={() => p.onMicrophone(i.id)}>
                  Listen to {i.name}
                </button>
              </MenuItem>
            ))
          )}
        </MenuItems>
      </Menu>
      <input
        ref={fileInput}
        type="file"
        accept=".wav,audio/wav,audio/x-wav"
        className="hidden"
        aria-label="WAV file"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) p.onFile(file);
          e.target.value = '';
        }}
      />
      <div className="ml-auto flex items-center gap-3">
        <div
          role="meter"
          aria-label="Input level"
          aria-valuemin={FLOOR_DB}
          aria-valuemax={0}
          aria-valuenow={Math.round(levelDb ?? FLOOR_DB)}
          aria-valuetext={
            p.deaf ? 'not heard: the app sounds itself' : p.clipped ? 'too loud for the input' : undefined
          }
          className="relative h-2 w-40 overflow-hidden rounded bg-ink2/50"
        >
          <div className="h-full bg-onbar" style={{ width: `${(100 * level).toFixed(0)}%` }} />
          {p.listening && p.point && (
            <div
              title="The room"
              className="absolute inset-y-0 w-0.5 bg-deep"
              style={{ left: `${(100 * along(p.point.floorDb)).toFixed(0)}%` }}
            />
          )}
        </div>
        <span className="figure w-36 text-right text-xs">
          {p.deaf ? 'the app sounds itself' : sourceName(p.listening)}
          {p.listening &&
            !p.deaf &&
            levelDb !== null &&
            (p.clipped ? ' too loud' : ` ${levelDb < -99 ? '−∞' : `−${Math.abs(levelDb).toFixed(0)}`} dB`)}
        </span>
      </div>
    </div>
  );
}
