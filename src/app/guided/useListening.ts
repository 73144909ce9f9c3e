import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import {
  isSameStep,
  lineCentsOf,
  reachOf,
  type GuidedStep,
  type Hearer,
  type TunerAdvice,
  type Figure,
} from '../../core/guided';
import type { Heard, TrackPoint } from '../../core/pitch';
import type { Source } from '../../core/log';
import type { StringTruth } from '../../core/simulate';

import { createEar, type Ear } from '../sound/ear';
import { openSimulated, type SimulatedSound } from '../sound/simulated';
import { openMicrophone, recordedSound, SoundTrouble } from '../sound/sources';
import { withinTime } from '../world/clock';
import { settings } from '../world/settings';
import { useWorld } from '../world/world';
import { useUse } from './inUse';
import { createTrace } from './trace';
import { useWakeLock } from './useWakeLock';

/** The answer to the last check of the input or its clock. */
export type Check = Extract<Heard, { kind: 'input-check' | 'clock-check' }>;

const clockKey = (deviceId: string | undefined) => `clock/${deviceId ?? 'default'}`;
const clockRatio = async (deviceId: string | undefined) => (await settings.getItem<number>(clockKey(deviceId))) ?? 1;

/** What was decided is asked for within so long, or a recording goes on without, ms. */
const ASKED_WITHIN_MS = 2000;
const TRAIL_S = 9;
const DRAWN_EVERY_MS = 50;
/** A room above this was not quiet while it was looked at, dB (house estimate). */
const QUIET_DB = -42;
/** An input that sends nothing for so long has gone silent, ms. */
const GONE_SILENT_MS = 4000;
/** A tone of the app's own rings on in the room, s. */
const RING_ON_S = 0.3;
/** An input is looked at so often while listening begins, quietly: each time it takes two seconds. */
const FIRST_LOOKS = 3;

/** Holds the ear, its source and the live trace of one view. @param hearer what makes of what is heard what it is */
export function useListening(
  hearer: Hearer,
  nowMs: () => number,
  /** Says a trouble with the sound, or '' where there is none any more. */
  say: (sentence: string) => void,
) {
  const { a4Hz, ask, demo, clock, means } = useWorld();
  const ear = useRef<Ear | undefined>(undefined);
  const simulated = useRef<SimulatedSound | undefined>(undefined);
  const points = useRef<TrackPoint[]>([]);
  const sourceRef = useRef<Source>('microphone');
  const pendingCheck = useRef<{ referenceHz: number | undefined } | undefined>(undefined);
  const deviceRef = useRef<string | undefined>(undefined);
  /** The input that is being opened: called off when it is not wanted any more. */
  const opening = useRef<AbortController | undefined>(undefined);
  const { step: guided, follow } = hearer;
  /** The listener's time at its newest point, and when that came. */
  const streamAt = useRef({ tS: 0, cameMs: 0 });
  const deafUntil = useRef(0);
  const [listening, setListening] = useState<Source | undefined>(undefined);
  const [trace] = useState(createTrace);
  const [check, setCheck] = useState<Check | undefined>(undefined);
  /** The browser has not been asked for the microphone yet: it is said first what for. */
  const [explains, setExplains] = useState<{ deviceId: string | undefined } | undefined>(undefined);
  /** Looks at the input that are still to come. */
  const looks = useRef(0);
  const listeningRef = useRef(false);
  useLayoutEffect(() => {
    listeningRef.current = listening !== undefined;
  });

  useEffect(() => {
    const made = createEar(
      means.startListener(),
      say,
      (heard) => {
        for (const h of heard) {
          if (h.kind === 'input-check' && !pendingCheck.current) {
            // Nobody asked for it: only a trouble is told, and a look spoilt by a string is taken once more.
            looks.current--;
            const { kind, floorDb, message } = h.check;
            if (kind === 'silent' || (kind === 'hum' && floorDb < QUIET_DB)) say(message);
            else if (kind !== 'good' && looks.current > 0) made.check();
            continue;
          }
          if (h.kind === 'input-check' || h.kind === 'clock-check') {
            pendingCheck.current = undefined;
            setCheck(h);
            continue;
          }
          if (h.kind === 'track') points.current.push(...h.points);
          hearer.hear(h, sourceRef.current);
        }
        const end = points.current[points.current.length - 1]?.tS ?? 0;
        points.current = points.current.filter((p) => end - p.tS < TRAIL_S);
        streamAt.current = { tS: end, cameMs: clock.elapsedMs() };
      },
      (f) => {
        trace.set(f.kind === 'pair' ? { pair: f.moment } : { steady: f.moment });
        hearer.followed(f, sourceRef.current);
      },
    );
    ear.current = made;
    aim(made, hearer.step);
    // The trace is drawn at most twenty times a second, whatever the listener's pace.
    let drawn: TrackPoint | undefined;
    let toldSilent = false;
    const stop = clock.every(DRAWN_EVERY_MS * clock.pace, () => {
      const newest = points.current[points.current.length - 1];
      const { tS, cameMs } = streamAt.current;
      const hears = listeningRef.current;
      const isSilent =
        hears &&
        hearer.step !== undefined &&
        sourceRef.current === 'microphone' &&
        clock.elapsedMs() - cameMs > GONE_SILENT_MS;
      if (isSilent && !toldSilent)
        say('No sound has come from the input for four seconds. Press Space twice, or choose another input.');
      toldSilent = isSilent;
      const view = hearer.view(tS + (clock.elapsedMs() - cameMs) / 1000, hears);
      const { figure, faded, tuner } = trace.get();
      trace.set({
        sentence: view.sentence,
        figure: !hears ? null : sameFigure(figure, view.figure) ? figure : view.figure,
        faded: !hears ? null : sameFigure(faded, view.faded) ? faded : view.faded,
        tuner: sameTuner(tuner, view.tuner) ? tuner : view.tuner,
        turning: view.turning,
        deaf: hears && clock.elapsedMs() < deafUntil.current,
        ...(newest === drawn ? {} : { trail: [...points.current] }),
      });
      drawn = newest;
    });
    return () => {
      stop();
      opening.current?.abort();
      made.close();
    };
  }, [say, hearer, trace, clock, means]);

  const namedId = guided?.named.id;
  useEffect(() => {
    points.current = [];
  }, [namedId]);
  const aimed = useRef<{ step: GuidedStep | undefined; told: () => void }>({ step: undefined, told: () => undefined });
  // With the commit too: what is heard next is heard for this step.
  useLayoutEffect(() => {
    aim(ear.current, guided);
    aimed.current.step = guided;
    aimed.current.told();
  }, [guided]);

  useEffect(() => {
    trace.set({ pair: null, steady: null });
    ear.current?.follow(follow ?? null);
  }, [follow, trace]);

  const pause = useCallback(() => {
    opening.current?.abort();
    ear.current?.pause();
    trace.set({ pair: null, steady: null, played: null });
    simulated.current = undefined;
    setListening(undefined);
  }, [trace]);

  const listen = useCallback(
    async (source: 'microphone' | 'simulated', deviceId?: string, explained = false) => {
      say('');
      if (source === 'microphone' && !explained && (await isNotAsked())) {
        setExplains({ deviceId });
        return;
      }
      setExplains(undefined);
      points.current = [];
      sourceRef.current = source;
      if (source === 'simulated') {
        simulated.current = openSimulated(means, nowMs, means.nextSeed());
        ear.current?.listen(simulated.current.source);
        setListening('simulated');
        return;
      }
      opening.current?.abort();
      const wanted = (opening.current = new AbortController());
      try {
        const stopped = (sentence: string) => {
          say(sentence);
          pause();
        };
        const ratio = await clockRatio(deviceId);
        const microphone = await (means.microphone ?? openMicrophone)(deviceId, wanted.signal, stopped, say);
        // Said to be unwanted in the very moment in which it opened.
        if (wanted.signal.aborted) return microphone.stop();
        ear.current?.listen(microphone, ratio);
        streamAt.current = { tS: 0, cameMs: clock.elapsedMs() };
        // A check that was asked for while the input was being opened again.
        if (pendingCheck.current) ear.current?.check(pendingCheck.current.referenceHz);
        else {
          looks.current = FIRST_LOOKS;
          ear.current?.check();
        }
        deviceRef.current = deviceId;
        setListening('microphone');
      } catch (error) {
        if (wanted.signal.aborted) return;
        if (!(error instanceof SoundTrouble)) throw error;
        say(error.message);
        setListening(undefined);
      }
    },
    [nowMs, pause, say, means, clock],
  );

  /** Opens the ear of this world: its microphone, or the simulated instrument. */
  const open = () => void listen(demo ? 'simulated' : 'microphone');

  const openFile = useCallback(
    async (file: File) => {
      say(`Reading ${file.name} …`);
      const wav = await ask('sound', { file });
      if (!wav.ok) {
        say(`${file.name}: ${wav.message}`);
        return;
      }
      say('');
      const { samples, sampleRate } = wav.sound;
      points.current = [];
      sourceRef.current = 'file';
      const ofS = Math.ceil(samples.length / sampleRate);
      /** The rules' clock is the recording's; what they decide is written and asked for before more of it is heard. */
      const decided = async (playedS: number) => {
        hearer.view(playedS, true);
        const atS = Math.floor(playedS);
        if (trace.get().played?.atS !== atS) trace.set({ played: { atS, ofS } });
        await hearer.settled();
        if (aimed.current.step === hearer.step) return;
        const asked = new Promise<void>((told) => (aimed.current.told = told));
        await withinTime(asked, ASKED_WITHIN_MS).catch(() => undefined);
      };
      const ended = () => {
        pause();
        hearer.ended();
      };
      ear.current?.listen(recordedSound(means, samples, sampleRate, decided, ended));
      setListening('file');
    },
    [ask, pause, say, means, trace, hearer],
  );

  const pluck = useCallback(
    (stand: () => StringTruth, hardness: number, beside?: boolean) => simulated.current?.pluck(stand, hardness, beside),
    [],
  );
  /** Enter: takes what sounds if it is good for this step, else says why not. */
  const take = useCallback(() => {
    if (hearer.take(sourceRef.current) === 'read') ear.current?.readNow();
  }, [hearer]);
  /** The app sounds itself for so long: nothing is heard meanwhile. */
  const deafen = useCallback(
    (seconds: number) => {
      deafUntil.current = clock.elapsedMs() + 1000 * (seconds + RING_ON_S);
      ear.current?.deafen(seconds + RING_ON_S);
    },
    [clock],
  );
  const startCheck = useCallback((referenceHz?: number) => {
    setCheck(undefined);
    pendingCheck.current = { referenceHz };
    ear.current?.check(referenceHz);
  }, []);
  /** From now on the microphone's clock is taken as this much faster than it says. */
  const useClock = useCallback(
    async (ratio: number) => {
      const device = deviceRef.current;
      await settings.setItem(clockKey(device), (await clockRatio(device)) * ratio);
      await listen('microphone', device);
    },
    [listen],
  );
  // A recording dropped anywhere is played; it never takes the page's place.
  useEffect(() => {
    const over = (event: DragEvent) => event.preventDefault();
    const drop = (event: DragEvent) => {
      event.preventDefault();
      const file = event.dataTransfer?.files[0];
      if (file) void openFile(file);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, [openFile]);
  const [typing, setTyping] = useState<GuidedStep | undefined>(undefined);
  useWakeLock(listening !== undefined);
  useUse(listening !== undefined);
  return {
    listening,
    trace,
    check,
    /** The browser would ask now: says why first. */
    explains: explains !== undefined,
    allow: () => void listen('microphone', explains?.deviceId, true),
    refuse: () => setExplains(undefined),
    startCheck,
    useClock,
    listen,
    open,
    /** Listens, or pauses. */
    toggle: () => (listening ? pause() : open()),
    openFile,
    /** A figure from another device is typed for what is asked for now. */
    typing,
    type: () => (guided ? setTyping(guided) : say('No reading is asked for now.')),
    typed: (text: string, sure: boolean): string | undefined => {
      if (!typing) return undefined;
      // It was typed for what was asked for then, and for nothing else.
      const isSame = isSameStep(typing, hearer.step);
      const message = isSame ? hearer.type(text, sure, a4Hz) : undefined;
      if (!isSame) say(`${typing.named.name} was read meanwhile. The figure was not saved.`);
      if (message === undefined) setTyping(undefined);
      return message;
    },
    notTyped: () => setTyping(undefined),
    step: guided,
    /** How far the line that the string in hand is brought to lies from where it belongs, cents: what is heard counts from it. */
    lineCents: guided ? lineCentsOf(guided) : 0,
    pluck,
    take,
    deafen,
  };
}
export type Listening = ReturnType<typeof useListening>;

/** Has the browser never been asked for the microphone? False where it does not tell. */
async function isNotAsked(): Promise<boolean> {
  try {
    return (await navigator.permissions.query({ name: 'microphone' as PermissionName })).state === 'prompt';
  } catch {
    return false;
  }
}

/** Tells the ear what to listen for. */
function aim(ear: Ear | undefined, guided: GuidedStep | undefined): void {
  if (!guided) return;
  const { named, others, insist } = guided;
  ear?.setTask({ named, others, reach: reachOf(guided), ...(insist ? { insist } : {}) });
}

const sameFigure = (a: Figure | null, b: Figure | null): boolean => a?.cents === b?.cents;
const sameTuner = (a: TunerAdvice | null, b: TunerAdvice | null): boolean =>
  a?.place === b?.place && a?.way === b?.way && a?.far === b?.far && a?.up === b?.up;
