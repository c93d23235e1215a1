/** Moving a tune to another key or octave, spelling kept as plain as the new key allows. */
import { Chord } from 'tonal';
import { transposeKey } from './key.ts';
import { printedName, transposePitch, type Letter, type Semitones } from './pitch.ts';
import type { Tune, TuneEvent } from './tune.ts';

/**
 * The tune so many semitones higher or lower. Keys, accidentals and chord symbols move along; ids stay.
 *
 * @example keyName(transposeTune(reel, -5).bars[0].key) // 'D major'
 */
export function transposeTune(tune: Tune, semitones: Semitones): Tune {
  if (semitones === 0) return tune;
  return {
    ...tune,
    bars: tune.bars.map((bar) => {
      const { key, steps } = transposeKey(bar.key, semitones);
      return { ...bar, key, events: bar.events.map((event) => transposeEvent(event, steps, semitones)) };
    }),
  };
}

function transposeEvent(event: TuneEvent, steps: number, semitones: Semitones): TuneEvent {
  const symbol = event.chordSymbol && { chordSymbol: transposeChord(event.chordSymbol, steps, semitones) };
  if (event.kind === 'rest') return { ...event, ...symbol };
  return {
    ...event,
    ...symbol,
    heads: event.heads.map((head) => ({ ...head, pitch: transposePitch(head.pitch, steps, semitones) })),
    ...(event.graces && {
      graces: event.graces.map((grace) => ({ ...grace, pitch: transposePitch(grace.pitch, steps, semitones) })),
    }),
  };
}

/**
 * Moves root and bass of a chord symbol; text that names no chord stays as it is.
 * @param steps staff steps that go with the semitones
 * @example transposeChord('Am/C', 1, 2) // 'Bm/D'
 */
export function transposeChord(symbol: string, steps: number, semitones: Semitones): string {
  if (Chord.get(symbol).empty && !/^[A-G][#b]?/.test(symbol)) return symbol;
  return symbol.replace(/(^|\/)([A-G])([#b]?)/g, (_, lead: string, letter: string, sign: string) => {
    const alter = sign === '#' ? 1 : sign === 'b' ? -1 : 0;
    const moved = transposePitch({ letter: letter as Letter, alter, octave: 4 }, steps, semitones);
    return lead + printedName(moved).replaceAll('♯', '#').replaceAll('♭', 'b');
  });
}
