import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange } from '@nokta/core/arrange';
import { phrasesOf } from '@nokta/core/form';
import { readAbc } from '@nokta/core/formats';
import { phraseScore, tuneScore } from './score.ts';

function arrangementOf(music: string) {
  const read = readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nK:C\n${music}\n`);
  if (!read.ok) throw new Error('unreadable');
  return arrange(read.value.tune, FIRST_DECISIONS);
}

describe('tuneScore', () => {
  it('plays repeats and endings, ties as one sound, chords together', () => {
    const score = tuneScore(arrangementOf('|: C4- C4 |1 D8 :|2 [EG]8 |]'), null);
    expect(score.notes.map(({ at, duration, pitches }) => [at, duration, pitches])).toEqual([
      [0, 4, [60]],
      [4, 4, [62]],
      [8, 4, [60]],
      [12, 4, [64, 67]],
    ]);
    expect(score.length).toBe(16);
  });

  it('begins with the bar of the selected note', () => {
    const arrangement = arrangementOf('C8 | D4 E4 | F8 |]');
    const [, d, e] = arrangement.fingering.notes;
    expect(tuneScore(arrangement, e!.id).notes[0]!.id).toBe(d!.id);
    expect(tuneScore(arrangement, 'nowhere').notes).toHaveLength(4);
  });

  it('keeps rests as silence', () => {
    expect(tuneScore(arrangementOf('C2 z2 D4 |'), null).notes.map(({ at }) => at)).toEqual([0, 2]);
  });
});

describe('phraseScore', () => {
  it('plays a phrase as written, from its pickup, and is as long as the phrase', () => {
    const arrangement = arrangementOf('G2 | C8 | D8 | E8 | F6 G2 | C8 | D8 | E8 | C6 |]');
    const [first, second] = phrasesOf(arrangement.form).map((phrase) => phraseScore(arrangement, phrase));
    expect(first!.notes.map(({ at }) => at)).toEqual([0, 1, 5, 9, 13]);
    expect(first!.length).toBe(16);
    expect(second!.notes[0]).toMatchObject({ at: 0, pitches: [67] });
  });
});
