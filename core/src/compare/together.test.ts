/** Arrangements side by side: what each plays, and where two clash. */
import { describe, expect, it } from 'vitest';
import { tuneOf } from '../test/testing.ts';
import { FIRST_DECISIONS, decided, type Decisions } from '../arrange/index.ts';
import { clashesIn, togetherSteps, type Together } from './index.ts';
import { finished } from '../stage/index.ts';

function together(music: string, all: readonly Decisions[]): Together {
  return finished(togetherSteps(tuneOf(music, { key: 'D', tempo: '1/4=96' }), all));
}
const grade = (number: 1 | 2) => decided(FIRST_DECISIONS, { version: { grade: number, kept: ['key'] } });
const MARCH =
  '"D"d3e f2d2 | "G"g3f "A"e2A2 | "D"f3e d2B2 | "A"A6 A2 | "D"d3e f2d2 | "G"g3f "A"e2c2 | "D"d2f2 "A"e2c2 | "D"d8 |]';

describe('versions side by side', () => {
  it('show what is not as in the tune, in one key', () => {
    const { rows, clashes } = together(MARCH, [FIRST_DECISIONS, grade(2), grade(1)]);
    expect(rows.map(({ key }) => key)).toEqual(['D major', 'D major', 'D major']);
    expect(rows[0]!.notes.some(({ changed }) => changed)).toBe(false);
    expect(rows[2]!.notes.some(({ changed }) => changed)).toBe(true);
    expect(rows.every(({ notes }) => notes.every(({ fingers, pitches }) => fingers.length === pitches.length))).toBe(
      true,
    );
    expect(clashes).toEqual([]);
  });

  it('tell a semitone on a strong beat, and no seventh or tritone that the chord has', () => {
    const [one] = together('"D"d8 | "A7"g4 e4 |]', [FIRST_DECISIONS]).rows;
    const [other] = together('"D"^d8 | "A7"c4 A4 |]', [FIRST_DECISIONS]).rows;
    const clashes = clashesIn([one!, other!]);
    expect(clashes.map(({ bar, beat, rows }) => [bar, beat, ...rows])).toEqual([
      [1, 1, 0, 1],
      [1, 3, 0, 1],
    ]);
  });
});
