import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { tuneOf } from '../test/testing.ts';
import { flagText } from '../words/index.ts';
import { bowTune } from './index.ts';

const bows = (music: string, header = {}) => {
  const tune = tuneOf(music, header);
  const bowing = bowTune(tune, analyseForm(tune));
  return {
    ...bowing,
    text: bowing.strokes
      .map(({ direction, notes, retake }) => `${retake ? '*' : ''}${direction === 'down' ? 'D' : 'U'}${notes.length}`)
      .join(' '),
  };
};

describe('bows as they come', () => {
  it('alternates, with slurs and ties on one bow', () => {
    expect(bows('A2 B2 (cde)f | g4- g4 | a8 |').text).toBe('D1 U1 D3 U1 D2 U1');
  });

  it('goes on through bar lines, rests and repeats in played order', () => {
    const { text, flags } = bows('|: A2 B2 c2 z2 | (de) f2 g4 :| A8 |]');
    expect(text).toBe('D1 U1 D1 U2 D1 U1 D1 U1 D1 U2 D1 U1 D1');
    expect(flags).toEqual([]);
  });

  it('says when a phrase comes round on the other bow', () => {
    const { flags, text } = bows('|: A4 B2 c2 :|');
    expect(text).toBe('D1 U1 D1 U1 D1 U1');
    expect(flags[0]!.kind).toBe('turns-on-repeat');
    expect(flagText(flags[0]!)).toBe('A1 starts down the first time and up when it comes round again.');
  });

  it('keeps the tune’s own marks and lifts the bow for them', () => {
    expect(bows('A2 vB2 c2 ud2').text).toBe('D1 *D1 U1 *U1');
  });

  it('joins a tie that starts inside a slur, and slurs that meet', () => {
    expect(bows('(A2 B2- B2 c2) | (d2 (e2) f2) g2').text).toMatch(/^D4 U/);
  });

  it('ends a stroke that a repeat jumps away from', () => {
    const { strokes } = bows('|: A4 (B4 |1 c8) :|2 d8 |]');
    expect(strokes.every(({ notes }) => new Set(notes).size === notes.length)).toBe(true);
    expect(strokes.flatMap(({ notes }) => notes)).toHaveLength(6);
  });

  it('tells each phrase’s first and last bow', () => {
    const { phrases } = bows('A8 | B8 | c8 | d8 | e8 | f8 | g8 | a8 |]');
    expect(phrases.map(({ startsWith, endsWith }) => [startsWith, endsWith])).toEqual([
      ['down', 'up'],
      ['down', 'up'],
    ]);
  });
});
