import { handleAngleDeg, slackForTurnsMm, type FamilyTraits, type StringMaterial } from '../strings';

/** The small drawings that go with steps. */
export type Picture =
  'block' | 'ends' | 'slot' | 'groove' | 'tree' | 'wear-rings' | 'seat' | 'slack' | 'coil' | 'kinks';

/** One screen of the guided fitting. */
export interface FittingStep {
  code: string;
  /** 'do' is ticked by hand; the others listen. 'remove' also asks why the old string goes; 'on' begins its age. */
  kind: 'do' | 'remove' | 'on' | 'raise-under' | 'raise' | 'rounds' | 'warm';
  /** The string it is about; null for the instrument. */
  stringId: string | null;
  title: string;
  why: string;
  /** What to do, in order. */
  points: string[];
  caution?: string;
  picture?: Picture;
}

/** What the steps need to know of one string. */
export interface FittedString {
  stringId: string;
  note: string;
  material: StringMaterial;
  gaugeMm: number | null;
}

const isWound = (m: StringMaterial) => m.startsWith('wound') || m === 'synthetic-bowed';
export const isNylon = (m: StringMaterial) => m === 'plain-nylon' || m === 'wound-nylon' || m === 'fluorocarbon';

/** Turns round the post: plain strings more, wound ones fewer (trade usage). */
export function turnsFor(material: StringMaterial, tuner: FamilyTraits['tuner']): number {
  if (tuner === 'pin') return 3;
  return isWound(material) ? 2.5 : isNylon(material) ? 3 : 4;
}

/** Once for the instrument, before any string comes off. */
export function beforeSteps(traits: FamilyTraits, several: boolean): FittingStep[] {
  const steps: FittingStep[] = [];
  const { holds } = traits;
  if (holds !== 'nothing') {
    const what = {
      'bridge-and-soundpost': 'The strings hold the bridge up and keep the soundpost where it stands.',
      springs: 'The strings balance the bridge’s springs: with one gone, all the others move.',
      'loose-bridge': 'Only the strings’ pull keeps the bridge in its place.',
    }[holds];
    steps.push({
      code: 'one-at-a-time',
      kind: 'do',
      stringId: null,
      title: holds === 'springs' ? 'Block the bridge, one string at a time' : 'One string at a time',
      why: what,
      points: [
        ...(holds === 'springs'
          ? ['Set a block under the bridge so that it cannot dive or rise; soft cloth between.']
          : []),
        ...(holds === 'loose-bridge' ? ['Mark both feet with removable tape before anything is slackened.'] : []),
        'Take off and fit one string, bring it near pitch, then the next.',
        ...(holds === 'bridge-and-soundpost'
          ? ['After each one look from the side: the bridge’s back stands square to the top.']
          : []),
      ],
      caution:
        holds === 'springs'
          ? 'Springs and their claw are under load: keep fingers clear. A bridge you cannot block is a repairer’s.'
          : 'If bridge or soundpost falls, do not tune up again: a repairer sets them.',
      picture: 'block',
    });
  }
  if (several)
    steps.push({
      code: 'order',
      kind: 'do',
      stringId: null,
      title: 'Bring all strings up in steps',
      why: 'The body gives under each new string: one taken to the top alone is pulled flat by the next.',
      points: ['Outer and inner strings in turn, all to two semitones under first.', 'Only then each to its pitch.'],
    });
  return steps;
}

/** From the old string to the new one lying on its post. */
export function putOnSteps(s: FittedString, traits: FamilyTraits): FittingStep[] {
  const { stringId } = s;
  const { tuner, postMm } = traits;
  const turns = turnsFor(s.material, tuner);
  const slackMm = slackForTurnsMm(turns, postMm, s.gaugeMm ?? 0);
  const steel = s.material.includes('steel');
  const steps: FittingStep[] = [
    {
      code: 'take-off',
      kind: 'remove',
      stringId,
      title: `Let ${s.note} down, then take it off`,
      why: 'A string cut under tension whips and shocks the neck.',
      points: ['Slacken until it flaps, then unwind or cut it.', 'Say why it goes.'],
      caution:
        'Keep your face out of the string’s plane, eyes covered. Ends are sharp and go into a finger unnoticed: bend or break them off and bin them at once. Children’s instruments: an adult strings them.',
      picture: 'ends',
    },
    {
      code: 'nut-slot',
      kind: 'do',
      stringId,
      title: 'Look at the nut slot',
      why: 'A string that binds here jumps instead of sliding, and comes back flat after every bend.',
      points: [
        'Draw a narrow fold of 400-grade paper through once or twice; take dirt, not the slot’s shape.',
        'A trace of lubricant or soft graphite.',
      ],
      caution: 'Do not breathe the dust. A cracked or lifting nut or a slot worn too deep: stop, a repairer’s work.',
      picture: 'slot',
    },
    {
      code: 'saddle-groove',
      kind: 'do',
      stringId,
      title: 'Feel the saddle groove',
      why: 'A burr here cuts strings; a dull edge lets them creep over it.',
      points: ['Run a thread along the groove: where it catches, polish.', 'Look where the last string broke.'],
      caution: 'A lifting bridge or a crack: leave the strings off and see a repairer.',
      picture: 'groove',
    },
  ];
  if (traits.tree && steel)
    steps.push({
      code: 'string-tree',
      kind: 'do',
      stringId,
      title: 'Clean the string tree',
      why: 'Rust inside its wings holds a string back.',
      points: ['Wipe the wings inside, a trace of lubricant.'],
      picture: 'tree',
    });
  if (tuner === 'friction-peg')
    steps.push({
      code: 'peg-rings',
      kind: 'do',
      stringId,
      title: 'Look at the peg’s two shining rings',
      why: 'The peg holds by friction on these rings: too dry it jumps, too slick it runs back.',
      points: ['Slips or sticks: peg compound, thinly, on the rings.', 'Only sticks: a touch of soft graphite.'],
      caution: 'Rings of uneven width or a peg that wobbles: a repairer reams it, not you.',
      picture: 'wear-rings',
    });
  steps.push(
    {
      code: 'seat',
      kind: 'do',
      stringId,
      title: tuner === 'pin' ? 'Hang the loop' : 'Seat the ball, loop or knot',
      why: 'What is not seated now settles later, all at once.',
      points: [
        isNylon(s.material)
          ? 'Pull the tie tight by hand; the last tuck lies behind the edge.'
          : 'Pull it home by hand.',
        'Let the free end turn: no twist along the string.',
      ],
      picture: 'seat',
    },
    {
      code: 'slack',
      kind: 'do',
      stringId,
      title: `Leave ${Math.round(slackMm)} mm of slack`,
      why: `That makes ${turns} turns on a ${postMm} mm ${tuner === 'geared' ? 'post' : tuner === 'pin' ? 'pin' : 'peg'}: enough to hold, few enough not to creep.`,
      points:
        tuner === 'pin'
          ? [
              'Back the pin out by as many turns as the coil will take, then wind it in again.',
              'Break the tail off by bending it to and fro.',
            ]
          : tuner === 'friction-peg'
            ? [
                `A tail 1 mm longer sets the handle ${Math.round(handleAngleDeg(1, postMm))} degrees further round: choose it so that your hand can work.`,
              ]
            : [
                'A locking post takes under one turn: pull it tight and lock.',
                'Hold the slack while you begin to wind.',
              ],
      picture: 'slack',
    },
    {
      code: 'coil',
      kind: 'on',
      stringId,
      title: 'Wind it neatly, downward',
      why: 'Crossed or gapped turns tighten for hours; a tidy coil presses the string down to the nut.',
      points:
        tuner === 'friction-peg'
          ? [
              'The coil runs close to the peg-box wall: not gapped, not jammed against it.',
              'Turn and push in together.',
            ]
          : ['Each turn under the one before, towards the head.', 'Stop when it lies straight and just sounds.'],
      caution: 'Trim the tail, bend the end over, bin the piece.',
      picture: 'coil',
    },
  );
  return steps;
}

/** Up to two semitones under, and the kinks made. */
export function raiseUnderSteps(s: FittedString, traits: FamilyTraits): FittingStep[] {
  const { stringId } = s;
  const soft = s.material === 'gut' || s.material === 'synthetic-bowed';
  return [
    {
      code: 'raise-under',
      kind: 'raise-under',
      stringId,
      title: `Bring ${s.note} up to two semitones under`,
      why: 'Little by little the coil, the knot and the body take the load.',
      points: [
        traits.tuner === 'geared'
          ? 'Sound it all the while you turn.'
          : 'Sound it; under a minute of the clock face at a time, turning and pushing in together.',
        ...(soft ? ['Ease it and pull it a little aside now and then.'] : []),
      ],
      caution: 'Face out of the string’s plane.',
    },
    {
      code: 'bed',
      kind: 'do',
      stringId,
      title: 'Bed it at nut and saddle',
      why: 'The string must take a sharp bend at both ends; a lazy curve straightens for days.',
      points: ['Press it down gently just beyond the nut, then just beyond the saddle.', 'Once each is enough.'],
      caution: 'Gently: a wound string kinked too hard breaks there.',
      picture: 'kinks',
    },
  ];
}

/** To its pitch, bedded by rounds. */
export function settleSteps(s: FittedString, traits: FamilyTraits): FittingStep[] {
  const { stringId } = s;
  const steps: FittingStep[] = [
    {
      code: 'raise',
      kind: 'raise',
      stringId,
      title: `Bring ${s.note} up to pitch`,
      why: 'It arrives from below, so that coil and slots are pulled tight.',
      points:
        traits.tuner === 'friction-peg'
          ? ['The last cents with the fine tuner, kept in the middle of its travel.']
          : ['Stop at the line; too far, go clearly below and come up.'],
    },
  ];
  if (isNylon(s.material))
    steps.push({
      code: 'warm',
      kind: 'warm',
      stringId,
      title: 'Warm it, or leave it',
      why: 'Some players warm new nylon to age it in minutes; others never do, because it may shorten the string’s life. It is yours to test: the log keeps which strings were warmed.',
      points: [
        'Skip it unless the string’s maker allows it.',
        'A shield under the strings, moving warm air, never on the instrument.',
        'Stop when the string is hot to the hand: it falls far and at once.',
      ],
      caution:
        'Never steel or gut, never over a lacquered top without a shield. Heat ruins finishes and glue, and burns: the maker’s word comes first.',
    });
  steps.push({
    code: 'rounds',
    kind: 'rounds',
    stringId,
    title: `Stretch ${s.note}`,
    why: 'Each round takes out what would fall during the next hours.',
    points: [],
    caution: 'Pull with the flat of the fingers or a cloth, never hard enough to hurt; face out of its plane.',
  });
  return steps;
}
