/** What brings the bow back: every repair that is offered is tried out here by itself. */
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { INSTRUMENT } from '../instrument/index.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { repairText } from '../words/index.ts';
import { bowRepairs, bowSlice, bowTune, driftOf, travelOf, type BowDecisions, type RepairContext } from './index.ts';

const HORNPIPE = 'B>dc>A B>dc>A | B>dc>A B>dc>A | B>dc>A B>dc>A | B4 z4 |';

function context(music: string, header: Header = { key: 'Bb', tempo: '1/4=138' }): RepairContext {
  const tune = tuneOf(music, header);
  return { tune, form: analyseForm(tune), tempo: tune.tempo!.bpm, instrument: INSTRUMENT.violin };
}

function travel({ tune, form, tempo, instrument }: RepairContext, decided: Partial<BowDecisions> = {}) {
  const all = { ...bowSlice.first, ...decided };
  const bowing = bowTune(tune, form, all, tempo);
  return { bowing, ...travelOf(bowing, tune, form, tempo, instrument, all) };
}

describe('repairs', () => {
  it('bring back a hornpipe whose dotted figures run to the tip', () => {
    const there = context(HORNPIPE);
    const { flags } = travel(there);
    const out = flags.find(({ kind }) => kind === 'out-of-bow')!;
    expect(out).toBeDefined();
    const repairs = bowRepairs(there, bowSlice.first, out);
    expect(repairs.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['stop', 'shorter']));
    const first = phrasesOf(there.form).find(({ notes }) => notes.includes(out.note))!;
    for (const repair of repairs) {
      const decided = { ...bowSlice.first, ...repair.change };
      const bowing = bowTune(there.tune, there.form, decided, there.tempo);
      const drift = driftOf(bowing, there.tune, there.tempo, 650, decided);
      bowing.strokes.forEach(({ notes, time }, index) => {
        if (time > 1 || !notes.some((note) => first.notes.includes(note))) return;
        expect(drift[index]!.end, repairText(repair)).toBeGreaterThanOrEqual(-1e-6);
        expect(drift[index]!.end, repairText(repair)).toBeLessThanOrEqual(650 + 1e-6);
      });
    }
  });

  it('help a stroke that sticks out, and make no other do so', () => {
    const there = context('(A8 | B8) | c2 d2 e2 f2 | g8 |', { tempo: '1/4=60' });
    const before = travel(there).flags.filter(({ kind }) => kind === 'sticks-out');
    const [flag] = before;
    expect(flag).toBeDefined();
    for (const { change } of bowRepairs(there, bowSlice.first, flag!)) {
      const after = travel(there, change).flags.filter(({ kind }) => kind === 'sticks-out');
      expect(after.length).toBeLessThan(before.length);
    }
  });

  it('are none where nothing is wrong, or the note is gone', () => {
    const there = context('A2 B2 c2 d2 |');
    expect(bowRepairs(there, bowSlice.first, { kind: 'out-of-bow', note: 'n1', time: 1 })).toEqual([]);
    expect(bowRepairs(there, bowSlice.first, { kind: 'sticks-out', note: 'n99', time: 1 })).toEqual([]);
  });
});

describe('where the bow shall be', () => {
  it('the plan stays in the wished part of the hair, from the note on where it is wished', () => {
    const there = context('A2 B2 c2 d2 | A2 B2 c2 d2 | A2 B2 c2 d2 | A2 B2 c2 d2 |', { tempo: '1/4=120' });
    const { strokes } = travel(there, { regions: { n1: 'lower half', n9: 'upper half' } });
    for (const { start, end } of strokes.slice(0, 8)) expect(Math.max(start, end)).toBeLessThanOrEqual(325);
    // The stroke that leads there may begin outside.
    for (const { start, end } of strokes.slice(9)) expect(Math.min(start, end)).toBeGreaterThanOrEqual(325);
  });

  it('shorter strokes are that share of their natural length', () => {
    const there = context('A2 B2 c2 d2 |', { tempo: '1/4=120' });
    const { strokes } = travel(there, { lengths: [{ from: 'n2', to: 'n3', share: 0.5 }] });
    expect(strokes.map(({ natural }) => Math.round(natural * 10) / 10)).toEqual([166.4, 80, 83.2, 160]);
  });
});
