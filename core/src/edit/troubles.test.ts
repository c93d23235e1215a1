import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneSchema } from '../music/index.ts';
import { pitchName, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { deleteEvents, findTroubles, insertNote, setValue } from './index.ts';

const notes = (tune: Tune) =>
  tune.bars.map(({ events }) =>
    events
      .map((event) => (event.kind === 'note' ? pitchName(event.heads[0]!.pitch) : 'z') + event.duration / 840)
      .join(' '),
  );

/** Every repair of the first trouble by what it says and what it leaves. */
function repairs(music: string, header = {}): Readonly<Record<string, readonly string[]>> {
  const [trouble] = findTroubles(tuneOf(music, { key: 'G', ...header }));
  return Object.fromEntries((trouble?.repairs ?? []).map(({ label, run }) => [label, notes(run())]));
}

const messages = (music: string, header = {}) =>
  findTroubles(tuneOf(music, { key: 'G', ...header })).map(({ message }) => message);

describe('bars', () => {
  it('finds nothing in tunes that add up: pickups, split bars, endings', () => {
    for (const music of [
      'D2 | G4 A4 | B4 c2 |]',
      'D2 |: G4 A4 | B4 c2 :| d2 |: e8 | G6 :|',
      '|: G8 |1 A8 :|2 B8 |]',
      '|: D2 | G4 A4 | G4 G2 :|',
    ]) {
      expect(messages(music)).toEqual([]);
    }
  });

  it('says what a short bar lacks, and offers to lengthen, to fill, to double', () => {
    expect(messages('G4 A4 | B2 c4 | d8 |]')).toEqual(['Bar 2 is a quarter too short for 4/4.']);
    const found = repairs('G4 A4 | B2 c4 | d8 |]');
    expect(found['Lengthen the last note by a quarter']![1]).toBe('B44 C512');
    expect(found['Add a rest of a quarter']![1]).toBe('B44 C58 z4');
    expect(repairs('G4 A4 | B2 c2 | d8 |]')['Make every note twice as long']![1]).toBe('B48 C58');
  });

  it('moves a bar line that stands too late or too early', () => {
    expect(repairs('G4 A4 B2 | c2 d4 | e8 |]')['Move the bar line after it back']).toEqual([
      'G48 A48',
      'B44 C54 D58',
      'E516',
    ]);
    expect(repairs('G4 A2 | B2 c4 d4 | e8 |]')['Move the bar line after it on']).toBeUndefined();
    expect(repairs('E8 | G4 A2 | B2 c4 d4 | e8 |]')['Move the bar line after it on']).toEqual([
      'E416',
      'G48 A44 B44',
      'C58 D58',
      'E516',
    ]);
  });

  it('merges two halves and splits a double bar', () => {
    expect(messages('E8 | G4 | A4 | B8 |]')).toHaveLength(2);
    expect(repairs('E8 | G4 | A4 | B8 |]')['Make one bar of it and the next']).toEqual(['E416', 'G48 A48', 'B416']);
    expect(messages('E8 | G4 || A4 | B8 |]')).toEqual([]);
    expect(repairs('G4 A4 B4 c4 | d8 |]')['Put the bar line in that is missing']).toEqual([
      'G48 A48',
      'B48 C58',
      'D516',
    ]);
  });

  it('sees a triplet that was not written as one', () => {
    expect(repairs('G2A2B2 c4 | d8 |]')['Make three notes a triplet']![0]).toMatch(/^G42.66/);
  });

  it('takes a missing beat from the pickup', () => {
    expect(messages('D2 | G4 A2 | B8 | c8 |]')).toEqual(['Bar 1 is a quarter too short for 4/4.']);
    expect(repairs('D2 | G4 A2 | B8 | c8 |]')['Take the missing beat from the pickup']).toEqual([
      'D44 G48 A44',
      'B416',
      'C516',
    ]);
  });

  it('takes the pickup out of a full last bar before a repeat', () => {
    expect(messages('|: D2 | G4 A4 | B4 c4 :|')[0]).toMatch(/pickup of a quarter/);
    expect(repairs('|: D2 | G4 A4 | B4 c4 :|')['Take the pickup out of this bar']![2]).toBe('B48 C54');
  });
});

describe('repeats, ties, slurs', () => {
  it('closes a repeat that was left open', () => {
    const [trouble] = findTroubles(tuneOf('|: G8 | A8 || |: B8 | c8 :|', { key: 'G' }));
    expect(trouble).toMatchObject({ kind: 'repeat', bar: 0 });
    expect(trouble!.repairs[0]!.run().bars[1]!.repeatEnd).toBe(2);
    expect(findTroubles(trouble!.repairs[0]!.run())).toEqual([]);
  });

  it('mends a tie to another pitch, as a slur or not at all', () => {
    const tune = tuneOf('G4- A4 | B8 |]', { key: 'G' });
    const [trouble] = findTroubles(tune);
    expect(trouble).toMatchObject({ kind: 'tie', note: 'n1' });
    expect(trouble!.repairs.map(({ run }) => findTroubles(run()).length)).toEqual([0, 0]);
    expect(trouble!.repairs[1]!.run().slurs).toEqual([{ from: 'n1', to: 'n2' }]);
  });

  it('ends a slur that never ends', () => {
    const tune = tuneOf('(G2A2 B4 | c8 |]', { key: 'G' });
    const [trouble] = findTroubles(tune);
    expect(trouble!.message).toMatch(/never ends/);
    for (const { run } of trouble!.repairs) expect(findTroubles(run())).toEqual([]);
  });
});

it('whatever is broken, every repair leaves a sound tune with less trouble there', () => {
  fc.assert(
    fc.property(arbitraryTune({ repeats: false }), fc.nat(), fc.nat(2), (start, pick, kind) => {
      const all = start.bars.flatMap(({ events }) => events);
      const { id } = all[pick % all.length]!;
      const broken = [
        () => deleteEvents(start, new Set([id])),
        () => setValue(start, new Set([id]), { type: 'quarter', dots: 0 }),
        () => insertNote(start, id, { pitch: null, value: { type: 'eighth', dots: 0 } }).tune,
      ][kind]!();
      for (const trouble of findTroubles(broken)) {
        expect(trouble.repairs.length).toBeGreaterThan(0);
        for (const { run, label } of trouble.repairs) {
          const mended = run();
          expect(tuneSchema.safeParse(mended).success, label).toBe(true);
          expect(JSON.stringify(mended), label).not.toBe(JSON.stringify(broken));
        }
      }
    }),
    { numRuns: 200 },
  );
});
