import { DEFAULT_A4_HZ } from '../src/core/music';
import { measure } from '../src/core/pitch';
import { RECORD_VERSION, type LogRecord, type Purpose, type ReadingRecord } from '../src/core/log';
import {
  addNoise,
  pluck,
  pluckOf,
  randomFrom,
  roomTempC,
  touched,
  trueCents,
  type BridgeTruth,
  type StringTruth,
  type Touch,
} from '../src/core/simulate';
import {
  baritonesBridge,
  BARITONE_BEFORE_MS,
  BOUZOUKI_STRETCHED,
  CURTAIN_MS,
  heronsBench,
  NOON_MS,
  ZONE_MIN,
  wearAt,
  type DemoInstrument,
} from './bench';
import { DAY, MINUTE } from '../src/core/base';

/** What the demonstration starts with: the log, and the truth of the instruments that the simulator goes on with. */
export interface Demonstration {
  startMs: number;
  zoneMin: number;
  records: LogRecord[];
  truth: Record<string, StringTruth[]>;
  bridges: Record<string, BridgeTruth>;
}

const SAMPLE_RATE = 22050;
const TOLERANCE_CENTS = 3;

/** Plucks the simulated string at a moment and measures the sound, as the app does. */
function hear(string: StringTruth, atMs: number, seed: number) {
  const out = new Float32Array(Math.round(1.35 * SAMPLE_RATE));
  const random = randomFrom(seed);
  const voice = pluck(pluckOf(string, 0.4, seed), SAMPLE_RATE, random);
  voice.render(out, Math.round(0.1 * SAMPLE_RATE), out.length, Math.pow(2, trueCents(string, atMs) / 1200));
  addNoise(out, 0.0004, random);
  return measure(out, SAMPLE_RATE, { targetHz: string.targetHz });
}

function passesOf(instrument: DemoInstrument, add: (record: LogRecord) => void): void {
  const { instrumentId, truths, passesMs, tunedCents } = instrument;
  const random = randomFrom(instrument.strings.length * 97 + instrumentId.length);
  const base = { version: RECORD_VERSION, zoneMin: ZONE_MIN } as const;
  let serial = 0;
  const read = (string: StringTruth, purpose: Purpose, atMs: number, extra: Partial<ReadingRecord> = {}): number => {
    serial++;
    const heard = hear(string, atMs, string.seed + serial);
    if (!heard.ok)
      throw new Error(`the demonstration's ${instrumentId} ${string.stringId} was refused: ${heard.message}`);
    const { ok: _ok, fromS: _from, toS: _to, driftCents: _drift, sharpTauS: _tau, partials, ...figures } = heard;
    add({
      ...base,
      id: `${instrumentId}-${string.stringId}-${serial}`,
      type: 'reading',
      atMs,
      instrumentId,
      stringId: string.stringId,
      purpose,
      source: 'simulated',
      targetHz: string.targetHz,
      a4Hz: DEFAULT_A4_HZ,
      tempC: Math.round(roomTempC(atMs) * 10) / 10,
      ...figures,
      partials: partials.slice(0, 8),
      ...extra,
    });
    return heard.cents;
  };
  passesMs.forEach((passMs, pass) => {
    const isLast = pass === passesMs.length - 1;
    truths.forEach((string, i) => {
      const atMs = Math.round(passMs + i * 7000);
      if (pass === 0) {
        // Strung a little flat, or flat by whatever an old set has fallen: brought up in the first pass.
        string.startCents = tunedCents - trueCents(string, atMs) - random.between(8, 30);
      }
      const found = read(string, 'as-found', atMs);
      const slip = string.slips.some((s) => s.atMs <= atMs && s.atMs > (passesMs[pass - 1] ?? 0));
      if (slip) read(string, 'as-found', atMs + 3000, { slip: true });
      if (isLast || (Math.abs(found - tunedCents) <= TOLERANCE_CENTS && pass > 0)) return;
      const turnMs = atMs + 12000;
      string.turns.push({ atMs: turnMs, cents: tunedCents - found + 0.5 * random.normal() });
      read(string, 'as-left', turnMs + 6000, { arrival: 'from below' });
    });
  });
}

/** The baritone's octaves, a month apart, on the set before this one and its second string: as the app's own pass keeps them. */
function octavesOf({ instrumentId, truths }: DemoInstrument, add: (record: LogRecord) => void): void {
  const places: Touch[] = [{ kind: 'open' }, { kind: 'fret', fret: 12 }, { kind: 'harmonic' }, { kind: 'open' }];
  for (let month = 0; month < 5; month++) {
    const passMs = BARITONE_BEFORE_MS + (8 + 30 * month) * DAY;
    truths.forEach((string, i) => {
      const { fretted, ...rest } = string;
      const then: StringTruth = { ...rest, strungMs: BARITONE_BEFORE_MS, turns: [], slips: [] };
      if (fretted) then.fretted = { ...fretted, wear: i === 1 ? wearAt(passMs) : 0 };
      then.startCents = -trueCents({ ...then, startCents: 0 }, passMs);
      places.forEach((touch, k) => {
        const atMs = passMs + (i * places.length + k) * 6000;
        const heard = hear(touched(then, touch), atMs, string.seed + month * 40 + k);
        if (!heard.ok)
          throw new Error(`the demonstration's octave of ${string.stringId} was refused: ${heard.message}`);
        add({
          version: RECORD_VERSION,
          zoneMin: ZONE_MIN,
          id: `${instrumentId}-${string.stringId}-octave-${month}-${k}`,
          type: 'touch',
          atMs,
          instrumentId,
          stringId: string.stringId,
          passId: `octave-${month}`,
          touch: touch.kind,
          ...(touch.kind === 'open' ? {} : { fret: 12 }),
          source: 'simulated',
          frequencyHz: heard.frequencyHz,
          sigmaCents: heard.sigmaCents,
          scatterCents: 0,
          inharmonicity: heard.inharmonicity,
        });
      });
    });
  }
}

/** Whose the instruments are, where they stand on the barge, what they go with, and what is on their labels. */
const ABOUT: Record<string, { owner: string; place: string; tags: string[]; code: string }> = {
  requinto: { owner: 'The Heron', place: 'Pit, stage side', tags: ['puppets'], code: 'H-1' },
  baritone: { owner: 'The Heron', place: 'Pit, stage side', tags: ['interval'], code: 'H-2' },
  viola: { owner: 'Player of the viola', place: 'Cabin', tags: ['puppets', 'songs'], code: 'H-3' },
  kantele: { owner: 'The Heron', place: 'Cabin', tags: ['songs'], code: 'H-4' },
  bouzouki: { owner: 'The ferryman', place: 'Pit, bank side', tags: ['interval', 'songs'], code: 'H-5' },
};

/** Slots of the baritone that were lubricated six weeks ago, and what was measured before and since, cents by days. */
const FRICTION: Record<string, [number, number, number][]> = {
  s3: [
    [-0.2, -4.6, 5.1],
    [0.1, -1.1, 1.2],
    [8, -1.7, 2.0],
    [19, -2.4, 2.9],
    [38, -3.6, 3.9],
  ],
  s4: [
    [-0.2, -6.2, 5.4],
    [0.1, -1.6, 1.3],
    [19, -3.4, 3.3],
    [38, -4.8, 4.4],
  ],
};
function frictionOf(instrumentId: string, add: (record: LogRecord) => void): void {
  const base = { version: RECORD_VERSION, zoneMin: ZONE_MIN, instrumentId } as const;
  const oiledMs = NOON_MS - 41 * DAY;
  const stringIds = Object.keys(FRICTION);
  add({ ...base, id: `${instrumentId}-oiled`, type: 'treatment', atMs: oiledMs, stringIds, treatment: 'lubricated' });
  for (const [stringId, figures] of Object.entries(FRICTION))
    figures.forEach(([days, firstCents, secondCents], k) =>
      add({
        ...base,
        id: `${instrumentId}-${stringId}-friction-${k}`,
        type: 'test',
        atMs: oiledMs + days * DAY,
        stringId,
        passId: `friction:${stringId}`,
        test: 'friction',
        firstCents,
        secondCents,
        sigmaCents: 0.4,
      }),
    );
}

/** Makes the Heron's log by running every pass on the simulator; the same every time. */
export function makeDemonstration(): Demonstration {
  const records: LogRecord[] = [];
  const truth: Demonstration['truth'] = {};
  const base = { version: RECORD_VERSION, zoneMin: ZONE_MIN } as const;
  for (const instrument of heronsBench()) {
    const { instrumentId, name, family, strings, truths, passesMs } = instrument;
    const first = Math.min(...passesMs, ...truths.map((t) => t.strungMs)) - MINUTE;
    records.push({
      ...base,
      id: `${instrumentId}-instrument`,
      type: 'instrument',
      atMs: first,
      instrumentId,
      name,
      family,
      strings,
    });
    records.push({
      ...base,
      id: `${instrumentId}-about`,
      type: 'about',
      atMs: first,
      instrumentId,
      ...ABOUT[instrumentId]!,
    });
    truths.forEach((t) =>
      records.push({
        ...base,
        id: `${instrumentId}-${t.stringId}-fitted`,
        type: 'fitted',
        atMs: t.strungMs,
        instrumentId,
        stringId: t.stringId,
      }),
    );
    if (instrumentId === 'baritone') {
      truths.forEach((t) => {
        if (t.strungMs > BARITONE_BEFORE_MS)
          records.push({
            ...base,
            id: `${instrumentId}-${t.stringId}-fitted-before`,
            type: 'fitted',
            atMs: BARITONE_BEFORE_MS,
            instrumentId,
            stringId: t.stringId,
          });
      });
      octavesOf(instrument, (r) => records.push(r));
      frictionOf(instrumentId, (r) => records.push(r));
    }
    passesOf(instrument, (r) => records.push(r));
    truth[instrumentId] = truths;
  }
  const bouzouki = { instrumentId: 'bouzouki' };
  const fittedMs = truth['bouzouki']![0]!.strungMs;
  records.push({
    ...base,
    ...bouzouki,
    id: 'bouzouki-stretched',
    type: 'treatment',
    atMs: fittedMs + 2 * MINUTE,
    stringIds: BOUZOUKI_STRETCHED,
    treatment: 'stretched',
  });
  const neighbour = (id: string) => `s${((Number(id.slice(1)) - 1) ^ 1) + 1}`;
  records.push({
    ...base,
    id: 'heron-trial',
    type: 'trial',
    atMs: fittedMs,
    trialId: 'bouzouki-stretching',
    what: 'Stretched by hand when put on / not',
    byLot: true,
    pairs: BOUZOUKI_STRETCHED.map((stringId) => ({
      treated: { ...bouzouki, stringId },
      control: { ...bouzouki, stringId: neighbour(stringId) },
    })),
  });
  const startMs = NOON_MS + 126 * MINUTE;
  records.push({ ...base, id: 'heron-reference', type: 'reference', atMs: NOON_MS, a4Hz: DEFAULT_A4_HZ });
  records.push({ ...base, id: 'heron-curtain', type: 'curtain', atMs: NOON_MS, curtainMs: CURTAIN_MS });
  records.push({
    ...base,
    id: 'heron-room',
    type: 'room',
    atMs: startMs - 2 * MINUTE,
    tempC: Math.round(roomTempC(startMs) * 10) / 10,
  });
  return { startMs, zoneMin: ZONE_MIN, records, truth, bridges: { baritone: baritonesBridge() } };
}
