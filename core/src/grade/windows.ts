/**
 * A tune in windows of a beat, and what each could be made of: the tune's own notes there, or fewer of them. What a
 * simpler version is chosen from.
 */
import {
  TICKS_PER_QUARTER,
  barStarts,
  barLength,
  beatLength,
  isCompound,
  isPickup,
  isStrongBeat,
  metricWeight,
  midi,
  soundingNotes,
  type Midi,
  type Pitch,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { phrasesOf, type Form, type Phrase } from '../form/index.ts';
import type { Limits } from './contract.ts';

/** What begins in a window: a note of the tune, maybe at another octave or earlier; or silence. */
export interface Piece {
  readonly from: Ticks;
  /** Null is a rest. */
  readonly sound: SoundingNote | null;
  /** Octaves up, down if negative. */
  readonly octave: number;
}

/** One way to fill a window; what sounded before goes on until the first piece. */
export interface Filling {
  /** Pieces in order; none where what sounded before goes on. */
  readonly pieces: readonly Piece[];
  /** Exactly as the tune has it. */
  readonly asIs: boolean;
  /** What it is, told by its places and the numbers of its sounds in the window: the same in phrases that are the same. */
  readonly key: string;
  /** Likeness that is lost, in weights of notes. */
  readonly loss: number;
}

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
}

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
} as const;

/** Moved within its beat; at another octave; shares of a note's weight that are lost. */
export const MOVED = 0.25;
export const OCTAVE_LOST = 0.4;

/**
 * The windows of a tune: its beats, cut where a phrase begins inside one.
 * @example windowsOf(reel, form).length // 16
 */
export function windowsOf(tune: Tune, form: Form): readonly TuneWindow[] {
  const starts = barStarts(tune.bars);
  const phrases = phrasesOf(form);
  const edges = phrases.flatMap(({ from, to }) => [from, to]);
  const sounds = soundingNotes(tune);
  const weights = weightsOf(tune, sounds, phrases);
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
        phrase: phrases[phrase] && from >= phrases[phrase]!.from ? phrases[phrase]! : null,
        strong: bar.length === barLength(bar.metre) && isStrongBeat(at, bar.metre),
        last: lastSound !== undefined && lastSound.onset >= from && lastSound.onset < to,
        opens: from === start,
        pickup: barIndex === 0 && isPickup(tune.bars, 0),
        beat: [begin, begin + beats * beat],
      };
    });
  });
}

function weightsOf(tune: Tune, sounds: readonly SoundingNote[], phrases: readonly Phrase[]): readonly number[] {
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
    return (
      0.5 +
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

export const pitchOf = ({ note }: SoundingNote): Pitch => note.heads.at(-1)!.pitch;
/**
 * The pitch that a piece sounds; null where it is silent.
 * @example pitchIn({ from: 0, sound: null, octave: 0 }) // null
 */
export const pitchIn = ({ sound, octave }: Piece): Pitch | null => {
  const own = sound && pitchOf(sound);
  return own && { ...own, octave: own.octave + octave };
};
export const topOf = (sound: SoundingNote): Midi => midi(pitchOf(sound));
export const midiOf = ({ sound, octave }: Piece): Midi | null => (sound ? topOf(sound) + 12 * octave : null);

/** A beat that is silent where the tune sounds, in weights of notes: as a bar begins, where a tie may be what is avoided; and elsewhere. */
const SILENCED = 4;
const SILENCED_WITHIN = 14;

/** Ways that divide a beat: shares at which something may begin. */
const SPLITS_OF_TWO: readonly (readonly number[])[] = [[0, 1 / 2]];
const SPLITS_OF_THREE: readonly (readonly number[])[] = [
  [0, 1 / 3, 2 / 3],
  [0, 2 / 3],
  [0, 1 / 3],
];

/** So many notes of a beat are tried, and of a part of one; the weightiest first. */
const TRIED = 3;
const TRIED_IN_PART = 2;
/** So many fillings of a window go into the search, those that lose least first. */
const MOST_FILLINGS = 14;

/**
 * The ways to fill a window, the tune's own first.
 * @example fillingsOf(reel, windowsOf(reel, form)[0], contractFor('violin', 6).limits, () => true)[0].asIs // true
 * @param playable whether a pitch may be used
 */
export function fillingsOf(
  tune: Tune,
  window: TuneWindow,
  limits: Pick<Limits, 'pickup' | 'rests' | 'shortest'>,
  playable: (pitch: Midi) => boolean,
): readonly Filling[] {
  const { starting, from, to, held } = window;
  const found = new Map<string, Filling>();
  const offer = (pieces: readonly Piece[], asIs = false): void => {
    const filling = fillingOf(window, pieces, asIs);
    const known = found.get(filling.key);
    if (!known) found.set(filling.key, filling);
  };
  if (window.pickup && !limits.pickup) return [fillingOf(window, [{ from, sound: null, octave: 0 }], false)];
  offer(ownPieces(window), true);
  // What is held goes on, or is silent where no tie may be; what is silent stays so.
  if (starting.length === 0) {
    if (held) offer([{ from, sound: null, octave: 0 }]);
    return [...found.values()];
  }
  // What sounded before goes on; or it is silent, where all that begins is too short.
  offer([]);
  const tooShort = ({ duration }: SoundingNote) => duration < (limits.shortest ?? 0) * TICKS_PER_QUARTER;
  if (starting.every(tooShort)) offer([{ from, sound: null, octave: 0 }]);
  const silentAtStart = !held && starting[0]!.onset > from;
  const splits = isCompound(tune.bars[window.barIndex]!.metre) ? SPLITS_OF_THREE : SPLITS_OF_TWO;
  const whole = window.beat[1] - window.beat[0];
  const least = (limits.shortest ?? 0) * TICKS_PER_QUARTER;
  for (const shares of [[0], ...splits]) {
    const places = shares.map((share) => window.beat[0] + share * whole).filter((at) => at >= from && at < to);
    if (places[0] !== from) places.unshift(from);
    const slots = places.map((at, index) => [at, places[index + 1] ?? to] as const);
    if (slots.length > 1 && slots.some(([begin, end]) => end - begin < least)) continue;
    const options = slots.map(([begin, end]) => {
      const own = starting
        .map((sound, index) => ({ sound, weight: window.weights[index]! + (sound.onset === begin ? 0.5 : 0) }))
        .filter(({ sound }) => sound.onset >= begin && sound.onset < end)
        .sort((a, b) => b.weight - a.weight)
        .slice(0, slots.length > 1 ? TRIED_IN_PART : TRIED);
      return own.flatMap(({ sound }) => octavesOf(sound, playable).map((one): Piece => ({ from: begin, ...one })));
    });
    for (const pieces of combinations(options)) offer(pieces);
    // The first part may go on with what sounded, or be silent as in the tune.
    if (silentAtStart && slots.length > 1) {
      for (const pieces of combinations(options.slice(1))) offer([{ from, sound: null, octave: 0 }, ...pieces]);
    }
    if (shares.length > 1) for (const pieces of combinations(options.slice(1))) offer(pieces);
  }
  const [own, on, ...rest] = [...found.values()];
  const best = rest.sort((a, b) => a.loss - b.loss || (a.key < b.key ? -1 : 1)).slice(0, MOST_FILLINGS);
  return [own!, ...(on ? [on] : []), ...best];
}

/** The pitch itself; where it cannot be used, an octave away. */
function octavesOf(
  sound: SoundingNote,
  playable: (pitch: Midi) => boolean,
): readonly Pick<Piece, 'sound' | 'octave'>[] {
  const own = topOf(sound);
  if (playable(own)) return [{ sound, octave: 0 }];
  const near = [-1, 1, -2, 2].filter((octave) => playable(own + 12 * octave)).map((octave) => ({ sound, octave }));
  return near.length > 0 ? near.slice(0, 2) : [];
}

function combinations(options: readonly (readonly Piece[])[]): readonly (readonly Piece[])[] {
  let found: readonly (readonly Piece[])[] = [[]];
  for (const some of options) {
    if (some.length === 0) continue;
    found = found.flatMap((begun) => some.map((piece) => [...begun, piece]));
  }
  // In the order of the tune: nothing comes back that was over.
  return found.filter(
    (pieces) =>
      pieces.length > 0 &&
      pieces.every(
        (piece, index) => index === 0 || (piece.sound?.onset ?? 0) > (pieces[index - 1]!.sound?.onset ?? -1),
      ),
  );
}

/** What the tune has there: its sounds, and the silences between them. */
function ownPieces({ from, to, starting, held }: TuneWindow): readonly Piece[] {
  const pieces: Piece[] = [];
  let at = from;
  if (held) at = Math.min(to, held.onset + held.duration);
  for (const sound of starting) {
    if (sound.onset > at) pieces.push({ from: at, sound: null, octave: 0 });
    pieces.push({ from: sound.onset, sound, octave: 0 });
    at = sound.onset + sound.duration;
  }
  if (at < to) pieces.push({ from: at, sound: null, octave: 0 });
  return pieces;
}

function fillingOf(window: TuneWindow, pieces: readonly Piece[], asIs: boolean): Filling {
  const { starting, weights, from } = window;
  const number = new Map(starting.map((sound, index) => [sound, index]));
  const key = asIs
    ? 'own'
    : pieces
        .map((piece) => {
          const which = piece.sound ? (number.get(piece.sound) ?? 'h') : 'r';
          return `${piece.from - from}:${which}${piece.octave === 0 ? '' : `^${piece.octave}`}`;
        })
        .join(' ') || 'on';
  const silenced =
    !asIs && (window.held !== null || starting[0]?.onset === from) && pieces[0]?.from === from && !pieces[0].sound;
  let loss = silenced ? (window.opens ? SILENCED : SILENCED_WITHIN) : 0;
  starting.forEach((sound, index) => {
    const piece = pieces.find((one) => one.sound === sound);
    if (!piece) loss += weights[index]!;
    else {
      if (piece.from !== sound.onset) loss += MOVED * weights[index]!;
      loss += OCTAVE_LOST * Math.abs(piece.octave) * weights[index]!;
    }
  });
  return { pieces, asIs, key, loss };
}
