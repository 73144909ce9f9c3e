import type { FamilyTraits } from '../strings';
import type { FittingStep } from './steps';

/** Strings are changed one by one where their pull holds something; frames with pins keep their load that way too. */
export const isOneByOne = ({ holds, tuner }: FamilyTraits): boolean => holds !== 'nothing' || tuner === 'pin';

/** Once for the instrument, before any string comes off. */
export function beforeSteps(traits: FamilyTraits, several: boolean): FittingStep[] {
  const { holds, tuner, locking, fineTuners } = traits;
  const step = { kind: 'do' as const, stringIds: [] };
  if (holds === 'springs')
    return [
      {
        ...step,
        code: 'one-at-a-time',
        title: 'Block the bridge, then one string at a time',
        why: 'The strings balance the springs. With one string off, all the others move.',
        points: [
          ...(locking ? ['Open the clamps at the nut.'] : []),
          ...(locking || fineTuners ? ['Set all fine tuners to the middle of their travel.'] : []),
          'Put a block under the bridge so that it cannot move. Lay soft cloth between.',
          'Change one string, bring it to two semitones under, then change the next.',
        ],
        caution: 'Springs and claw are under load: keep fingers clear. If you cannot block the bridge, see a repairer.',
        picture: 'block',
      },
    ];
  if (holds !== 'nothing')
    return [
      {
        ...step,
        code: 'one-at-a-time',
        title: 'One string at a time',
        why:
          holds === 'loose-bridge'
            ? 'Only the pull of the strings keeps the bridge in its place.'
            : 'The strings hold the bridge up and keep the soundpost in its place.',
        points: [
          ...(holds === 'loose-bridge' ? ['Mark both bridge feet with removable tape.'] : []),
          'Change one string, bring it to two semitones under, then change the next.',
        ],
        caution:
          holds === 'loose-bridge'
            ? 'If the bridge falls, put it back on its marks before you tune up.'
            : 'If bridge or soundpost falls, do not tune up again. See a repairer.',
        picture: 'block',
      },
    ];
  if (!several) return [];
  if (tuner === 'pin')
    return [
      {
        ...step,
        code: 'one-at-a-time',
        title: 'One string after another',
        why: 'The frame keeps its load, and the other strings keep their pitch.',
        points: [
          'Change one string, bring it to two semitones under, then change the next.',
          'If the maker of the instrument gives another order, use that.',
        ],
      },
    ];
  return [
    {
      ...step,
      code: 'order',
      title: 'Bring all strings up in steps',
      why: 'The body gives under each new string. One taken up alone is pulled flat by the next.',
      points: [
        'Take outer and inner strings in turn, all to two semitones under first.',
        'Then bring each to its pitch.',
        'If the maker of the instrument gives another order, use that.',
      ],
    },
  ];
}

/** Once for the instrument, when all strings are up. */
export function afterSteps({ holds }: FamilyTraits): FittingStep[] {
  const step = { kind: 'do' as const, stringIds: [] };
  if (holds === 'springs')
    return [
      {
        ...step,
        code: 'unblock',
        title: 'Take the block out',
        why: 'Now the strings balance the springs again, and all of them move.',
        points: ['Hold the bar and take the block out.', 'Then tune with “Floating bridge”.'],
        caution: 'A block can fly out. Keep fingers clear of the springs.',
        picture: 'block',
      },
    ];
  if (holds === 'loose-bridge')
    return [
      {
        ...step,
        code: 'bridge-place',
        title: 'Check the place of the bridge',
        why: 'A bridge that has moved makes every fretted note wrong.',
        points: ['Look that both feet stand on their marks.', 'When the strings hold, check the intonation.'],
      },
    ];
  return [];
}
