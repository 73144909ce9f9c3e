import { handleAngleDeg, slackForTurnsMm, type FamilyTraits, type StringMaterial } from '../strings';

/** The small drawings that go with steps. */
export type Picture =
  'block' | 'ends' | 'slot' | 'groove' | 'tree' | 'wear-rings' | 'seat' | 'slack' | 'coil' | 'kinks';

/** One screen of the guided fitting. */
export interface FittingStep {
  code: string;
  /** 'do' is ticked by hand; the others listen. 'remove' also asks why the old strings go; 'on' begins a string's age. */
  kind: 'do' | 'remove' | 'on' | 'raise-under' | 'raise' | 'rounds' | 'warm';
  /** The strings it is about: what is alike for all of them is done in one step. None where it is about the instrument. */
  stringIds: string[];
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

const namesOf = (strings: readonly FittedString[]) => (strings.length === 1 ? strings[0]!.note : 'the strings');
const idsOf = (strings: readonly FittedString[]) => strings.map((s) => s.stringId);

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
      stringIds: [],
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
      stringIds: [],
      title: 'Bring all strings up in steps',
      why: 'The body gives under each new string: one taken to the top alone is pulled flat by the next.',
      points: [
        'Outer and inner strings in turn, all to two semitones under first.',
        'Only then each to its pitch.',
        'Where the instrument’s maker says another order, theirs counts.',
      ],
    });
  return steps;
}

/** The old strings come off; then both ends are looked at while they lie bare. */
export function offSteps(strings: readonly FittedString[], traits: FamilyTraits): FittingStep[] {
  const stringIds = idsOf(strings);
  return [
    {
      code: 'take-off',
      kind: 'remove',
      stringIds,
      title: `Let ${namesOf(strings)} down, then take ${strings.length === 1 ? 'it' : 'them'} off`,
      why: 'A string cut under tension whips and shocks the instrument.',
      points: ['Slacken until it flaps, then unwind or cut it.', 'Say why it goes.'],
      caution:
        'Keep your face out of the string’s plane, eyes covered. Ends are sharp and go into a finger unnoticed: bend or break them off and bin them at once. Children’s instruments: an adult strings them.',
      picture: 'ends',
    },
    lookStep(strings, traits),
  ];
}

/** What a string runs over, by build. */
function lookStep(strings: readonly FittedString[], { tuner, tree, tied, holds }: FamilyTraits): FittingStep {
  const stringIds = idsOf(strings);
  const steel = strings.some((s) => s.material.includes('steel'));
  if (tuner === 'pin')
    return {
      code: 'look',
      kind: 'do',
      stringIds,
      title: 'Look at pins and far ends',
      why: 'A pin that turns too easily never holds; a burr where the string bears cuts it.',
      points: [
        'Turn each pin a little with the key: it should move stiffly and stay.',
        'Run a thread along where the string bears at its far end: where it catches, polish.',
      ],
      caution:
        'A loose pin is not driven in and not glued unless the instrument’s maker says so: a repairer fits a thicker one. A crack along the pins: stop.',
      picture: 'groove',
    };
  const many = strings.length > 1;
  return {
    code: 'look',
    kind: 'do',
    stringIds,
    title: many ? 'Look at the nut slots and where the strings bear' : 'Look at the nut slot and where it bears',
    why: 'A string that binds at the nut jumps instead of sliding; a burr at the bridge cuts it.',
    points: [
      'Nut: draw a narrow fold of 400-grade paper through once or twice; take dirt, not the slot’s shape. Then a trace of lubricant or soft graphite.',
      tied
        ? 'Bridge: run a thread over the edge that the string crosses and through its hole: where it catches, polish.'
        : `${holds === 'springs' || holds === 'nothing' ? 'Saddle' : 'Bridge'}: run a thread along the groove: where it catches, polish. Look where the last string broke.`,
      ...(tree && steel ? ['String tree: wipe its wings inside, a trace of lubricant.'] : []),
      ...(tuner === 'friction-peg'
        ? [
            'Peg: look at its two shining rings. Slips or sticks: peg compound, thinly, on the rings. Only sticks: a touch of soft graphite.',
          ]
        : []),
    ],
    caution:
      tuner === 'friction-peg'
        ? 'Do not breathe the dust. Rings of uneven width, a peg that wobbles, a cracked nut: a repairer’s work.'
        : 'Do not breathe the dust. A cracked or lifting nut, a slot worn too deep, a lifting bridge: stop, a repairer’s work.',
    picture: tuner === 'friction-peg' ? 'wear-rings' : 'slot',
  };
}

/** How the end away from the tuner is made fast, by build and string. */
function seatPoint(s: FittedString, { tuner, tied }: FamilyTraits): string {
  if (tuner === 'pin') return 'Hang the loop on its hook or hitch pin; no twist along the string.';
  if (tied && isNylon(s.material))
    return 'Tie it at the bridge and pull the tie tight by hand; the last tuck lies behind the edge.';
  return 'Seat the ball, loop or knot: pull it home by hand. Let the free end turn: no twist along the string.';
}

/** How it goes on the tuner, by build. */
function tunerPoints(slack: number, { tuner, postMm, tied, holds }: FamilyTraits): string[] {
  if (tuner === 'pin')
    return [
      'Back the pin out by as many turns as the coil will take, then wind it in again with the key; where your maker sets pins another way, theirs counts.',
      `Leave ${slack} mm of slack for the coil; break the tail off by bending it to and fro.`,
    ];
  if (tuner === 'friction-peg')
    return [
      `Leave ${slack} mm of slack. A tail 1 mm longer sets the handle ${Math.round(handleAngleDeg(1, postMm))} degrees further round: choose it so that your hand can work.`,
      'The coil runs close to the peg-box wall: not gapped, not jammed against it. Turn and push in together.',
    ];
  return [
    `Leave ${slack} mm of slack and hold it while you begin to wind.`,
    tied
      ? 'Through the hole of the roller, the end caught once under itself; the turns lie side by side, away from the wall.'
      : 'Each turn under the one before, towards the head. Stop when it lies straight and just sounds.',
    ...(holds === 'springs' ? ['A locking post takes under one turn: pull it tight and lock.'] : []),
  ];
}

/** A new string lies on its post. */
export function onStep(s: FittedString, traits: FamilyTraits): FittingStep {
  const { tuner, postMm } = traits;
  const turns = turnsFor(s.material, tuner);
  const slackMm = Math.round(slackForTurnsMm(turns, postMm, s.gaugeMm ?? 0));
  const where = tuner === 'geared' ? 'post' : tuner === 'pin' ? 'pin' : 'peg';
  return {
    code: 'on',
    kind: 'on',
    stringIds: [s.stringId],
    title: `Put ${s.note} on: ${slackMm} mm of slack`,
    why: `That makes ${turns} turns on a ${postMm} mm ${where}: enough to hold, few enough not to creep. Crossed or gapped turns tighten for hours.`,
    points: [seatPoint(s, traits), ...tunerPoints(slackMm, traits)],
    caution: 'Trim the tail, bend the end over, bin the piece.',
    picture: 'coil',
  };
}

/** Up to two semitones under. */
export function raiseUnderStep(s: FittedString, traits: FamilyTraits): FittingStep {
  const soft = s.material === 'gut' || s.material === 'synthetic-bowed';
  return {
    code: 'raise-under',
    kind: 'raise-under',
    stringIds: [s.stringId],
    title: `Bring ${s.note} up to two semitones under`,
    why: 'Little by little the coil, the knot and the body take the load.',
    points: [
      {
        geared: 'Sound it all the while you turn.',
        'friction-peg': 'Sound it; under a minute of the clock face at a time, turning and pushing in together.',
        pin: 'Sound it; under a minute of the clock face at a time, the key straight on the pin, never bending it.',
      }[traits.tuner],
      ...(soft ? ['Ease it and pull it a little aside now and then.'] : []),
    ],
    caution: 'Face out of the string’s plane.',
  };
}

/** The kinks at both ends made, for all that are up. */
export function bedStep(strings: readonly FittedString[], { tuner }: FamilyTraits): FittingStep {
  const ends =
    tuner === 'pin'
      ? 'just beyond each end where it bears'
      : 'just beyond the nut, then just beyond the saddle or bridge';
  return {
    code: 'bed',
    kind: 'do',
    stringIds: idsOf(strings),
    title: strings.length > 1 ? 'Bed them at both ends' : 'Bed it at both ends',
    why: 'A string must take a sharp bend at both ends; a lazy curve straightens for days.',
    points: [`Press ${strings.length > 1 ? 'each' : 'it'} down gently ${ends}.`, 'Once each is enough.'],
    caution: 'Gently: a wound string kinked too hard breaks there.',
    picture: 'kinks',
  };
}

export function raiseStep(s: FittedString, traits: FamilyTraits): FittingStep {
  return {
    code: 'raise',
    kind: 'raise',
    stringIds: [s.stringId],
    title: `Bring ${s.note} up to pitch`,
    why: 'It arrives from below, so that all that winds and bears is pulled tight.',
    points: traits.fineTuners
      ? ['The last cents with the fine tuner, kept in the middle of its travel.']
      : ['Stop at the line; too far, go clearly below and come up.'],
  };
}

/** For new nylon, where its owner wants it. */
export function warmSteps(strings: readonly FittedString[]): FittingStep[] {
  const nylon = strings.filter((s) => isNylon(s.material));
  if (nylon.length === 0) return [];
  return [
    {
      code: 'warm',
      kind: 'warm',
      stringIds: idsOf(nylon),
      title: nylon.length > 1 ? 'Warm the nylon, or leave it' : 'Warm it, or leave it',
      why: 'Some players warm new nylon to age it in minutes; others never do, because it may shorten the string’s life. It is yours to test: the log keeps which strings were warmed.',
      points: [
        'Skip it unless the string’s maker allows it.',
        'A shield under the strings, moving warm air, never on the instrument.',
        'Stop when the string is hot to the hand: it falls far and at once.',
      ],
      caution:
        'Never steel or gut, never over a lacquered top without a shield. Heat ruins finishes and glue, and burns: the maker’s word comes first.',
    },
  ];
}

export function roundsStep(s: FittedString): FittingStep {
  return {
    code: 'rounds',
    kind: 'rounds',
    stringIds: [s.stringId],
    title: `Stretch ${s.note}`,
    why: 'Each round takes out what would fall during the next hours.',
    points: [],
    caution: 'Pull with the flat of the fingers or a cloth, never hard enough to hurt; face out of its plane.',
  };
}
