import { describe, expect, it } from 'vitest';
import { INSTRUMENTS } from '../instrument/index.ts';
import { midi } from '../music/index.ts';
import { finished } from '../stage/index.ts';
import { tuneOf } from '../test/testing.ts';
import { arrange } from '../arrange/index.ts';
import { decided, FIRST_DECISIONS } from '../arrange/index.ts';
import { tuningChoices } from './tunings.ts';

/** Low A and E, much of it on open strings where the low pair is up. */
const LOW = tuneOf('A,2 C2 E2 A2 | E2 C2 A,4 | A,2 E2 A2 c2 | e2 c2 A4 |', { key: 'A', tempo: '1/4=100' });
const HIGH = tuneOf('G2 A2 B2 c2 | d2 B2 G4 |', { key: 'G', tempo: '1/4=100' });
const set = (tuning: string, instrument: (typeof INSTRUMENTS)[number] = 'violin', transpose = 0) =>
  decided(FIRST_DECISIONS, { key: { tuning, instrument, transpose } });

describe('tunings side by side', () => {
  it('each tuning is there once, with its usual one, and what is kept under its own name', () => {
    const own = [{ name: 'Quay tuning', id: 'F3,D4,A4,E5' }];
    const found = finished(tuningChoices(LOW, set('standard'), own));
    const texts = found.map(({ tuning }) => tuning.pitches.map(midi).join());
    expect(new Set(texts).size).toBe(texts.length);
    expect(found.map(({ tuning }) => tuning.name)).toEqual(expect.arrayContaining(['Standard', 'Quay tuning']));
  });

  it('a tune around low A lies better, and rings more, with the low pair up', () => {
    const found = finished(tuningChoices(LOW, set('standard')));
    const place = (name: string) => found.findIndex(({ tuning }) => tuning.id === name);
    const of = (name: string) => found[place(name)]!.choice;
    expect(of('low-pair-up').effort).toBeLessThan(of('standard').effort);
    expect(of('low-pair-up').ringing).toBeGreaterThanOrEqual(of('standard').ringing);
    expect(place('low-pair-up')).toBeLessThan(place('standard'));
  });

  it('makes a tuning of home note and fifth for any key, down rather than up', () => {
    const found = finished(tuningChoices(HIGH, set('standard', 'violin', 0)));
    const made = found.filter(({ tuning }) => tuning.name === 'Home note and fifth');
    // In G: A to G, E to D, both or one; the low pair sounds G and D already.
    expect(made.map(({ tuning }) => tuning.id).sort()).toEqual(['G3,D4,A4,D5', 'G3,D4,G4,E5']);
    expect(found.map(({ tuning }) => tuning.id)).toContain('top-pair-down');
  });

  it.each(INSTRUMENTS)('is the very fingering that the %s then has', (instrument) => {
    const decisions = set('standard', instrument, instrument === 'cello' || instrument === 'bass' ? -24 : 0);
    for (const { tuning, choice } of finished(tuningChoices(LOW, decisions))) {
      const { fingering } = arrange(LOW, decided(decisions, { key: { tuning: tuning.id } }));
      expect([tuning.id, choice.effort]).toEqual([tuning.id, fingering.totals.effort]);
    }
  });

  it('says how far it loads the strings, and how many are retuned', () => {
    const found = finished(tuningChoices(LOW, set('standard')));
    const up = found.find(({ tuning }) => tuning.id === 'low-pair-up')!;
    expect([up.retuned, up.level]).toEqual([2, 'caution']);
    expect(found.find(({ tuning }) => tuning.id === 'standard')).toMatchObject({ retuned: 0, level: 'none' });
  });

  it('keeps the tuning that is set, though nobody gave it a name', () => {
    const found = finished(tuningChoices(LOW, set('F3,C4,A4,E5')));
    expect(found.map(({ tuning }) => tuning.id)).toContain('F3,C4,A4,E5');
  });
});
