import { clockTime, localDay } from '../base';
import type { InstrumentLife } from '../log';
import { plusMinus, signedCents } from '../music';
import { foundAndLeft } from './life';

/** The sheet that an owner is handed: what each string stood at, as it came and as it goes. */
export function lifeSheet(life: InstrumentLife) {
  const walk = foundAndLeft(life).filter((s) => s.found ?? s.left);
  const read = walk.flatMap((s) => [s.found, s.left]).filter((r) => r !== undefined);
  const last = [...read].sort((a, b) => a.atMs - b.atMs).at(-1);
  const figure = (r: (typeof read)[number] | undefined) =>
    r ? `${signedCents(r.cents)} ${plusMinus(r.sigmaCents)}` : 'not read';
  const temps = read.flatMap((r) => r.tempC ?? []);
  return {
    title: `${life.record.name}: as found and as left`,
    facts: last
      ? [
          ['Date', localDay(last.atMs, last.zoneMin)],
          ['Time', clockTime(last.atMs, last.zoneMin)],
          ['Reference', `A4 = ${last.a4Hz.toFixed(1)} Hz`],
          ['Room', temps.length > 0 ? `${temps.at(-1)!.toFixed(1)} °C` : 'not measured'],
          ['Tuned as', life.tuning?.name ?? 'its own notes'],
          ...(life.about?.owner ? [['Owner', life.about.owner]] : []),
        ]
      : [],
    rows: walk.map(({ note, found, left }) => ({ note, found: figure(found), left: figure(left) })),
    note: 'Cents from the target. ±: nine of ten readings lie within it.',
  };
}
