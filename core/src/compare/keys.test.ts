/** Keys side by side: each is what the arrangement in that key is, and the group's are what all can play. */
import { describe, expect, it } from 'vitest';
import { INSTRUMENTS } from '../instrument/index.ts';
import { keyName, midi, pitchName, transposeTune } from '../music/index.ts';
import { finished } from '../stage/index.ts';
import { deciding } from '../test/setups.ts';
import { tuneOf } from '../test/testing.ts';
import { keyReasons } from '../words/index.ts';
import { arrange, FIRST_DECISIONS } from '../arrange/index.ts';
import { keyChoice, keyChoices, octaveOf, type KeyChoice } from './index.ts';

const REEL = tuneOf('|: D2FA d2AF | G2Bd gdBG | F2Ad fdAF | E2A2 D4 :|', { key: 'D', tempo: '1/4=100' });
const keysOf = (flat: Parameters<typeof deciding>[0] = {}) => finished(keyChoices(REEL, deciding(flat)));
const named = (choices: readonly KeyChoice[], name: string) => choices.filter(({ key }) => keyName(key) === name);

describe.each(INSTRUMENTS)('keys on the %s', (instrument) => {
  const choices = keysOf({ instrument });

  it('are all twelve, those that fit first, with rising effort', () => {
    expect(new Set(choices.map(({ transpose }) => ((transpose % 12) + 12) % 12)).size).toBe(12);
    const fitting = choices.filter(({ fits }) => fits);
    expect(choices.slice(0, fitting.length)).toEqual(fitting);
    expect(fitting.map(({ effort }) => effort)).toEqual(fitting.map(({ effort }) => effort).sort((a, b) => a - b));
  });

  it('cost what the arrangement in that key costs', () => {
    for (const { transpose, cost, effort, shifts, extensions } of choices.slice(0, 6)) {
      const { totals } = arrange(REEL, deciding({ instrument, transpose })).fingering;
      expect({ cost, effort, shifts, extensions }).toEqual({
        cost: totals.cost,
        effort: totals.effort,
        shifts: totals.shifts,
        extensions: totals.extensions,
      });
    }
  });
});

describe('one key', () => {
  const choices = keysOf();
  const here = named(choices, 'D major').find(({ transpose }) => transpose === 0)!;

  it('knows open strings, drones and what rings', () => {
    expect(here).toMatchObject({ openHome: true, openFifth: true, drones: [1, 2], accidentals: 2, octave: 0 });
    // Every D, G, A and E but the F sharps and Bs.
    const notes = REEL.bars.flatMap(({ events }) =>
      events.flatMap((event) => (event.kind === 'note' ? event.heads : [])),
    );
    const rings = notes.filter(({ pitch }) => ['D', 'G', 'A', 'E'].includes(pitch.letter));
    expect(here.ringing).toBeCloseTo(rings.length / notes.length);
    expect(keyReasons(here)[0]).toBe('home note and fifth are open strings');
  });

  it('is told with the place where notes fall off', () => {
    const low = finished(keyChoices(transposeTune(REEL, -14), deciding({ limits: { maxPosition: 'I' } })));
    for (const { fits, outOfRange } of low) expect(fits).toBe(outOfRange.length === 0);
    const wide = tuneOf("G,,2 D2 c2 e'2 | c''4 d''4 |", { key: 'C' });
    const fallen = finished(keyChoices(wide, deciding({ limits: { maxPosition: 'I' } })));
    expect(fallen).toHaveLength(12);
    expect(fallen.every(({ fits, outOfRange }) => !fits && outOfRange.length > 0)).toBe(true);
    const [best] = fallen;
    const [first] = best!.outOfRange;
    expect(keyReasons(best!)[0]).toContain(`${pitchName(first!.pitch).replace('b', '♭').replace('#', '♯')} in bar`);
    expect(midi(first!.pitch) < 55 || midi(first!.pitch) > 84).toBe(true);
  });

  it('counts graces among the notes that fall off, under their own ids', () => {
    const graced = tuneOf("{b}A2 B2 {c'}d4 |", { key: 'D' });
    const all = finished(keyChoices(graced, deciding({ limits: { maxPosition: 'I' } })));
    for (const { fits, outOfRange } of all) expect(fits).toBe(outOfRange.length === 0);
    const here = keyChoice(graced, deciding({ limits: { maxPosition: 'I' } }));
    // First position ends at B5: the second grace alone lies beyond.
    expect(here.outOfRange.map(({ id, pitch, bar }) => [id, pitchName(pitch), bar])).toEqual([['n3g1', 'C#6', 1]]);
    expect(here.fits).toBe(false);
  });

  it('follows the learner’s limits and the tuning', () => {
    const without = keysOf({ limits: { noFourth: true } });
    expect(without.filter(({ fits }) => fits).every(({ fourth }) => fourth === 0)).toBe(true);
    const retuned = named(keysOf({ tuning: 'low-pair-up' }), 'A major');
    expect(retuned[0]).toMatchObject({ openHome: true, openFifth: true, drones: [0, 1, 2, 3] });
  });

  it('is an octave from where it was brought in when it is more than half of one away', () => {
    expect([-18, -7, -6, 0, 5, 6, 17].map(octaveOf)).toEqual([-1, -1, 0, 0, 0, 1, 1]);
  });

  it('of a version for a grade is that version in that key', () => {
    const decisions = { ...deciding(), version: { ...FIRST_DECISIONS.version, grade: 1 as const } };
    // A version is searched in every key.
    const short = tuneOf('|: F2Ad fdAF | E2A2 D4 :|', { key: 'D', tempo: '1/4=100' });
    const [first] = finished(keyChoices(short, decisions));
    const { totals } = arrange(short, {
      ...decisions,
      key: { ...decisions.key, transpose: first!.transpose },
    }).fingering;
    expect(first!.cost).toBe(totals.cost);
  });
});
