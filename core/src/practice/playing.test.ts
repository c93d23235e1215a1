import { describe, expect, it } from 'vitest';
import { arrange } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { tuneOf } from '../test/testing.ts';
import { droneFor, playScore, scopeInLoop, type Choice } from './index.ts';

const facts = arrange(tuneOf('|: D8 | E8 | F8 | D8 :|: A8 | B8- | B8 | A8 :|', { key: 'D' }));
const [first] = phrasesOf(facts.form);
const NOTHING: Choice = { part: null, phrase: null, chosen: [], from: null, repeats: 'written' };
const pitches = (scope: Parameters<typeof playScore>[1], choice: Partial<Choice>) =>
  playScore(facts, scope, { ...NOTHING, ...choice })!.notes.map((note) => note.pitches[0]);

describe('what is played', () => {
  it('is the tune with its repeats, or once, from a note on', () => {
    expect(pitches('tune', {})).toHaveLength(14);
    expect(pitches('tune', { repeats: 'once' })).toEqual([62, 64, 66, 62, 69, 71, 69]);
    expect(pitches('tune', { repeats: 'once', from: 'n5' })).toEqual([69, 71, 69]);
  });

  it('is a part as often as it is played, or a phrase', () => {
    expect(pitches('part', { part: facts.form.parts[1]! })).toEqual([69, 71, 69, 69, 71, 69]);
    expect(pitches('phrase', { phrase: first! })).toEqual([62, 64, 66, 62]);
  });

  it('is what is chosen, to the end of its last note', () => {
    const score = playScore(facts, 'selection', { ...NOTHING, chosen: ['n2', 'n3'] })!;
    expect(score.notes.map((note) => note.pitches[0])).toEqual([64, 66]);
    expect(score.length).toBe(8);
  });

  it('is the tune where what is asked for is not there, and nothing where nothing sounds', () => {
    const tune = tuneOf('d8 |');
    const silent = { ...tune, bars: tune.bars.map((bar) => ({ ...bar, events: [] })) };
    expect(pitches('part', {})).toHaveLength(14);
    expect(pitches('selection', {})).toHaveLength(14);
    expect(playScore({ tune: silent }, 'tune', NOTHING)).toBeNull();
  });

  it('is the phrase where the tune is to be looped', () => {
    expect(scopeInLoop('tune', true)).toBe('phrase');
    expect(scopeInLoop('tune', false)).toBe('tune');
    expect(scopeInLoop('part', true)).toBe('part');
  });
});

it('drones low on the home note, with its fifth, or on any note', () => {
  const key = (letter: 'C' | 'G' | 'B') => ({ tonic: { letter, alter: 0 } }) as const;
  expect(droneFor(key('C'), 'tonic', '')).toEqual([48]);
  expect(droneFor(key('G'), 'fifth', '')).toEqual([55, 62]);
  expect(droneFor(key('B'), 'note', 'E2')).toEqual([40]);
  expect(droneFor(key('B'), 'none', 'E2')).toEqual([]);
});
