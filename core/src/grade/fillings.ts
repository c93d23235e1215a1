/** What a window could be made of: the tune's own notes there, or fewer of them, or others of the chord where they may not be. */
import {
  TICKS_PER_QUARTER,
  isCompound,
  midi,
  pitchName,
  spellInKey,
  type Midi,
  type Pitch,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import type { Limits } from './contract.ts';
import { pitchOf, topOf, type TuneWindow } from './windows.ts';

/** What begins in a window: a note of the tune, maybe at another octave, earlier, or again; or silence. */
export interface Piece {
  readonly from: Ticks;
  /** Null is a rest. */
  readonly sound: SoundingNote | null;
  /** Octaves up, down if negative. */
  readonly octave: number;
  /** What sounds in its place where it may not: a note of the chord. */
  readonly instead?: Pitch;
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
  /** Octaves by which all of it is moved, as its phrase is; null where nothing begins. */
  readonly fold: number | null;
}

/** Moved within its beat; by itself at another octave; another note of the chord: shares of a note's weight that are lost. */
export const MOVED = 0.25;
const OCTAVE_LOST = 0.5;
const REPLACED = 0.8;
/** With its whole phrase at another octave, in weights of notes for each quarter: a final note costs no more than another. */
const FOLDED = 0.7;
/** Each note that lies an octave away from its phrase, in weights of notes: whole phrases are moved instead. */
const ALONE = 2;
/** A passing note in the place of the one that stands on the beat, in weights of notes. */
const PASSING = 1;

/**
 * The pitch that a piece sounds; null where it is silent.
 * @example pitchIn({ from: 0, sound: null, octave: 0 }) // null
 */
export const pitchIn = ({ sound, octave, instead }: Piece): Pitch | null => {
  if (instead) return instead;
  const own = sound && pitchOf(sound);
  return own && { ...own, octave: own.octave + octave };
};
export const midiOf = ({ sound, octave, instead }: Piece): Midi | null =>
  instead ? midi(instead) : sound ? topOf(sound) + 12 * octave : null;

/** A beat that is silent where the tune sounds, in weights of notes: a short pickup; and elsewhere. */
const SILENCED = 14;
const SILENCED_WITHIN = 60;

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

/** Octaves by which a phrase may be moved, its own first. */
export const ALL_FOLDS = [0, -1, 1] as const;

/** What can be used where a window is filled. */
export interface Use {
  /** Whether a pitch may be stopped under the contract. */
  readonly playable: (pitch: Midi) => boolean;
  /** Octaves by which phrases may be moved as wholes. */
  readonly folds: readonly number[];
  /** Strings may be jumped over: else a leap may also go to a nearer note of the chord. */
  readonly skips?: boolean;
  /** One note by itself may lie an octave away: where a teacher chooses. */
  readonly octaves?: boolean;
  /** A note that may not be used, whatever its octave: outside the signature where nothing may be. */
  readonly isStrange?: (sound: SoundingNote) => boolean;
}

/**
 * The ways to fill a window, the tune's own first.
 * @example fillingsOf(reel, windowsOf(reel, form)[0], contractFor('violin', 6).limits, { playable: () => true, folds: [0] })[0].asIs // true
 */
export function fillingsOf(
  tune: Tune,
  window: TuneWindow,
  limits: Pick<Limits, 'pickup' | 'rests' | 'shortest'>,
  use: Use,
): readonly Filling[] {
  const found = new Map<string, Filling>();
  // A note that is moved by itself, and one that is moved with its phrase, sound the same and are not.
  const offer = (filling: Filling): void => {
    const key = `${filling.fold} ${filling.key}`;
    if (!found.has(key)) found.set(key, filling);
  };
  const { pickup, from } = window;
  if (pickup && !limits.pickup)
    return [fillingOf(window, [{ from, sound: null, octave: 0 }], { asIs: false, fold: null })];
  const [own, ...shapes] = shapesOf(tune, window, limits);
  offer(fillingOf(window, own!, { asIs: true, fold: own!.some(({ sound }) => sound) ? 0 : null }));
  for (const shape of [own!, ...shapes]) {
    if (!shape.some(({ sound }) => sound)) offer(fillingOf(window, shape, { asIs: shape === own, fold: null }));
    else {
      for (const fold of use.folds) {
        if (
          shape === own &&
          fold === 0 &&
          !use.octaves &&
          shape.every(({ sound }) => !sound || (canUse(sound, 0, use) && !mayBend(window, sound, use)))
        )
          continue;
        for (const pieces of combinations(shape.map((piece) => realized(tune, window, piece, fold, use))))
          offer(fillingOf(window, pieces, { asIs: false, fold }));
      }
    }
  }
  const [first, ...all] = [...found.values()];
  const on = all.filter(({ fold }) => fold === null);
  const rest = all.filter(({ fold }) => fold !== null).sort((a, b) => a.loss - b.loss || (a.key < b.key ? -1 : 1));
  // As many of each octave.
  const best = use.folds.flatMap((fold) => rest.filter((one) => one.fold === fold).slice(0, MOST_FILLINGS));
  return [first!, ...on, ...best];
}

const mayBend = ({ leaps, starting }: TuneWindow, sound: SoundingNote, { skips }: Use): boolean =>
  skips === false && (leaps[starting.indexOf(sound)] ?? 0) !== 0;
const canUse = (sound: SoundingNote, fold: number, { playable, isStrange }: Use): boolean =>
  playable(topOf(sound) + 12 * fold) && !isStrange?.(sound);

/**
 * A piece at its phrase's octave; where it cannot be used there, the nearest notes of the chord, or itself at another octave. A
 * wide leap may be one to a nearer note of the chord.
 */
function realized(tune: Tune, window: TuneWindow, piece: Piece, fold: number, use: Use): readonly Piece[] {
  const { sound } = piece;
  if (!sound) return [piece];
  const own = topOf(sound) + 12 * fold;
  const inChord = (direction: number, anyNote = false): Piece | [] => {
    // What is struck again is itself.
    if (!window.starting.includes(sound)) return [];
    const { key } = tune.bars[sound.barIndex]!;
    for (let away = 1; away <= (anyNote ? FURTHEST : NEAREST); away += 1) {
      const pitch = own + direction * away;
      if ((!anyNote && !window.tones.includes(pitch % 12)) || !use.playable(pitch)) continue;
      const instead = spellInKey(pitch, key);
      const strange = (anyNote || use.isStrange) && (key.signature[instead.letter] ?? 0) !== instead.alter;
      if (!strange) return { ...piece, octave: fold, instead };
    }
    return [];
  };
  const away = use.isStrange?.(sound)
    ? []
    : [fold - 1, fold + 1]
        .filter((octave) => use.playable(topOf(sound) + 12 * octave))
        .map((octave) => ({ ...piece, octave }));
  if (!canUse(sound, fold, use)) {
    const near = [inChord(-1), inChord(1), away].flat();
    // Where the chord has nothing that may be played, any note of the key is better than silence.
    return near.length > 0 ? near : [inChord(-1, true), inChord(1, true)].flat();
  }
  const leap = mayBend(window, sound, use) ? window.leaps[window.starting.indexOf(sound)]! : 0;
  return [{ ...piece, octave: fold }, leap === 0 ? [] : inChord(-Math.sign(leap)), use.octaves ? away : []].flat();
}
/** A note of the chord in the place of another lies no further from it, in semitones. */
const NEAREST = 6;
/** Any other note, where the chord has none. */
const FURTHEST = 24;

/** What may begin where, in the tune's own octave; the tune's own way first. */
function shapesOf(tune: Tune, window: TuneWindow, limits: Pick<Limits, 'shortest'>): readonly (readonly Piece[])[] {
  const { starting, from, to, held } = window;
  const shapes: (readonly Piece[])[] = [ownPieces(window)];
  const silence: Piece = { from, sound: null, octave: 0 };
  // What came before the beat begins on it, or again where no tie may be.
  const onBeat: Piece[] = held ? [{ from, sound: held, octave: 0 }] : [];
  if (starting.length === 0) return held ? [...shapes, onBeat] : shapes;
  // What sounded before goes on; or it is silent, where all that begins is too short.
  shapes.push([]);
  const tooShort = ({ duration }: SoundingNote) => duration < (limits.shortest ?? 0) * TICKS_PER_QUARTER;
  if (starting.every(tooShort)) shapes.push([silence]);
  if (held) shapes.push(onBeat);
  const silentAtStart = !held && starting[0]!.onset > from;
  const splits = isCompound(tune.bars[window.barIndex]!.metre) ? SPLITS_OF_THREE : SPLITS_OF_TWO;
  const whole = window.beat[1] - window.beat[0];
  const least = (limits.shortest ?? 0) * TICKS_PER_QUARTER;
  for (const shares of [[0], ...splits]) {
    const places = shares.map((share) => window.beat[0] + share * whole).filter((at) => at >= from && at < to);
    if (places[0] !== from) places.unshift(from);
    const slots = places.map((at, index) => [at, places[index + 1] ?? to] as const);
    if (slots.length > 1 && slots.some(([begin, end]) => end - begin < least)) continue;
    const options = slots.map(([begin, end]) =>
      starting
        .map((sound, index) => ({ sound, weight: window.weights[index]! + (sound.onset === begin ? ON_PLACE : 0) }))
        .filter(({ sound }) => sound.onset >= begin && sound.onset < end)
        .sort((a, b) => b.weight - a.weight)
        .slice(0, slots.length > 1 ? TRIED_IN_PART : TRIED)
        .map(({ sound }): Piece => ({ from: begin, sound, octave: 0 })),
    );
    shapes.push(...combinations(options));
    if (shares.length === 1) continue;
    // The first part may go on with what sounded, begin with it, or be silent as in the tune.
    const later = combinations(options.slice(1));
    if (silentAtStart) shapes.push(...later.map((pieces) => [silence, ...pieces]));
    if (held) shapes.push(...later.map((pieces) => [...onBeat, ...pieces]));
    shapes.push(...later);
  }
  return shapes;
}
/** A note that stands on its place counts so much more than one that would have to come to it. */
const ON_PLACE = 0.5;

function combinations(options: readonly (readonly Piece[])[]): readonly (readonly Piece[])[] {
  let found: readonly (readonly Piece[])[] = [[]];
  for (const some of options) {
    found = found.flatMap((begun) => some.map((piece) => [...begun, piece]));
  }
  // In the order of the tune: nothing comes back that was over.
  return found.filter(
    (pieces) =>
      pieces.length > 0 &&
      pieces.every(({ sound }, index) => {
        const before = pieces[index - 1]?.sound;
        return !sound || !before || sound.onset > before.onset;
      }),
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

function fillingOf(
  window: TuneWindow,
  pieces: readonly Piece[],
  { asIs, fold }: Pick<Filling, 'asIs' | 'fold'>,
): Filling {
  const { starting, weights, from } = window;
  const number = new Map(starting.map((sound, index) => [sound, index]));
  const key = asIs
    ? 'own'
    : pieces
        .map((piece) => {
          const which = piece.sound ? (number.get(piece.sound) ?? 'h') : 'r';
          const moved = piece.octave === 0 ? '' : `^${piece.octave}`;
          return `${piece.from - from}:${which}${moved}${piece.instead ? `=${pitchName(piece.instead)}` : ''}`;
        })
        .join(' ') || 'on';
  const silenced =
    !asIs && (window.held !== null || starting[0]?.onset === from) && pieces[0]?.from === from && !pieces[0].sound;
  let loss = silenced ? (window.pickup ? SILENCED : SILENCED_WITHIN) : 0;
  starting.forEach((sound, index) => {
    const piece = pieces.find((one) => one.sound === sound);
    const weight = weights[index]!;
    if (!piece) loss += weight;
    else if (piece.instead) loss += REPLACED * weight;
    else {
      if (piece.from !== sound.onset) {
        loss += MOVED * weight;
        const stands = starting.some(({ onset }) => onset === piece.from);
        if (stands && window.tones.length > 0 && !window.tones.includes(topOf(sound) % 12)) loss += PASSING;
      }
      if (fold !== null && piece.octave !== fold) loss += OCTAVE_LOST * weight + ALONE;
      loss += (FOLDED * Math.abs(fold ?? 0) * sound.duration) / TICKS_PER_QUARTER;
    }
  });
  return { pieces, asIs, key, loss, fold };
}
