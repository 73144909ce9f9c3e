import { array } from 'yup';
import { isBridgeMemory, type BridgeMemory } from '../../codes';
import { count, finite, part, within } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

const logarithms = () => array().of(finite().required()).max(60).required();

/** What its owner says of a floating bridge, and what was learned of it. */
export const bridge = recordKind(
  'bridge',
  {
    ...ofInstrument,
    springs: count(1, 8).required(),
    /** What a turn of the claw's screws moves it by; a usual one where nobody said. */
    screwPitchMm: within(0.2, 4).optional(),
    memory: part({ mean: logarithms(), covariance: array().of(logarithms()).max(60).required() })
      .test('memory', '${path} is no memory of a bridge', (m) => !m || isBridgeMemory(m as Partial<BridgeMemory>))
      .optional(),
  },
  (r, names) => `${names.instrument(r.instrumentId)}: its bridge, ${r.springs} springs${r.memory ? ', learned' : ''}`,
  { instrumentId: 'x', springs: 3, screwPitchMm: 0.7 },
);
export type BridgeRecord = RecordOf<typeof bridge>;
