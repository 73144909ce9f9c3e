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
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Start the check; save what sounds; answer yes' },
    next: { keys: ['n', 'ArrowRight'], shown: 'N, →', words: 'Next string, without this one' },
    back: { keys: ['PageUp'], shown: 'Page Up', words: 'Back to the previous string' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose a string; beyond ten, two digits within a second' },
    takeBack: { keys: ['z'], shown: 'Z', words: 'Take back the last reading' },
    tone: { keys: ['t'], shown: 'T', words: 'Play the note' },
    type,
    insist: { keys: ['i'], shown: 'I', words: 'It really is the string that was asked for' },
    onward: { keys: ['g'], shown: 'G', words: 'Go to the next thing, if that is another view' },
    fit: { keys: ['f'], shown: 'F', words: 'Put on a new string, step by step' },
    ...hands,
  },
  first: {
    go: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Add your instrument' },
    later: { keys: ['h'], shown: 'H', words: 'An hour later' },
    ...hands,
  },
  octave: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Start the check; read what sounds' },
    next: { keys: ['n', 'ArrowRight'], shown: 'N, →', words: 'Skip this place' },
    back: { keys: ['PageUp'], shown: 'Page Up', words: 'Back to the previous place' },
    nextString: { keys: ['s'], shown: 'S', words: 'Next string' },
    again: { keys: ['r'], shown: 'R', words: 'This place again' },
    moved: { keys: ['m'], shown: 'M', words: 'I moved it' },
    careful: { keys: ['q'], shown: 'Q', words: 'Three plucks a place, or one' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'End the check' },
    pluck: hands.pluck,
  },
  causes: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Start; done; save what sounds; test again' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose the string' },
    answer: { keys: ['a', 'b', 'c', 'd', 'e'], shown: 'A to E', words: 'Answer a question' },
    skip: { keys: ['s'], shown: 'S', words: 'Skip this test' },
    again: { keys: ['r'], shown: 'R', words: 'Start this test again' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Start again' },
    pluck: hands.pluck,
  },
  friction: {
    listen,
    type,
    take: {
      keys: ['Enter', 'PageDown'],
      shown: 'Enter',
      words: 'Measure this string; done; save what sounds; next string',
    },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose the string' },
    lubricated: { keys: ['l'], shown: 'L', words: 'I lubricated it' },
    routine: { keys: ['g'], shown: 'G', words: 'Bend all strings and read how far they drop' },
    up: { keys: ['u'], shown: 'U', words: 'How far a press behind the nut raises it' },
    down: { keys: ['d'], shown: 'D', words: 'How far a pull in the middle lowers it' },
    again: { keys: ['r'], shown: 'R', words: 'Start again' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Stop' },
    pluck: hands.pluck,
  },
  ear: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Start; it is right by ear; save what sounds' },
    school: { keys: ['s'], shown: 'S', words: 'The next way to tune' },
    show: { keys: ['w'], shown: 'W', words: 'Show or hide the beats while you turn' },
    other: { keys: ['o'], shown: 'O', words: 'The other checkpoint of this string' },
    tone: { keys: ['t'], shown: 'T', words: 'A tone to tune by; it stops before a reading' },
    checkpoints: { keys: ['c'], shown: 'C', words: 'Read the checkpoints, two strings at a time' },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Stop' },
    ...hands,
  },
  reference: {
    listen,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Measure; use the result' },
    choose: { keys: DIGITS, shown: '1 to 5', words: 'Choose what you sound' },
    stretch: { keys: ['s'], shown: 'S', words: 'Read the other As of a keyboard, to see how wide its octaves are' },
    again: { keys: ['r', 'Escape'], shown: 'R, Esc', words: 'Start again' },
    pluck: hands.pluck,
  },
  bridge: {
    listen,
    type,
    take: {
      keys: ['Enter', 'PageDown'],
      shown: 'Enter',
      words: 'Start; save what sounds; claw turned; save all',
    },
    returns: { keys: ['r'], shown: 'R', words: 'Return test: bar down and up' },
    locked: { keys: ['l'], shown: 'L', words: 'The nut is locked: read what that did' },
    slackened: {
      keys: ['x'],
      shown: 'X',
      words: 'The strings were let down, the claw turned, the strings brought back',
    },
    claw: { keys: ['c'], shown: 'C', words: 'Turn the claw as asked (simulated)', simulated: true },
    end: { keys: ['Escape'], shown: 'Esc', words: 'Stop' },
    ...hands,
  },
  tuning: {
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Use this tuning from now on' },
    tone: { keys: ['t'], shown: 'T', words: 'A tone at the string’s pitch, on or off' },
    string: { keys: ['ArrowLeft', 'ArrowRight'], shown: '← →', words: 'Previous string, next string' },
  },
  fitting: {
    next: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Done; save what sounds; start' },
    back: { keys: ['PageUp'], shown: 'Page Up', words: 'Back to the previous step' },
    listen,
    type,
    skip: { keys: ['s'], shown: 'S', words: 'Skip the step; no more rounds' },
    note: { keys: ['n'], shown: 'N', words: 'Write a note' },
    warmed: { keys: ['w'], shown: 'W', words: 'Warmed it' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose strings; say why the old one comes off' },
    leave: { keys: ['Escape'], shown: 'Esc', words: 'Leave' },
    ...hands,
  },
  plan: {
    go: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Go to the next instrument' },
    show: { keys: ['e'], shown: 'E', words: 'The show' },
    chime: { keys: ['c'], shown: 'C', words: 'A chime when a check is due' },
    skip: { keys: ['s'], shown: 'S', words: 'Skip the next check and plan the rest again' },
    wings: { keys: ['w'], shown: 'W', words: 'Backstage: one large line at a time' },
  },
  wings: {
    listen,
    type,
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Start; save what sounds; done' },
    next: { keys: ['n', 'ArrowRight'], shown: 'N, →', words: 'Next string, without this one' },
    stop: { keys: ['Escape', 'PageUp'], shown: 'Esc, Page Up', words: 'The music starts: stop here' },
    time: { keys: ['s'], shown: 'S', words: 'How many seconds between two pieces' },
    ...hands,
  },
  practice: {
    take: { keys: ['Enter', 'PageDown'], shown: 'Enter', words: 'Begin; done; hear it again' },
    turn: {
      keys: ['ArrowUp', 'ArrowDown'],
      shown: '↑ ↓, with Shift',
      words: 'Turn up, down, more; answer sharp, flat',
    },
    push: { keys: ['i'], shown: 'I', words: 'Push the peg in, let go' },
    choose: { keys: DIGITS, shown: '1 to 9, 0', words: 'Choose a string or a step; say a number' },
    hear: { keys: ['p'], shown: 'P', words: 'Hear it; read it' },
    leave: { keys: ['Escape'], shown: 'Esc', words: 'Leave the exercise; end it here' },
  },
  rack: {
    walk: {
      keys: ['Enter', 'PageDown'],
      shown: 'Enter',
      words: 'Walk through the chosen instruments, in the order shown',
    },
  },
  general: {
    map: { keys: ['?'], shown: '?', words: 'This page' },
    want: { keys: ['/'], shown: '/', words: 'I want to …: find a job, an instrument, a view' },
    instrument: { keys: [',', '.'], shown: ', .', words: 'Previous instrument, next instrument' },
    view: { keys: ['v'], shown: 'V, with Shift', words: 'Next view of the instrument, previous view' },
  },
} as const satisfies Record<string, KeyLines>;

/** What a view does for each of its lines; the key is told where several do alike. */
export type Acts<Lines> = Partial<Record<keyof Lines, ((shift: boolean, key: string) => void) | undefined>>;
