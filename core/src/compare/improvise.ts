/** For improvising: under each chord of a phrase the notes that lie under the hand, those of the chord told from those of the scale. */
import type { Phrase } from '../form/index.ts';
import { limitsOf } from '../grade/index.ts';
import { harmonyOf, type Harmony } from '../harmony/index.ts';
import { HANDS, framesFor, lettersAbove, type FingerPlace, type Frame } from '../hand/index.ts';
import { openMidi } from '../instrument/index.ts';
import {
  barNumbers,
  barStarts,
  beatLength,
  spellInKey,
  transposeTune,
  type Bar,
  type Midi,
  type Pitch,
  type Semitones,
  type Ticks,
} from '../music/index.ts';
import { type Arrangement } from '../arrange/index.ts';
import { handLimitsOf } from '../version/index.ts';

/** A note that can be stopped, and what it is to the chord. */
export interface ChordPlace {
  /** From 0, the lowest. */
  readonly string: number;
  readonly semitones: Semitones;
  readonly finger: FingerPlace['finger'];
  readonly sign: FingerPlace['sign'];
  readonly pitch: Pitch;
  readonly role: 'root' | 'chord' | 'scale';
}

/** A chord, how long it holds, and the notes for it. */
export interface ChordNotes {
  readonly chord: string;
  /** Found from the notes, not brought by the tune. */
  readonly found: boolean;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly bar: number;
  readonly beat: number;
  /** String by string from the lowest, each upwards. */
  readonly places: readonly ChordPlace[];
}

/**
 * The notes for each chord of a phrase, where the hand is for most of it.
 * @example notesToPlay(arrangement, phrase)[0].chord // 'G'
 */
export function notesToPlay(arrangement: Arrangement, phrase: Phrase): readonly ChordNotes[] {
  // Chords are the tune's, however little of it a version keeps.
  const tune = transposeTune(arrangement.inKey, arrangement.graded?.transpose ?? 0);
  const starts = barStarts(tune.bars);
  const numbers = barNumbers(tune.bars);
  const frames = framesOf(arrangement, phrase);
  const chords = merged(harmonyOf(tune).filter(({ from, to }) => from < phrase.to && to > phrase.from));
  const known = new Map<string, readonly ChordPlace[]>();
  return chords.map((harmony): ChordNotes => {
    const from = Math.max(harmony.from, phrase.from);
    const index = Math.max(
      0,
      starts.findLastIndex((start) => start <= from),
    );
    const bar = tune.bars[Math.min(index, tune.bars.length - 1)]!;
    const key = `${harmony.name} ${JSON.stringify(bar.key.signature)}`;
    const places = known.get(key) ?? placesUnder(arrangement, frames, harmony, bar);
    known.set(key, places);
    return {
      chord: harmony.name,
      found: harmony.found,
      from,
      to: Math.min(harmony.to, phrase.to),
      bar: numbers[index]!,
      beat: Math.floor((bar.offset + from - starts[index]!) / beatLength(bar.metre)) + 1,
      places,
    };
  });
}

/** The same chord twice is one. */
function merged(chords: readonly Harmony[]): readonly Harmony[] {
  const found: Harmony[] = [];
  for (const chord of chords) {
    const last = found.at(-1);
    if (last && last.name === chord.name) found[found.length - 1] = { ...last, to: chord.to };
    else found.push(chord);
  }
  return found;
}

/** How the hand can be held where it is for most of the phrase. */
function framesOf({ fingering, instrument, decisions }: Arrangement, { notes }: Phrase): readonly Frame[] {
  const own = new Set(notes);
  const often = new Map<string, number>();
  for (const { of, position } of fingering.notes) {
    if (position && own.has(of)) often.set(position, (often.get(position) ?? 0) + 1);
  }
  const [most] = [...often].sort((a, b) => b[1] - a[1])[0] ?? ['I'];
  const limits = limitsOf(decisions.version, instrument.hand);
  const all = framesFor(HANDS[instrument.hand], {
    ...(limits && handLimitsOf(limits)),
    ...(instrument.reach !== undefined && { reach: instrument.reach }),
  });
  const here = all.filter(({ position, shape }) => position === most && shape !== 'forward' && shape !== 'backward');
  return here.length > 0 ? here : all.filter(({ position }) => position === 'I');
}

function placesUnder(
  { tuning }: Pick<Arrangement, 'tuning'>,
  frames: readonly Frame[],
  { tones, name }: Harmony,
  { key }: Bar,
): readonly ChordPlace[] {
  const root = tones[0];
  const open = openMidi(tuning.pitches);
  return open.flatMap((sound: Midi, string) => {
    const stops = new Map<Semitones, ChordPlace>();
    const offer = (place: FingerPlace, byLetter: boolean): void => {
      const number = sound + place.semitones;
      const pitch = spellInKey(number, key);
      const inChord = tones.includes(number % 12);
      const inScale = (key.signature[pitch.letter] ?? 0) === pitch.alter;
      if (!inChord && !inScale) return;
      const asSpelled = !byLetter || lettersAbove(tuning.pitches[string]!, pitch) === place.finger;
      if (stops.has(place.semitones) && !asSpelled) return;
      const role = number % 12 === root && name !== '' ? 'root' : inChord ? 'chord' : 'scale';
      if (!stops.has(place.semitones) || asSpelled)
        stops.set(place.semitones, {
          string,
          semitones: place.semitones,
          finger: place.finger,
          sign: place.sign,
          pitch,
          role,
        });
    };
    offer({ finger: 0, semitones: 0, sign: 'home' }, false);
    for (const { places, byLetter, position } of frames) {
      for (const place of places) {
        if (!place.onlySpelled && place.sign !== 'extended' && place.finger > 0)
          offer(place, Boolean(byLetter) && position === 'I');
      }
    }
    return [...stops.values()].sort((a, b) => a.semitones - b.semitones);
  });
}
