import type { Draft, PassRecord } from '../log';
import type { GuidedLog } from './procedure';
import { HOUR } from '../base';

/** A pass that was left lying so long is over, ms (house estimate). */
const FORGOTTEN_MS = 6 * HOUR;

/** The pass of a kind that is under way on an instrument. */
export function passUnderWay(
  passes: readonly PassRecord[],
  kind: PassRecord['kind'],
  instrumentId: string,
  nowMs: number,
): PassRecord | undefined {
  const last = passes.findLast((p) => p.kind === kind && p.instrumentId === instrumentId);
  return last && !last.over && nowMs - last.startedMs < FORGOTTEN_MS ? last : undefined;
}

/** The pass of a kind that is under way on the instrument in hand. */
export const passOf = ({ bench, life, nowMs }: GuidedLog, kind: PassRecord['kind']): PassRecord | undefined =>
  passUnderWay(bench.passes, kind, life.record.instrumentId, nowMs);

/** The pass under way as it is written anew, or one that begins. */
export function passRecord(
  log: GuidedLog,
  kind: PassRecord['kind'],
  change: Partial<PassRecord>,
  anew = false,
): Extract<Draft, { type: 'pass' }> {
  const pass = anew ? undefined : passOf(log, kind);
  return {
    type: 'pass',
    kind,
    instrumentId: log.life.record.instrumentId,
    passId: pass?.passId ?? log.newId(),
    startedMs: pass?.startedMs ?? Math.floor(log.nowMs),
    skipped: pass?.skipped ?? [],
    over: false,
    ...(pass?.visit ? { visit: pass.visit } : {}),
    ...change,
  };
}
