/** What holds for every tune: exact prices of alternatives, fifths, tempo, limits, the same phrase again. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { INSTRUMENT, INSTRUMENTS, standardTuning, type InstrumentId } from '../instrument/index.ts';
import { midi, transposeTune, type Tune } from '../music/index.ts';
import { setupFor, type NamedSetup } from '../test/setups.ts';
import { tuneOf } from '../test/testing.ts';
import {
  Hand,
  chargedShifts,
  compareFingerings,
  fingerTune,
  handFor,
  lockOf,
  secondBest,
  stopsKey,
  waysOfShift,
  waysWith,
  withLock,
  type Fingering,
  type HandSetup,
  type Level,
} from './index.ts';

const setupOf = (instrument: InstrumentId, change: Omit<NamedSetup, 'instrument'> = {}): HandSetup =>
  setupFor({ instrument, tempo: 110, ...change });

/** Octave marks of ABC that lie well for each instrument. */
const NOTES: Readonly<Record<InstrumentId, readonly string[]>> = {
  violin: ['G,', 'A,', 'B,', 'D', 'E', 'F', 'G', 'A', '_B', 'c', '^c', 'd', 'e', 'f', 'g', 'a', 'b', "c'", "e'"],
  viola: ['C,', 'D,', 'F,', 'G,', 'A,', 'C', 'D', '_E', 'F', 'G', 'A', 'c', 'd', 'e', 'g', 'a'],
  cello: ['C,,', 'E,,', 'G,,', '_B,,', 'C,', 'D,', '^D,', 'F,', 'G,', 'A,', 'B,', '^C', 'D', 'E', 'G', 'A'],
  bass: ['E,,,', 'G,,,', 'A,,,', '_B,,,', 'C,,', 'D,,', '_E,,', '^F,,', 'G,,', 'A,,', 'C,', 'D,', 'F,'],
};

const melody = (instrument: InstrumentId, least = 4, most = 10) =>
  fc.array(
    fc
      .tuple(fc.constantFrom(...NOTES[instrument]), fc.constantFrom('1', '1', '2'), fc.integer({ min: 0, max: 9 }))
      .map(([note, length, chance]) =>
        chance === 0 && instrument !== 'bass' ? `[${note}${note}]${length}` : note + length,
      ),
    { minLength: least, maxLength: most },
  );

/** A melody of small steps through the instrument's notes. */
const figureAndInstrument = fc.constantFrom(...INSTRUMENTS).chain((instrument) => {
  // Each with its own sign: one is good for the rest of the bar.
  const notes = NOTES[instrument].map((note) => note.replace(/^(?![_^])/, '='));
  return fc
    .tuple(fc.nat(notes.length - 1), fc.array(fc.integer({ min: -2, max: 2 }), { minLength: 3, maxLength: 5 }))
    .map(([from, ways]) => {
      let at = from;
      const next = ways.map((way) => notes[(at = Math.max(0, Math.min(notes.length - 1, at + way)))]!);
      return { instrument, figure: [notes[from]!, ...next] };
    });
});

/** "_E" at a height: with the octave marks of ABC. */
function abcNote(name: string, height: number): string {
  const octave = Math.floor(height / 12) - 1;
  return octave >= 4 ? name : name + ','.repeat(4 - octave);
}

const tuneAndInstrument = fc
  .constantFrom(...INSTRUMENTS)
  .chain((instrument) => melody(instrument).map((notes) => ({ instrument, tune: tuneOf(notes.join(' ')) })));

const hand = (tune: Tune, setup: HandSetup) => new Hand(tune, analyseForm(tune), setup);

describe('prices', () => {
  it('of an alternative are what the whole tune costs more with it forced', () => {
    fc.assert(
      fc.property(tuneAndInstrument, fc.nat(), fc.nat(), ({ instrument, tune }, at, which) => {
        const setup = setupOf(instrument);
        const before = fingerTune(tune, analyseForm(tune), setup);
        const note = before.notes[at % before.notes.length]!;
        fc.pre(note.alternatives.length > 0);
        const other = note.alternatives[which % note.alternatives.length]!;
        const locks = { [note.id]: lockOf(other, instrument) };
        const after = fingerTune(tune, analyseForm(tune), { ...setup, locks });
        expect(after.totals.cost - before.totals.cost).toBeCloseTo(other.extra, 6);
        // And back: with the decision in place the first way is offered for just as much less.
        const back = after.notes[at % before.notes.length]!;
        expect(Math.min(...back.alternatives.map(({ extra }) => extra))).toBeCloseTo(-other.extra, 6);
      }),
      { numRuns: 120 },
    );
  });

  it('of other ways with a phrase, of a shift and of the second-best are exact too, and never less', () => {
    fc.assert(
      fc.property(tuneAndInstrument, ({ instrument, tune }) => {
        const setup = setupOf(instrument);
        const whole = hand(tune, setup);
        const shifted = whole.fingering.notes.find(({ shift }) => shift);
        const second = secondBest(whole);
        const ways = [
          ...waysWith(
            whole,
            whole.fingering.notes.map(({ id }) => id),
          ),
          ...(shifted ? waysOfShift(whole, shifted.id) : []),
          ...(second ? [second] : []),
        ];
        for (const { changed, extra } of ways) {
          expect(extra).toBeGreaterThanOrEqual(0);
          if (second) expect(extra).toBeGreaterThanOrEqual(second.extra - 1e-9);
          const stops = new Map(changed.map((one) => [one.id, one]));
          const locks = Object.fromEntries(
            whole.fingering.notes.map((note) => [note.id, lockOf(stops.get(note.id) ?? note, instrument)]),
          );
          const forced = fingerTune(tune, analyseForm(tune), { ...setup, locks });
          // The hand may lie better under the same fingers, never worse.
          expect(forced.totals.cost - whole.fingering.totals.cost).toBeLessThanOrEqual(extra + 1e-6);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('of a comparison are the difference of two whole costs', () => {
    fc.assert(
      fc.property(tuneAndInstrument, ({ instrument, tune }) => {
        const setup = setupOf(instrument);
        const whole = hand(tune, setup);
        const other = fingerTune(tune, analyseForm(tune), { ...setup, wishes: { preset: 'one-string' } });
        const { extra, differing } = compareFingerings(whole, other);
        const locks = Object.fromEntries(other.notes.map((note) => [note.id, lockOf(note, instrument)]));
        const forced = fingerTune(tune, analyseForm(tune), { ...setup, locks });
        expect(extra).toBeCloseTo(forced.totals.cost - whole.fingering.totals.cost, 6);
        expect(differing.length === 0).toBe(
          other.notes.every((note, index) => stopsKey(note) === stopsKey(whole.fingering.notes[index]!)),
        );
      }),
      { numRuns: 100 },
    );
  });
});

const fingersOf = ({ notes }: Fingering) =>
  notes.map(({ stops }) => stops.map(({ finger, sign }) => `${finger}${sign}`));

describe('laws', () => {
  it('a fifth lower, on the viola and a string lower, has the same fingers', () => {
    fc.assert(
      fc.property(melody('violin'), (notes) => {
        const tune = tuneOf(notes.join(' '));
        // The viola's own prices are a little higher; the same prices on its strings are the violin a fifth lower.
        const low = { ...standardTuning(INSTRUMENT.violin), pitches: standardTuning(INSTRUMENT.viola).pitches };
        const violin = fingerTune(tune, analyseForm(tune), setupOf('violin'));
        const lower = transposeTune(tune, -7);
        expect(fingersOf(fingerTune(lower, analyseForm(lower), setupOf('violin', { tuning: low })))).toEqual(
          fingersOf(violin),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('on the next strings in first position, where the range allows, fingers stay', () => {
    for (const music of ['GABc dBAG', 'ABcd e2d2', 'FGFE D2E2', 'G2Bd BGDG']) {
      const tune = tuneOf(music, { key: 'G' });
      const up = transposeTune(tune, 7);
      const first = { limits: { maxPosition: 'I' as Level } };
      const [a, b] = [tune, up].map((one) => fingerTune(one, analyseForm(one), setupOf('violin', first)));
      expect(fingersOf(b!)).toEqual(fingersOf(a!));
      expect(b!.notes.map(({ stops }) => stops[0]!.string - 1)).toEqual(a!.notes.map(({ stops }) => stops[0]!.string));
    }
  });

  it('slower never makes a shift dearer', () => {
    fc.assert(
      fc.property(tuneAndInstrument, fc.integer({ min: 40, max: 200 }), ({ instrument, tune }, tempo) => {
        const quick = hand(tune, setupOf(instrument, { tempo }));
        const slow = hand(tune, setupOf(instrument, { tempo: tempo * 0.7 }));
        // The same fingering, charged at both tempi.
        const path = quick.steps.map((_, step) => quick.chosen(step));
        expect(chargedShifts(slow.steps, path)).toBeLessThanOrEqual(chargedShifts(quick.steps, path));
      }),
      { numRuns: 80 },
    );
  });

  it('a stricter limit never costs less', () => {
    const stricter: readonly Partial<HandSetup['limits']>[] = [
      { maxPosition: 'III' },
      { maxPosition: 'I' },
      { noExtension: true },
      { noFourth: true },
    ];
    fc.assert(
      fc.property(tuneAndInstrument, fc.constantFrom(...stricter), ({ instrument, tune }, limits) => {
        const free = fingerTune(tune, analyseForm(tune), setupOf(instrument));
        const strict = fingerTune(tune, analyseForm(tune), setupOf(instrument, { limits }));
        fc.pre(strict.notes.every(({ stops }, index) => stops.length === free.notes[index]!.stops.length));
        expect(strict.totals.cost).toBeGreaterThanOrEqual(free.totals.cost - 1e-9);
      }),
      { numRuns: 120 },
    );
  });

  it('a run respelled has the same fingers on cello and bass', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('cello' as const, 'bass' as const),
        fc.array(fc.integer({ min: 0, max: 18 }), { minLength: 4, maxLength: 12 }),
        (instrument, steps) => {
          const low = midi(standardTuning(INSTRUMENT[instrument]).pitches[0]!);
          const spelled = (names: string) =>
            tuneOf(steps.map((step) => abcNote(names.split(' ')[(low + step) % 12]!, low + step)).join(' '));
          const [sharps, flats] = [
            spelled('=C ^C =D ^D =E =F ^F =G ^G =A ^A =B'),
            spelled('=C _D =D _E =E =F _G =G _A =A _B =B'),
          ];
          const fingers = (tune: Tune) => fingersOf(fingerTune(tune, analyseForm(tune), setupOf(instrument)));
          expect(fingers(flats)).toEqual(fingers(sharps));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('one figure again and again keeps its fingers between the first time and the last', () => {
    fc.assert(
      fc.property(figureAndInstrument, ({ instrument, figure }) => {
        const tune = tuneOf(Array.from({ length: 5 }, () => figure.join(' ')).join(' '));
        const fingers = fingersOf(fingerTune(tune, analyseForm(tune), setupOf(instrument)));
        const time = (at: number) => fingers.slice(at * figure.length, (at + 1) * figure.length);
        expect(time(2)).toEqual(time(1));
        expect(time(3)).toEqual(time(1));
      }),
      { numRuns: 60, seed: 3 },
    );
  });

  it('a figure and its mirror image have mirrored fingers', () => {
    fc.assert(
      fc.property(figureAndInstrument, ({ instrument, figure }) => {
        const music = [...figure, ...figure.slice(0, -1).reverse()].join(' ');
        const fingers = fingersOf(fingerTune(tuneOf(music), analyseForm(tuneOf(music)), setupOf(instrument)));
        // At its ends the hand comes from nowhere, and has nowhere to go.
        const inside = fingers.slice(1, -1);
        expect(inside).toEqual([...inside].reverse());
      }),
      { numRuns: 60, seed: 3 },
    );
  });

  it('the same phrase twice has the same fingers, or says that it has not', () => {
    fc.assert(
      fc.property(melody('violin', 32, 32), (sounds) => {
        const eighths = sounds.map((note) => note.replace(/[12]$/, ''));
        const bars = [0, 8, 16, 24].map((from) => eighths.slice(from, from + 8).join(' '));
        const tune = tuneOf(`${bars.join(' | ')} | ${bars.join(' | ')} |`);
        const form = analyseForm(tune);
        const phrases = phrasesOf(form);
        const again = phrases.find(({ relation }) => relation.kind === 'same');
        fc.pre(again !== undefined);
        const original = phrases.find(({ id }) => id === again.relation.of)!;
        const { notes } = fingerTune(tune, form, setupOf('violin'));
        const of = (ids: readonly string[]) => notes.filter(({ id }) => ids.includes(id));
        const twins = of(again.notes);
        of(original.notes).forEach((note, index) => {
          const twin = twins[index]!;
          if (stopsKey(note) !== stopsKey(twin)) expect(note.unusual || twin.unusual).toBe(true);
        });
      }),
      { numRuns: 40 },
    );
  });
});

it('is the same after decisions as if it were worked out anew', () => {
  fc.assert(
    fc.property(
      fc
        .constantFrom(...INSTRUMENTS)
        .chain((instrument) =>
          melody(instrument, 12, 24).map((notes) => ({ instrument, tune: tuneOf(notes.join(' ')) })),
        ),
      fc.array(fc.tuple(fc.nat(), fc.nat()), { minLength: 1, maxLength: 3 }),
      ({ instrument, tune }, picks) => {
        const form = analyseForm(tune);
        let setup = setupOf(instrument);
        for (const [at, which] of picks) {
          const { notes } = handFor(tune, form, setup).fingering;
          const note = notes[at % notes.length]!;
          const other = note.alternatives[which % Math.max(1, note.alternatives.length)];
          if (other) setup = { ...setup, locks: withLock(setup.locks, note.id, lockOf(other, instrument)) };
          expect(handFor(tune, form, setup).fingering).toEqual(new Hand(tune, form, setup).fingering);
        }
        expect(handFor(tune, form, { ...setup, locks: {} }).fingering).toEqual(
          new Hand(tune, form, { ...setup, locks: {} }).fingering,
        );
      },
    ),
    { numRuns: 60 },
  );
});

it('keeps every decision in every later computation', () => {
  fc.assert(
    fc.property(
      tuneAndInstrument,
      fc.array(fc.tuple(fc.nat(), fc.nat()), { maxLength: 4 }),
      ({ instrument, tune }, picks) => {
        const setup = setupOf(instrument);
        let { locks } = setup;
        for (const [at, which] of picks) {
          const { notes } = fingerTune(tune, analyseForm(tune), { ...setup, locks });
          const note = notes[at % notes.length]!;
          const other = note.alternatives[which % Math.max(1, note.alternatives.length)];
          if (other) locks = withLock(locks, note.id, lockOf(other, instrument));
        }
        const { notes, resting } = fingerTune(tune, analyseForm(tune), { ...setup, locks });
        expect(resting).toEqual([]);
        for (const [id, { stops }] of Object.entries(locks)) {
          const found = notes.find((note) => note.id === id)!;
          expect(found.stops.map(({ string, finger }) => ({ string, finger }))).toEqual(
            stops.map(({ string, finger }) => ({ string, finger })),
          );
        }
      },
    ),
    { numRuns: 80 },
  );
});
