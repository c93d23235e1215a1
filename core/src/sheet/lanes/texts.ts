/** Text under or over the notes: their names, the words that are sung, the chords. */
import { noteName } from '../../words/index.ts';
import type { Shape } from '../shapes.ts';
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

/** The words, verse by verse, a row each. */
export const WORDS: LaneDefinition = {
  name: 'Words',
  side: 'below',
  needs: ['written'],
  draw({ written, x }: LaneInput) {
    const verses = Math.max(0, ...written.map(({ words }) => words.length));
    const shapes: Shape[] = [];
    for (let verse = 0; verse < verses; verse += 1) {
      for (const { id, words } of written) {
        const at = x(id);
        const syllable = words[verse];
        if (at === undefined || !syllable) continue;
        const text = `${syllable.text}${syllable.hyphen ? ' -' : ''}`;
        shapes.push({ kind: 'text', role: 'word', x: at, y: MIDDLE + verse * ROW, text, anchor: 'middle', note: id });
      }
    }
    return { height: verses * ROW, shapes };
  },
  signs: () => [],
};

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
        : [{ kind: 'text', role: 'chord', x: at, y: MIDDLE, text: printedChord(chord), anchor: 'middle', note: id }];
    });
    return { height: shapes.length > 0 ? ROW + 2 : 0, shapes };
  },
  signs: () => [],
};

/** A flat is a flat only after a letter: "Bb", but not the b of "sub". */
const printedChord = (chord: string) => chord.replace(/([A-G])b/g, '$1♭').replace(/([A-G])#/g, '$1♯');
