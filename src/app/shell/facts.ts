const DAY = 86400000;

/**
 * The next time the clock shows what was typed, today or tomorrow: '19:30', '19.30', '1930', '7:30 pm', '7pm'; undefined for what
 * is no time of day.
 */
export function nextAt(text: string, nowMs: number, zoneMin: number): number | undefined {
  const m = /^\s*(\d{1,2})(?:[:.h]?(\d{2}))?\s*([ap])?\.?\s*(?:m\.?)?\s*$/i.exec(text);
  if (!m || (m[2] === undefined && m[3] === undefined)) return undefined;
  const half = m[3]?.toLowerCase();
  const told = Number(m[1]);
  if (half && (told < 1 || told > 12)) return undefined;
  const hour = half ? (told % 12) + (half === 'p' ? 12 : 0) : told;
  const minute = Number(m[2] ?? 0);
  if (hour > 23 || minute > 59) return undefined;
  const midnight = Math.floor((nowMs + zoneMin * 60000) / DAY) * DAY - zoneMin * 60000;
  const at = midnight + (hour * 60 + minute) * 60000;
  return at > nowMs ? at : at + DAY;
}

/** A room's temperature, deg C, as one types it: '19.5', '19,5 °C', '−3', '68 F'; NaN for what is none. */
export function temperatureC(text: string): number {
  const m = /^\s*([-−+]?\d+(?:[.,]\d+)?)\s*°?\s*([cf])?\s*$/i.exec(text);
  if (!m) return NaN;
  const value = Number(m[1]!.replace(',', '.').replace('−', '-'));
  return m[2]?.toLowerCase() === 'f' ? ((value - 32) * 5) / 9 : value;
}
