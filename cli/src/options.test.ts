import { describe, expect, it } from 'vitest';
import { UsageError, readOptions } from './options.ts';

describe('readOptions', () => {
  it('starts from a violin as it comes', () => {
    expect(readOptions(['tune.abc'])).toMatchObject({
      file: 'tune.abc',
      json: false,
      tune: 1,
      sheet: { paper: 'a4', layout: 'phrases', staff: true },
      decisions: {
        key: { instrument: 'violin', tuning: 'standard', transpose: 0 },
        version: { grade: 'tune' },
        pace: { tempo: null },
        hand: { locks: {} },
      },
    });
  });

  it('takes every option of a hand', () => {
    const { decisions } = readOptions([
      '-',
      '--from',
      'abc',
      '--instrument',
      'bass',
      '--bass-school',
      'four',
      '--max-position',
      'I',
      '--tempo',
      '88',
    ]);
    expect(decisions).toMatchObject({
      key: { instrument: 'bass' },
      pace: { tempo: 88 },
      hand: { limits: { bassSchool: 'four', maxPosition: 'I' } },
    });
    expect(readOptions(['x.abc', '--no-fourth']).decisions.hand.limits.noFourth).toBe(true);
  });

  it('takes negative numbers and tunings by name or by pitch', () => {
    expect(readOptions(['x.abc', '--transpose', '-5']).decisions.key.transpose).toBe(-5);
    expect(readOptions(['x.abc', '--transpose=-12']).decisions.key.transpose).toBe(-12);
    expect(readOptions(['--tuning', 'low-pair-up']).decisions.key.tuning).toBe('low-pair-up');
    expect(readOptions(['--tuning', 'A3,E4,A4,E5']).decisions.key.tuning).toBe('A3,E4,A4,E5');
    expect(readOptions(['--instrument', 'cello', '--tuning', 'top-down']).decisions.key.tuning).toBe('top-down');
  });

  it.each([
    [['x.abc', '--instrument', 'lute'], 'violin, viola, cello, bass'],
    [['x.abc', '--transpose', 'up'], 'whole number'],
    [['x.abc', '--transpose', '99'], '-48 to 48'],
    [['x.abc', '--tempo', '0'], '20 to 400'],
    [['x.abc', '--tune', '0'], 'from 1'],
    [['x.abc', '--max-position', 'IX'], 'half, I, II'],
    [['x.abc', '--bass-school', 'two'], 'three or four'],
    [['x.abc', '--paper', 'a5'], 'a4, letter'],
    [['x.abc', '--tuning', 'G3,D4'], '4 strings'],
    [['x.abc', 'y.abc'], 'One file at a time'],
    [['x.abc', '--shout'], '--help'],
  ])('refuses %j and says what is possible', (args, words) => {
    expect(() => readOptions(args)).toThrow(UsageError);
    expect(() => readOptions(args)).toThrow(words);
  });
});
