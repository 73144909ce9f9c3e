/** Units a user may choose; the core itself works in mm and N. */
export const LENGTH_UNITS = ['mm', 'in'] as const;
export const FORCE_UNITS = ['N', 'kg', 'lb'] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];
export type ForceUnit = (typeof FORCE_UNITS)[number];

/** International inch, kilogram-force and pound-force, all exact by definition (NIST SP 811). */
const MM_PER_IN = 25.4;
const N_PER: Record<ForceUnit, number> = { N: 1, kg: 9.80665, lb: 4.4482216152605 };

/** A length in the unit of its reader. */
export const lengthIn = (mm: number, unit: LengthUnit): number => (unit === 'mm' ? mm : mm / MM_PER_IN);
/** A pull in the unit of its reader. */
const forceIn = (newton: number, unit: ForceUnit): number => newton / N_PER[unit];

/** Inches as gauges are written: no leading zero, three decimals, a fourth where it shows in mm. */
function inches(mm: number): string {
  const value = mm / MM_PER_IN;
  const whole = Math.abs(value - Math.round(value * 1000) / 1000) * MM_PER_IN < 5e-4;
  return `${value.toFixed(whole ? 3 : 4).replace(/^0/, '')} in`;
}

/** A gauge in both ways of writing it: '0.254 mm (.010 in)'. */
export function gaugeWords(mm: number): string {
  return `${Number(mm.toFixed(3))} mm (${inches(mm)})`;
}

/** A length for the screen, in the chosen unit. */
export function lengthWords(mm: number, unit: LengthUnit): string {
  return unit === 'mm' ? `${Number(mm.toFixed(1))} mm` : `${(mm / MM_PER_IN).toFixed(2)} in`;
}

/** A tension for the screen, in the chosen unit. */
export function forceWords(newton: number, unit: ForceUnit): string {
  return `${forceIn(newton, unit).toFixed(unit === 'N' ? 0 : 1)} ${unit}`;
}

/** Gauges thinner or thicker than these are no strings, mm. */
const THINNEST_MM = 0.1;
const THICKEST_MM = 6.5;
/** No string is thinner than this; what looks so, written with three decimals, is in inches (house rule). */
const INCHES_BELOW_MM = 0.18;

/**
 * Reads a gauge however players write it: '0.25' mm, '.010' or '0.010' inches, '10' thousandths of an inch, '0.25 mm',
 * '.010 in', '10 thou'. Show {@link gaugeWords} of the result before it is taken.
 * @returns mm, or undefined when it is no gauge from 0.1 to 6.5 mm
 */
export function parseGaugeMm(text: string): number | undefined {
  const m = /^\s*(\d*[.,]?\d+)\s*(mm|in|"|″|thou)?\s*$/i.exec(text);
  if (!m) return undefined;
  const digits = m[1]!.replace(',', '.');
  const value = Number(digits);
  const decimals = digits.split('.')[1]?.length ?? 0;
  const unit = m[2]?.toLowerCase();
  let mm: number;
  if (unit === 'mm') mm = value;
  else if (unit === 'thou') mm = (value * MM_PER_IN) / 1000;
  else if (unit) mm = value * MM_PER_IN;
  else if (decimals === 0 && value > THICKEST_MM) mm = (value * MM_PER_IN) / 1000;
  else if (decimals >= 3 && (digits.startsWith('.') || value < INCHES_BELOW_MM)) mm = value * MM_PER_IN;
  else if (value < THINNEST_MM) mm = value * MM_PER_IN;
  else mm = value;
  return mm >= THINNEST_MM - 1e-9 && mm <= THICKEST_MM ? mm : undefined;
}

/**
 * Reads a length in the chosen unit; a written unit overrides it: '648', '25.5 in'.
 * @returns mm, or undefined when it is no length
 */
export function parseLengthMm(text: string, unit: LengthUnit): number | undefined {
  const m = /^\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|in|"|″)?\s*$/i.exec(text);
  if (!m) return undefined;
  const value = Number(m[1]!.replace(',', '.'));
  const written = m[2]?.toLowerCase() ?? unit;
  return written === 'mm' ? value : written === 'cm' ? 10 * value : value * MM_PER_IN;
}
