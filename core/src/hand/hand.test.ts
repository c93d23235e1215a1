import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { INSTRUMENT, parseTuning, stringNames, type InstrumentId, type Tuning } from '../instrument/index.ts';
import { transposeTune, workingTempo, type Tune } from '../music/index.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { setupFor, type NamedSetup } from '../test/setups.ts';
import { problemText, reasonTexts, stopsText, symbol, whyTexts } from '../words/index.ts';
import { fingerAndExplain, lockOf, type Fingering } from './index.ts';

function finger(tune: Tune, setup: NamedSetup = {}): Fingering {
  return fingerAndExplain(tune, analyseForm(tune), setupFor({ tempo: workingTempo(tune), ...setup }));
}

/** "D3 A0": string and finger of each note, with the sign of a finger away from home. */
function read({ notes, instrument }: Fingering): string {
  const text = (stop: Fingering['notes'][number]['stops'][number]) =>
    stringNames(instrument)[stop.string]! + symbol(stop, instrument).replace('\u0323', 'v').replace('\u0307', '^');
  return notes.map(({ stops }) => stops.map(text).join('+') || '?').join(' ');
}

function tuning(instrument: InstrumentId, text: string): Tuning {
  const parsed = parseTuning(INSTRUMENT[instrument], text);
  if ('error' in parsed) throw new Error(parsed.error);
  return parsed;
}

const QUICK: Header = { key: 'G', tempo: '1/4=120' };

describe('open string or fourth finger', () => {
  it('goes down by the fourth finger and up by the open string', () => {
    expect(read(finger(tuneOf('AGAB', QUICK)))).toBe('D4 D3 A0 A1');
  });

  it('keeps a quick run on one string', () => {
    expect(read(finger(tuneOf('F2 GAGF', QUICK)))).toBe('D2 D3 D4 D3 D2');
  });

  it('gives the open string to a learner without a fourth finger', () => {
    expect(read(finger(tuneOf('AGAB', QUICK), { limits: { noFourth: true } }))).toBe('A0 D3 A0 A1');
  });

  it('lets slow music ring where quick music stays', () => {
    const slow = finger(tuneOf('G4 A8', { ...QUICK, tempo: '1/4=40' }));
    expect(read(slow)).toBe('D3 A0');
  });
});

describe('violin and viola, first position', () => {
  it('plays two octaves of G major', () => {
    expect(read(finger(tuneOf('G,A,B,C DEFG | ABcd efg2 |', { key: 'G', tempo: '1/4=80' })))).toBe(
      'G0 G1 G2 G3 D0 D1 D2 D3 A0 A1 A2v A3 E0 E1 E2v',
    );
  });

  it('lets the spelling decide between low 4 and high 3', () => {
    expect(read(finger(tuneOf('F2 _A2 F2', { key: 'Bb' })))).toBe('D2v D4v D2v');
    expect(read(finger(tuneOf('F2 ^G2 F2', { key: 'A' })))).toBe('D2 D3^ D2');
  });

  it('lowers first, second and fourth fingers in flat keys', () => {
    expect(read(finger(tuneOf('_B2 c2 _e2', { key: 'Bb' })))).toBe('A1v A2v A4v');
  });

  it('takes the quick F on the E string rather than a stretched fourth', () => {
    expect(read(finger(tuneOf('d f B d', { key: 'Bb', tempo: '1/4=138' })))).toBe('A3 E1v A1v A3');
  });

  it('reaches C on the E string with an extended fourth finger', () => {
    const result = finger(tuneOf("a2 c'2 a2", {}));
    expect(read(result)).toBe('E3 E4+ E3');
    expect(result.totals.extensions).toBe(1);
  });

  it('plays the same fingers a fifth lower on the viola', () => {
    const tune = tuneOf('G2BG dGBG | ABcA BGAB |', QUICK);
    const viola = finger(transposeTune(tune, -7), { instrument: 'viola' });
    expect(viola.notes.map(({ stops }) => [stops[0]!.string, stops[0]!.finger])).toEqual(
      finger(tune).notes.map(({ stops }) => [stops[0]!.string, stops[0]!.finger]),
    );
  });

  it('fingers by the place on the string when it is retuned', () => {
    expect(read(finger(tuneOf('A,2 E2 F2 B,2', { key: 'A' }), { tuning: tuning('violin', 'low-pair-up') }))).toBe(
      'G0 D0 D1 G1',
    );
  });

  it('fingers grace notes, and ties once', () => {
    const result = finger(tuneOf('{A}B4- B4 |', { key: 'G' }));
    expect(read(result)).toBe('A0 A1');
    expect(result.notes[1]!.ids).toHaveLength(2);
  });
});

describe('double stops', () => {
  it('solves both notes together', () => {
    expect(read(finger(tuneOf('[DA]4 [GB]4 | [EB]4 [Fd]4 |', { key: 'D' })))).toBe('D0+A0 D3+A1 D1+A1 D2+A3');
  });

  it('offers the unison of fourth finger and open string', () => {
    expect(read(finger(tuneOf('[AA]4', {})))).toMatch(/D4\+A0|A0\+D4/);
  });

  it('says which cannot be stopped together and fingers the top note', () => {
    const result = finger(tuneOf('[G,A,]4 B4', {}));
    expect(problemText(result.problems[0]!, result.instrument, result.tuning)).toContain('together');
    expect(read(result)).toBe('G1 A1');
  });
});

describe('cello', () => {
  it('plays C major in the closed hand', () => {
    expect(read(finger(tuneOf('C,,D,,E,,F,, G,,A,,B,,C,', {}), { instrument: 'cello' }))).toBe(
      'C0 C1 C3 C4 G0 G1 G3 G4',
    );
  });

  it('opens the hand for a step of D major and stays open on the way down', () => {
    expect(
      read(finger(tuneOf('D,2 (C,B,,) A,,4', { key: 'D', unit: '1/4', tempo: '1/4=72' }), { instrument: 'cello' })),
    ).toBe('D0 G4+ G2+ G1');
  });

  it('reaches back, or goes to half position, for a flat', () => {
    const result = finger(tuneOf('G,, _B,, A,, G,,', { unit: '1/4' }), { instrument: 'cello' });
    expect(read(result)).toBe('G0 G2 G1 G0');
    expect(read(finger(tuneOf('D,_E,F,D,', { unit: '1/4' }), { instrument: 'cello' }))).toMatch(/^D0 D1−? D[23] D0$/);
  });

  it('needs one shift from half position to F sharp, and makes it over the open string', () => {
    const bass = finger(tuneOf('_E,, D,, ^F,,', { unit: '1/4', tempo: '1/4=160' }), { instrument: 'bass' });
    expect(read(bass)).toMatch(/^D1 D0 D[124]$/);
    expect(bass.notes[0]!.position).toBe('half');
    expect(bass.notes[2]!.position).not.toBe('half');
    expect(bass.totals.shifts).toBe(1);
    // Without the open string between them the same two places cost more to join.
    const direct = finger(tuneOf('_E,, ^F,,', { unit: '1/4', tempo: '1/4=160' }), { instrument: 'bass' });
    expect(direct.totals.cost).toBeGreaterThan(bass.totals.cost);
  });
});

describe('bass', () => {
  it('uses 1 2 4 in one school and all four fingers in the other', () => {
    const tune = tuneOf('A,,,B,,,^C,,D,,', { unit: '1/4' });
    expect(read(finger(tune, { instrument: 'bass' }))).toBe('A0 A1 A4 D0');
    const chromatic = tuneOf('B,,,C,,^C,,D,,', { unit: '1/4' });
    expect(read(finger(chromatic, { instrument: 'bass', limits: { bassSchool: 'four' } }))).toBe('A1 A2 A3 A4');
  });

  it('reaches II for a note beyond I, unless the learner may not go there', () => {
    const tune = tuneOf('G,, C, G,,', { unit: '1/4' });
    expect(read(finger(tune, { instrument: 'bass' }))).toBe('G0 G4 G0');
    const limited = finger(tune, { instrument: 'bass', limits: { maxPosition: 'I' } });
    expect(read(limited)).toBe('G0 ? G0');
    expect(limited.problems).toHaveLength(1);
  });
});

describe('overruling', () => {
  const tune = tuneOf('G2AB A2GF | G8 |', QUICK);

  it('keeps what was decided, and works the rest out around it', () => {
    const before = finger(tune);
    const note =
      before.notes.find(({ stops, alternatives }) => stops[0]!.finger === 4 && alternatives.length > 0) ??
      before.notes[1]!;
    const other = note.alternatives[0]!;
    const after = finger(tune, { locks: { [note.id]: lockOf(other, 'violin') } });
    const locked = after.notes.find(({ id }) => id === note.id)!;
    expect(locked.stops.map(({ string, finger: number }) => [string, number])).toEqual(
      other.stops.map(({ string, finger: number }) => [string, number]),
    );
    expect(locked).toMatchObject({ locked: true, why: { choice: 'set', because: [] } });
    expect(after.totals.cost - before.totals.cost).toBeCloseTo(other.extra, 9);
  });

  it('lets a decision rest in another key and speak again in its own', () => {
    const [first] = finger(tuneOf('A4 G4', QUICK)).notes;
    const lock = {
      [first!.id]: { instrument: 'violin' as const, stops: [{ string: 1, finger: 4 as const, midi: 69 }] },
    };
    expect(finger(tuneOf('A4 G4', QUICK), { locks: lock }).resting).toEqual([]);
    expect(finger(transposeTune(tuneOf('A4 G4', QUICK), 2), { locks: lock }).resting).toEqual([first!.id]);
  });

  it('says in words what an alternative costs', () => {
    const result = finger(tuneOf('F2 GAGF', QUICK));
    const a = result.notes[2]!;
    expect(whyTexts(a, result.instrument)).toEqual(['4, because the line goes back down']);
    expect(stopsText(a.alternatives[0]!, result.instrument)).toBe('open A');
    expect(reasonTexts(a.alternatives[0]!.differences)[0]).toBe('two more string crossings');
    expect(a.alternatives[0]!.extra).toBeGreaterThan(0);
  });
});

it('holds a finger that is needed again, and sees a fifth as a block', () => {
  const held = finger(tuneOf('E2 A2 E2', QUICK));
  expect(held.notes[0]!.hold).toBe(held.notes[2]!.id);
  const fifth = finger(tuneOf('E2 B2', QUICK));
  expect(fifth.notes.map(({ block }) => block)).toEqual([true, true]);
  expect(fifth.totals.blocks).toBe(1);
});
