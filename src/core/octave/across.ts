/** Between strings or courses at the bridge, and within a course, mm (house: usual spacings). */
const COURSE_MM = 11;
const WITHIN_MM = 3;

/**
 * Where each string crosses the bridge, mm from the lowest one, for strings in the instrument's own order, highest first.
 * Neighbours of the same note, or its octave in one length, are a course.
 * @param notes note names without their octave, highest string first
 */
export function acrossMm(notes: readonly string[]): number[] {
  const places: number[] = [];
  let at = 0;
  for (let i = notes.length - 1; i >= 0; i--) {
    if (i < notes.length - 1) at += notes[i] === notes[i + 1] && !isCourse(places) ? WITHIN_MM : COURSE_MM;
    places.push(at);
  }
  return places.reverse();
}

/** Are the last two places already the two strings of one course? */
const isCourse = (places: readonly number[]) =>
  places.length > 1 && places[places.length - 1]! - places[places.length - 2]! === WITHIN_MM;
