/** Signs that a bowing calls for: what a teacher would write over the notes so that it is played as it is planned. */
import { beatLength, isNote, strokeSignsOf, type Note, type StrokeSign, type Tune } from '../music/index.ts';
import { phrasesOf, type Form } from '../form/index.ts';
import type { Bowing } from './strokes.ts';

/** Beats from which the last note of a phrase wants to be told that it is held to its end. */
const LONG_BEATS = 2;

/**
 * Signs for notes that lack them: a dot on a short note that comes after a stop, an accent where a pattern sets one, a
 * line on the long last note of a phrase, which learners cut short.
 * @returns by note all its signs, those that it has among them
 * @example suggestedSigns({ tune: reel, form: facts.form, bowing: facts.bowing }) // { n12: ['tenuto'], n22: ['tenuto'] }
 */
export function suggestedSigns({
  tune,
  form,
  bowing,
}: {
  readonly tune: Tune;
  readonly form: Form;
  readonly bowing: Pick<Bowing, 'strokes' | 'accents'>;
}): Readonly<Record<string, readonly StrokeSign[]>> {
  const notes = new Map<string, { readonly note: Note; readonly beats: number }>();
  for (const { events, metre } of tune.bars) {
    for (const note of events.filter(isNote)) notes.set(note.id, { note, beats: note.duration / beatLength(metre) });
  }
  const found = new Map<string, StrokeSign[]>();
  const want = (id: string, sign: StrokeSign): void => {
    const known = notes.get(id);
    if (!known) return;
    const signs = found.get(id) ?? [...strokeSignsOf(known.note)];
    // A dot and a line on one note say two things: what stands there already holds.
    if (signs.includes(sign) || (sign !== 'accent' && signs.some((one) => one !== 'accent'))) return;
    found.set(id, [...signs, sign]);
  };
  for (const id of bowing.accents) want(id, 'accent');
  for (const { notes: own, hook, time } of bowing.strokes) if (hook && time === 1) want(own[0]!, 'staccato');
  for (const { notes: own } of phrasesOf(form)) {
    const last = own.at(-1);
    if (last !== undefined && (notes.get(last)?.beats ?? 0) >= LONG_BEATS) want(last, 'tenuto');
  }
  return Object.fromEntries(found);
}
