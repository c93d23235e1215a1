/** A tune in windows of a beat, with what the ear keeps of each: what a simpler version is chosen from. */
import {
  barStarts,
  barLength,
  beatLength,
  isPickup,
  isStrongBeat,
  metricWeight,
  midi,
  soundingNotes,
  type Midi,
  type Pitch,
  type Semitones,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { phrasesOf, type Form, type Phrase } from '../form/index.ts';
import { chordAt, harmonyOf, type Harmony } from '../harmony/index.ts';

export interface TuneWindow {
  /** Stable over edits elsewhere: its bar and its place in it. */
  readonly id: string;
  readonly from: Ticks;
  readonly to: Ticks;
  readonly barIndex: number;
  /** Sounds that begin in it. */
  readonly starting: readonly SoundingNote[];
  /** A sound of the tune that is held into it. */
  readonly held: SoundingNote | null;
  /** Weights of the starting sounds. */
  readonly weights: readonly number[];
  readonly phrase: Phrase | null;
  /** A simpler version sounds here what the tune has in this beat. */
  readonly strong: boolean;
  /** The tune ends on a note of it. */
  readonly last: boolean;
  /** A bar begins with it. */
  readonly opens: boolean;
  /** It belongs to the opening pickup. */
  readonly pickup: boolean;
  /** Where the beat that it lies in begins, and ends. */
  readonly beat: readonly [Ticks, Ticks];
  /** By starting sound: the tune leaps to it over more than a fifth; down if negative. */
  readonly leaps: readonly Semitones[];
  /** A phrase begins with it. */
  readonly joint: boolean;
  /** The chord under it: semitones above C. */
  readonly tones: readonly number[];
}

/** Wider than a fifth is a leap. */
const WIDE: Semitones = 7;

/** Weights of what makes a note one that the ear keeps; a judgement. */
const WEIGHT = {
  /** For each step of the metre, from 0 to 4. */
  metre: 0.5,
  /** For a beat of length. */
  length: 1,
  /** Highest or lowest of its neighbours. */
  turn: 0.6,
  phraseStart: 1.5,
  phraseEnd: 6,
  tuneEnd: 20,
  /** It bears a syllable: what is sung is what the ear waits for. */
  syllable: 0.8,
  /** It is in the chord; half of it where the chord was only found. */
  chord: 0.8,
} as const;

/**
 * The windows of a tune: its beats, cut where a phrase begins inside one.
 * @example windowsOf(reel, form).length // 16
 */
export function windowsOf(tune: Tune, form: Form): readonly TuneWindow[] {
  const starts = barStarts(tune.bars);
  const phrases = phrasesOf(form);
  const edges = phrases.flatMap(({ from, to }) => [from, to]);
  const sounds = soundingNotes(tune);
  const harmony = harmonyOf(tune, form);
  const weights = weightsOf(tune, sounds, phrases, harmony);
  const begins = new Set(phrases.map(({ from }) => from));
  let next = 0;
  let phrase = 0;
  const lastSound = sounds.at(-1);
  return tune.bars.flatMap((bar, barIndex) => {
    const start = starts[barIndex]!;
    const end = start + bar.length;
    const beat = beatLength(bar.metre);
    const cuts = new Set([start, end]);
    for (let at = start - bar.offset; at < end; at += beat) if (at > start) cuts.add(at);
    for (const edge of edges) if (edge > start && edge < end) cuts.add(edge);
    // A tuplet over several beats is one thing.
    for (const { note, onset, duration } of sounds) {
      if (note.tuplet) for (const cut of cuts) if (cut > onset && cut < onset + duration) cuts.delete(cut);
    }
    const sorted = [...cuts].sort((a, b) => a - b);
    return sorted.slice(0, -1).map((from, index): TuneWindow => {
      const to = sorted[index + 1]!;
      const before = sounds[next - 1];
      const first = next;
      while (sounds[next] && sounds[next]!.onset < to) next += 1;
      while (phrases[phrase] && from >= phrases[phrase]!.to) phrase += 1;
      const at = bar.offset + from - start;
      const begin = from - (at % beat);
      const beats = Math.max(1, Math.ceil((to - begin) / beat));
      return {
        id: `${bar.id}@${at}`,
        from,
        to,
        barIndex,
        starting: sounds.slice(first, next),
        held: before && before.onset + before.duration > from ? before : null,
        weights: weights.slice(first, next),
        leaps: sounds.slice(first, next).map((sound, place) => {
          const last = sounds[first + place - 1];
          const moved = last ? topOf(sound) - topOf(last) : 0;
          return Math.abs(moved) > WIDE ? moved : 0;
        }),
        phrase: phrases[phrase] && from >= phrases[phrase]!.from ? phrases[phrase]! : null,
        strong: bar.length === barLength(bar.metre) && isStrongBeat(at, bar.metre),
        last: lastSound !== undefined && lastSound.onset >= from && lastSound.onset < to,
        opens: from === start,
        pickup: barIndex === 0 && isPickup(tune.bars, 0),
        beat: [begin, begin + beats * beat],
        joint: begins.has(from),
        tones: chordAt(harmony, from)?.tones ?? [],
      };
    });
  });
}

function weightsOf(
  tune: Tune,
  sounds: readonly SoundingNote[],
  phrases: readonly Phrase[],
  harmony: readonly Harmony[],
): readonly number[] {
  const firsts = new Set(phrases.map(({ notes }) => notes[0]));
  const lasts = new Set(phrases.map(({ notes }) => notes.at(-1)));
  return sounds.map((sound, index) => {
    const bar = tune.bars[sound.barIndex]!;
    const at = bar.offset + sound.note.at;
    const beats = sound.duration / beatLength(bar.metre);
    const [before, here, after] = [sounds[index - 1], sound, sounds[index + 1]].map((one) => one && topOf(one));
    const turns =
      before !== undefined &&
      after !== undefined &&
      ((here! > before && here! > after) || (here! < before && here! < after));
    const chord = chordAt(harmony, sound.onset);
    const inChord = chord?.tones.includes(here! % 12) ?? false;
    return (
      0.5 +
      (inChord ? (chord!.found ? WEIGHT.chord / 2 : WEIGHT.chord) : 0) +
      WEIGHT.metre * metricWeight(at % barLength(bar.metre), bar.metre) +
      WEIGHT.length * Math.min(2, beats) +
      (turns ? WEIGHT.turn : 0) +
      (sound.chain.some(({ id }) => firsts.has(id)) ? WEIGHT.phraseStart : 0) +
      (sound.chain.some(({ id }) => lasts.has(id)) ? WEIGHT.phraseEnd : 0) +
      (index === sounds.length - 1 ? WEIGHT.tuneEnd : 0) +
      (sound.note.words?.some(Boolean) ? WEIGHT.syllable : 0)
    );
  });
}

/**
 * What a phrase that is moved as a whole is told by: its first window.
 * @example foldIdOf('b5@0') // 'b5@0~'
 */
export const foldIdOf = (first: string): string => `${first}~`;

export const pitchOf = ({ note }: SoundingNote): Pitch => note.heads.at(-1)!.pitch;
export const topOf = (sound: SoundingNote): Midi => midi(pitchOf(sound));

/** A note outside the signature. @example isStrange(reel, windowsOf(reel, form)[0].starting[0]) // false */
export const isStrange = ({ bars }: Tune, { note, barIndex }: SoundingNote): boolean =>
  note.heads.some(({ pitch: { letter, alter } }) => (bars[barIndex]!.key.signature[letter] ?? 0) !== alter);
