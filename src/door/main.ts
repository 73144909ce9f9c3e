/** The command-line door: the app's core on files and JSON. See README. */
import { closeSync, openSync, writeFileSync } from 'node:fs';
import { argv, exit, stderr, stdout } from 'node:process';
import { makeDemonstration } from '../../demo/make';
import { writeLogFile } from '../core/exchange';
import { forecastDocument } from './forecast';
import { answerDocument, answerLines, readAll, refused } from './lines';
import { changeLine, measureLine } from './measure';
import { bridgeLineLine, octaveLine } from './octave';
import { planDocument } from './plan';
import { roundsLine, stringLine } from './string';
import { trialLine } from './trial';

const USAGE = `usage: npm run -s door -- COMMAND
  measure            JSON lines {"file","target","a4"?} in, one reading or refusal a line out
  change             JSON lines {"from","to","target","a4"?} in, how far the string moved out
  string             JSON lines {"material","gaugeMm","lengthMm","frequencyHz",…} in, its load out
  rounds             JSON lines {"dropsCents"} in, the next drop and what to do out
  octave             JSON lines {"lengthMm","openHz","fret12Hz",…} in, octave error, saddle move, verdict out
  bridge-line        JSON lines {"strings":[{"acrossMm","lengthMm","errorCents"}…]} in, moves of the feet out
  trial              {"pairs":[{"treated":[{"t","fall"}…],"control":[…]}…]} in, how their slopes compare out
  plan               a log export with "session" {"at","minutes","toleranceCents",…} and "now" in, what to do out
  forecast           a settle-cases/1 document in, a settle-forecasts/1 document out
  export-demo FILE   writes the demonstration's log as JSON
`;

const [command, ...rest] = argv.slice(2);
const lines = {
  measure: measureLine,
  change: changeLine,
  string: stringLine,
  rounds: roundsLine,
  octave: octaveLine,
  'bridge-line': bridgeLineLine,
};
/** Commands on one document of any layout, one answer. */
const documents = { trial: trialLine, plan: planDocument };
const wanted: Record<string, number> = { forecast: 0, 'export-demo': 1 };
for (const name of [...Object.keys(lines), ...Object.keys(documents)]) wanted[name] = 0;
if (command === undefined || wanted[command] !== rest.length) {
  stderr.write(USAGE);
  exit(2);
}
if (command in lines) await answerLines(lines[command as keyof typeof lines]);
else if (command in documents) await answerDocument(documents[command as keyof typeof documents]);
else if (command === 'forecast') stdout.write(JSON.stringify(forecastDocument(await readAll())) + '\n');
else {
  try {
    // Opened first: a place that cannot be written is told before the simulator has worked.
    const file = openSync(rest[0]!, 'w');
    const { records, startMs } = makeDemonstration();
    writeFileSync(file, writeLogFile(records, startMs));
    closeSync(file);
    stdout.write(JSON.stringify({ ok: true, file: rest[0], records: records.length }) + '\n');
  } catch (error) {
    stdout.write(
      JSON.stringify(refused('unwritable-file', `The file could not be written (${(error as Error).message}).`)) + '\n',
    );
  }
}
