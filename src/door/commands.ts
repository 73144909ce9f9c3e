import { answerDocument, answerLines, type DocumentCommand } from './lines';

/** What the door can do, and how. */
const USAGE = `usage: npm run -s door -- COMMAND
  measure            JSON lines {"file","target","a4"?} in, one reading or refusal a line out
  listen             JSON lines {"file","strings","pass",…} in, what the pass hears in a recording out
  figure             JSON lines {"note","text","lastCents"?,…} in, what a figure that was typed comes to out
  strum              JSON lines {"file","strings":[…]} in, where every string stands after one strum out
  change             JSON lines {"from","to","target","a4"?} in, how far the string moved out
  string             JSON lines {"material","gaugeMm","lengthMm","frequencyHz",…} in, its load out
  rounds             JSON lines {"dropsCents"} in, the next drop and what to do out
  octave             JSON lines {"lengthMm","openHz","fret12Hz",…} in, octave error, saddle move, verdict out
  bridge-line        JSON lines {"strings":[{"acrossMm","lengthMm","errorCents"}…]} in, moves of the feet out
  interval           JSON lines {"file","a","b","ratio":[p,q],"a4"?} in, two strings heard together out
  ear                JSON lines {"strings","school","anchor"?,"frets"} in, the steps of a round by ear out
  reference          JSON lines {"file","nominalHz","kind"} in, the pitch of a fork, reed, key or string out
  net                JSON lines {"strings","pin","observations"} in, where every string stands out
  causes             JSON lines {"instrument","string","sigmaCents","evidence":[…]} in, chances of causes and the next best test out
  bridge             JSON lines {"bridge","strings","task","events",…} in, the next reading, stop or turn of the claw out
  trial              {"pairs":[{"treated":[{"t","fall"}…],"control":[…]}…]} in, how their slopes compare out
  plan               a log export with "session" {"at","minutes","toleranceCents",…} and "now" in, what to do out
  say                a log export with "now" in, every statement that the views make of it out
  forecast           a settle-cases/1 or /2 document in, a settle-forecasts/1 document out
  export-demo FILE   writes the demonstration's log as JSON
`;

type Item = Record<string, unknown>;
type Answer = (item: Item) => object;

// Each command loads only what it needs: a door is opened many times.
const lines: Record<string, () => Promise<Answer>> = {
  measure: async () => (await import('./measure')).measureLine,
  strum: async () => (await import('./strum')).strumLine,
  change: async () => (await import('./measure')).changeLine,
  listen: async () => (await import('./listen')).listenLine,
  figure: async () => (await import('./figure')).figureLine,
  string: async () => (await import('./string')).stringLine,
  rounds: async () => (await import('./string')).roundsLine,
  octave: async () => (await import('./octave')).octaveLine,
  interval: async () => (await import('./intervals')).intervalLine,
  ear: async () => (await import('./intervals')).earLine,
  reference: async () => (await import('./intervals')).referenceLine,
  net: async () => (await import('./intervals')).netLine,
  causes: async () => (await import('./causes')).causesLine,
  bridge: async () => (await import('./bridge')).bridgeAnswer,
  'bridge-line': async () => (await import('./octave')).bridgeLineLine,
};
/** Commands on documents of any layout. */
const documents: Record<string, () => Promise<DocumentCommand>> = {
  trial: async () => ({ answer: (await import('./trial')).trialLine, reason: 'bad-line', isWhole: () => true }),
  plan: async () => ({
    answer: (await import('./plan')).planDocument,
    reason: 'bad-line',
    // A bare log export: what is asked of it follows.
    isWhole: (item) => 'session' in item,
  }),
  say: async () => ({
    answer: (await import('./say')).sayDocument,
    reason: 'bad-line',
    isWhole: (item) => 'now' in item,
  }),
  forecast: async () => ({
    answer: (await import('./forecast')).forecastDocument,
    reason: 'bad-document',
    isWhole: () => true,
  }),
};
const others: Record<string, { arguments: number; run: (...rest: string[]) => Promise<object> }> = {
  'export-demo': { arguments: 1, run: async (file = '') => (await import('./export-demo')).exportDemo(file) },
};

/** Where a command reads and writes: lines of text. */
export interface Ends {
  /** Begins to read: what comes before somebody reads would be lost. */
  input: () => AsyncIterable<string>;
  tell: (line: string) => void;
  /** For people: how it is used. */
  complain: (text: string) => void;
}

/** Runs one command. @returns the exit status: 0, also for refused items; 2 for a misuse */
export async function runCommand([command = '', ...rest]: readonly string[], ends: Ends): Promise<number> {
  const named = <T>(table: Record<string, T>): T | undefined =>
    Object.hasOwn(table, command) ? table[command] : undefined;
  const line = named(lines);
  const document = named(documents);
  const other = named(others);
  if ((!line && !document && !other) || rest.length !== (other?.arguments ?? 0)) {
    ends.complain(USAGE);
    return 2;
  }
  const tell = (answer: object) => ends.tell(JSON.stringify(answer));
  if (line) await answerLines(await line(), ends.input(), tell);
  else if (document) await answerDocument(await document(), ends.input(), tell);
  else tell(await other!.run(...rest));
  return 0;
}
