/** A room's temperature, deg C, as one types it: '19.5', '19,5 °C', '−3', '68 F'; NaN for what is none. */
export function temperatureC(text: string): number {
  const m = /^\s*([-−+]?\d+(?:[.,]\d+)?)\s*°?\s*([cf])?\s*$/i.exec(text);
  if (!m) return NaN;
  const value = Number(m[1]!.replace(',', '.').replace('−', '-'));
  return m[2]?.toLowerCase() === 'f' ? ((value - 32) * 5) / 9 : value;
}
