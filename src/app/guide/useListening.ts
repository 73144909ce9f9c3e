import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { readWav } from '../../core/exchange';
import type { Heard, Task, TrackPoint } from '../../core/pitch';
import type { Source } from '../../core/records';
import type { StringTruth } from '../../core/simulate';

import { createEar, type Ear } from '../sound/ear';
import { openSimulated, type SimulatedSound } from '../sound/simulated';
import { openMicrophone, SoundTrouble, streamSamples } from '../sound/sources';
import { settings } from '../store/store';

type Outcome = Extract<Heard, { kind: 'outcome' }>;
/** The answer to the last check of the input or its clock. */
export type Check = Extract<Heard, { kind: 'input-check' | 'clock-check' }>;

const clockKey = (deviceId: string | undefined) => `clock/${deviceId ?? 'default'}`;
const clockRatio = async (deviceId: string | undefined) => (await settings.getItem<number>(clockKey(deviceId))) ?? 1;

/** A file plays this much faster than it sounded. */
const FILE_SPEED = 2;
const TRAIL_S = 9;

/** What was heard this long ago still sounds, s. */
const SOUNDS_S = 0.4;

/** Holds the ear, its source and the live trace of one bench. */
export function useListening(
  task: Task | undefined,
  nowMs: () => number,
  onOutcome: (outcome: Outcome, source: Source) => void,
  /** Says a trouble with the sound, or '' where there is none any more. */
  say: (sentence: string) => void,
) {
  const ear = useRef<Ear | undefined>(undefined);
  const simulated = useRef<SimulatedSound | undefined>(undefined);
  const points = useRef<TrackPoint[]>([]);
  const sourceRef = useRef<Source>('microphone');
  const pendingCheck = useRef<{ referenceHz: number | undefined } | undefined>(undefined);
  const deviceRef = useRef<string | undefined>(undefined);
  const outcomeRef = useRef(onOutcome);
  const taskRef = useRef(task);
  const [listening, setListening] = useState<Source | undefined>(undefined);
  const [trail, setTrail] = useState<TrackPoint[]>([]);
  const [check, setCheck] = useState<Check | undefined>(undefined);
  // With the commit: a reading must not meet the step before.
  useLayoutEffect(() => {
    outcomeRef.current = onOutcome;
    taskRef.current = task;
  });

  useEffect(() => {
    const made = createEar(say, (heard) => {
      for (const h of heard) {
        // What was asked for before the hand moved on is no answer to what is asked now.
        const asked = taskRef.current;
        if (h.kind === 'outcome') {
          if (h.stringId === asked?.named.id && h.purpose === asked.purpose) outcomeRef.current(h, sourceRef.current);
        } else if (h.kind !== 'track') {
          pendingCheck.current = undefined;
          setCheck(h);
        } else points.current.push(...h.points);
      }
      const end = points.current[points.current.length - 1]?.tS ?? 0;
      points.current = points.current.filter((p) => end - p.tS < TRAIL_S);
    });
    ear.current = made;
    // The trace is drawn at most twenty times a second, whatever the listener's pace.
    let drawn: TrackPoint | undefined;
    const timer = window.setInterval(() => {
      const newest = points.current[points.current.length - 1];
      if (newest !== drawn) setTrail([...points.current]);
      drawn = newest;
    }, 50);
    return () => {
      window.clearInterval(timer);
      made.close();
    };
  }, [say]);

  const namedId = task?.named.id;
  useEffect(() => {
    points.current = [];
  }, [namedId]);
  useEffect(() => {
    if (task) ear.current?.setTask(task);
  }, [task]);

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
      const wav = readWav(new Uint8Array(await file.arrayBuffer()));
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
    [pause, say],
  );

  const pluck = useCallback(
    (stand: () => StringTruth, hardness: number) => simulated.current?.pluck(stand, hardness),
    [],
  );
  const readNow = useCallback(() => ear.current?.readNow(), []);
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
  const sounding = listening ? trail.findLast((p) => p.cents !== null && newest!.tS - p.tS < SOUNDS_S) : undefined;
  /** Where it sounds now, cents from the target; null when nothing does. */
  const liveCents = sounding?.cents ?? null;
  return { listening, trail, newest, liveCents, check, startCheck, useClock, listen, pause, openFile, pluck, readNow };
}
