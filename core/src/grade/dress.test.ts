/** What a richer version adds: each dressing where it belongs, possible for the hand, and with bars that add up. */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { INSTRUMENT, standardTuning } from '../instrument/index.ts';
import { barLength, midi, type Note, type Tune } from '../music/index.ts';
import { placesFor } from '../version/index.ts';
import { tuneOf } from '../test/testing.ts';
import { contractFor, dressed, type DressingId } from './index.ts';

const { limits } = contractFor('violin', 6);
const tuning = standardTuning(INSTRUMENT.violin);
const places = placesFor(INSTRUMENT.violin, tuning, { ...limits, maxPosition: 'I', shifts: 0, extension: false });

/** Everything but one kind is left out. */
function dressedWith(kind: DressingId, tune: Tune) {
  const input = { tune, form: analyseForm(tune), limits, places, open: tuning.pitches, density: 1 };
  const without = new Set<string>();
  for (let round = 0; round < 40; round += 1) {
    const made = dressed({ ...input, without });
    const others = made.changes.filter((one) => one.kind !== kind);
    if (others.length === 0) return made;
    for (const { id } of others) without.add(id);
  }
  throw new Error('It never settles.');
}
const notesOf = ({ bars }: Tune) =>
  bars.flatMap(({ events }) => events.filter((one): one is Note => one.kind === 'note'));
const addsUp = ({ bars }: Tune) =>
  bars.every(
    ({ events, length, metre }) =>
      length === barLength(metre) && events.reduce((sum, { duration }) => sum + duration, 0) === length,
  );

const REEL = 'd2 f2 g2 B2 | A2 d2 e2 c2 | d2 g2 f2 e2 | f2 e2 d4 |';
const JIG = 'd3 f3 | e3 c3 | d3 g3 | f3 d3 |';
const RUN = 'dfed cdec | BdcB ABGA | dfed cdec | Bdce d4 |';

describe('dressings', () => {
  it('run through a fourth in three, in one beat', () => {
    const { tune, changes } = dressedWith('triplet', tuneOf(REEL, { key: 'D', metre: '4/4' }));
    expect(changes.length).toBeGreaterThan(0);
    expect(addsUp(tune)).toBe(true);
    const triplet = notesOf(tune).filter((note) => note.tuplet);
    expect(triplet.map(({ tuplet }) => tuplet?.edge ?? 'within').slice(0, 3)).toEqual(['start', 'within', 'stop']);
    expect(triplet.length % 3).toBe(0);
  });

  it('break a jig’s beat into the chord', () => {
    const { tune, changes } = dressedWith('arpeggio', tuneOf(`"D"${JIG}`, { key: 'D', metre: '6/8' }));
    expect(changes.length).toBeGreaterThan(0);
    expect(addsUp(tune)).toBe(true);
    const [first] = changes;
    expect(first!.is.every((pitch) => [2, 6, 9].includes(midi(pitch) % 12))).toBe(true);
  });

  it('roll on a stopped note that has a finger on either side', () => {
    const { tune, changes } = dressedWith('roll', tuneOf(JIG, { key: 'D', metre: '6/8' }));
    const rolled = notesOf(tune).filter(({ decorations }) => decorations?.includes('roll'));
    expect(rolled).toHaveLength(changes.length);
    // D and E are open strings, or begin and end a phrase.
    expect(rolled.map(({ heads }) => heads[0]!.pitch.letter)).not.toContain('E');
  });

  it('hammer a finger on its own open string', () => {
    const { tune } = dressedWith('hammer-on', tuneOf(REEL, { key: 'D', metre: '4/4' }));
    const graced = notesOf(tune).filter(({ graces }) => graces);
    expect(graced.length).toBeGreaterThan(0);
    for (const { graces, heads } of graced) {
      expect(tuning.pitches.map(midi)).toContain(midi(graces![0]!.pitch));
      expect(midi(heads[0]!.pitch) - midi(graces![0]!.pitch)).toBeLessThanOrEqual(2);
    }
  });

  it('bow a running phrase two together and two apart, with the weight on the last', () => {
    const { tune, changes } = dressedWith('shuffle', tuneOf(RUN, { key: 'D', metre: '4/4' }));
    expect(changes.length).toBeGreaterThan(0);
    const [{ from, to }] = tune.slurs as [{ from: string; to: string }];
    const ids = notesOf(tune).map(({ id }) => id);
    expect(ids.indexOf(to) - ids.indexOf(from)).toBe(1);
    expect(notesOf(tune)[3]!.decorations).toContain('accent');
    // Nothing but bows and weight: the notes are the tune's.
    expect(notesOf(tune)).toHaveLength(notesOf(tuneOf(RUN, { key: 'D', metre: '4/4' })).length);
  });

  it('never put a natural beside what the bar alters', () => {
    const { changes } = dressedWith('filled', tuneOf('^g4 e4 | ^g4 a4 | e4 ^g4 | a8 |', { key: 'Am', metre: '4/4' }));
    for (const { is } of changes) expect(is.filter(({ letter, alter }) => letter === 'G' && alter === 0)).toEqual([]);
  });

  it('know which change each note comes of', () => {
    const { tune, owners, changes } = dressedWith('filled', tuneOf(`${REEL}${REEL}`, { key: 'D', metre: '4/4' }));
    const source = new Set(notesOf(tuneOf(`${REEL}${REEL}`, { key: 'D', metre: '4/4' })).map(({ id }) => id));
    const fresh = notesOf(tune).filter(({ id }) => !source.has(id));
    expect(fresh).toHaveLength(changes.length);
    for (const { id } of fresh) expect(changes.map((one) => one.id)).toContain(owners.get(id));
  });
});
