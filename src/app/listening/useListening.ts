import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { createGuide, reachOf, type GuidedStep, type GuideView, type Verdict } from '../../core/pass';
import type { Heard, TrackPoint } from '../../core/pitch';
import type { Source } from '../../core/records';
import type { StringTruth } from '../../core/simulate';

import { createEar, type Ear } from '../sound/ear';
import { openSimulated, type SimulatedSound } from '../sound/simulated';
import { openMicrophone, SoundTrouble, streamSamples } from '../sound/sources';
import { settings } from '../store/settings';
import { useWorld } from '../store/world';

/** The answer to the last check of the input or its clock. */
export type Check = Extract<Heard, { kind: 'input-check' | 'clock-check' }>;

const clockKey = (deviceId: string | undefined) => `clock/${deviceId ?? 'default'}`;
const clockRatio = async (deviceId: string | undefined) => (await settings.getItem<number>(clockKey(deviceId))) ?? 1;

/** A file plays this much faster than it sounded. */
const FILE_SPEED = 2;
const TRAIL_S = 9;
/** A tone of the app's own rings on in the room, s. */
const RING_ON_S = 0.3;
const NOTHING: GuideView = { sentence: '', figure: null, faded: null };

/** Holds the ear, its source, the rules of the pass and the live trace of one view. */
export function useListening(
  guided: GuidedStep | undefined,
  nowMs: () => number,
  onVerdict: (verdict: Verdict, source: Source) => void,
  /** Says a trouble with the sound, or '' where there is none any more. */
  say: (sentence: string) => void,
) {
  const { ask } = useWorld();
  const ear = useRef<Ear | undefined>(undefined);
  const simulated = useRef<SimulatedSound | undefined>(undefined);
  const points = useRef<TrackPoint[]>([]);
  const sourceRef = useRef<Source>('microphone');
  const pendingCheck = useRef<{ referenceHz: number | undefined } | undefined>(undefined);
  const deviceRef = useRef<string | undefined>(undefined);
  const verdictRef = useRef(onVerdict);
  const guidedRef = useRef(guided);
  const [guide] = useState(createGuide);
  /** The listener's time at its newest point, and when that came. */
  const streamAt = useRef({ tS: 0, cameMs: 0 });
  const deafUntil = useRef(0);
  const [listening, setListening] = useState<Source | undefined>(undefined);
  const [trail, setTrail] = useState<TrackPoint[]>([]);
  const [check, setCheck] = useState<Check | undefined>(undefined);
  const [view, setView] = useState(NOTHING);
  const [deaf, setDeaf] = useState(false);
  const listeningRef = useRef(false);
  // With the commit: a reading must not meet the step before.
  useLayoutEffect(() => {
    verdictRef.current = onVerdict;
    guidedRef.current = guided;
    listeningRef.current = listening !== undefined;
  });

  useEffect(() => {
    const made = createEar(say, (heard) => {
      for (const h of heard) {
        if (h.kind === 'input-check' || h.kind === 'clock-check') {
          pendingCheck.current = undefined;
          setCheck(h);
          continue;
        }
        if (h.kind === 'track') points.current.push(...h.points);
        // What was asked for before the step moved on is no answer to what is asked now.
        for (const verdict of guide.hear(h)) verdictRef.current(verdict, sourceRef.current);
      }
      const end = points.current[points.current.length - 1]?.tS ?? 0;
      points.current = points.current.filter((p) => end - p.tS < TRAIL_S);
      streamAt.current = { tS: end, cameMs: performance.now() };
    });
    ear.current = made;
    aim(made, guidedRef.current);
    // The trace is drawn at most twenty times a second, whatever the listener's pace.
    let drawn: TrackPoint | undefined;
    const timer = window.setInterval(() => {
      const newest = points.current[points.current.length - 1];
      if (newest !== drawn) setTrail([...points.current]);
      drawn = newest;
      const { tS, cameMs } = streamAt.current;
      const next = guide.view(tS + (performance.now() - cameMs) / 1000, listeningRef.current);
      setView((v) => (sameView(v, next) ? v : next));
      setDeaf(performance.now() < deafUntil.current);
    }, 50);
    return () => {
      window.clearInterval(timer);
      made.close();
    };
  }, [say, guide]);

  const namedId = guided?.named.id;
  useEffect(() => {
    points.current = [];
  }, [namedId]);
  // With the commit too: what is heard next is heard for this step.
  useLayoutEffect(() => {
    guide.setStep(guided);
    aim(ear.current, guided);
  }, [guide, guided]);

  const pause = useCallback(() => {
    ear.current?.pause();
    simulated.current = undefined;
    setListening(undefined);
  }, []);

  const listen = useCallback(
    async (source: 'microphone' | 'simulated', deviceId?: string) => {
      say('');
      points.current = [];
      sourceRef.current = source;
      if (source === 'simulated') {
        simulated.current = openSimulated(nowMs);
        ear.current?.listen(simulated.current.source);
        setListening('simulated');
        return;
      }
      try {
        const stopped = (sentence: string) => {
          say(sentence);
          pause();
        };
        const microphone = await openMicrophone(deviceId, stopped, say);
        ear.current?.listen(microphone, await clockRatio(deviceId));
        // A check that was asked for while the input was being opened again.
        if (pendingCheck.current) ear.current?.check(pendingCheck.current.referenceHz);
        deviceRef.current = deviceId;
        setListening('microphone');
      } catch (error) {
        if (!(error instanceof SoundTrouble)) throw error;
        say(error.message);
        setListening(undefined);
      }
    },
    [nowMs, pause, say],
  );

  const openFile = useCallback(
    async (file: File) => {
      say('');
      const wav = await ask('sound', { file });
      if (!wav.ok) {
        say(`${file.name}: ${wav.message}`);
        return;
      }
      const { samples, sampleRate } = wav.sound;
      let at = 0;
      points.current = [];
      sourceRef.current = 'file';
      // A second and a half of silence after the end, so that the last note is read too.
      const end = samples.length + 1.5 * sampleRate;
      ear.current?.listen(
        streamSamples(
          sampleRate,
          (frames) => {
            if (at >= end) {
              pause();
              return undefined;
            }
            const block = new Float32Array(frames);
            block.set(samples.subarray(at, at + frames));
            at += frames;
            return block;
          },
          FILE_SPEED,
        ),
      );
      setListening('file');
    },
    [ask, pause, say],
  );

  const pluck = useCallback(
    (stand: () => StringTruth, hardness: number) => simulated.current?.pluck(stand, hardness),
    [],
  );
  /** Enter: takes what sounds if it is good for this step, else says why not. */
  const take = useCallback(() => {
    const answer = guide.take();
    if (answer === 'read') ear.current?.readNow();
    else verdictRef.current(answer, sourceRef.current);
  }, [guide]);
  /** The app sounds itself for so long: nothing is heard meanwhile. */
  const deafen = useCallback((seconds: number) => {
    deafUntil.current = performance.now() + 1000 * (seconds + RING_ON_S);
    ear.current?.deafen(seconds + RING_ON_S);
  }, []);
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
  const newest = trail[trail.length - 1];
  /** Where it sounds now, cents from the target, calm; null when nothing does. */
  const liveCents = listening ? (view.figure?.cents ?? null) : null;
  return {
    listening,
    trail,
    newest,
    liveCents,
    view,
    deaf: deaf && listening !== undefined,
    check,
    startCheck,
    useClock,
    listen,
    pause,
    openFile,
    pluck,
    take,
    deafen,
  };
}

/** Tells the ear what to listen for. */
function aim(ear: Ear | undefined, guided: GuidedStep | undefined): void {
  if (!guided) return;
  const { named, others, insist } = guided;
  ear?.setTask({ named, others, reach: reachOf(guided), ...(insist ? { insist } : {}) });
}

const sameView = (a: GuideView, b: GuideView): boolean =>
  a.sentence === b.sentence && a.figure?.cents === b.figure?.cents && a.faded?.cents === b.faded?.cents;
