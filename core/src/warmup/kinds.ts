/**
 * The drills, one by one: for which note of the tune there is one, and what is played. Section 7 of the domain,
 * "warm-up page".
 */
import type { Arrangement } from '../arrange/index.ts';
import { hardPlaces, isAcross, type FingeredNote } from '../hand/index.ts';
import {
  barLength,
  beatLength,
  diatonicStep,
  isCompound,
  isNote,
  mapNotes,
  midi,
  sliceTune,
  barStarts,
  valueOf,
  type Bar,
  type Key,
  type Metre,
  type Note,
  type Pitch,
  type Ticks,
} from '../music/index.ts';
import type { WarmUpKind } from '../paper/index.ts';
import { asPlayed, laid, sameSound, settingOf, type Drill, type Piece } from './drill.ts';

export interface DrillKind {
  /** The notes of the tune that ask for it, the neediest first; a drill for the whole tune is for no note. */
  needs(arrangement: Arrangement): readonly (FingeredNote | null)[];
  /** @returns null where the note gives no drill of this kind any more */
  drill(arrangement: Arrangement, note: FingeredNote | null): Drill | null;
}

/** How much slower than the tune. */
const PACE = { whole: 0.8, bow: 0.75, finger: 0.6, spot: 0.5 } as const;
/** Bars with fewer changes of string need no drill of them. */
const CROSSINGS = 3;
/** As many different pitches are held against a drone. */
const HELD = 4;

const WHOLE_TUNE = () => [null];

/** A note's length in a drill: a beat, or in compound time a third of one. */
const pulse = (metre: Metre): Ticks => (isCompound(metre) ? beatLength(metre) / 3 : beatLength(metre));

const fingered = ({ fingering }: Arrangement): readonly FingeredNote[] =>
  fingering.notes.filter(({ grace, stops }) => !grace && stops.length > 0);

const inBar = (arrangement: Arrangement, index: number): readonly FingeredNote[] =>
  fingered(arrangement).filter(({ barIndex }) => barIndex === index);

/** First notes of bars, the bar with most of something first; bars with less than enough are left out. */
function busiest(
  arrangement: Arrangement,
  count: (notes: readonly FingeredNote[]) => number,
  enough: number,
): readonly FingeredNote[] {
  return arrangement.tune.bars
    .map((_, index) => inBar(arrangement, index))
    .filter((notes) => notes.length > 0)
    .map((notes) => ({ note: notes[0]!, count: count(notes) }))
    .filter((bar) => bar.count >= enough)
    .sort((a, b) => b.count - a.count || a.note.onset - b.note.onset)
    .map(({ note }) => note);
}

/** The home note of a scale, and how many degrees of it there are above and below. */
interface Reach {
  readonly home: Pitch;
  readonly from: number;
  readonly to: number;
}

/** So many degrees around a home note are looked at: three octaves. */
const DEGREES = 21;

/** The scale where the tune lies: as far up and down as it goes, and no further. */
function reachOf(arrangement: Arrangement, { tonic, signature }: Key): Reach | null {
  const pitches = fingered(arrangement).flatMap((note) => note.pitches.map(midi));
  if (pitches.length === 0) return null;
  const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
  const homes = [0, 1, 2, 3, 4, 5, 6, 7, 8].map((octave): Pitch => ({ ...tonic, octave }));
  // The lowest home note of the tune; a tune without one has its scale from its lowest note on.
  const home = homes.find((one) => midi(one) >= low && midi(one) <= high) ?? homes.findLast((one) => midi(one) < low);
  if (!home) return null;
  const there = Array.from({ length: 2 * DEGREES + 1 }, (_, index) => index - DEGREES).filter((degree) => {
    const pitch = diatonicStep(home, degree, signature);
    return pitch !== null && midi(pitch) >= low && midi(pitch) <= high;
  });
  return there.length > 0 ? { home, from: there[0]!, to: there.at(-1)! } : null;
}

/** From home to the top and back, then to the lowest and back; without a home note from the lowest to the top and back. */
function toAndFroOver(own: readonly number[]): readonly number[] {
  const up = own.filter((degree) => degree >= 0);
  const down = own.filter((degree) => degree <= 0).reverse();
  const back = (degrees: readonly number[]) => [...degrees, ...degrees.slice(0, -1).reverse()];
  if (!own.includes(0)) return back(own);
  return [...back(up), ...back(down).slice(1)];
}

/** Degrees of the scale, as notes of one length. */
function degrees(arrangement: Arrangement, isIn: (degree: number) => boolean): Drill | null {
  const { metre, key } = settingOf(arrangement, null);
  const reach = reachOf(arrangement, key);
  if (!reach) return null;
  const own = Array.from({ length: reach.to - reach.from + 1 }, (_, index) => reach.from + index).filter(isIn);
  if (own.length < FEWEST) return null;
  const pitches = toAndFroOver(own).flatMap((degree) => diatonicStep(reach.home, degree, key.signature) ?? []);
  return laid(
    arrangement,
    null,
    pitches.map((pitch): Piece => ({ pitches: [pitch], ticks: pulse(metre) })),
    PACE.whole,
  );
}
/** Fewer notes are no scale and no chord. */
const FEWEST = 3;
/** Hard spots that are looked at: some are drilled under another name already. */
const LOOKED_AT = 6;
const OF_CHORD: ReadonlySet<number> = new Set([0, 2, 4]);

/** The bar with other pitches; ties, graces, words and chords fall away. */
function rebuilt(
  arrangement: Arrangement,
  note: FingeredNote,
  pitchOf: (own: FingeredNote) => readonly Pitch[],
  pace: number,
): Drill | null {
  const { tune } = arrangement;
  const starts = barStarts(tune.bars);
  const own = new Map(inBar(arrangement, note.barIndex).flatMap((one) => one.ids.map((id) => [id, one] as const)));
  const cut = sliceTune(tune, starts[note.barIndex]!, starts[note.barIndex + 1]!);
  let last: readonly Pitch[] = [];
  const bare = mapNotes(cut, (written): Note => {
    const {
      graces: _,
      words: __,
      chordSymbol: ___,
      annotation: ____,
      decorations: _____,
      bow: ______,
      ...plain
    } = written;
    const from = own.get(written.id);
    const pitches = from ? pitchOf(from) : last;
    last = pitches;
    const tied = written.heads.some((head) => head.tied) && from?.ids.at(-1) !== written.id;
    return {
      ...plain,
      heads: pitches.length > 0 ? pitches.map((pitch) => ({ pitch, ...(tied && { tied }) })) : plain.heads,
    };
  });
  const bars = twice(bare.bars);
  return { bars, slurs: slursOf(arrangement, bars), locks: {}, pace };
}

/** A bar and the same once more, as a bar by itself is over too soon. */
function twice(bars: readonly Bar[]): readonly Bar[] {
  const plain = bars.map((bar): Bar => {
    const { repeatStart: _, repeatEnd: __, endings: ___, endingStop: ____, label: _____, jump: ______, ...kept } = bar;
    return { ...kept, barline: 'single' };
  });
  const again = plain.map((bar) => ({
    ...bar,
    id: `${bar.id}-2`,
    events: bar.events.map((event) => ({ ...event, id: `${event.id}-2` })),
  }));
  return [...plain, ...again].map((bar, index, all) => (index === all.length - 1 ? { ...bar, barline: 'final' } : bar));
}

/** The tune's strokes over these notes, cut where one pitch follows itself. */
function slursOf({ bowing }: Arrangement, bars: readonly Bar[]): Drill['slurs'] {
  const strokeOf = new Map<string, number>();
  bowing.strokes.forEach(({ notes, time }, index) => time === 1 && notes.forEach((id) => strokeOf.set(id, index)));
  const groups: { stroke: number | undefined; notes: Note[] }[] = [];
  for (const event of bars.flatMap(({ events }) => events)) {
    if (!isNote(event)) continue;
    const again = event.id.endsWith('-2');
    const stroke = strokeOf.get(again ? event.id.slice(0, -2) : event.id);
    const key = stroke === undefined ? undefined : stroke * 2 + (again ? 1 : 0);
    const last = groups.at(-1);
    const before = last?.notes.at(-1);
    const repeats = before && sameSound(soundOf(before), soundOf(event)) && !before.heads.some(({ tied }) => tied);
    if (last && key !== undefined && last.stroke === key && !repeats) last.notes.push(event);
    else groups.push({ stroke: key, notes: [event] });
  }
  return groups.flatMap(({ notes }) => (notes.length > 1 ? [{ from: notes[0]!.id, to: notes.at(-1)!.id }] : []));
}
const soundOf = ({ heads }: Note) => ({ pitches: heads.map(({ pitch }) => pitch) });

const openOf = ({ tuning }: Arrangement, { stops }: FingeredNote): readonly Pitch[] =>
  stops.map(({ string }) => tuning.pitches[string]!);

/** The string that is played most, of these notes. */
function mainString(notes: readonly FingeredNote[]): number {
  const times = new Map<number, number>();
  for (const { stops } of notes) for (const { string } of stops) times.set(string, (times.get(string) ?? 0) + 1);
  return [...times].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 0;
}

const crossings = (notes: readonly FingeredNote[]): number =>
  notes.filter((note, index) => index > 0 && note.stops[0]!.string !== notes[index - 1]!.stops[0]!.string).length;

/** What makes the rhythm of a bar worth a drill: threes, dots, ties, and how many different lengths there are. */
function rhythmOf({ tune }: Arrangement, notes: readonly FingeredNote[]): number {
  const events = tune.bars[notes[0]!.barIndex]!.events;
  const odd = events.filter(
    ({ tuplet, value, ...event }) =>
      tuplet !== undefined || value.dots > 0 || (event.kind === 'note' && event.heads.some(({ tied }) => tied)),
  ).length;
  return odd + new Set(events.map(({ duration }) => duration)).size - 1;
}

/** The strokes of a bar, as long as they are. */
function strokesIn({ bowing }: Arrangement, notes: readonly FingeredNote[]): readonly Ticks[] {
  const byId = new Map(notes.map((note) => [note.id, note]));
  return bowing.strokes
    .filter(({ time }) => time === 1)
    .map((stroke) => stroke.notes.reduce((sum, id) => sum + (byId.get(id)?.duration ?? 0), 0))
    .filter((ticks) => ticks > 0);
}

/** A bar whose strokes are not all alike has a bowing to practise. */
const bowingOf = (arrangement: Arrangement, notes: readonly FingeredNote[]): number => {
  const strokes = strokesIn(arrangement, notes);
  const filled = notes.reduce((sum, { duration }) => sum + duration, 0);
  const bar = arrangement.tune.bars[notes[0]!.barIndex]!;
  return strokes.length < notes.length && filled === bar.length && new Set(strokes).size > 1 ? strokes.length : 0;
};

/** The note that the hand stopped last before this one. */
function stoppedBefore(arrangement: Arrangement, note: FingeredNote): FingeredNote | null {
  const notes = fingered(arrangement);
  const at = notes.findIndex(({ id }) => id === note.id);
  return notes.slice(0, Math.max(0, at)).findLast(({ stops }) => stops.some(({ finger }) => finger > 0)) ?? null;
}

/** To and fro between two places for two bars, the second held at the end. */
function toAndFro(arrangement: Arrangement, from: FingeredNote, to: FingeredNote): Drill {
  const { metre } = settingOf(arrangement, to);
  const beat = beatLength(metre);
  const beats = Math.max(2, Math.round((2 * barLength(metre)) / beat));
  // The last is the second place: of an odd number of beats it has two.
  const pieces = Array.from({ length: beats - (beats % 2) }, (_, at) => asPlayed(at % 2 === 0 ? from : to, beat));
  return laid(arrangement, to, pieces, PACE.finger);
}

export const KINDS: Readonly<Record<WarmUpKind, DrillKind>> = {
  scale: { needs: WHOLE_TUNE, drill: (arrangement) => degrees(arrangement, () => true) },
  arpeggio: {
    needs: WHOLE_TUNE,
    drill: (arrangement) => degrees(arrangement, (degree) => OF_CHORD.has(((degree % 7) + 7) % 7)),
  },
  crossing: {
    needs: (arrangement) => busiest(arrangement, crossings, CROSSINGS).slice(0, 1),
    drill: (arrangement, note) => note && rebuilt(arrangement, note, (own) => openOf(arrangement, own), PACE.bow),
  },
  block: {
    needs(arrangement) {
      const notes = fingered(arrangement);
      return notes.filter((note, at) => at > 0 && isAcross(note, notes[at - 1]) && notes[at - 1]!.block).slice(0, 1);
    },
    drill(arrangement, note) {
      const before = note && stoppedBefore(arrangement, note);
      return note?.block && before?.block ? toAndFro(arrangement, before, note) : null;
    },
  },
  shift: {
    needs: (arrangement) =>
      fingered(arrangement)
        .filter((note) => note.shift && stoppedBefore(arrangement, note))
        .sort((a, b) => Math.abs(b.shift!.semitones) - Math.abs(a.shift!.semitones) || a.onset - b.onset)
        .slice(0, 1),
    drill(arrangement, note) {
      const before = note && stoppedBefore(arrangement, note);
      return note?.shift && before ? toAndFro(arrangement, before, note) : null;
    },
  },
  'double-stop': {
    needs: (arrangement) =>
      fingered(arrangement)
        .filter(({ stops }) => stops.length > 1)
        .sort((a, b) => stoppedIn(b) - stoppedIn(a) || a.onset - b.onset)
        .slice(0, 1),
    drill(arrangement, note) {
      if (!note || note.stops.length < 2) return null;
      const { metre } = settingOf(arrangement, note);
      const beat = beatLength(metre);
      const single = (at: number): Piece => ({
        pitches: [note.stops[at]!.pitch],
        stops: [note.stops[at]!],
        ticks: beat,
      });
      // Apart and together fill whole bars.
      const left = barLength(metre) - ((2 * beat) % barLength(metre));
      const together = asPlayed(note, left);
      return laid(arrangement, note, [single(0), single(1), together, single(0), single(1), together], PACE.finger);
    },
  },
  bowing: {
    needs: (arrangement) => busiest(arrangement, (notes) => bowingOf(arrangement, notes), 2).slice(0, 1),
    drill(arrangement, note) {
      const notes = note ? inBar(arrangement, note.barIndex) : [];
      if (notes.length === 0 || bowingOf(arrangement, notes) === 0) return null;
      const open = [arrangement.tuning.pitches[mainString(notes)]!];
      const strokes = strokesIn(arrangement, notes).map((ticks): Piece => ({ pitches: open, ticks }));
      return laid(arrangement, note, [...strokes, ...strokes], PACE.bow);
    },
  },
  rhythm: {
    needs: (arrangement) => busiest(arrangement, (notes) => rhythmOf(arrangement, notes), 3).slice(0, 1),
    drill(arrangement, note) {
      const notes = note ? inBar(arrangement, note.barIndex) : [];
      if (!note || notes.length === 0) return null;
      const open = [arrangement.tuning.pitches[mainString(notes)]!];
      const drill = rebuilt(arrangement, note, () => open, PACE.bow);
      return drill && { ...drill, slurs: [] };
    },
  },
  drone: {
    needs: WHOLE_TUNE,
    drill(arrangement) {
      const { metre } = settingOf(arrangement, null);
      const ticks = barLength(metre) > 2 * beatLength(metre) ? 2 * beatLength(metre) : barLength(metre);
      const long = heldNotes(arrangement);
      if (long.length === 0) return null;
      return laid(
        arrangement,
        null,
        long.map((note) => asPlayed(note, ticks)),
        PACE.whole,
      );
    },
  },
  spot: {
    needs(arrangement) {
      const byId = new Map(fingered(arrangement).map((note) => [note.id, note]));
      return hardPlaces(arrangement.hand)
        .flatMap(({ notes }) => byId.get(notes[0] ?? '') ?? [])
        .slice(0, LOOKED_AT);
    },
    drill(arrangement, note) {
      if (!note) return null;
      const all = fingered(arrangement);
      const at = all.findIndex(({ id }) => id === note.id);
      const own = all
        .slice(Math.max(0, at - 1), at + 4)
        .filter(({ barIndex }) => Math.abs(barIndex - note.barIndex) <= 1);
      const { metre } = settingOf(arrangement, note);
      const ticks = pulse(metre);
      if (own.length < 2) return null;
      const once = filling(
        own.map((one) => asPlayed(one, ticks)),
        barLength(metre),
      );
      // Then as in the tune, where its rhythm can be written by itself.
      const inRhythm = own.every(({ duration }) => valueOf(duration) !== null);
      const asInTune = inRhythm ? own.map((one) => asPlayed(one, one.duration)) : [];
      return laid(arrangement, note, [...once, ...once, ...asInTune], PACE.spot);
    },
  },
};

/** The last held, so that bars are full and what comes next begins with one. */
function filling(pieces: readonly Piece[], bar: Ticks): readonly Piece[] {
  const sum = pieces.reduce((all, { ticks }) => all + ticks, 0);
  const open = (bar - (sum % bar)) % bar;
  return pieces.map((piece, index) => (index === pieces.length - 1 ? { ...piece, ticks: piece.ticks + open } : piece));
}
const stoppedIn = ({ stops }: FingeredNote) => stops.filter(({ finger }) => finger > 0).length;

/** The longest stopped single notes of the tune, each pitch once, from the lowest. */
function heldNotes(arrangement: Arrangement): readonly FingeredNote[] {
  const found = new Map<string, FingeredNote>();
  const stopped = fingered(arrangement).filter(({ stops }) => stops.length === 1 && stops[0]!.finger > 0);
  for (const note of [...stopped].sort((a, b) => b.duration - a.duration || a.onset - b.onset)) {
    const key = note.pitches.map(midi).join();
    if (!found.has(key) && found.size < HELD) found.set(key, note);
  }
  return [...found.values()].sort((a, b) => midi(a.pitches[0]!) - midi(b.pitches[0]!));
}
