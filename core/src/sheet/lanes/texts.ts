/** Text under or over the notes: their names, the words that are sung, the chords. */
import type { Syllable } from '../../music/index.ts';
import { chordName, noteName } from '../../words/index.ts';
import type { Shape } from '../shapes.ts';
import { styleOf } from '../styles.ts';
import { textWidth } from '../textWidth.ts';
import type { LaneDefinition, LaneInput } from './lane.ts';

const ROW = 13;
const MIDDLE = 7;

/** Names of the notes, as they are called here. */
export const NAMES: LaneDefinition = {
  name: 'Note names',
  side: 'below',
  needs: ['notes', 'names', 'written'],
  draw({ notes, x, names, written }: LaneInput) {
    // A name says what the staff shows, which of a retuned instrument need not be what sounds.
    const shown = new Map(written.map(({ id, pitches }) => [id, pitches]));
    const shapes = notes.flatMap(({ id, pitches: sounding, grace }): Shape[] => {
      const at = x(id);
      if (at === undefined || grace) return [];
      const pitches = shown.get(id) ?? sounding;
      const text = pitches.map((pitch) => noteName(pitch, names.notes)).join('+');
      return [{ kind: 'text', role: 'note-name', x: at, y: MIDDLE, text, anchor: 'middle', note: id }];
    });
    return { height: ROW, shapes };
  },
  signs: () => [],
};

/** The words, verse by verse, a row each: hyphens between syllables of a word, a line where one is held on. */
export const WORDS: LaneDefinition = {
  name: 'Words',
  side: 'below',
  needs: ['written'],
  draw({ written, x }: LaneInput) {
    const verses = Math.max(0, ...written.map(({ words }) => words.length));
    const shapes = Array.from({ length: verses }, (_, verse) => verseShapes(written, verse, x)).flat();
    return { height: verses * ROW, shapes };
  },
  signs: ({ written }) => (heldSyllables(written) ? ['melisma'] : []),
};

const WORD_SIZE = styleOf('word').text.size;
/** Room on each side of a hyphen or of a held line. */
const CLEAR = 2;
const HYPHEN = textWidth('-', WORD_SIZE);
/** A hyphen needs so much room; where there is less, a word is read without. */
const HYPHEN_ROOM = HYPHEN + 2;

function verseShapes(written: LaneInput['written'], verse: number, x: LaneInput['x']): readonly Shape[] {
  const y = MIDDLE + verse * ROW;
  const shapes: Shape[] = [];
  const sung = written.flatMap(({ id, words }, index) => {
    const at = x(id);
    const syllable = words[verse];
    return syllable && at !== undefined ? [{ id, at, syllable, index }] : [];
  });
  sung.forEach(({ id, at, syllable, index }, order) => {
    const half = textWidth(syllable.text, WORD_SIZE) / 2;
    const next = sung[order + 1];
    shapes.push({ kind: 'text', role: 'word', x: at, y, text: syllable.text, anchor: 'middle', note: id });
    if (syllable.hyphen) {
      const from = at + half;
      const to = next ? next.at - textWidth(next.syllable.text, WORD_SIZE) / 2 : from + 2 * HYPHEN_ROOM;
      if (to - from >= HYPHEN_ROOM)
        shapes.push({ kind: 'text', role: 'word', x: (from + to) / 2, y, text: '-', anchor: 'middle', note: id });
    } else {
      const end = heldTo(written, index, next?.index ?? written.length, syllable);
      const until = end && x(end);
      const from = at + half + CLEAR;
      if (until && until > from)
        shapes.push({ kind: 'line', role: 'melisma', x1: from, y1: y + 3.4, x2: until + 4, y2: y + 3.4 });
    }
  });
  return shapes;
}

/**
 * The last note that a syllable is held over: where it is said to be, those behind it without one, until a rest; else
 * those that it is tied to.
 */
function heldTo(written: LaneInput['written'], from: number, to: number, { extend }: Syllable): string | undefined {
  const behind = written.slice(from + 1, to);
  const stop = behind.findIndex(({ rest }, index) => rest || !(extend || written[from + index]!.tied));
  return (stop < 0 ? behind : behind.slice(0, stop)).at(-1)?.id;
}

/** Whether a line is drawn somewhere. */
function heldSyllables(written: LaneInput['written']): boolean {
  const verses = Math.max(0, ...written.map(({ words }) => words.length));
  return Array.from({ length: verses }, (_, verse) => verse).some((verse) =>
    written.some(({ words }, index) => {
      const syllable = words[verse];
      if (!syllable || syllable.hyphen) return false;
      const next = written.findIndex((event, at) => at > index && event.words[verse]);
      return heldTo(written, index, next < 0 ? written.length : next, syllable) !== undefined;
    }),
  );
}

/** Chords over the first line that there is. */
export const CHORDS: LaneDefinition = {
  name: 'Chords',
  side: 'above',
  needs: ['written'],
  draw({ written, x }: LaneInput) {
    const shapes = written.flatMap(({ id, chord }): Shape[] => {
      const at = x(id);
      return at === undefined || chord === null
        ? []
        : [{ kind: 'text', role: 'chord', x: at, y: MIDDLE, text: chordName(chord), anchor: 'middle', note: id }];
    });
    return { height: shapes.length > 0 ? ROW + 2 : 0, shapes };
  },
  signs: () => [],
};
