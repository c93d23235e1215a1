import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseForm, formLike, layoutOf } from '../form/index.ts';
import { barLength, pitchName, placedNotes, soundingNotes, type Tune } from '../music/index.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { bareVersion } from './index.ts';
import { changeText } from '../words/index.ts';

const bare = (music: string, header: Header = {}) => {
  const tune = tuneOf(music, header);
  return bareVersion(tune, analyseForm(tune));
};
const names = (tune: Tune) =>
  soundingNotes(tune).map(({ note, duration }) => `${pitchName(note.heads[0]!.pitch)}:${duration / 3360}`);

function bare1(music: string, header: Header = {}): readonly string[] {
  const tune = tuneOf(music, header);
  return names(bareVersion(tune, analyseForm(tune)).tune);
}

describe('the bare version', () => {
  it('keeps the note on each beat of a reel', () => {
    expect(bare1('G2BG dGBG | ABcA G4 |', { key: 'G' })).toEqual([
      'G4:1',
      'B4:1',
      'D5:1',
      'B4:1',
      'A4:1',
      'C5:1',
      'G4:2',
    ]);
  });

  it('keeps two notes a bar of a jig', () => {
    expect(bare1('d2e fed | B2d A3 |', { key: 'D', metre: '6/8' })).toEqual(['D5:1.5', 'F#5:1.5', 'B4:1.5', 'A4:1.5']);
  });

  it('moves a syncopated note onto its beat and says so', () => {
    const { changes } = bare('A B2 c d4 |');
    expect(bare1('A B2 c d4 |')).toEqual(['A4:1', 'B4:1', 'D5:2']);
    expect(changes.map(({ kind }) => kind)).toContain('moved-to-beat');
  });

  it('leaves long notes, rests, pickups and ties over the bar as they are', () => {
    expect(bare1('A2 | B4 z4 | c8- | c4 d4 |')).toEqual(['A4:1', 'B4:2', 'C5:6', 'D5:2']);
  });

  it('keeps the pickup apart from the phrase end before it', () => {
    const jig = 'A | d2e fed | B2d A2F | G2B AFD | E2F G2A | d2e fed | B2d A2F | G2B AFD | E2D D2 |]';
    expect(bare1(jig, { key: 'D', metre: '6/8' }).slice(7, 10)).toEqual(['E4:1.5', 'G4:1', 'A4:0.5']);
  });

  it('drops slurs, graces, ornaments and the lower note of a double stop, and lists each', () => {
    const { tune, changes } = bare('(A2B2) {c}d2 [GB]2 | ~e4 f4 |');
    expect(tune.slurs).toEqual([]);
    expect(placedNotes(tune).every(({ note }) => note.heads.length === 1 && !note.graces && !note.decorations)).toBe(
      true,
    );
    expect(new Set(changes.map(({ kind }) => kind))).toEqual(new Set(['slur', 'grace', 'one-note', 'sign']));
  });

  it('keeps the whole text', () => {
    const { tune } = bare('AB c2 d4 |\nw: o-ver the sea');
    expect(placedNotes(tune).map(({ note }) => note.words?.[0]?.text)).toEqual(['over', 'the', 'sea']);
  });

  it('names what was left out, with its place', () => {
    const { changes } = bare('G2BG dGBG |', { key: 'G' });
    expect(changes.map((change) => [change.bar, change.beat, changeText(change)])).toEqual([
      [1, 2, 'B carries the beat; G left out.'],
      [1, 3, 'D carries the beat; G left out.'],
      [1, 4, 'B carries the beat; G left out.'],
    ]);
  });

  it('always adds up, keeps first and last note, ids unique, and is its own bare version', () => {
    const piece = fc.constantFrom('A2', 'AB', 'c>d', '(3efg', 'z2', 'A/B/c', 'e4', '[GB]2', 'c2-c2', 'A3B');
    const length: Readonly<Record<string, number>> = { e4: 4, 'c2-c2': 4, A3B: 4 };
    fc.assert(
      fc.property(fc.array(piece, { minLength: 4, maxLength: 24 }), (pieces) => {
        const music = pieces.reduce<{ text: string; at: number }>(
          ({ text, at }, next) => {
            const size = length[next] ?? 2;
            const fitting = at + size > 8 ? 'A2' : next;
            const after = at + (fitting === next ? size : 2);
            return { text: `${text} ${fitting}${after >= 8 ? ' |' : ''}`, at: after % 8 };
          },
          { text: 'G2', at: 2 },
        );
        const source = tuneOf(`${music.text} |`);
        const { tune } = bareVersion(source, analyseForm(source));
        for (const [index, bar] of tune.bars.entries()) {
          expect(bar.events.reduce((sum, { duration }) => sum + duration, 0)).toBe(source.bars[index]!.length);
          expect(bar.length).toBeLessThanOrEqual(barLength(bar.metre));
        }
        const ids = tune.bars.flatMap((bar) => bar.events.map(({ id }) => id));
        expect(new Set(ids).size).toBe(ids.length);
        expect(soundingNotes(tune)[0]!.note.id).toBe(soundingNotes(source)[0]!.note.id);
        // A version has the phrases of its tune, however little of them it keeps.
        expect(names(bareVersion(tune, formLike(tune, layoutOf(source))).tune)).toEqual(names(tune));
      }),
      { numRuns: 150 },
    );
  });
});
