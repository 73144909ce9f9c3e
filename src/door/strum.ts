import { array, number, object, string } from 'yup';
import { LEAST_HZ, LEAST_SIGMA_CENTS, LONGEST_NAME, MOST_CENTS, MOST_HZ, MOST_STRINGS } from '../core/limits';
import { knownPartials, measure, readStrum, type StrummedString } from '../core/pitch';
import { checked, refused, type Refused } from './lines';
import { a4Of, wavSound } from './measure';

const cents = () => number().strict().min(-MOST_CENTS).max(MOST_CENTS);
const sigma = () => number().strict().min(LEAST_SIGMA_CENTS).max(MOST_CENTS);
/** No pluck has more partials than this; so many plucks are learned from at most. */
const MOST_PARTIALS = 60;
const MOST_PLUCKS = 12;
/** How sure a forecast is where nobody says, cents (house estimate). */
const USUAL_SIGMA = 5;
/** What a partial's ratio is in doubt by where nobody says, cents (house estimate). */
const RATIO_SIGMA = 0.3;

const schema = object({
  strings: array()
    .of(
      object({
        string: number().strict().integer().min(1).max(MOST_STRINGS).required(),
        note: string().strict().max(LONGEST_NAME),
        targetHz: number().strict().min(LEAST_HZ).max(MOST_HZ).required(),
        lastCents: cents().nullable(),
        forecastCents: cents().nullable(),
        sigmaCents: sigma().nullable(),
        capo: number().strict().integer().min(0).max(36).nullable(),
        partials: array()
          .of(
            object({
              n: number().strict().integer().min(1).max(MOST_PARTIALS).required(),
              ratio: number()
                .strict()
                .min(0.5)
                .max(2 * MOST_PARTIALS)
                .required(),
              sigmaCents: sigma().nullable(),
            }),
          )
          .max(MOST_PARTIALS),
        learn: array()
          .of(object({ file: string().strict().required(), cents: cents().required() }))
          .max(MOST_PLUCKS),
      }),
    )
    .min(1)
    .max(MOST_STRINGS)
    .required(),
});

/** One line of `strum`: a recording of all open strings struck at once, and what is known of each; where each stands out. */
export function strumLine(item: Record<string, unknown>): object {
  const { file } = item;
  const valid = checked(schema, item, 'bad-strum');
  if (!valid.ok) return { file, ...valid };
  const reference = a4Of(item['a4']);
  if (!reference.ok) return { file, ...reference };
  const given = valid.value.strings;
  if (new Set(given.map((s) => s.string)).size < given.length)
    return { file, ...refused('bad-strum', 'Each string stands in the list once.') };
  const wav = wavSound(file);
  if (!wav.ok) return { file, ...wav };
  let fault: Refused | undefined;
  const strings = given.map((s): StrummedString => {
    const { targetHz } = s;
    const learned = (s.learn ?? []).flatMap((pluck) => {
      const sound = wavSound(pluck.file);
      if (!sound.ok) {
        fault ??= sound;
        return [];
      }
      const reading = measure(sound.sound.samples, sound.sound.sampleRate, { targetHz });
      return reading.ok ? [{ reading, cents: pluck.cents }] : [];
    });
    // What open strings have is nothing for those under a capo.
    const told = s.capo ? [] : (s.partials ?? []).map((p) => ({ ...p, sigmaCents: p.sigmaCents ?? RATIO_SIGMA }));
    return {
      id: String(s.string),
      targetHz,
      expectedCents: s.forecastCents ?? s.lastCents ?? 0,
      expectedSigmaCents: s.sigmaCents ?? USUAL_SIGMA,
      partials: told.length > 0 ? told : knownPartials(targetHz, learned),
    };
  });
  if (fault) return { file, ...fault };
  const heard = readStrum(wav.sound.samples, wav.sound.sampleRate, strings);
  return {
    file,
    ok: true,
    strings: heard.map((h) => ({
      string: Number(h.id),
      ...(h.ok ? { cents: h.cents, sigmaCents: h.sigmaCents } : { refused: h.reason }),
    })),
  };
}
