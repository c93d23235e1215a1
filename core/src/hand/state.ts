/** The states a hand can be in while a note or chord sounds. */
import { midi, type Pitch, type Semitones } from '../music/index.ts';
import { firstFingerSteps, lettersAbove, positionByLetter } from './frames.ts';
import { type Finger, type FingerSign, type Frame, type Position } from './vocabulary.ts';
import type { HandModel } from './hands/index.ts';

/** One pitch on one string. */
export interface Stop {
  readonly pitch: Pitch;
  /** Index of the string, 0 the lowest. */
  readonly string: number;
  /** Above the open string; 0 is open. */
  readonly semitones: Semitones;
  readonly finger: Finger;
  readonly sign: FingerSign;
  /** The note's letter asks for a neighbouring finger. */
  readonly misspelled: boolean;
}

export interface HandState {
  readonly frame: Frame;
  /** One for each head, low to high. */
  readonly stops: readonly Stop[];
  /** The choice that a player sees, see `stopsKey`. */
  readonly key: string;
}

/** Widest stretch between fingers of a double stop, in semitones: an octave over two strings a fifth apart is 5. */
export const MAX_SPAN: Semitones = 6;

/**
 * Everything that the learner's hand can do with these pitches; empty where they are out of reach.
 * @example statesFor([pitch('G3')], standardTuning(INSTRUMENT.violin).pitches, framesFor(HANDS.violin))[0].stops[0].finger // 0
 */
export function statesFor(
  heads: readonly Pitch[],
  open: readonly Pitch[],
  frames: readonly Frame[],
): readonly HandState[] {
  return frames.flatMap((frame) => {
    const choices = heads.map((pitch) => stopsFor(pitch, open, frame));
    if (choices.some((options) => options.length === 0)) return [];
    return combinations(choices)
      .filter((stops) => isPlayable(stops) && (frame.shape !== 'contracted' || stops.some(({ finger }) => finger > 0)))
      .map((stops) => ({ frame, stops, key: stopsKey({ stops }) }));
  });
}

function stopsFor(pitch: Pitch, open: readonly Pitch[], frame: Frame): readonly Stop[] {
  return open.flatMap((openPitch, string): Stop[] => {
    const semitones = midi(pitch) - midi(openPitch);
    if (semitones === 0) return [{ pitch, string, semitones, finger: 0, sign: 'home', misspelled: false }];
    return frame.places
      .filter((place) => place.semitones === semitones)
      .flatMap(({ finger, sign, onlySpelled }) => {
        const misspelled = isMisspelled(openPitch, pitch, finger, sign, frame);
        return misspelled && onlySpelled ? [] : [{ pitch, string, semitones, finger, sign, misspelled }];
      });
  });
}

/** Whether the note's letter asks for another finger here: D flat lies under the third finger, C sharp under the second. */
function isMisspelled(open: Pitch, pitch: Pitch, finger: Finger, sign: FingerSign, frame: Frame): boolean {
  if (!frame.byLetter || sign === 'extended' || sign === 'harmonic' || (finger === 1 && sign === 'low')) return false;
  return !firstFingerSteps(frame.base).includes(lettersAbove(open, pitch) - finger + 1);
}

function combinations(choices: readonly (readonly Stop[])[]): readonly (readonly Stop[])[] {
  return choices.reduce<readonly (readonly Stop[])[]>(
    (found, options) => found.flatMap((stops) => options.map((stop) => [...stops, stop])),
    [[]],
  );
}

/** Neighbouring strings, one each; no finger in two places; higher fingers higher up; within the hand's span. */
export function isPlayable(stops: readonly Stop[]): boolean {
  if (stops.length < 2) return stops.length === 1;
  const strings = stops.map(({ string }) => string).sort((a, b) => a - b);
  if (strings.some((string, index) => index > 0 && string !== strings[index - 1]! + 1)) return false;
  const stopped = stops.filter(({ finger }) => finger > 0);
  const places = stopped.map(({ semitones }) => semitones);
  if (places.length > 1 && Math.max(...places) - Math.min(...places) > MAX_SPAN) return false;
  return stopped.every((a) =>
    stopped.every((b) =>
      a.finger === b.finger
        ? a.semitones === b.semitones
        : Math.sign(a.finger - b.finger) === Math.sign(a.semitones - b.semitones),
    ),
  );
}

export const isStopped = ({ stops }: Pick<HandState, 'stops'>) => stops.some(({ finger }) => finger > 0);

/** The name of the hand's place while it stops these: on violin and viola the letters have a say. */
export function positionOf({ frame, stops }: HandState, open: readonly Pitch[], hand: HandModel): Position {
  if (!hand.lettersDecide) return frame.position;
  const stop = stops.find(({ finger, sign }) => finger > 0 && sign !== 'extended' && sign !== 'harmonic');
  const fallback = frame.position.replace(/^(lower|upper) /, '') as Position;
  return stop ? positionByLetter(frame, open[stop.string]!, stop.pitch, stop.finger) : fallback;
}

/**
 * The choice that a player sees: which string, which finger, where, and whether it only touches.
 * @example stopsKey(fingering.notes[0]) // '1.3.5'
 */
export function stopsKey({ stops }: Pick<HandState, 'stops'>): string {
  return stops
    .map(({ string, finger, semitones, sign }) => `${string}.${finger}.${semitones}${sign === 'harmonic' ? 'h' : ''}`)
    .join(' ');
}
