/** What was written is read back and held against the tune. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneOf } from '../test/testing.ts';
import type { Note, Tune } from '../music/index.ts';
import { lossText } from '../words/index.ts';
import { lossesIn, readAbc, writeAbc } from './index.ts';

const kinds = (tune: Tune, ending: 'abc' | 'musicxml' | 'mid') => lossesIn(tune, ending).map(({ what }) => what);
/** The same tune with its first note changed. */
function withFirst(tune: Tune, change: (note: Note) => Note): Tune {
  const [bar, ...bars] = tune.bars;
  const [first, ...events] = bar!.events;
  return { ...tune, bars: [{ ...bar!, events: [change(first as Note), ...events] }, ...bars] };
}
const again = (tune: Tune): Tune => {
  const read = readAbc(writeAbc(tune));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value.tune;
};
const PLAIN = tuneOf('|: G2AB c2BA | G4 z4 :|', { key: 'G', tempo: '1/4=100' });

describe('losses', () => {
  it('are none where there is nothing to lose', () => {
    expect(lossesIn(PLAIN, 'abc')).toEqual([]);
    expect(lossesIn(PLAIN, 'musicxml')).toEqual([]);
    expect(lossesIn(PLAIN, 'mid')).toEqual([]);
  });

  it('are strings in ABC, and in MIDI all that makes no sound', () => {
    const marked = withFirst(PLAIN, (note) => ({
      ...note,
      bow: 'down',
      chordSymbol: 'G',
      decorations: ['accent'],
      heads: [{ ...note.heads[0]!, string: 2, finger: '3', otherFingers: ['2'] }],
    }));
    expect(kinds(marked, 'abc')).toEqual(['strings']);
    expect(kinds(marked, 'musicxml')).toEqual([]);
    expect(kinds(marked, 'mid')).toEqual(['fingers', 'other-fingers', 'strings', 'bows', 'signs', 'chord-symbols']);
    expect(lossesIn(marked, 'abc').map(lossText)).toEqual(['Strings are not in the file: bar 1']);
  });

  it('are the slashes of further grace notes in ABC', () => {
    const graces = ['A', 'B'].map((letter, index) => ({
      id: `g${index}`,
      pitch: { letter: letter as 'A' | 'B', alter: 0 as const, octave: 4 },
      slash: true,
    }));
    const graced = withFirst(PLAIN, (note) => ({ ...note, graces }));
    expect(kinds(graced, 'abc')).toEqual(['grace-slashes']);
    expect(kinds(graced, 'musicxml')).toEqual([]);
  });

  it.each([
    ['other fingers', '!1!!2!G2AB|'],
    ['a melisma after a hyphen', 'GABc|\nw:la-_ la la|'],
    ['a melisma', 'GABc|\nw:la_ la la|'],
    ['words under the last line alone', 'GABc|dcBA|GABc|dcBA|GABc|\nw:* * * * * * * * * * * * * * * * la la la la|'],
    ['three times', '|::GABc::|'],
    ['a section of three times and one of two', '|::GABc::|:cBAG:|'],
    ['a section that is played once between', '|::GABc::|cBAG|:GABc:|'],
  ])('are none in ABC of %s', (_, music) => {
    const tune = tuneOf(music, { key: 'G' });
    expect(lossesIn(tune, 'abc')).toEqual([]);
    expect(lossesIn(tune, 'musicxml')).toEqual([]);
    expect(lossesIn(again(tune), 'abc')).toEqual([]);
  });

  it('never are notes, metres or keys, whatever the tune', () => {
    fc.assert(
      fc.property(arbitraryTune(), fc.constantFrom('abc' as const, 'musicxml' as const), (tune, ending) => {
        const lost = kinds(tune, ending);
        for (const what of ['notes', 'metres', 'keys', 'repeats'] as const) expect(lost).not.toContain(what);
      }),
      { numRuns: 60 },
    );
  });
});
