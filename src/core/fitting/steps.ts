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
  /** '' where an earlier step of its kind has said it. */
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
  /** How it is named where its course has two: 'E4 (octave of E3)'. */
  label?: string | undefined;
  material: StringMaterial;
  gaugeMm: number | null;
}

const isWound = (m: StringMaterial) => m.startsWith('wound') || m === 'synthetic-bowed';
const isSteel = (m: StringMaterial) => m.includes('steel');
/** Whether it is tied, slips and stretches as nylon does. */
const isNylon = (m: StringMaterial) => m === 'plain-nylon' || m === 'wound-nylon' || m === 'fluorocarbon';
const nameOf = (s: FittedString) => s.label ?? s.note;

/** Turns round the post: plain strings more, wound ones fewer (trade usage). */
export function turnsFor(material: StringMaterial, tuner: FamilyTraits['tuner']): number {
  if (tuner === 'pin') return 3;
  return isWound(material) ? 2.5 : isNylon(material) ? 3 : 4;
}

/** A post so thick takes a bass string, whose end goes down into its slot, mm (trade usage). */
const BASS_POST_MM = 12;
const isBass = ({ tuner, postMm, bowed, tied }: FamilyTraits) =>
  tuner === 'geared' && postMm >= BASS_POST_MM && !bowed && !tied;

const namesOf = (strings: readonly FittedString[]) => (strings.length === 1 ? nameOf(strings[0]!) : 'the strings');
const idsOf = (strings: readonly FittedString[]) => strings.map((s) => s.stringId);

/** The old strings come off; then both ends are looked at while they lie bare. */
export function offSteps(strings: readonly FittedString[], traits: FamilyTraits): FittingStep[] {
  return [
    {
      code: 'take-off',
      kind: 'remove',
      stringIds: idsOf(strings),
      title: `Slacken ${namesOf(strings)}, then take ${strings.length === 1 ? 'it' : 'them'} off`,
      why: 'A string cut under tension whips.',
      points: ['Slacken until it flaps, then unwind or cut it.', 'Say why it comes off.'],
      caution:
        'Keep your face away from the string and cover your eyes. The ends of steel and wound strings are sharp: bend them over and put them in the bin at once. On children’s instruments an adult changes the strings.',
      picture: 'ends',
    },
    lookStep(strings, traits),
  ];
}

/** What a string runs over, by build. */
function lookStep(strings: readonly FittedString[], traits: FamilyTraits): FittingStep {
  const { tuner, tree, tied, holds, bridgePins } = traits;
  const stringIds = idsOf(strings);
  const steel = strings.some((s) => s.material.includes('steel'));
  const look = { code: 'look', kind: 'do' as const, stringIds };
  if (tuner === 'pin')
    return {
      ...look,
      title: 'Look at pins and far ends',
      why: 'A pin that turns too easily does not hold. A burr cuts the string.',
      points: [
        'Turn each pin a little with the key. It should move stiffly and stay.',
        'Run a thread along the edge at the far end. Where it catches, polish.',
      ],
      caution:
        'Do not glue a loose pin or drive it in, unless the maker of the instrument says so. If there is a crack along the pins, stop and see a repairer.',
      picture: 'groove',
    };
  const peg = tuner === 'friction-peg';
  const end = holds === 'nothing' || holds === 'springs' ? 'Saddle' : 'Bridge';
  return {
    ...look,
    title: 'Look at nut and bridge',
    why: 'A string that sticks at the nut jumps instead of sliding. A burr cuts it.',
    points: [
      'Nut: wipe the slot and put in a trace of lubricant or soft graphite.',
      'Only if the string stuck there (it pinged or jumped): draw a fold of 400-grade paper through the slot once.',
      tied
        ? 'Bridge: run a thread over the edge and through the hole. Where it catches, polish.'
        : `${end}: run a thread along the groove. Where it catches, polish.`,
      ...(bridgePins ? ['Bridge pins: look at the holes. A worn edge lets the ball pull through.'] : []),
      ...(tree && steel ? ['String tree: wipe it inside, and put on a trace of lubricant.'] : []),
      ...(peg
        ? ['Peg: look at its two shining rings. If it slips or sticks, put peg compound thinly on the rings.']
        : []),
    ],
    caution: peg
      ? 'Do not breathe the dust. Uneven rings, a loose peg or a cracked nut: see a repairer.'
      : 'Do not breathe the dust. A cracked or lifting nut, a slot worn too deep or a lifting bridge: stop and see a repairer.',
    picture: peg ? 'wear-rings' : 'slot',
  };
}

/** How the end away from the tuner is made fast, by build and string. */
function seatPoint(s: FittedString, { tuner, tied, bridgePins, bowed }: FamilyTraits): string {
  if (tuner === 'pin')
    return isSteel(s.material)
      ? 'Hang its loop on the hitch pin, or its ball in the hole. Do not twist the string.'
      : 'Tie or knot it at the far end as the maker does, and pull the knot tight by hand.';
  if (tied && isNylon(s.material))
    return 'Tie it at the bridge and pull the tie tight by hand. The last tuck lies behind the edge.';
  if (bridgePins)
    return 'Put the ball into its hole, then the bridge pin with its groove to the string. Pull up until the ball seats: the pin stays down.';
  if (bowed && s.material === 'plain-steel')
    return 'Hang its loop or ball on the fine tuner. Lay its small sleeve where it crosses the bridge.';
  return 'Pull ball, loop or knot home by hand. Let the free end turn: do not twist the string.';
}

/** How it goes on the tuner, by build. */
function tunerPoints(s: FittedString, slack: number, traits: FamilyTraits): string[] {
  const { tuner, postMm, tied, holds, fineTuners } = traits;
  if (tuner === 'pin')
    return [
      'Turn the pin out by as many turns as the coil takes, then wind it in with the key. If the maker sets pins another way, do that.',
      `Leave ${slack} mm of slack for the coil. ${isSteel(s.material) ? 'Break the tail off by bending it to and fro.' : 'Trim the rest a finger’s width from the pin.'}`,
    ];
  if (tuner === 'friction-peg')
    return [
      ...(fineTuners ? ['Set the fine tuner to the middle of its travel.'] : []),
      `Leave ${slack} mm of slack. A tail 1 mm longer turns the handle ${Math.round(handleAngleDeg(1, postMm))} degrees further: choose it so that your hand can work.`,
      'Let the coil run close to the wall of the peg box, not jammed against it. Turn and push in together.',
    ];
  if (isBass(traits))
    return [
      `Leave ${slack} mm of slack. ${isWound(s.material) ? 'Bend the string sharply at a right angle first, then cut it 10 mm beyond the bend.' : 'Cut it there.'}`,
      'Push the end down into the hole of the slotted post. Wind each turn under the one before.',
    ];
  return [
    `Leave ${slack} mm of slack and hold it while you begin to wind.`,
    tied
      ? 'Put the end through the hole of the roller and once under itself. Lay the turns side by side, away from the wall.'
      : 'Wind each turn under the one before. Stop when the string lies straight and just sounds.',
    ...(holds === 'springs' ? ['A locking post takes less than one turn: pull the string tight and lock it.'] : []),
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
    title: `Put ${nameOf(s)} on: ${slackMm} mm of slack`,
    why: `That makes ${turns} turns on a ${postMm} mm ${where}: enough to hold, few enough not to creep.`,
    points: [seatPoint(s, traits), ...tunerPoints(s, slackMm, traits)],
    caution: !isSteel(s.material)
      ? isWound(s.material)
        ? 'The winding’s end is sharp: put the piece in the bin.'
        : 'Put the piece in the bin.'
      : tuner === 'pin' || isBass(traits)
        ? 'The piece is sharp: put it in the bin.'
        : 'Cut the tail short and bend the end over. The piece is sharp: put it in the bin.',
    picture: 'coil',
  };
}

/** The pull of a rising string tips a bridge that stands free. */
const bridgePoint = ({ holds }: FamilyTraits): string[] =>
  holds === 'bridge-and-soundpost'
    ? ['Look at the bridge from the side: its back stands upright. If it leans, ease it back with both hands.']
    : holds === 'loose-bridge'
      ? ['Look at the bridge: it stands upright on its marks.']
      : [];

/** Up to two semitones under. */
export function raiseUnderStep(s: FittedString, traits: FamilyTraits): FittingStep {
  const soft = s.material === 'gut' || s.material === 'synthetic-bowed';
  return {
    code: 'raise-under',
    kind: 'raise-under',
    stringIds: [s.stringId],
    title: `Bring ${nameOf(s)} up to two semitones under`,
    why: 'Coil, knot and body take the load little by little.',
    points: [
      {
        geared: 'Pluck it all the while you turn.',
        'friction-peg': 'Pluck it. Turn less than a minute of a clock face at a time, and push in as you turn.',
        pin: 'Pluck it. Turn less than a minute of a clock face at a time, with the key straight on the pin.',
      }[traits.tuner],
      ...(soft ? ['Now and then slacken it a little and pull it gently aside.'] : []),
      ...bridgePoint(traits),
    ],
    caution: 'Keep your face away from the string.',
  };
}

/** The kinks at the ends made, for all that are up. */
export function bedStep(strings: readonly FittedString[], { tuner, holds }: FamilyTraits): FittingStep {
  const each = strings.length > 1 ? 'each string' : 'it';
  const free = holds === 'bridge-and-soundpost' || holds === 'loose-bridge';
  const ends =
    tuner === 'pin'
      ? 'just beyond both ends'
      : free
        ? 'just behind the nut'
        : 'just behind the nut, then just beyond the saddle';
  return {
    code: 'bed',
    kind: 'do',
    stringIds: idsOf(strings),
    title: 'Press the bends in',
    why: 'A string takes a sharp bend at its ends. A soft curve straightens for days.',
    points: [
      `Press ${each} down gently ${ends}.`,
      ...(free ? ['Do not press beyond the bridge: it tips.'] : []),
      'Once is enough.',
    ],
    caution: 'Gently: a wound string breaks where it is bent too hard.',
    picture: 'kinks',
  };
}

/** Bringing one string up. */
export function raiseStep(s: FittedString, traits: FamilyTraits): FittingStep {
  return {
    code: 'raise',
    kind: 'raise',
    stringIds: [s.stringId],
    title: `Bring ${nameOf(s)} up to pitch`,
    why: 'Finish from below: then everything is pulled tight.',
    points: [
      traits.fineTuners
        ? 'Use the fine tuner for the last cents only, near the middle of its travel.'
        : 'Stop at the line. If you go past it, go clearly below and come up.',
      ...bridgePoint(traits),
    ],
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
      title: nylon.length > 1 ? 'Warm the nylon strings, or skip this' : 'Warm it, or skip this',
      why: 'Some players warm new nylon so that it settles in minutes. It may shorten the life of the string. The history keeps which strings were warmed.',
      points: [
        'Skip it unless the maker of the string allows it.',
        'Put a shield under the strings. Use moving warm air, never on the instrument.',
        'Stop when the string feels hot. It falls far and at once.',
      ],
      caution:
        'Never steel or gut, never over a lacquered top without a shield. Heat burns, and ruins finish and glue. Follow the maker.',
    },
  ];
}

/** Stretch rounds on one string. */
export function roundsStep(s: FittedString): FittingStep {
  return {
    code: 'rounds',
    kind: 'rounds',
    stringIds: [s.stringId],
    title: `Stretch ${nameOf(s)}`,
    why: 'Each round takes out what would fall during the next hours.',
    points: [],
    caution: 'Pull with the flat of your fingers or a cloth, never so hard that it hurts. Keep your face away.',
  };
}
