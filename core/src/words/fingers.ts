/** A finger, its place and how it gets there, in words and signs. */
import { HANDS, type FingeredNote, type Glide, type Landing, type Stop, type StringPattern } from '../hand/index.ts';
import { stringNames, type Instrument } from '../instrument/index.ts';
import type { Pitch } from '../music/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { noteName, pitchText, wayText } from './naming.ts';
const BELOW = '\u0323';
const ABOVE = '\u0307';

/**
 * The finger sign as text: the number with a dot under it for low, over it for high; + and − for extensions.
 * @example symbol({ finger: 2, sign: 'extended' }, INSTRUMENT.cello) // '2+'
 */
export function symbol(stop: Pick<Stop, 'finger' | 'sign'>, { hand }: Pick<Instrument, 'hand'>): string {
  const finger = String(stop.finger);
  if (stop.sign === 'low') return finger + BELOW;
  if (stop.sign === 'high') return finger + ABOVE;
  if (stop.sign === 'harmonic') return `${finger}°`;
  if (stop.sign === 'extended') return finger + ((stop.finger === 1 && HANDS[hand].reachesBack) || '+');
  return finger;
}

const SIGN_WORDS = { low: 'low', high: 'high', extended: 'extended', harmonic: 'harmonic' } as const;
const SIGN_LETTERS = { low: 'L', high: 'H', extended: 'X', harmonic: 'O' } as const;

/**
 * A finger as it is said: "low 2", "2 low", "L2".
 * @example fingerText({ finger: 2, sign: 'low' }) // 'low 2'
 * @example fingerText({ finger: 2, sign: 'low' }, { notes: 'english', fingers: 'letter', places: 'bars' }) // 'L2'
 */
export function fingerText({ finger, sign }: Pick<Stop, 'finger' | 'sign'>, called: Names = USUAL_NAMES): string {
  if (sign === 'home') return String(finger);
  switch (called.fingers) {
    case 'sign-first':
      return `${SIGN_WORDS[sign]} ${finger}`;
    case 'finger-first':
      return `${finger} ${SIGN_WORDS[sign]}`;
    case 'letter':
      return `${SIGN_LETTERS[sign]}${finger}`;
  }
}

/** @example stopText({ string: 2, finger: 2, sign: 'low' }, ['G', 'D', 'A', 'E']) // 'low 2 on the A string' */
export function stopText(stop: Stop, stringNames: readonly string[], called: Names = USUAL_NAMES): string {
  const name = stringNames[stop.string]!;
  return stop.finger === 0 ? `open ${name}` : `${fingerText(stop, called)} on the ${name} string`;
}

/**
 * All stops of a note.
 * @example stopsText({ stops: [] }, INSTRUMENT.violin) // 'out of reach'
 */
export function stopsText(
  { stops }: { readonly stops: readonly Stop[] },
  instrument: Instrument,
  called: Names = USUAL_NAMES,
): string {
  const names = stringNames(instrument);
  return stops.length === 0 ? 'out of reach' : stops.map((stop) => stopText(stop, names, called)).join(' with ');
}

/** What is read out of a note. */
type SpokenNote = Pick<FingeredNote, 'pitches' | 'stops' | 'grace'>;

/**
 * The note's name and what the hand does, as it is read out; the graces that lead to it first, as they sound.
 * @param graces in written order
 * @example spokenNote(fingering.notes[0], INSTRUMENT.violin) // 'G4: 3 on the D string'
 */
export function spokenNote(
  note: SpokenNote,
  instrument: Instrument,
  called: Names = USUAL_NAMES,
  graces: readonly SpokenNote[] = [],
): string {
  const said = [...graces, note].map((one) => {
    const what = `${pitchesText(one.pitches, ' and ', called)}: ${stopsText(one, instrument, called)}`;
    return one.grace ? `grace ${what}` : what;
  });
  const text = said.join(', then ');
  return text.startsWith('grace') ? `G${text.slice(1)}` : text;
}

/** @example pitchesText([{ letter: 'G', alter: 0, octave: 4 }], ' and ') // 'G4' */
export const pitchesText = (pitches: readonly Pitch[], between: string, called: Names = USUAL_NAMES): string =>
  pitches.map((pitch) => pitchText(pitch, called.notes)).join(between);

/**
 * How to find the place after a shift; empty where no finger is put down.
 * @example landingText({ by: 'octave', finger: 3, string: 2 }, INSTRUMENT.cello) // '3 lands on the octave, halfway along the D string'
 */
export function landingText(landing: Landing | null, instrument: Instrument, called: Names = USUAL_NAMES): string {
  if (!landing) return '';
  const names = stringNames(instrument);
  const { finger } = landing;
  const string = `the ${names[landing.string]} string`;
  switch (landing.by) {
    case 'touched-octave':
      return `${finger} touches the octave, halfway along ${string}`;
    case 'octave':
      return `${finger} lands on the octave, halfway along ${string}`;
    case 'same-finger':
      return `keep ${finger} on ${string} and glide ${wayText(landing.semitones)}`;
    case 'known-finger':
      return `${finger} lands where ${landing.other} ${landing.still ? 'is' : 'was'} on ${string}`;
    case 'guide':
    case 'way': {
      const { likeOpen, pitch, guide, semitones, free } = landing;
      const check =
        likeOpen === null ? '' : `; ${noteName(pitch, called.notes)} sounds like the open ${names[likeOpen]}`;
      if (landing.by === 'guide') return `glide on ${guide} ${wayText(semitones)}, then put ${finger}${check}`;
      return `${free ? 'while the hand is free it goes' : 'the hand goes'} ${wayText(semitones)}: ${finger} on ${string}${check}`;
    }
  }
}

/** @example glideText({ finger: 1, below: 1, lands: 1, fromBefore: false }) // 'slide 1 into it from a semitone below' */
export function glideText({ finger, lands, fromBefore }: Glide): string {
  if (!fromBefore) return `slide ${finger} into it from a semitone below`;
  return finger === lands ? `slide up on ${finger}` : `slide up on ${finger}, then put ${lands}`;
}

/** @example patternText({ string: 2, places: [], touching: [[1, 2]], changes: 0, moving: [] }) // '1 and 2 touch' */
export function patternText({ places, touching, moving }: StringPattern): string {
  const pairs = [...new Set(touching.map((pair) => pair.join(' and ')))];
  const texts = [...pairs.map((pair) => `${pair} touch`), ...moving.map((finger) => `${finger} has two places`)];
  if (texts.length > 0) return texts.join('; ');
  return places.length > 1 ? 'fingers apart' : 'one finger';
}
