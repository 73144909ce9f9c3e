/** One thing that keys do in a view. */
export interface KeyLine {
  /** As the browser names them; letters small. */
  keys: readonly string[];
  /** As the map and the buttons write them. */
  shown: string;
  words: string;
  /** Only where the instrument is simulated. */
  simulated?: true;
}
export type KeyLines = Record<string, KeyLine>;

const DIGITS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0'] as const;
const listen = { keys: [' '], shown: 'Space', words: 'Listen, pause' };
const type = { keys: ['k'], shown: 'K', words: 'Type a figure from another device' };
const hands = {
  pluck: { keys: ['p'], shown: 'P, with Shift', words: 'Pluck, pluck hard (simulated)', simulated: true },
  turn: {
    keys: ['ArrowUp', 'ArrowDown'],
    shown: '↑ ↓, with Shift',
    words: 'Turn the tuner a little, more (simulated)',
    simulated: true,
  },
} as const;

/** Every key that works, a page-turn pedal's among them, by the view where it does; the map of keys is drawn from it. */
export const KEYS = {
  bench: {
    listen,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Start the pass; take what sounds; yes to a question' },
    next: { keys: ['n', 'ArrowRight'], shown: 'N, →', words: 'Next string, without this one' },
    back: { keys: ['PageUp'], shown: 'Page Up', words: 'Back to the string before' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose a string; beyond ten, two digits within a second' },
    takeBack: { keys: ['z'], shown: 'Z', words: 'Take back the last kept reading' },
    tone: { keys: ['t'], shown: 'T', words: 'Sound the target' },
    type,
    insist: { keys: ['i'], shown: 'I', words: 'It is the named string after all' },
    onward: { keys: ['g'], shown: 'G', words: 'Go to what is next, where that is another view' },
    fit: { keys: ['f'], shown: 'F', words: 'Fit a new string here, step by step' },
    ...hands,
  },
  first: {
    go: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Put yours on the bench' },
    later: { keys: ['h'], shown: 'H', words: 'An hour later' },
    ...hands,
  },
  octave: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Begin the pass; read what sounds' },
    next: { keys: ['n', 'ArrowRight'], shown: 'N, →', words: 'Skip this place' },
    back: { keys: ['PageUp'], shown: 'Page Up', words: 'Back to the place before' },
    nextString: { keys: ['s'], shown: 'S', words: 'Next string' },
    again: { keys: ['r'], shown: 'R', words: 'The place once more' },
    moved: { keys: ['m'], shown: 'M', words: 'Moved as told' },
    careful: { keys: ['q'], shown: 'Q', words: 'Three plucks a place, or one' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'End the pass' },
    pluck: hands.pluck,
  },
  causes: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Begin; done; take what sounds; the same test again' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose the string' },
    answer: { keys: ['a', 'b', 'c', 'd', 'e'], shown: 'A to E', words: 'Answer a question' },
    skip: { keys: ['s'], shown: 'S', words: 'Not this test' },
    again: { keys: ['r'], shown: 'R', words: 'This test from its beginning' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Begin anew' },
    pluck: hands.pluck,
  },
  friction: {
    listen,
    type,
    take: {
      keys: ['Enter', 'PageDown'],
      shown: 'Enter',
      words: 'Measure this string; done; take what sounds; the next string',
    },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose the string' },
    lubricated: { keys: ['l'], shown: 'L', words: 'Lubricated it' },
    routine: { keys: ['g'], shown: 'G', words: 'Bend all strings and read what it takes out' },
    up: { keys: ['u'], shown: 'U', words: 'What a press behind the nut raises, and keeps' },
    down: { keys: ['d'], shown: 'D', words: 'What a pull in the middle lowers, and keeps' },
    again: { keys: ['r'], shown: 'R', words: 'From its beginning' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Stop' },
    pluck: hands.pluck,
  },
  ear: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Begin; it is right by ear; take what sounds' },
    school: { keys: ['s'], shown: 'S', words: 'The next school' },
    show: { keys: ['w'], shown: 'W', words: 'Show the beats while a string is turned, or hide them' },
    other: { keys: ['o'], shown: 'O', words: 'The other checkpoint of the string' },
    tone: { keys: ['t'], shown: 'T', words: 'A tone while it is tuned; it stops before a reading' },
    checkpoints: { keys: ['c'], shown: 'C', words: 'Read the checkpoints, two strings at a time' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Stop' },
    ...hands,
  },
  reference: {
    listen,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Measure; use what was measured' },
    choose: { keys: DIGITS, shown: '1 to 5', words: 'Choose what is sounded' },
    stretch: { keys: ['s'], shown: 'S', words: 'Read a keyboard’s other As: how wide its octaves are' },
    again: { keys: ['r', 'Escape'], shown: 'R, Esc', words: 'Begin anew' },
    pluck: hands.pluck,
  },
  bridge: {
    listen,
    type,
    take: {
      keys: ['Enter', 'PageDown'],
      shown: 'Enter',
      words: 'Begin; take what sounds; the claw is turned; keep it',
    },
    returns: { keys: ['r'], shown: 'R', words: 'Return test: bar down and up' },
    locked: { keys: ['l'], shown: 'L', words: 'The clamps at the nut are closed: read what that did' },
    claw: { keys: ['c'], shown: 'C', words: 'Turn the claw as told (simulated)', simulated: true },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Stop' },
    ...hands,
  },
  tuning: {
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Tune by it from now on' },
    tone: { keys: ['t'], shown: 'T', words: 'A tone at the string’s place, or no more' },
    string: { keys: ['ArrowLeft', 'ArrowRight'], shown: '← →', words: 'The string before, the next one' },
  },
  fitting: {
    next: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Done; take what sounds; begin' },
    back: { keys: ['PageUp'], shown: 'Page Up', words: 'Back to the step before' },
    listen,
    type,
    skip: { keys: ['s'], shown: 'S', words: 'Skip the step; enough rounds' },
    note: { keys: ['n'], shown: 'N', words: 'Write a note' },
    warmed: { keys: ['w'], shown: 'W', words: 'Warmed it' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose strings; why the old one goes' },
    leave: { keys: ['Escape'], shown: 'Esc', words: 'Leave the fitting' },
    ...hands,
  },
  plan: {
    go: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'To the instrument that is next' },
    show: { keys: ['e'], shown: 'E', words: 'The show' },
    chime: { keys: ['c'], shown: 'C', words: 'A chime when something is due' },
    skip: { keys: ['s'], shown: 'S', words: 'Skip what is next: the rest is planned anew' },
    wings: { keys: ['w'], shown: 'W', words: 'In the wings: one large line at a time' },
  },
  wings: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Begin; take what sounds; done' },
    next: { keys: ['n', 'ArrowRight'], shown: 'N, →', words: 'Next string, without this one' },
    stop: { keys: ['Escape', 'PageUp'], shown: 'Esc, Page Up', words: 'The piece begins: stop here' },
    time: { keys: ['s'], shown: 'S', words: 'So many seconds between two pieces' },
    ...hands,
  },
  general: {
    map: { keys: ['?'], shown: '?', words: 'This map' },
    want: { keys: ['/'], shown: '/', words: 'I want to …: find a job, an instrument, a view' },
    instrument: { keys: [',', '.'], shown: ', .', words: 'The instrument before, the next one' },
    view: { keys: ['v'], shown: 'V, with Shift', words: 'The next view of the instrument, the one before' },
  },
} as const satisfies Record<string, KeyLines>;

/** What a view does for each of its lines; the key is told where several do alike. */
export type Acts<Lines> = Partial<Record<keyof Lines, ((shift: boolean, key: string) => void) | undefined>>;
