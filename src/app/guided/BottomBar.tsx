import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import clsx from 'clsx';
import { Mic, MicOff } from 'lucide-react';
import { useRef, useState } from 'react';
import { Button } from '../parts/Button';
import { FileInput } from '../parts/FileInput';
import { Modal } from '../parts/Modal';
import { listInputs } from '../sound/sources';
import { InputSheet } from './InputSheet';
import { TypedFigure } from './TypedFigure';
import { Meter } from './Meter';
import { useMoment, type Trace } from './trace';
import type { Listening } from './useListening';

/** What you can do now, with its key. */
export interface BarAction {
  words: string;
  hint?: string;
  on: () => void;
  strong?: boolean;
  disabled?: boolean;
  /** Seldom wanted: on a small screen it stands in the menu only. */
  seldom?: boolean;
}

interface Props {
  /** What listens; undefined where nothing is to be heard now. */
  sound?: Listening | undefined;
  actions: BarAction[];
  /** What stands in the menu only. */
  more?: BarAction[];
}

/** How far a recording is, and how long it is. */
function Played({ trace }: { trace: Trace }) {
  const played = useMoment(trace, (m) => m.played);
  if (!played) return null;
  const minutes = (s: number) => `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
  const atS = Math.min(played.atS, played.ofS);
  return (
    <span className="figure flex items-center gap-2 text-sm">
      <progress className="w-24 accent-water" max={played.ofS} value={atS} aria-label="Of the recording" />
      {minutes(atS)} of {minutes(played.ofS)}
    </span>
  );
}

/** The one bar at the foot of every view that listens: listening, what to do next, other ways to bring a sound in, the level. */
export function BottomBar({ sound, actions, more = [] }: Props) {
  const fileInput = useRef<HTMLInputElement>(null);
  const [inputs, setInputs] = useState<{ id: string; name: string }[]>([]);
  const [checking, setChecking] = useState(false);
  const item = 'block min-h-11 w-full rounded px-3 py-2 text-left text-sm data-focus:bg-paper';
  const listening = sound?.listening;
  const entry = (words: string, on: () => void, className = '') => (
    <MenuItem key={words}>
      <button type="button" className={clsx(item, className)} onClick={on}>
        {words}
      </button>
    </MenuItem>
  );
  return (
    <div
      role="toolbar"
      aria-label="What you can do now"
      className="on-bar flex flex-wrap items-center gap-2 bg-bar px-4 py-2.5 text-onbar print:hidden max-sm:sticky max-sm:bottom-0 max-sm:z-10 short:sticky short:bottom-0 short:z-10 max-sm:px-2"
    >
      {sound && (
        <Button
          onBar
          strong={listening !== undefined}
          hint="Space"
          aria-pressed={listening !== undefined}
          onClick={sound.toggle}
        >
          {listening ? <Mic size={16} aria-hidden /> : <MicOff size={16} aria-hidden />}
          {listening ? 'Listening' : 'Listen'}
        </Button>
      )}
      {actions.map(({ words, hint, on, strong = false, disabled = false, seldom = false }) => (
        <Button
          key={words}
          onBar
          strong={strong}
          disabled={disabled}
          {...(hint ? { hint } : {})}
          className={seldom ? 'max-xl:hidden' : ''}
          onClick={on}
        >
          {words}
        </Button>
      ))}
      {sound && (
        <Menu>
          <MenuButton
            onClick={() => void listInputs().then(setInputs)}
            className="min-h-9 rounded-lg border border-ink2 px-3 py-1.5 text-sm font-medium text-onbar max-sm:min-h-11"
          >
            More
          </MenuButton>
          <MenuItems anchor="top start" className="z-20 w-72 rounded-lg border border-line bg-sheet p-1 text-ink">
            {actions.filter((a) => a.seldom).map((a) => entry(a.words, a.on, 'xl:hidden'))}
            {more.map((a) => entry(a.words, a.on))}
            {sound.step && entry('Type a figure from another device', sound.type)}
            {entry('Open a WAV file', () => fileInput.current?.click())}
            {entry('Check the input', () => setChecking(true))}
            {inputs.length === 0
              ? entry('Listen to the microphone', () => void sound.listen('microphone'))
              : inputs.map((i) => entry(`Listen to ${i.name}`, () => void sound.listen('microphone', i.id)))}
          </MenuItems>
        </Menu>
      )}
      {sound && listening === 'file' && <Played trace={sound.trace} />}
      {sound && <Meter trace={sound.trace} listening={listening} />}
      {sound && (
        <>
          <FileInput
            ref={fileInput}
            accept=".wav,audio/wav,audio/x-wav"
            label="WAV file"
            onFile={(file) => void sound.openFile(file)}
          />
          {(sound.typing ?? sound.step) && (
            <TypedFigure
              open={sound.typing !== undefined}
              step={(sound.typing ?? sound.step)!}
              onClose={sound.notTyped}
              onKeep={sound.typed}
            />
          )}
          <InputSheet
            open={checking}
            listening={listening !== undefined}
            check={sound.check}
            onCheck={sound.startCheck}
            onUseClock={(ratio) => void sound.useClock(ratio)}
            onClose={() => setChecking(false)}
          />
          <Modal open={sound.explains} title="Allow listening?" onClose={sound.refuse}>
            <p className="text-sm">
              Slow Anchor hears your strings through the microphone. The sound is measured on this device only. Nothing
              is stored or sent. The browser asks you next.
            </p>
            <div className="flex gap-2 pt-4">
              <Button strong autoFocus onClick={sound.allow}>
                Go on
              </Button>
              <Button onClick={sound.refuse}>Not now</Button>
            </div>
          </Modal>
        </>
      )}
    </div>
  );
}
