import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { readAbc } from '../formats/index.ts';
import { countIn, partScore, spanScore, tuneScore } from './score.ts';

function arrangementOf(music: string, header = 'M:4/4\nL:1/8\nK:C') {
  const read = readAbc(`X:1\nT:t\n${header}\n${music}\n`);
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

  it('plays everything once, with the last ending', () => {
    const score = tuneScore(arrangementOf('|: C8 |1 D8 :|2 E8 |: F8 |1 G8 :|2 A8 |]'), null, 'once');
    expect(score.notes.map(({ pitches }) => pitches[0])).toEqual([60, 64, 65, 69]);
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

  it('holds each chord until the next, through the repeat', () => {
    const { chords } = tuneScore(arrangementOf('|: "C"C4 "G7"D4 | "N.C."E8 :|'), null);
    expect(chords.map(({ at, duration }) => [at, duration])).toEqual([
      [0, 2],
      [2, 2],
      [8, 2],
      [10, 2],
    ]);
  });

  it('beats where the metre does', () => {
    const { clicks } = tuneScore(arrangementOf('A | d3 e3 | f3 A2 |]', 'M:6/8\nL:1/8\nK:D'), null);
    expect(clicks).toEqual([
      { at: 0.5, strong: true, count: '1' },
      { at: 2, strong: false, count: '2' },
      { at: 3.5, strong: true, count: '1' },
      { at: 5, strong: false, count: '2' },
    ]);
  });
});

describe('a stretch', () => {
  it('is a phrase as written, from its pickup, as long as the phrase', () => {
    const arrangement = arrangementOf('G2 | C8 | D8 | E8 | F6 G2 | C8 | D8 | E8 | C6 |]');
    const [first, second] = phrasesOf(arrangement.form).map(({ from, to }) => spanScore(arrangement, from, to));
    expect(first!.notes.map(({ at }) => at)).toEqual([0, 1, 5, 9, 13]);
    expect(first!.length).toBe(16);
    expect(second!.notes[0]).toMatchObject({ at: 0, pitches: [67] });
    expect(second!.pickup).toBe(1);
  });

  it('takes the first of several endings, or the one that is asked for', () => {
    const arrangement = arrangementOf('|: C8 | D8 | E8 |1 F8 :|2 G8 |]');
    const [phrase] = phrasesOf(arrangement.form);
    expect(spanScore(arrangement, phrase!.from, phrase!.to).notes.map(({ pitches }) => pitches[0])).toEqual([
      60, 62, 64, 65,
    ]);
    const last = phrase!.to - 4 * 3360;
    expect(spanScore(arrangement, last, phrase!.to).notes.map(({ pitches }) => pitches[0])).toEqual([67]);
  });
});

describe('partScore', () => {
  const arrangement = arrangementOf('D2 |: C8 | D8 | E8 | F6 D2 :: G2 | A8 | B8 | c8 | d6 :|');
  const [a, b] = arrangement.form.parts;

  it('plays a part as often as written, or once', () => {
    const pitches = (repeats: 'written' | 'once') =>
      partScore(arrangement, a!, repeats).notes.map((note) => note.pitches[0]);
    expect(pitches('once')).toEqual([62, 60, 62, 64, 65, 62]);
    expect(pitches('written')).toEqual([62, 60, 62, 64, 65, 62, 60, 62, 64, 65, 62]);
  });

  it('lets a bar go on into the repeat in time', () => {
    expect(partScore(arrangement, b!, 'written').notes.map(({ at }) => at)).toEqual([
      0, 1, 5, 9, 13, 16, 17, 21, 25, 29,
    ]);
  });
});

describe('countIn', () => {
  const common = { beats: 4, unit: 4 };
  it.each([
    ['nothing', common, 0, 'none', 0, 0],
    ['a bar of beats', common, 0, 'beats', 4, 4],
    ['a bar of eighths', common, 0, 'eighths', 8, 4],
    ['up to the pickup', common, 1, 'beats', 7, 7],
    ['two dotted beats', { beats: 6, unit: 8 }, 0, 'beats', 2, 3],
    ['six eighths', { beats: 6, unit: 8 }, 0, 'eighths', 6, 3],
    ['a jig’s pickup of an eighth', { beats: 6, unit: 8 }, 0.5, 'eighths', 11, 5.5],
    ['a waltz with its pickup', { beats: 3, unit: 4 }, 1, 'beats', 5, 5],
  ] as const)('%s', (_, metre, pickup, mode, clicks, length) => {
    const count = countIn({ metre, pickup }, mode);
    expect([count.clicks.length, count.length]).toEqual([clicks, length]);
  });
});
