import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import { readText, readTuningFile, writeTuningFile } from '../../../core/exchange';
import { midiOf, parseNote, stringTargetHz, tuningCost, costWords, keyboardWords } from '../../../core/music';
import type { InstrumentLife } from '../../../core/log';
import { traitsOf } from '../../../core/strings';
import { KEYS } from '../../keys/table';
import { usePedal } from '../../keys/usePedal';
import { BottomBar } from '../../guided/BottomBar';
import { Button } from '../../parts/Button';
import { Caution } from '../../parts/Caution';
import { FileInput } from '../../parts/FileInput';
import { fileName, saveFile } from '../../parts/saveFile';
import { useTakingTuning, type Tuning } from '../../world/tunings';
import { keptTunings } from '../../../core/log';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { StringTargets } from './StringTargets';
import { Tones } from './Tones';
import { TONICS, useTuning } from './useTuning';

const field = 'figure rounded-md border border-ink2 bg-sheet px-2 py-1';
const CAPOS = [0, 1, 2, 3, 4, 5, 7];

/** What the strings are tuned to: notes, temper, capo, the owner's own offsets; what it costs; tones to hear it by. */
export function TuningView({ life }: { life: InstrumentLife }) {
  const { bench, a4Hz } = useWorld();
  const { record, tuning } = life;
  const { bowed, frets } = traitsOf(record);
  const { sets, set, draft, change, nameIt, take, targets, name, tuning: made } = useTuning(life);
  const kept = keptTunings(bench, record.instrumentId);
  const [message, say] = useState('');
  const [chosen, setChosen] = useState(0);
  const file = useRef<HTMLInputElement>(null);
  const { worst, furthest } = tuningCost(targets);
  const { take: keep, warningsOf } = useTakingTuning(life, say);
  const warnings = warningsOf(made);
  const write = useWriting(say);
  const forget = (name: string) =>
    void write([{ type: 'tuning-forgotten', instrumentId: record.instrumentId, name }], () =>
      say(`${name} is no longer offered. What was read in it stays.`),
    );
  const open = async (f: File) => {
    const said = await readText(f);
    if (!said.ok) return say(said.message);
    const read = readTuningFile(said.text);
    if (!read.ok) return say(read.message);
    if (read.tuning.strings.length !== record.strings.length)
      return say(
        `That tuning is for ${read.tuning.strings.length} strings. This instrument has ${record.strings.length}.`,
      );
    const strings = record.strings.map((s, i) => ({ stringId: s.stringId, ...read.tuning.strings[i]! }));
    take({ ...read.tuning, strings });
    say(`${read.tuning.name} is shown below. Press Enter to use it.`);
  };
  const step = (by: number) => setChosen((c) => (c + by + targets.length) % targets.length);
  const [sounding, setSounding] = useState(false);
  const toggleTone = () => setSounding((s) => !s);
  usePedal(KEYS.tuning, {
    take: () => keep(made),
    tone: toggleTone,
    string: (_, key) => step(key === 'ArrowRight' ? 1 : -1),
  });
  const midi = (note: string) => midiOf(parseNote(note)!);
  const higher = record.strings.some((s, i) => midi(draft.notes[i]!) > midi(s.note));
  const button = (words: string, on: boolean, act: () => void) => (
    <Button key={words} strong={on} aria-pressed={on} onClick={act}>
      {words}
    </Button>
  );
  const { temper } = draft;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <section aria-label="Tuning" tabIndex={0} className="min-h-0 flex-1 overflow-y-auto px-4 py-2">
        <p className="pb-2 text-sm">
          In use: <b>{tuning?.name ?? 'its own notes'}</b>, A4 at <span className="figure">{a4Hz.toFixed(1)} Hz</span>
          {kept.length > 0 && ' · kept: '}
          <span className="inline-flex flex-wrap gap-1.5 align-middle">
            {kept.map((t) => (
              <span key={t.name} className="inline-flex">
                {button(t.name, tuning?.name === t.name, () => (take(t), keep(t)))}
                {tuning?.name !== t.name && (
                  <Button aria-label={`Delete ${t.name}`} onClick={() => forget(t.name)}>
                    <X size={14} aria-hidden />
                  </Button>
                )}
              </span>
            ))}
          </span>
        </p>
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-x-8 max-lg:grid-cols-1">
          <div>
            <h2 className="pb-1 text-sm font-semibold">Notes</h2>
            <div role="group" aria-label="Notes" className="flex flex-wrap gap-1.5 pb-3">
              {sets.map((s) => button(s.name, s.name === set?.name, () => change({ notes: s.notes })))}
            </div>
            <h2 className="pb-1 text-sm font-semibold">Where they stand</h2>
            <div role="group" aria-label="Temper" className="flex flex-wrap items-center gap-1.5 pb-1.5">
              {button('Equal', temper.kind === 'equal', () => change({ temper: { kind: 'equal' } }))}
              {button(
                bowed ? 'Pure fifths from A' : 'Pure fifths',
                temper.kind === 'fifths' && temper.narrowCents === 0,
                () => change({ temper: { kind: 'fifths', narrowCents: 0 } }),
              )}
              {button('Fifths narrowed', temper.kind === 'fifths' && temper.narrowCents > 0, () =>
                change({ temper: { kind: 'fifths', narrowCents: 1 } }),
              )}
              {button('Just', temper.kind === 'just', () => change({ temper: { kind: 'just', tonic: 2 } }))}
              {button('My own', temper.kind === 'own', () =>
                change({ temper: { kind: 'own', offsets: targets.map((t) => t.offsetCents) } }),
              )}
            </div>
            <div className="flex min-h-9 flex-wrap items-center gap-x-4 pb-2 text-sm">
              {temper.kind === 'fifths' && temper.narrowCents > 0 && (
                <label>
                  Each narrower than pure by{' '}
                  <input
                    type="number"
                    step={0.1}
                    min={0.1}
                    max={6}
                    value={temper.narrowCents}
                    className={`${field} w-20`}
                    onChange={(e) => {
                      const narrowCents = e.target.valueAsNumber;
                      if (narrowCents > 0 && narrowCents <= 6) change({ temper: { kind: 'fifths', narrowCents } });
                    }}
                  />{' '}
                  cents
                </label>
              )}
              {temper.kind === 'just' && (
                <label>
                  on the tonic{' '}
                  <select
                    className={field}
                    value={temper.tonic}
                    onChange={(e) => change({ temper: { kind: 'just', tonic: Number(e.target.value) } })}
                  >
                    {TONICS.map((t, i) => (
                      <option key={t} value={i}>
                        {t}
                      </option>
                    ))}
                  </select>
                </label>
              )}
              {frets && (
                <label>
                  Capo{' '}
                  <select
                    className={field}
                    value={draft.capo}
                    onChange={(e) => change({ capo: Number(e.target.value) })}
                  >
                    {CAPOS.map((c) => (
                      <option key={c} value={c}>
                        {c === 0 ? 'none' : `at fret ${c}`}
                      </option>
                    ))}
                  </select>
                </label>
              )}
            </div>
            <h2 className="pb-1 text-sm font-semibold">What it costs</h2>
            <p data-testid="cost" className="max-w-xl pb-3 text-sm leading-relaxed">
              {worst ? `${costWords(worst)} ` : 'No two strings make a third, a fourth, a fifth or a sixth. '}
              {keyboardWords(furthest.note, furthest.cents)}
              {frets &&
                temper.kind !== 'equal' &&
                ' A fretted note carries the offset of its string, so the same note on two strings differs by it.'}
            </p>
            {higher && (
              <Caution>Some strings go above their own notes: bring them up slowly, eyes away from the string.</Caution>
            )}
            {warnings.length > 0 && (
              <ul aria-label="What the strings bear" className="pt-2">
                {warnings.map((w) => (
                  <li key={`${w.code}${w.string}`} className="pb-1">
                    <Caution>{w.message}</Caution>
                  </li>
                ))}
              </ul>
            )}
            <p className="flex flex-wrap items-center gap-2 text-sm">
              <label>
                Name{' '}
                <input
                  value={draft.name}
                  placeholder={name}
                  maxLength={60}
                  className={`${field} w-64 font-sans`}
                  onChange={(e) => nameIt(e.target.value.trimStart())}
                />
              </label>
            </p>
            <p role="status" data-testid="message" className="min-h-10 py-2 text-sm">
              {message}
            </p>
          </div>
          <div>
            <StringTargets
              targets={targets}
              a4Hz={a4Hz}
              chosen={chosen}
              onChoose={setChosen}
              onNote={(i, note) => change({ notes: draft.notes.map((n, k) => (k === i ? note : n)) })}
              capo={draft.capo}
              onOffset={
                temper.kind === 'own'
                  ? (i, cents) =>
                      change({
                        temper: { kind: 'own', offsets: targets.map((t, k) => (k === i ? cents : t.offsetCents)) },
                      })
                  : undefined
              }
            />
            <Tones
              note={targets[chosen]!.note}
              frequencyHz={stringTargetHz(targets[chosen]!, a4Hz)!}
              sounding={sounding}
              onSounding={setSounding}
            />
          </div>
        </div>
        <FileInput ref={file} accept=".json,application/json" label="Tuning file" onFile={(f) => void open(f)} />
      </section>
      <BottomBar
        actions={[
          { words: 'Use it from now on', hint: 'Enter', strong: true, on: () => keep(made) },
          { words: 'Tone', hint: 'T', on: toggleTone },
          {
            words: 'Save as a file',
            on: () => saveFile(`${fileName(name)}.json`, writeTuningFile(fileOf(made)), 'application/json'),
          },
          { words: 'Open a file', on: () => file.current?.click() },
        ]}
      />
    </div>
  );
}

const fileOf = ({ name, capo, strings }: Tuning) => ({
  name,
  ...(capo ? { capo } : {}),
  strings: strings.map(({ note, offsetCents }) => ({ note, offsetCents })),
});
