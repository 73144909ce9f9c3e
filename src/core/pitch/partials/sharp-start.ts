import { FRAME_OVERLAP, type PartialTrack } from '../signal/demodulate';
import { leftOver, weightedLine } from '../signal/line';

/** A sharp start: by how much the string is above its rest, cents, at the beginning of a stretch, and how soon that is over, s. */
export interface Sharp {
  cents: number;
  tauS: number;
}

/** What one partial says: its phase about a straight line, rad; the weights of its frames; the phase of one cent in a second, rad/s. */
export interface PartialTold {
  w: Float64Array;
  used: number;
  perCent: number;
  residual: Float64Array;
  /** Amplitude as a share of the strongest's. */
  lead: number;
}

/** The sharp start of all partials: what it does to each one's frequency, cents, and the phases that it leaves over. */
export interface SharpStart extends Sharp {
  /** By partial: how much higher its line lies than at rest, cents. */
  pulls: number[];
  /** Standard error that it leaves in every partial alike, cents. */
  sigmaCents: number;
}

/** Scale of sharp starts, cents: most are small, hard ones far larger, so that the prior has long tails (Cauchy's; house estimate). */
const SHARP_SCALE = 2;
/** What it may be off by where nothing tells it, cents (house estimate). */
const SHARP_SPREAD = 5;
const priorPrecision = (cents: number) => 2 / (1 + (cents / SHARP_SCALE) ** 2) / SHARP_SCALE ** 2;
/** Partials agree on the sharp start no better than this, cents; a faint one counts for less, by its amplitude to this power (house estimates, by strings on bodies and sampled instruments). */
const BETWEEN_CENTS = 0.3;
const LEAD_POWER = 2;
/** Degrees of freedom of what partials say of the sharp start: one that beats does not drag it (Student's t, Lange et al. 1989). */
const NU = 4;
/** Time constants that are tried, s: a factor of 1.54 apart. */
const TAUS_S = Array.from({ length: 9 }, (_, k) => 0.1 * 2 ** (0.625 * k));
/** How far, in natural logarithms, the tension's time constant lies from that of the energy (house estimate, by strings on bodies). */
const TAU_SPREAD = 0.5;
/** The other polarisation keeps this share of the energy, and keeps it so much longer (house estimates, same). */
const SLOW_SHARE = 0.18;
const SLOWER = 4;
/** What the measured energy is worth as a law against all time constants together (house estimate). */
const ENERGY_PRIOR = 3;
/** A partial this far below the strongest tells little of the energy (power ratio). */
const FAINT = 3e-3;
/** Independent looks at a law by one partial, a frame; and phase misfit below which laws are alike, in units of a frame's variance (house estimates). */
const WORTH = 0.15;
const ALIKE = 0.1;

/** A plucked string loses at least this share of its energy in a stretch (house estimate). */
const DIES = 0.1;
/** What is known of a sharp start from before is off by this share (house estimate). */
const KNOWN_SHARE = 0.35;

/**
 * Energy of the string over time, 1 at first: of every partial the share of its beginning that is left, whatever the body makes of
 * its loudness; the low ones lead, since a plucked string has most of its tension in them.
 */
function energyOf(tracks: readonly PartialTrack[], noise: readonly number[]): Float64Array {
  const energy = new Float64Array(tracks[0]!.timeS.length);
  const firsts = tracks.map(({ amplitude: a }) => Math.max(a[0]!, a[1]!, a[2]!) ** 2);
  const top = Math.max(...firsts);
  tracks.forEach(({ n, amplitude }, i) => {
    const weight = 1 / (firsts[i]! + FAINT * top) / n;
    for (let k = 0; k < energy.length; k++) energy[k]! += weight * Math.max(0, amplitude[k]! ** 2 - noise[i]! ** 2);
  });
  const first = Math.max(energy[0]!, energy[1]!, energy[2]!, 1e-300);
  return energy.map((e) => e / first);
}

/** The time constant with which an exponential has this mean over a span, s. */
function timeConstant(energy: Float64Array, spanS: number): number {
  let mean = 0;
  for (const e of energy) mean += Math.min(1, e) / energy.length;
  let tau = 0.03;
  while (tau < 5 && (tau / spanS) * -Math.expm1(-spanS / tau) < mean) tau *= 1.05;
  return tau;
}

const decay = (t: number, tauS: number) =>
  (1 - SLOW_SHARE) * Math.exp(-t / tauS) + SLOW_SHARE * Math.exp(-t / (SLOWER * tauS));

/** What is left of a sharp start after so many seconds, and how soon that is over from there on. */
export function sharpAfter({ cents, tauS }: Sharp, seconds: number): Sharp {
  const left = decay(seconds, tauS);
  const slow = SLOW_SHARE * Math.exp(-seconds / (SLOWER * tauS));
  return { cents: cents * left, tauS: (tauS * left) / (left - slow + slow / SLOWER) };
}

/** Laws by which the tension may fall: the measured energy, and two rates at a number of time constants about the energy's. */
function lawsOf(tracks: readonly PartialTrack[], noise: readonly number[]) {
  const { timeS } = tracks[0]!;
  const energy = energyOf(tracks, noise);
  const own = timeConstant(energy, timeS[timeS.length - 1]! - timeS[0]!);
  const off = (tau: number) => Math.log(tau / own) / TAU_SPREAD;
  return [
    { curve: energy, tauS: own, cost: -Math.log(ENERGY_PRIOR) },
    ...TAUS_S.map((tauS) => ({
      curve: timeS.map((t) => decay(t - timeS[0]!, tauS)),
      tauS,
      cost: off(tauS) ** 2 / 2,
    })),
  ];
}

/** What each partial's phase does under a sharp start of one cent that follows a curve: its line's slope, and what that leaves over. */
function underOneCent(told: readonly PartialTold[], timeS: Float64Array, curve: Float64Array) {
  const stepS = timeS[1]! - timeS[0]!;
  // Seconds that it has run ahead.
  const ahead = new Float64Array(timeS.length);
  for (let k = 1; k < ahead.length; k++) ahead[k] = ahead[k - 1]! + 0.5 * (curve[k]! + curve[k - 1]!) * stepS;
  return told.map(({ w }) => {
    const line = weightedLine(timeS, ahead, w);
    return { pull: line.slope, bend: leftOver(ahead, timeS, line) };
  });
}
type Bent = ReturnType<typeof underOneCent>;

/** The sharp start where the partials agree (Student-t weights), under its prior: beats are each partial's own and scatter, tension moves all alike. */
function agreed(partials: readonly PartialTold[], bent: Bent): { cents: number; sd: number } {
  const each = partials.flatMap(({ w, used, perCent, residual, lead }, i) => {
    const { bend } = bent[i]!;
    let num = 0;
    let den = 0;
    for (let k = 0; k < used; k++) {
      num += w[k]! * perCent * bend[k]! * residual[k]!;
      den += w[k]! * (perCent * bend[k]!) ** 2;
    }
    if (den <= 0) return [];
    const s = num / den;
    const scale = Math.max(1, misfit(partials[i]!, bend, s));
    return [{ s, variance: (FRAME_OVERLAP * scale) / den / lead ** LEAD_POWER }];
  });
  let at = 0;
  let told = 0;
  let between = BETWEEN_CENTS ** 2;
  for (let round = 0; round < 12 && each.length > 0; round++) {
    let sum = 0;
    let weight = 0;
    let spread = 0;
    for (const { s, variance } of each) {
      const v = variance + between;
      const t = (NU + 1) / (NU + (s - at) ** 2 / v) / v;
      sum += t * s;
      weight += t;
      spread += t * (s - at) ** 2;
    }
    // How far they disagree, beyond what each leaves over.
    between = Math.max(BETWEEN_CENTS ** 2, spread / weight);
    told = weight;
    at = sum / (weight + priorPrecision(at));
  }
  return { cents: Math.max(0, at), sd: 1 / Math.sqrt(told + 1 / SHARP_SPREAD ** 2) };
}

/** Mean square of what a sharp start leaves of a partial's phase, in units of its frames' variance. */
function misfit({ w, used, perCent, residual }: PartialTold, bend: Float64Array, cents: number): number {
  let sum = 0;
  for (let k = 0; k < used; k++) sum += w[k]! * (residual[k]! - cents * perCent * bend[k]!) ** 2;
  return sum / used;
}

/**
 * The sharp start of a plucked string: its tension, and so its pitch, rises with the square of its amplitude (Carrier 1945; Valette
 * 1995). By which law that falls is averaged over laws, each by how well it describes the partials' phases. Takes what it explains out
 * of the residuals.
 * @param known the sharp start at the beginning of the stretch, where it was read before: it is not sought
 */
export function takeSharpStart(
  tracks: readonly PartialTrack[],
  noise: readonly number[],
  told: readonly PartialTold[],
  known?: Sharp,
): SharpStart {
  const { timeS } = tracks[0]!;
  const laws = known
    ? [{ curve: timeS.map((t) => Math.exp((timeS[0]! - t) / known.tauS)), tauS: known.tauS, cost: 0 }]
    : lawsOf(tracks, noise);
  const fits = laws.map(({ curve, tauS, cost }) => {
    const bent = underOneCent(told, timeS, curve);
    const { cents, sd } = known ? { cents: known.cents, sd: KNOWN_SHARE * known.cents } : agreed(told, bent);
    const fit = told.reduce(
      (sum, t, i) =>
        sum + ((t.lead * WORTH * t.used) / FRAME_OVERLAP) * Math.log(ALIKE + misfit(t, bent[i]!.bend, cents)),
      cost + Math.log1p((cents / SHARP_SCALE) ** 2),
    );
    const leads = told.reduce((sum, t) => sum + t.lead, 0);
    return { bent, tauS, cents, sd, fit, pull: told.reduce((sum, t, i) => sum + t.lead * bent[i]!.pull, 0) / leads };
  });
  // What does not die was not plucked: there is nothing to be in doubt about.
  const { curve: energy } = laws[0]!;
  const died = known ? 1 : Math.min(1, Math.max(0, 1 - energy[energy.length - 1]!) / DIES);
  const least = Math.min(...fits.map((f) => f.fit));
  const all = fits.reduce((sum, f) => sum + Math.exp(least - f.fit), 0);
  const start: SharpStart = { cents: 0, tauS: 0, pulls: told.map(() => 0), sigmaCents: 0 };
  let mean = 0;
  let square = 0;
  const taken = told.map((t) => new Float64Array(t.used));
  for (const { bent, tauS, cents, sd, fit, pull } of fits) {
    const share = Math.exp(least - fit) / all;
    start.cents += share * cents;
    start.tauS += share * tauS;
    mean += share * cents * pull;
    square += share * ((cents * pull) ** 2 + (died * sd * pull) ** 2);
    bent.forEach((b, i) => {
      start.pulls[i]! += share * cents * b.pull;
      const scale = share * cents * told[i]!.perCent;
      for (let k = 0; k < taken[i]!.length; k++) taken[i]![k]! += scale * b.bend[k]!;
    });
  }
  told.forEach(({ residual }, i) => taken[i]!.forEach((v, k) => (residual[k]! -= v)));
  start.sigmaCents = Math.sqrt(Math.max(0, square - mean ** 2));
  return start;
}
