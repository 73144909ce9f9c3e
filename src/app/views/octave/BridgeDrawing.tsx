import { symlog, signed } from '../../parts/format';
import { type Octaves, direction, sizeOf, VERDICT_WORDS } from '../../../core/octave';
import type { LengthUnit } from '../../../core/strings';
import { clamp } from '../../../core/base';

const WIDTH = 900;
const ROW = 54;
const TOP = 34;
/** Error scale at the left, the bridge at the right. */
const SCALE = { from: 70, to: 400 };
const BRIDGE_X = 700;
/** Moves are drawn this many times larger than the string spacing is. */
const EXAGGERATION = 12;
const PX_PER_MM = 2.2 * EXAGGERATION;
const FULL = 20;

/** The bridge from above: every string comes from the nut at the left to where it bears, and where it should. */
export function SaddlesDrawing({
  octaves,
  current,
  unit,
}: {
  octaves: Octaves;
  current: string | undefined;
  unit: LengthUnit;
}) {
  const { strings, line, loose } = octaves;
  const height = TOP + strings.length * ROW + 10;
  const y = (i: number) => TOP + (i + 0.5) * ROW;
  const x0 = (SCALE.from + SCALE.to) / 2;
  const ex = (cents: number) => x0 + symlog(cents, FULL) * ((SCALE.to - SCALE.from) / 2 - 8);
  const reach = (move: number) => BRIDGE_X + clamp(move * PX_PER_MM, -110, 150);
  const across = strings.map((s) => s.acrossMm);
  const widest = Math.max(...across, 1);
  const lineAt = (a: number) =>
    line ? line.footMoves.lowMm + ((line.footMoves.highMm - line.footMoves.lowMm) * a) / widest : 0;
  return (
    <div className="overflow-x-auto" tabIndex={-1}>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full min-w-[740px]"
        role="img"
        aria-label={`Bridge from above, moves drawn ${EXAGGERATION} times larger: ${strings.map((s) => `${s.note} ${s.last ? signed(s.last.errors.errorCents) : 'not read'}`).join(', ')}`}
      >
        <rect
          x={SCALE.from}
          y={TOP}
          width={x0 - SCALE.from}
          height={height - TOP - 10}
          fill="var(--water)"
          opacity={0.6}
        />
        <rect x={x0} y={TOP} width={SCALE.to - x0} height={height - TOP - 10} fill="var(--land)" opacity={0.6} />
        {[-10, -3, -1, 0, 1, 3, 10].map((c) => (
          <g key={c}>
            <path
              d={`M${ex(c)} ${TOP}V${height - 10}`}
              stroke={c === 0 ? 'var(--ink)' : 'var(--line)'}
              strokeWidth={c === 0 ? 1.8 : 1}
            />
            <text x={ex(c)} y={TOP - 8} textAnchor="middle" fontSize={15} fill="var(--ink2)" className="figure">
              {c === 0 ? '0' : signed(c, 0)}
            </text>
          </g>
        ))}
        <text x={BRIDGE_X} y={TOP - 20} textAnchor="middle" fontSize={15} fill="var(--ink2)">
          bridge from above, moves ×{EXAGGERATION}
        </text>
        <text x={SCALE.from} y={12} fontSize={15} fill="var(--ink2)">
          octave against the open string, cents
        </text>
        {loose && (
          <rect
            x={BRIDGE_X - 7}
            y={y(0) - 20}
            width={14}
            height={y(strings.length - 1) - y(0) + 40}
            fill="var(--sand)"
            opacity={0.5}
          />
        )}
        {line && strings.length > 1 && (
          <path
            d={`M${reach(lineAt(across[0]!))} ${y(0) - 20}L${reach(lineAt(across[across.length - 1]!))} ${y(strings.length - 1) + 20}`}
            stroke="var(--rust)"
            strokeWidth={2}
            strokeDasharray="7 5"
          />
        )}
        {strings.map((s, i) => {
          const e = s.last?.errors;
          const moves = s.moveMm !== null && s.verdict === 'saddle' && (!loose || !line);
          return (
            <g key={s.stringId}>
              {current === s.stringId && (
                <rect
                  x={0}
                  y={y(i) - ROW / 2 + 3}
                  width={WIDTH}
                  height={ROW - 6}
                  fill="var(--ink)"
                  opacity={0.07}
                  rx={6}
                />
              )}
              <text x={6} y={y(i) + 6} fontSize={18} fontWeight={700} fill="var(--ink)">
                {s.note}
              </text>
              <path
                d={`M${SCALE.to + 14} ${y(i)}H${BRIDGE_X}`}
                stroke="var(--ink2)"
                strokeWidth={1 + (3 * i) / strings.length}
              />
              {!loose && <rect x={BRIDGE_X - 5} y={y(i) - 11} width={10} height={22} fill="var(--ink)" />}
              {e && (
                <g opacity={s.moveMm === null ? 0.45 : 1}>
                  <path
                    d={`M${ex(e.errorCents - 2 * e.sigmaCents)} ${y(i)}H${ex(e.errorCents + 2 * e.sigmaCents)}`}
                    stroke="var(--ink)"
                    strokeWidth={2}
                  />
                  <circle
                    cx={ex(e.errorCents)}
                    cy={y(i)}
                    r={6}
                    fill={e.errorCents < 0 ? 'var(--deep)' : 'var(--sand)'}
                    stroke="var(--ink)"
                  />
                  <text x={SCALE.to + 18} y={y(i) - 8} fontSize={15} fill="var(--ink)" className="figure">
                    {signed(e.errorCents)}
                  </text>
                  <text x={SCALE.to + 62} y={y(i) - 8} fontSize={15} fill="var(--ink2)">
                    {s.moveMm === null ? 'moved, read again' : s.verdict && VERDICT_WORDS[s.verdict]}
                  </text>
                </g>
              )}
              {moves && (
                <g>
                  <path d={`M${BRIDGE_X} ${y(i)}H${reach(s.moveMm!)}`} stroke="var(--rust)" strokeWidth={2.5} />
                  <rect
                    x={reach(s.moveMm!) - 5}
                    y={y(i) - 11}
                    width={10}
                    height={22}
                    fill="none"
                    stroke="var(--rust)"
                    strokeWidth={2}
                    strokeDasharray="4 3"
                  />
                  <text x={BRIDGE_X + 60} y={y(i) - 14} fontSize={15} fill="var(--rust)" className="figure">
                    {sizeOf(s.moveMm!, unit)} {s.moveMm! > 0 ? '→' : '←'}
                  </text>
                </g>
              )}
            </g>
          );
        })}
        {line &&
          (
            [
              ['high', line.footMoves.highMm, y(0) - 24],
              ['low', line.footMoves.lowMm, y(strings.length - 1) + 22],
            ] as const
          ).map(([name, move, at]) => (
            <text key={name} x={BRIDGE_X + 24} y={at + 6} fontSize={15} fontWeight={700} fill="var(--rust)">
              {Math.abs(move) < 0.1 ? 'stays' : `${sizeOf(move, unit)} ${direction(move)}`}
            </text>
          ))}
      </svg>
    </div>
  );
}
