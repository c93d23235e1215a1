import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { transposeTune, type Tune } from '../music/index.ts';
import { differsText } from '../words/index.ts';
import { tuneOf } from '../test/testing.ts';
import { analyseForm, phrasesOf } from './index.ts';

const shape = (tune: Tune) =>
  phrasesOf(analyseForm(tune)).map(({ label, start, bars }) => `${label} ${start.bar}.${start.beat} ${bars}`);
const relations = (tune: Tune) => phrasesOf(analyseForm(tune)).map(({ relation }) => relation.kind);

const REEL = '|: D2 | G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec B2dB | AFDF G2 :|';

describe('parts and phrases', () => {
  it('takes parts from repeats and phrases of four bars from the grid', () => {
    const form = analyseForm(
      tuneOf('|: G8 | A8 | B8 | c8 | G8 | A8 | B8 | G8 :: d8 | e8 | d8 | c8 | B8 | A8 | G8 | G8 :|'),
    );
    expect(form.parts.map(({ label, bars, times }) => [label, ...bars, times])).toEqual([
      ['A', 1, 8, 2],
      ['B', 9, 16, 2],
    ]);
    expect(form.parts.map(({ phrases }) => phrases.length)).toEqual([2, 2]);
  });

  it('gives an inner pickup to the phrase it leads into', () => {
    expect(shape(tuneOf(REEL, { key: 'G' }))).toEqual(['A1 0.4 4', 'A2 4.4 4']);
  });

  it('finds a jig’s pickup of one eighth', () => {
    const jig = tuneOf('A | d2e fed | B2d A2F | G2B AFD | E2F G2A | d2e fed | B2d A2F | G2B AFD | E2D D2 |]', {
      key: 'D',
      metre: '6/8',
    });
    expect(shape(jig)).toEqual(['A1 0.2.667 4', 'A2 4.2.667 4']);
  });

  it('never cuts a slur or a tie', () => {
    const slurred = tuneOf('D2 | G8 | A8 | B8 | A4 F2 (EF) | G8 | A8 | B8 | G6 |]'.replace('F2 (EF)', '(F2 EF)'), {
      key: 'G',
    });
    expect(shape(slurred)[1]).toBe('A2 5.1 4');
  });

  it('takes a pickup after a rest, even where the part began without', () => {
    const tune = tuneOf('G8 | A8 | B8 | A4 z2 d2 | G8 | A8 | B8 | G8 |]');
    expect(shape(tune)[1]).toBe('A2 4.4 4');
  });

  it('keeps both endings in the last phrase, which is as long as it is played once', () => {
    const form = analyseForm(tuneOf('|: G8 | A8 | B8 | c8 | G8 | A8 | B8 |1 d8 :|2 G8 |]'));
    expect(form.parts).toHaveLength(1);
    expect(phrasesOf(form).map(({ bars }) => bars)).toEqual([4, 4]);
    expect(form.parts[0]!.bars).toEqual([1, 9]);
  });

  it('parts a song form without signs by what comes back, and leaves a crooked tune whole at its end', () => {
    const eight = 'G8 | A8 | B8 | c8 | d8 | c8 | B8 | A8 | ';
    const other = 'e8 | f8 | g8 | e8 | f8 | d8 | e8 | d8 | ';
    const last = 'G8 | A8 | B8 | c8 | d8 | c8 | A8 | G8 |]';
    const song = analyseForm(tuneOf(eight + eight + other + last));
    expect(song.parts.map(({ label }) => label)).toEqual(['A', 'A', 'B', 'A']);
    expect(phrasesOf(song).map(({ label }) => label)).toEqual(['A1', 'A2', 'A3', 'A4', 'B1', 'B2', 'A5', 'A6']);
    expect(phrasesOf(analyseForm(tuneOf('|: G8 | A8 | B8 | c8 | d8 :|'))).map(({ bars }) => bars)).toEqual([5]);
  });

  it('takes labels of the source', () => {
    expect(
      analyseForm(tuneOf('[P:B]G8 | A8 | B8 | c8 || [P:C]d8 | c8 | B8 | A8 |]')).parts.map(({ label }) => label),
    ).toEqual(['B', 'C']);
  });
});

describe('sameness', () => {
  it('says what is the same and what differs', () => {
    const a = 'G2B2 d2B2 | A2c2 e2c2 | ';
    const tune = tuneOf(`${a}B4 A4 | G8 | ${a}B4 A4 | d8 | G2B2 d2B2 | f8 | e8 | d8 | ${a}B4 A4 | G8 |]`);
    expect(relations(tune)).toEqual(['new', 'same-but-ending', 'same-start', 'same']);
    const [, second, third] = phrasesOf(analyseForm(tune));
    expect(second!.relation.of).toBe('p1');
    expect(differsText(second!.relation.differs)).toBe('bar 4');
    expect(differsText(third!.relation.differs)).toBe('from bar 2 on');
  });

  it('hears sequences, octaves and rhythms', () => {
    const tune = tuneOf(
      'G2A2 B4 | c4 B4 | A8 | G8 | A2B2 c4 | d4 c4 | B8 | A8 | G,2A,2 B,4 | C4 B,4 | A,8 | G,8 | c2B2 c4 | e4 d4 | c8 | e8 |]',
    );
    expect(relations(tune)).toEqual(['new', 'transposed', 'octave', 'same-rhythm']);
  });

  it('knows questions from answers', () => {
    const tune = tuneOf('G8 | A8 | B8 | d8 | G8 | A8 | B8 | G8 |]', { key: 'G' });
    expect(phrasesOf(analyseForm(tune)).map(({ closing }) => closing)).toEqual(['open', 'closed']);
  });

  it('counts what is left to learn', () => {
    const { learn } = analyseForm(tuneOf('|: G8 | A8 | G8 | B8 | G8 | A8 | G8 | d8 :|'));
    expect(learn).toMatchObject({ newBars: 4, totalBars: 16, share: 0.25, mostTuneFirst: ['p1', 'p2'] });
  });
});

describe('laws', () => {
  it('transposing changes no boundary and no relation', () => {
    const tune = tuneOf(REEL, { key: 'G' });
    fc.assert(
      fc.property(fc.integer({ min: -12, max: 12 }), (semitones) => {
        const moved = transposeTune(tune, semitones);
        expect(shape(moved)).toEqual(shape(tune));
        expect(relations(moved)).toEqual(relations(tune));
      }),
    );
  });

  it('covers every note exactly once', () => {
    const tune = tuneOf(REEL, { key: 'G' });
    const notes = phrasesOf(analyseForm(tune)).flatMap((phrase) => phrase.notes);
    const all = tune.bars.flatMap((bar) => bar.events.map(({ id }) => id));
    expect(notes).toEqual(all);
  });
});
