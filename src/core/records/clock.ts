const pad = (n: number) => String(n).padStart(2, '0');

/** Local time of day, '16:42'. */
export function clockTime(atMs: number, zoneMin: number): string {
  const d = new Date(atMs + zoneMin * 60000);
  if (Number.isNaN(d.getTime())) return '–';
  return `${pad(d.getUTCHours())}:${pad(d.getUTCMinutes())}`;
}
