import { Matrix } from 'ml-matrix';
import { choleskyOf } from '../signal/cholesky';
import { clamp } from '../../base';

/** A stretch of samples, from inclusive, to exclusive. */
export interface Stretch {
  from: number;
  to: number;
}

/** Mains frequencies of the world, Hz. */
export const MAINS_HZ = [50, 60];
/** Multiples of the mains taken out. */
const LINES = 8;
/** Mains keep their frequency to about this, Hz (house estimate). */
const DRIFT_SD_HZ = 0.03;
/** Least share of the power before the note that must be mains for it to be taken out. */
const LEAST_SHARE = 0.5;
/** The lines of two halves may differ by this share of their power: a ringing string near a line turns or dies. */
const STEADY = 0.15;
/** A stretch with this much more power than the quietest still rings. */
const RINGS_ON = 1.5;
const LEAST_S = 0.08;
const MOST_SAMPLES = 3000;

interface Lines {
  mainsHz: number;
  /** cos and sin amplitude of every multiple, time from sample 0 */
  amplitude: number[];
  power: number;
  misfit: number;
}

/** Least squares for the mains' multiples over the stretches. */
function fitLines(x: Float64Array, rate: number, stretches: Stretch[], mainsHz: number): Lines {
  const columns = 2 * LINES;
  const squares = new Float64Array(columns * columns);
  const right = new Float64Array(columns);
  const basis = new Float64Array(columns);
  let power = 0;
  for (const { from, to } of stretches)
    for (let i = from; i < to; i++) {
      fillBasis(basis, (2 * Math.PI * mainsHz * i) / rate);
      power += x[i]! ** 2;
      for (let a = 0; a < columns; a++) {
        right[a]! += basis[a]! * x[i]!;
        for (let b = 0; b <= a; b++) squares[a * columns + b]! += basis[a]! * basis[b]!;
      }
    }
  const amplitude = choleskyOf(squares, columns, 1e-6).solve(Matrix.columnVector(right)).to1DArray();
  const told = amplitude.reduce((sum, v, a) => sum + v * right[a]!, 0);
  return { mainsHz, amplitude, power, misfit: power - told };
}

/** cos and sin of every multiple of an angle, by turning. */
function fillBasis(basis: Float64Array, angle: number): void {
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  let re = 1;
  let im = 0;
  for (let k = 0; k < LINES; k++) {
    const next = re * c - im * s;
    im = re * s + im * c;
    re = next;
    basis[2 * k] = re;
    basis[2 * k + 1] = im;
  }
}

const mostlyHum = ({ power, misfit }: Lines): boolean => power > 0 && misfit <= (1 - LEAST_SHARE) * power;

const halves = ({ from, to }: Stretch): [Stretch, Stretch] => {
  const middle = (from + to) >> 1;
  return [
    { from, to: middle },
    { from: middle, to },
  ];
};

/** The lines at the likeliest drift: the misfit against its own level, and how far mains drift. */
function driftedLines(x: Float64Array, rate: number, stretches: Stretch[], nominalHz: number): Lines {
  const steps = [-2, -1, 0, 1, 2].map((sd) => ({
    sd,
    lines: fitLines(x, rate, stretches, nominalHz + sd * DRIFT_SD_HZ),
  }));
  const samples = stretches.reduce((sum, { from, to }) => sum + to - from, 0);
  const level = Math.min(...steps.map(({ lines }) => lines.misfit)) / samples;
  const cost = steps.map(({ sd, lines }) => lines.misfit / level + sd * sd);
  let at = 1;
  for (let i = 1; i < 4; i++) if (cost[i]! < cost[at]!) at = i;
  const bend = cost[at - 1]! - 2 * cost[at]! + cost[at + 1]!;
  const between = bend > 0 ? clamp((cost[at - 1]! - cost[at + 1]!) / (2 * bend), -1, 1) : 0;
  return fitLines(x, rate, stretches, nominalHz + (steps[at]!.sd + between) * DRIFT_SD_HZ);
}

/**
 * Takes mains hum out of a recording, as it sounds where the string does not: the multiples of 50 or 60 Hz by least
 * squares. Nothing is touched unless they make up most of what sounds there and hold still. House design.
 * @param quiet where no string sounds
 * @returns new samples, or undefined when there is no hum to be sure of
 */
export function withoutHum(x: Float64Array, rate: number, quiet: Stretch[]): Float64Array | undefined {
  const share = Math.floor(MOST_SAMPLES / Math.max(1, quiet.length));
  const long = quiet
    .filter(({ from, to }) => to - from > LEAST_S * rate)
    .map(({ from, to }) => ({ from, to: Math.min(to, from + share) }));
  if (long.length === 0) return undefined;
  const levels = long.map((s) => powerOf(x, s) / (s.to - s.from));
  const quietest = Math.min(...levels);
  const stretches = long.filter((_, i) => levels[i]! <= RINGS_ON * quietest);
  const tried = MAINS_HZ.flatMap((nominalHz) => {
    if (!mostlyHum(fitLines(x, rate, stretches.slice(0, 1), nominalHz))) return [];
    return driftedLines(x, rate, stretches, nominalHz);
  });
  if (tried.length === 0) return undefined;
  const best = tried.reduce((a, b) => (b.misfit < a.misfit ? b : a));
  if (!mostlyHum(best)) return undefined;
  const [early, late] = halves(stretches[0]!).map((half) => fitLines(x, rate, [half], best.mainsHz).amplitude);
  const moved = early!.reduce((sum, v, a) => sum + (v - late![a]!) ** 2, 0);
  if (moved > STEADY * 2 * best.amplitude.reduce((sum, v) => sum + v * v, 0)) return undefined;
  const out = new Float64Array(x.length);
  const basis = new Float64Array(2 * LINES);
  for (let i = 0; i < x.length; i++) {
    fillBasis(basis, (2 * Math.PI * best.mainsHz * i) / rate);
    let hum = 0;
    for (let a = 0; a < basis.length; a++) hum += best.amplitude[a]! * basis[a]!;
    out[i] = x[i]! - hum;
  }
  return out;
}

function powerOf(x: Float64Array, { from, to }: Stretch): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += x[i]! ** 2;
  return sum;
}
