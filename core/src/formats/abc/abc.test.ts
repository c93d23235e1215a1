import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  isNote,
  midi,
  pitchName,
  placedNotes,
  soundingNotes,
  transposeTune,
  type Note,
  type Tune,
} from '../../music/index.ts';
import { tuneOf } from '../../test/testing.ts';
import { openAbcBook, readAbc, writeAbc } from '../index.ts';

const notesOf = (tune: Tune): readonly Note[] => placedNotes(tune).map(({ note }) => note);
const names = (tune: Tune) => notesOf(tune).map(({ heads }) => heads.map(({ pitch }) => pitchName(pitch)).join('+'));

describe('reading ABC', () => {
  it('takes the header over, accents included', () => {
    const read = readAbc(
      "X:3\nT:Na Fuinn\\'eoga\nT:The Windows\nC:Ma\\vs\\'a\nO:Port\nR:jig\nM:6/8\nK:Edor\nEFG A3|\n",
    );
    expect(read.ok && read.value.tune).toMatchObject({
      title: 'Na Fuinnéoga',
      alsoKnownAs: ['The Windows'],
      composer: 'Mašá',
      origin: 'Port',
      style: 'jig',
    });
  });

  it('reads key, mode, and accidentals added to or standing for the signature', () => {
    expect(names(tuneOf('FCG', { key: 'Amix' }))).toEqual(['F#4', 'C#4', 'G4']);
    expect(names(tuneOf('FBC', { key: 'D exp ^f_b' }))).toEqual(['F#4', 'Bb4', 'C4']);
    expect(names(tuneOf('FBC', { key: 'Gm ^f' }))).toEqual(['F#4', 'Bb4', 'C4']);
    expect(names(tuneOf('fcg', { key: 'HP' }))).toEqual(['F#5', 'C#5', 'G5']);
  });

  it('lets an accidental hold to the bar line, in every octave, and over a tie', () => {
    expect(names(tuneOf('^F2 f2 F4- | F4 F4 |'))).toEqual(['F#4', 'F#5', 'F#4', 'F#4', 'F4']);
  });

  it('keeps broken rhythm, tuplets and ties in whole ticks', () => {
    const tune = tuneOf('A>B (3cde f4 | (5ABcde g2-g4 |');
    expect(notesOf(tune).map(({ duration }) => duration)).toEqual([
      2520, 840, 1120, 1120, 1120, 6720, 672, 672, 672, 672, 672, 3360, 6720,
    ]);
    expect(soundingNotes(tune)).toHaveLength(12);
  });

  it('writes a length that needs a tie as tied notes of one sound', () => {
    const read = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:C\nA5 B3 |\n');
    expect(read.ok && read.notices).toEqual([]);
    const tune = tuneOf('A5 B3 |');
    expect(notesOf(tune).map(({ value }) => value.type)).toEqual(['half', 'eighth', 'quarter']);
    expect(notesOf(tune)[2]!.value.dots).toBe(1);
    expect(soundingNotes(tune)).toHaveLength(2);
  });

  it('brings bows, fingers, ornaments, slurs, graces, chords and words', () => {
    const tune = tuneOf('v!1!A2 u(B2 {/c}~d2) [GB]2 | "Am"e4 !fermata!z4 |\nw: one two-three_ * four');
    const [a, b, d, chord, e] = notesOf(tune);
    expect(a).toMatchObject({ bow: 'down', heads: [{ finger: '1' }] });
    expect(b!.bow).toBe('up');
    expect(d).toMatchObject({ decorations: ['roll'], graces: [{ slash: true }] });
    expect(tune.slurs).toEqual([{ from: b!.id, to: d!.id }]);
    expect(chord!.heads.map(({ pitch }) => midi(pitch))).toEqual([67, 71]);
    expect(e!.chordSymbol).toBe('Am');
    expect([a, b, d].map((note) => note!.words?.[0]?.text)).toEqual(['one', 'two', 'three']);
    expect(b!.words![0]).toMatchObject({ hyphen: true });
  });

  it('finds pickups, repeats and endings in every spelling', () => {
    const tune = tuneOf('A2 |: B8 |1 c6 A2 :|2 c8 || [1 d8 :| [2 e8 |]');
    expect(tune.bars[0]).toMatchObject({ length: 3360, offset: 10080 });
    expect(tune.bars.map(({ endings }) => endings?.[0])).toEqual([undefined, undefined, 1, 2, 1, 2]);
    expect(tune.bars[2]!.repeatEnd).toBe(2);
    expect(tune.bars.map(({ repeatStart }) => Boolean(repeatStart))).toEqual([false, true, false, false, false, false]);
  });

  it('changes key and metre inside the tune', () => {
    const tune = tuneOf('F4 F4 | [K:D] [M:3/4] F6 |');
    expect(names(tune)).toEqual(['F4', 'F4', 'F#4']);
    expect(tune.bars[1]!.metre).toEqual({ beats: 3, unit: 4 });
  });

  it('lists the tunes of a book and reads the one that is wanted, with places in the file', () => {
    const book = 'R:reel\n\nX:1\nT:First\nK:G\nGABc|\n\nX:2\nT:Second\nM:4/4\nL:1/8\nK:D\nDEFG ABcd | d4 |\n';
    const opened = openAbcBook(book);
    expect(opened.ok && opened.value.tunes).toEqual([
      { number: 1, title: 'First' },
      { number: 2, title: 'Second' },
    ]);
    const second = readAbc(book, { tune: 2 });
    expect(second.ok && second.value.tune).toMatchObject({ title: 'Second', style: 'reel' });
    expect(second.ok && second.value.tune.bars[0]!.events[0]!.source).toEqual({ line: 13, column: 1 });
  });

  it('offers the voices of a tune', () => {
    const text = 'X:1\nT:Two\nM:2/4\nL:1/4\nK:C\nV:1 name="Top"\nV:2 clef=bass\n[V:1] cd|\n[V:2] C,D,|\n';
    const low = readAbc(text, { voice: 2 });
    expect(low.ok && low.value.voices[0]).toBe('Top');
    expect(low.ok && names(low.value.tune)).toEqual(['C3', 'D3']);
  });
});

describe('what cannot be read', () => {
  it.each([
    ['', 'no text'],
    ['hello world', 'neither a key line'],
    ['X:1\nT:Only words\nK:G\n', 'No notes'],
    ['X:1\nK:G\n[GB AB|\n', 'chord'],
    ['X:1\nK:G\n"Am GB AB|\n', 'closing quote'],
    ['\u0000\u0001K:|', 'not a text file'],
  ])('refuses %j with a reason and a remedy', (text, reason) => {
    const read = readAbc(text);
    expect(read.ok).toBe(false);
    const problem = !read.ok && read.problems.find(({ severity }) => severity === 'error');
    expect(problem && problem.message).toContain(reason);
    expect(problem && problem.remedy).toBeTruthy();
  });

  it('names line and column of what it skips, in plain text', () => {
    const read = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:G\nGABc ### d4 |\n');
    expect(read.ok && read.notices).toContainEqual(expect.objectContaining({ line: 6, column: 6 }));
    expect(JSON.stringify(read.ok && read.notices)).not.toContain('<');
  });

  it('says which bar does not add up, but not of pickups and their makeweights', () => {
    const wrong = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:G\nG2 | G8 | G7 | G6 :|\n');
    expect(wrong.ok && wrong.notices.map(({ message }) => message)).toEqual(['Bar 2 is an eighth too short for 4/4.']);
  });

  it('never throws on arbitrary text', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        readAbc(`X:1\nT:t\nK:C\n${text}|\n`);
      }),
      { numRuns: 300 },
    );
  });
});

describe('writing ABC', () => {
  it('reads back the same, accidentals and all', () => {
    const lines = [
      'A>B (3cde ^f2 =f2 | [GB]2-[GB]6 |1 {c}d4 vA4 :|2 u(AB)(cd) e4 |]',
      '^F2 f2 F2 =f2 | _B4 B,4 | z8 |]',
      'A5 B3 | "Am"c8 | [K:Eb][M:3/4] E2 A2 B2 |]',
    ];
    for (const line of lines) {
      const tune = tuneOf(line, { key: 'Gdor' });
      const again = readAbc(writeAbc(tune));
      expect(again.ok && strip(again.value.tune)).toEqual(strip(tune));
    }
  });

  it('reads back the same after any transposition', () => {
    const tune = tuneOf('G2 ^F=F _E2 [Bd]2 | c4 ^c2 =c2 |', { key: 'Gm' });
    fc.assert(
      fc.property(fc.integer({ min: -12, max: 12 }), (semitones) => {
        const moved = transposeTune(tune, semitones);
        const again = readAbc(writeAbc(moved));
        expect(again.ok && names(again.value.tune)).toEqual(names(moved));
      }),
    );
  });

  it('keeps every syllable under its note', () => {
    const tune = tuneOf('A2 B2 c2 d2 | e4- e4 |\nw: keep the lan-tern low_\nw: all a-long the shore_', {});
    const again = readAbc(writeAbc(tune));
    expect(again.ok && notesOf(again.value.tune).map(({ words }) => words)).toEqual(
      notesOf(tune).map(({ words }) => words),
    );
  });
});

/** What must survive: everything but places in the source and where its lines ended. */
function strip(tune: Tune): unknown {
  return {
    slurs: tune.slurs,
    bars: tune.bars.map((bar) => ({
      ...bar,
      events: bar.events.map((event) => ({
        ...event,
        source: undefined,
        ...(isNote(event) && { lineEnd: undefined }),
      })),
    })),
  };
}
