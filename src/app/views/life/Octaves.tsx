import { adviceFor, type Octaves as InstrumentOctaves, octaveLinesWords } from '../../../core/octave';

const WIDE = 150;
const HIGH = 30;

/** How each string's octave stood, pass after pass, and what follows from the last one. */
export function OctaveHistory({ octaves, now }: { octaves: InstrumentOctaves; now: number }) {
  const read = octaves.strings.filter((s) => s.last);
  const all = read.flatMap((s) => s.passes);
  const [fromMs, toMs] = [Math.min(...all.map((p) => p.atMs)), Math.max(...all.map((p) => p.atMs))];
  const most = Math.max(4, ...all.map((p) => Math.abs(p.errors.errorCents)));
  const x = (ms: number) => (toMs === fromMs ? WIDE / 2 : (WIDE * (ms - fromMs)) / (toMs - fromMs));
  const y = (cents: number) => (HIGH / 2) * (1 - cents / most);
  return (
    <>
      <ul className="text-sm">
        {read.map((s) => (
          <li key={s.stringId} className="flex items-center gap-4 border-t border-line py-1">
            <b className="w-10">{s.note}</b>
            <svg viewBox={`-4 -4 ${WIDE + 8} ${HIGH + 8}`} className="h-9 w-40 shrink-0" aria-hidden="true">
              <path d={`M0 ${HIGH / 2}H${WIDE}`} stroke="var(--line)" />
              <polyline
                points={s.passes.map((p) => `${x(p.atMs)},${y(p.errors.errorCents)}`).join(' ')}
                fill="none"
                stroke="var(--deep)"
                strokeWidth={1.5}
              />
              {s.passes.map((p) => (
                <circle key={p.passId} cx={x(p.atMs)} cy={y(p.errors.errorCents)} r={2.5} fill="var(--deep)" />
              ))}
            </svg>
            <span className="flex-1">{adviceFor(s, octaves, 'mm', now)}</span>
          </li>
        ))}
      </ul>
      <p className="pt-1 text-xs text-ink2">{octaveLinesWords(most)}</p>
    </>
  );
}
