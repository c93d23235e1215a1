/**
 * Which notes share a stroke: the tune's slurs and ties, patterns, limits, and what the teacher joined or cut, laid
 * out in played order. Section 5 of the domain.
 */
import {
  barLength,
  barStarts,
  beatLength,
  midi,
  playedOrder,
  soundingNotes,
  type BowMark,
  type Note,
  type SoundingNote,
  type Ticks,
  type Tune,
} from '../music/index.ts';
import { BY_SYLLABLE, patternOf, prevailingShort, spanOf, strokeAt, suits, type Pattern } from './patterns.ts';
import { USUAL_SLUR, type BowDecisions } from './slice.ts';

/** Where something stands in the tune as it is played. */
interface PlayedPlace {
  readonly barIndex: number;
  /** Which of the played bars it begins in, from 0. */
  readonly place: number;
  /** Which time its bar is being played, from 1. */
  readonly time: number;
  /** From the beginning, as it is played. */
  readonly onset: Ticks;
  readonly duration: Ticks;
  /** From the nominal start of its bar. */
  readonly at: Ticks;
}

/** A sound as it is played, and how it follows the one before. */
export interface PlayedSound extends PlayedPlace {
  readonly note: Note;
  /** Written notes, ties included. */
  readonly ids: readonly string[];
  /** Nothing lies between it and the sound before. */
  readonly reached: boolean;
  /** A repeat sign, or a jump, stands before it. */
  readonly joint: boolean;
  /** The tune's slurs carry the bow on into it. */
  readonly slurred: boolean;
  /** It lies under a slur of the tune. */
  readonly underSlur: boolean;
}

/** Notes on one bow; which way it goes is not known yet. */
export interface StrokeGroup extends PlayedPlace {
  /** Written notes, ties included. */
  readonly notes: readonly string[];
  /** Sounds, ties joined: what a player counts as notes. */
  readonly sounds: readonly PlayedSound[];
}

export const EXCEPTIONS = [
  'rest',
  'repeated-pitch',
  'phrase-joint',
  'repeat-sign',
  'limit',
  'metre',
  'kept-slur',
  'own-rest',
] as const;
/**
 * Why notes are not on one stroke though a slur, a pattern or the teacher wants it: a rest lies between, one note is
 * played twice, a phrase or a repeated section ends, there are more than the learner may, the pattern does not suit
 * the metre, the tune's own slur stands against it; `own-rest` is the teacher's own slur over a rest.
 */
export type ExceptionKind = (typeof EXCEPTIONS)[number];

export interface BowException {
  readonly kind: ExceptionKind;
  readonly note: string;
}

/** All that the grouping reads of what is decided. */
export type GroupDecisions = Pick<
  BowDecisions,
  'slurs' | 'tuneSlurs' | 'maxSlur' | 'pattern' | 'laid' | 'own' | 'verse'
>;

export interface Grouping {
  readonly strokes: readonly StrokeGroup[];
  /** Each once, however often its bar is played. */
  readonly exceptions: readonly BowException[];
  /** Notes on which a pattern sets an accent. */
  readonly accents: ReadonlySet<string>;
  /** How often the teacher’s own slurs and cuts are played. */
  readonly departures: number;
}

/** All sounds in played order. */
export function playedSounds(tune: Tune): readonly PlayedSound[] {
  const byBar = tune.bars.map((): SoundingNote[] => []);
  const sounds = soundingNotes(tune);
  for (const sound of sounds) byBar[sound.barIndex]!.push(sound);
  const starts = barStarts(tune.bars);
  const { intoNext, under } = underSlurs(tune, sounds);
  const played: PlayedSound[] = [];
  let end: Ticks = -1;
  let goesOn = false;
  let barBefore = -1;
  let begin: Ticks = 0;
  let sign = false;
  for (const [place, { index, time }] of playedOrder(tune.bars).entries()) {
    const bar = tune.bars[index]!;
    const before = tune.bars[barBefore];
    sign ||= index !== barBefore + 1 || Boolean(bar.repeatStart) || before?.repeatEnd !== undefined;
    barBefore = index;
    for (const { note, chain, onset, duration } of byBar[index]!) {
      const starting = begin + onset - starts[index]!;
      played.push({
        note,
        ids: chain.map(({ id }) => id),
        barIndex: index,
        place,
        time,
        duration,
        onset: starting,
        at: bar.offset + onset - starts[index]!,
        reached: starting === end,
        joint: sign,
        slurred: goesOn,
        underSlur: under.has(note.id),
      });
      sign = false;
      end = starting + duration;
      goesOn = intoNext.has(chain.at(-1)!.id);
    }
    begin += bar.length;
  }
  return played;
}

/** Sounds after which the same slur goes on, and all that lie under one; slurs that meet on a note are one. */
function underSlurs(tune: Tune, sounds: readonly SoundingNote[]) {
  const at = new Map(sounds.flatMap(({ chain }, index) => chain.map(({ id }) => [id, index] as const)));
  const intoNext = new Set<string>();
  const under = new Set<string>();
  for (const { from, to } of tune.slurs) {
    const [first, last] = [at.get(from), at.get(to)];
    if (first === undefined || last === undefined) continue;
    for (let index = first; index <= last; index += 1) {
      if (index < last) intoNext.add(sounds[index]!.chain.at(-1)!.id);
      if (last > first) under.add(sounds[index]!.note.id);
    }
  }
  return { intoNext, under };
}

type Wish = 'tune' | 'pattern' | 'teacher' | null;

/**
 * Lays slurs and patterns over the sounds, as far as a bow can play them.
 * @param phraseStarts first notes of phrases
 * @example groupSounds(reel, playedSounds(reel), bowSlice.first, new Set()).exceptions // []
 */
export function groupSounds(
  tune: Tune,
  sounds: readonly PlayedSound[],
  decided: GroupDecisions,
  phraseStarts: ReadonlySet<string>,
): Grouping {
  const exceptions = new Map<string, BowException>();
  const except = (kind: ExceptionKind, note: string): void => {
    if (!exceptions.has(note)) exceptions.set(note, { kind, note });
  };
  const laid = layPatterns(tune, sounds, decided);
  for (const note of laid.unsuited) except('metre', note);
  let departures = 0;
  const groups: { sounds: PlayedSound[]; limit: number; wishes: Wish[] }[] = [];
  sounds.forEach((sound, index) => {
    const first = sound.ids[0]!;
    const usual = index === 0 ? null : wishFor(sounds, index, laid, decided, except);
    const said = index === 0 ? undefined : decided.slurs[first];
    const wish = said === undefined ? usual : said === 'joined' ? 'teacher' : null;
    const against = wish === null ? null : whatForbids(sounds[index - 1]!, sound, wish, phraseStarts);
    if (against) except(against, first);
    else if (said !== undefined) departures += 1;
    const group = groups.at(-1);
    if (wish !== null && !against) {
      group!.sounds.push(sound);
      group!.wishes.push(wish);
      group!.limit = Math.min(group!.limit, limitFor(wish, laid.at[index]?.pattern ?? null, decided));
    } else groups.push({ sounds: [sound], limit: Infinity, wishes: [] });
  });
  const strokes = groups.flatMap(({ sounds: all, limit, wishes }) => {
    const parts = shareOut(tune, all, limit, wishes);
    for (const [{ ids }] of parts.slice(1)) except('limit', ids[0]!);
    return parts.map(strokeOf);
  });
  return { strokes, exceptions: [...exceptions.values()], accents: laid.accents, departures };
}

/** One stroke of sounds that follow each other. */
export function strokeOf(sounds: readonly [PlayedSound, ...PlayedSound[]]): StrokeGroup {
  const [{ barIndex, place, time, onset, at }] = sounds;
  const last = sounds.at(-1)!;
  return {
    barIndex,
    place,
    time,
    onset,
    at,
    sounds,
    duration: last.onset + last.duration - onset,
    notes: sounds.flatMap(({ ids }) => ids),
  };
}

/** Who wants a sound on the stroke of the one before it. */
function wishFor(
  sounds: readonly PlayedSound[],
  index: number,
  laid: LaidPatterns,
  { tuneSlurs }: GroupDecisions,
  except: (kind: ExceptionKind, note: string) => void,
): Wish {
  const [before, sound] = [sounds[index - 1]!, sounds[index]!];
  const [own, other] = [laid.at[index], laid.at[index - 1]];
  const grouped = own != null && own.run === other?.run && own.stroke === other.stroke;
  const bySlur = tuneSlurs !== 'ignore' && sound.slurred;
  if (tuneSlurs === 'keep' && (bySlur || sound.underSlur || before.underSlur)) {
    // What enters or leaves a kept slur is cut from the pattern.
    if (bySlur !== grouped && own) except('kept-slur', sound.ids[0]!);
    return bySlur ? 'tune' : null;
  }
  if (own) return grouped ? 'pattern' : null;
  return bySlur ? 'tune' : null;
}

/** What stands between two sounds, so that no bow joins them. */
function whatForbids(
  before: PlayedSound,
  sound: PlayedSound,
  wish: Wish,
  phraseStarts: ReadonlySet<string>,
): ExceptionKind | null {
  if (!sound.reached) return wish === 'teacher' ? 'own-rest' : 'rest';
  if (sound.joint) return 'repeat-sign';
  // The teacher may know better where a phrase ends, and may want one note pressed twice on a bow.
  if (wish === 'teacher') return null;
  if (phraseStarts.has(sound.ids[0]!)) return 'phrase-joint';
  return isRepeated(before.note, sound.note) ? 'repeated-pitch' : null;
}

/** One note twice, without dots or lines that say how it is to be played on one bow. */
export const isRepeated = (one: Note, other: Note): boolean =>
  samePitches(one, other) && !(isArticulated(one) && isArticulated(other));

/** Whether two notes sound the same pitches. */
const samePitches = (one: Note, other: Note): boolean =>
  one.heads.length === other.heads.length &&
  one.heads.every(({ pitch }, index) => midi(pitch) === midi(other.heads[index]!.pitch));

/** Dots and lines tell the player to stop or press on each note under a slur. */
const isArticulated = ({ decorations }: Note): boolean =>
  (decorations ?? []).some((sign) => sign === 'staccato' || sign === 'tenuto');

/** Most notes to a stroke that someone wants: a limit of the learner's cuts kept slurs too. */
function limitFor(wish: Wish, pattern: Pattern | null, { maxSlur }: GroupDecisions): number {
  if (wish === 'teacher') return Infinity;
  if (maxSlur !== null || wish === 'tune') return maxSlur ?? Infinity;
  return Math.max(USUAL_SLUR, ...(pattern?.groups ?? []));
}

/** What a further stroke, a stroke that begins off the beat, and uneven strokes cost where a slur is shared out. */
const SHARING = { stroke: 1, offBeat: 1.5, uneven: 0.1 } as const;

/**
 * A slur that is too long in strokes of at most so many notes: few, even, beginning on beats; of equals the longer
 * first. Exact, over the places where it can be cut. What the teacher joined stays together.
 */
function shareOut(
  tune: Tune,
  sounds: readonly PlayedSound[],
  limit: number,
  wishes: readonly Wish[],
): readonly [PlayedSound, ...PlayedSound[]][] {
  const count = sounds.length;
  if (count <= limit) return [sounds as [PlayedSound, ...PlayedSound[]]];
  const even = count / Math.ceil(count / limit);
  const cost = [0];
  const from = [0];
  for (let end = 1; end <= count; end += 1) {
    cost[end] = Infinity;
    for (let begin = end - 1; begin >= 0; begin -= 1) {
      const size = end - begin;
      const together = wishes.slice(begin, end - 1).every((wish) => wish === 'teacher');
      if (wishes[begin - 1] === 'teacher' || (size > limit && !together)) continue;
      const sound = sounds[begin]!;
      const off = begin > 0 && sound.at % beatLength(tune.bars[sound.barIndex]!.metre) !== 0;
      const own = SHARING.stroke + (off ? SHARING.offBeat : 0) + SHARING.uneven * (size - even) ** 2;
      // The later cut wins among equals: the longer stroke comes first.
      if (cost[begin]! + own < cost[end]! - 1e-9) {
        cost[end] = cost[begin]! + own;
        from[end] = begin;
      }
    }
  }
  const parts: [PlayedSound, ...PlayedSound[]][] = [];
  for (let end = count; end > 0; end = from[end]!) {
    parts.unshift(sounds.slice(from[end], end) as [PlayedSound, ...PlayedSound[]]);
  }
  return parts;
}

/** Which stroke of which pattern each sound falls on; null where no pattern lies. */
interface LaidPatterns {
  readonly at: readonly ({ readonly run: number; readonly stroke: number; readonly pattern: Pattern | null } | null)[];
  /** First notes of bars whose metre the pattern does not suit. */
  readonly unsuited: readonly string[];
  readonly accents: ReadonlySet<string>;
}

const SEPARATE: Pattern = { id: 'separate', groups: [1], suits: 'any' };

function layPatterns(tune: Tune, sounds: readonly PlayedSound[], decided: GroupDecisions): LaidPatterns {
  const runs = runsOf(tune, sounds, decided);
  const at: LaidPatterns['at'][number][] = sounds.map(() => null);
  const unsuited: string[] = [];
  const accents = new Set<string>();
  runs.forEach((run, number) => {
    if (run.pattern === BY_SYLLABLE) {
      laySyllables(sounds, run.sounds, decided.verse).forEach((stroke, index) => {
        at[run.sounds[index]!] = { run: number, stroke, pattern: null };
      });
      return;
    }
    const pattern = patternOf(run.pattern, decided.own) ?? SEPARATE;
    const short = prevailingShort(
      run.sounds
        .map((index) => sounds[index]!)
        .filter(({ time }) => time === 1)
        .map(({ duration, barIndex }) => ({ duration, metre: tune.bars[barIndex]!.metre })),
    );
    let bar = { place: -1, suited: true, base: 0, strokes: 0 };
    let tuplet: { end: Ticks; stroke: number } | null = null;
    let alone = 0;
    for (const index of run.sounds) {
      const sound = sounds[index]!;
      const { metre } = tune.bars[sound.barIndex]!;
      if (sound.place !== bar.place) {
        const suited = suits(pattern, metre, short);
        if (!suited && bar.suited) unsuited.push(sound.ids[0]!);
        // Numbers go on from bar to bar: a pattern that is moved over the beat joins the end of one to the next.
        const strokes = Math.ceil(barLength(metre) / short / spanOf(pattern)) * pattern.groups.length;
        bar = { place: sound.place, suited, base: bar.base + bar.strokes, strokes };
      }
      const found = strokeAt(pattern, sound.at, short);
      let stroke = bar.base + found.stroke;
      // The notes of a tuplet belong together: they join the stroke in which it begins.
      if (tuplet && sound.onset < tuplet.end) ({ stroke } = tuplet);
      else tuplet = tupletOf(sound, stroke, beatLength(metre));
      if (!bar.suited || spanOf(pattern) === 1) stroke = -2 - (alone += 1);
      at[index] = { run: number, stroke, pattern };
      if (bar.suited && pattern.accents?.includes(found.slot)) accents.add(sound.ids[0]!);
    }
  });
  return { at, unsuited, accents };
}

/** Where a tuplet ends that begins with a sound: after as many of its like as it holds, at most a beat. */
function tupletOf({ note, onset, duration }: PlayedSound, stroke: number, beat: Ticks) {
  if (!note.tuplet) return null;
  return { end: onset + Math.min(note.tuplet.actual * duration, beat), stroke };
}

interface Run {
  readonly pattern: string;
  /** Numbers of its sounds. */
  readonly sounds: readonly number[];
}

/** Stretches with one pattern: the later laid wins; elsewhere the tune's own, if it has one. */
function runsOf(tune: Tune, sounds: readonly PlayedSound[], { pattern, laid }: GroupDecisions): readonly Run[] {
  const order = new Map<string, number>();
  for (const { ids } of sounds) for (const id of ids) if (!order.has(id)) order.set(id, order.size);
  const layers = laid.map(({ from, to, ...more }) => ({
    ...more,
    from: order.get(from) ?? Infinity,
    to: order.get(to) ?? -1,
  }));
  const numberOf = ({ ids, barIndex, at }: PlayedSound) => {
    const place = order.get(ids[0]!)!;
    const half = at * 2 >= barLength(tune.bars[barIndex]!.metre);
    return layers.findLastIndex(({ from, to, secondHalf }) => place >= from && place <= to && (half || !secondHalf));
  };
  const byLayer = new Map<number, number[]>();
  sounds.forEach((sound, index) => {
    const layer = numberOf(sound);
    const run = byLayer.get(layer);
    if (run) run.push(index);
    else byLayer.set(layer, [index]);
  });
  return [...byLayer].flatMap(([layer, all]) => {
    const id = layer < 0 ? pattern : layers[layer]!.pattern;
    return id === null ? [] : [{ pattern: id, sounds: all }];
  });
}

/** A stroke to each syllable, with the notes that it is held over; notes without words are alone. */
function laySyllables(sounds: readonly PlayedSound[], run: readonly number[], verse: number): readonly number[] {
  let stroke = 0;
  let held = false;
  return run.map((index) => {
    const syllable = sounds[index]!.note.words?.[verse] ?? null;
    if (syllable) held = syllable.extend ?? false;
    if (syllable || !held) stroke += 1;
    return stroke;
  });
}

/** Whether a stroke begins with the first beat of a whole bar. */
export function onDownbeat(tune: Tune, { barIndex, at }: Pick<StrokeGroup, 'barIndex' | 'at'>): boolean {
  return at === 0 && tune.bars[barIndex]!.length === barLength(tune.bars[barIndex]!.metre);
}

/** The mark that the tune brings for a stroke. */
export const markOf = ({ sounds }: StrokeGroup): BowMark | null => sounds[0]!.note.bow ?? null;
