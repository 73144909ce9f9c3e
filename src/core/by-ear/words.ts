import type { EarSkill } from './skill';
import { counted } from '../base';
import { inCents, signedCents, offsetWords } from '../music';
import type { EarStep, EarSound } from './ear';
import type { EarSchool } from '../codes';

export const SCHOOL_WORDS: Record<EarSchool, { name: string; what: string }> = {
  chain: { name: 'Chain', what: 'Each string from the one before. Errors add up along it.' },
  anchor: { name: 'From one string', what: 'Every string against one, by two checkpoints each. Errors do not add up.' },
  harmonics: {
    name: 'Harmonics',
    what: 'Harmonics against harmonics. In tune they beat slowly: the fifth is two cents from pure.',
  },
  octaves: { name: 'Octaves', what: 'Octaves across skipped strings.' },
  fifths: { name: 'Fifths', what: 'Fifths and fourths, from the A outward.' },
};

/** What errors are to be expected of an ear. @param sdCents its error, cents @param by what shows it; undefined where nothing does yet */
export const expectedWords = (sdCents: number, by: 'rounds' | 'practice' | undefined): string =>
  `Expected error of each string, cents, if your ear is within ${sdCents.toFixed(1)} cents${by ? `, as your ${by} showed` : ' (assumed; your rounds will show it)'}.`;
/** Where this ear stops, by interval. */
export function stopsWords({ interval, biasCents, spreadCents, count }: EarSkill): string {
  const spread = spreadCents === null ? '' : ` ±${spreadCents.toFixed(1)}`;
  return `${interval}: you stop ${signedCents(biasCents)}${spread} cents from beatless (${counted(count, 'time')}).`;
}
/** What the frets of a step's notes add. @param cents sharp positive */
export const fretsWords = (cents: number): string => `Its frets add ${offsetWords(cents)}; that is allowed for.`;
/** What is heard of two strings together. */
export const beatsLine = (wantedHz: number, cents: string): string =>
  `beats a second${wantedHz > 0.05 ? `, ${wantedHz.toFixed(1)} in tune` : ''} · ${cents} cents`;
export const partialsWords = (beatsHz: number, interval: string): string =>
  `Partials of both strings: ${beatsHz.toFixed(1)} beats a second where the ${interval} meets`;

const INTERVALS: Record<string, string> = {
  '1:1': 'unison',
  '2:1': 'octave',
  '3:2': 'fifth',
  '4:3': 'fourth',
  '3:1': 'twelfth',
  '4:1': 'double octave',
  '8:3': 'eleventh',
  '6:1': 'nineteenth',
  '8:1': 'triple octave',
};
/** Its name, else its ratio. */
export const intervalWords = ([p, q]: EarStep['interval']): string =>
  INTERVALS[`${Math.max(p, q)}:${Math.min(p, q)}`] ?? `${p}:${q}`;

/** Where on its string a sound is made. */
export interface SoundPlace {
  fret: number;
  harmonic?: boolean;
}
export const soundPlace = (s: EarSound): SoundPlace =>
  'harmonic' in s ? { fret: s.harmonic.fret, harmonic: true } : { fret: s.fret };

/** 'D3 open', 'A2 at fret 5', 'E2, harmonic at fret 7'. */
export function placeWords(note: string, { fret, harmonic }: SoundPlace): string {
  if (harmonic) return `${note}, harmonic at fret ${fret}`;
  return fret === 0 ? `${note} open` : `${note} at fret ${fret}`;
}
export const soundWords = (sound: EarSound, notes: readonly string[]): string =>
  placeWords(notes[sound.string - 1]!, soundPlace(sound));

/** Where the beats of a step are still, and which way they tell. */
export function beatWords({ beats, expectCents }: EarStep): string {
  const way = beats[0]!.hz > beats[1]!.hz ? '' : 'From below the beats get faster. ';
  return Math.abs(expectCents) < 0.5
    ? way
    : `${way}In tune it still beats: the target is ${inCents(expectCents)} from pure.`;
}

export const tunedWords = (note: string, offCents: number) =>
  `${note}: ${signedCents(offCents)} cents from its target.`;
/**
 * @param leaves what this ear leaves on average, cents
 * @param rms what this round left, root mean square, cents
 */
export const againWords = (rms: number, leaves: number, worth: boolean): string =>
  `The round is done. On average ${rms.toFixed(1)} cents off. ${worth ? `Your ear can do ${leaves.toFixed(1)}: go round once more.` : 'Going round again would gain nothing.'}`;
/** @param offCents from what they are to stand at */
export function checkpointWords(
  { sound, against, interval }: { sound: string; against: string; interval: readonly [number, number] },
  offCents: number,
  beatsHz: number,
  over: boolean,
): string {
  // Which of two in unison is the higher one, nobody hears.
  const off = interval[0] === interval[1] ? Math.abs(offCents).toFixed(1) : signedCents(offCents);
  return `${sound} with ${against}: ${off} cents, ${beatsHz.toFixed(1)} beats a second.${over ? ' All checkpoints are read.' : ''}`;
}

/** Whether an ear would have noticed how far a pitch is off. @param tells cents that it tells in practice */
export const noticedWords = (offCents: number, tells: number): string =>
  `In practice your ear tells ${tells.toFixed(1)} cents: ${Math.abs(offCents) < tells ? 'by ear alone you might not notice this' : 'you would hear this'}.`;
/** The expected error of each string. @param cents by string */
export const errorsWords = (notes: readonly string[], cents: readonly number[]): string =>
  `Expected error by string: ${notes.map((n, i) => `${n} ${cents[i]!.toFixed(1)}`).join(', ')} cents`;
