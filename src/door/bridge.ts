import { array, lazy, mixed, number, object, string } from 'yup';
import { adviseBridge, memorySize, type BridgeEvent, springsHold, lawOf, USUAL } from '../core/bridge';
import { BRIDGE_ORDERS, BRIDGE_TASKS, isBridgeMemory } from '../core/codes';
import { LEAST_SIGMA_CENTS, MOST_CENTS, MOST_CLAW_TURNS } from '../core/limits';
import { DEFAULT_A4_HZ, targetFrequencyHz } from '../core/music';
import { checked, refused } from './lines';

const MOST = 12;
const figure = () => number().strict();
const sigma = () => figure().min(LEAST_SIGMA_CENTS).max(100).optional();
const index = () => figure().integer().min(1).max(MOST).required();
const cents = () => figure().min(-MOST_CENTS).max(MOST_CENTS).required();
const target = () => mixed<string | number>().required();
const kinds = {
  read: object({ kind: string(), string: index(), cents: cents(), sigmaCents: sigma() }),
  set: object({ kind: string(), string: index(), cents: cents(), sigmaCents: sigma() }),
  claw: object({ kind: string(), turns: figure().min(-MOST_CLAW_TURNS).max(MOST_CLAW_TURNS).required() }),
  tilt: object({ kind: string(), degrees: figure().min(-30).max(30).required() }),
};
const noKind = object({ kind: mixed<string>().oneOf(Object.keys(kinds)).required() });
const matrix = () => array().of(array().of(figure().required()).required()).required();

const schema = object({
  bridge: object({
    springs: figure().integer().min(0).max(8).required(),
    screwPitchMm: figure().min(0.2).max(4).optional(),
    locking: mixed<boolean>().optional(),
    scaleMm: figure().min(300).max(1000).required(),
  }).required(),
  strings: array()
    .of(
      object({
        target: target(),
        gaugeMm: figure().min(0.1).max(4).required(),
        material: mixed<string>().oneOf(['plain-steel', 'wound-steel']).required(),
        coreMm: figure().min(0.1).max(2).nullable().optional(),
      }).required(),
    )
    .min(2)
    .max(MOST)
    .required(),
  task: mixed<(typeof BRIDGE_TASKS)[number]>().oneOf(BRIDGE_TASKS).required(),
  toleranceCents: figure().min(0.5).max(50).optional(),
  order: mixed<(typeof BRIDGE_ORDERS)[number]>().oneOf(BRIDGE_ORDERS).optional(),
  memory: object({ mean: array().of(figure().required()).required(), covariance: matrix() })
    .nullable()
    .optional()
    .default(undefined),
  sigmaCents: sigma(),
  tunedBefore: array().of(target()).max(MOST).optional(),
  events: array()
    .of(
      lazy((value: unknown) => {
        const kind = (value as { kind?: unknown } | null)?.kind;
        return typeof kind === 'string' && Object.hasOwn(kinds, kind) ? kinds[kind as keyof typeof kinds] : noKind;
      }),
    )
    .max(500)
    .required(),
});

/** One line of `bridge`: a floating bridge, its strings and what happened so far in; what to do next, and what is expected, out. */
export function bridgeAnswer(item: Record<string, unknown>): object {
  const id = item['id'] === undefined ? {} : { id: item['id'] };
  const valid = checked(schema, item, 'bad-bridge');
  if (!valid.ok) return { ...id, ...valid };
  const { bridge, strings, task, order = 'least-tilt', toleranceCents = 2, memory, sigmaCents } = valid.value;
  const hz = strings.map((s) => targetFrequencyHz(s.target, DEFAULT_A4_HZ));
  const bad = hz.findIndex((h) => h === undefined);
  if (bad >= 0)
    return { ...id, ...refused('bad-bridge', `The target of string ${bad + 1} is no note and no frequency.`) };
  const events = (valid.value.events as BridgeEvent[]).map((e) =>
    (e.kind === 'read' || e.kind === 'set') && sigmaCents !== undefined && e.sigmaCents === undefined
      ? { ...e, sigmaCents }
      : e,
  );
  if (events.some((e) => 'string' in e && e.string > strings.length))
    return { ...id, ...refused('bad-bridge', `There are ${strings.length} strings only.`) };
  if (events.reduce((sum, e) => sum + (e.kind === 'claw' ? Math.abs(e.turns) : 0), 0) > MOST_CLAW_TURNS + 1e-9)
    return { ...id, ...refused('bad-bridge', 'More than eight turns of the claw in all are not followed.') };
  const law = lawOf({
    springs: bridge.springs,
    screwPitchMm: bridge.screwPitchMm ?? USUAL.screwPitchMm,
    scaleMm: bridge.scaleMm,
    strings: strings.map((s, i) => ({
      targetHz: hz[i]!,
      gaugeMm: s.gaugeMm,
      wound: s.material === 'wound-steel',
      coreMm: s.coreMm ?? undefined,
    })),
  });
  const size = memorySize(strings.length);
  if (memory && !isBridgeMemory(memory))
    return {
      ...id,
      ...refused('bad-bridge', 'The memory is none: its covariance is not square, symmetric and positive.'),
    };
  if (memory && memory.mean.length !== size)
    return { ...id, ...refused('bad-bridge', 'The memory is of another bridge: it has other strings.') };
  if (!law || !springsHold(law, bridge.springs))
    return {
      ...id,
      ...refused(
        'unstable-bridge',
        `${bridge.springs} springs do not hold these strings: add a spring, or lighter strings.`,
      ),
    };
  const a = adviseBridge({ law, task, toleranceCents, order, memory: memory ?? null, events });
  if (a.coupling.lambda >= 1)
    return {
      ...id,
      ...refused(
        'unstable-bridge',
        'Every string that is tuned puts the others off by more: add a spring, or lighter strings.',
      ),
    };
  const figures = [a.stopAtCents ?? 0, a.turns ?? 0, ...a.expected, ...a.expectedSd, ...a.memory.mean];
  if (!figures.every((v) => v === null || Number.isFinite(v)))
    return { ...id, ...refused('bad-bridge', 'From these figures nothing can be worked out.') };
  return {
    ok: true,
    ...id,
    do: a.do,
    ...(a.string === undefined ? {} : { string: a.string }),
    ...(a.stopAtCents === undefined ? {} : { stopAtCents: a.stopAtCents }),
    ...(a.turns === undefined ? {} : { turns: a.turns }),
    expected: a.expected,
    expectedSd: a.expectedSd,
    coupling: a.coupling.lambda,
    memory: a.memory,
  };
}
