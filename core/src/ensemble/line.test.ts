import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contractFor, LINE_ROLES, type GradeNumber, type LineRole } from '../grade/index.ts';
import { harmonyOf } from '../harmony/index.ts';
import { INSTRUMENT, INSTRUMENTS, standardTuning, type InstrumentId } from '../instrument/index.ts';
import { barStarts, isNote, midi, pitchName, soundingNotes, transposeTune, type Tune } from '../music/index.ts';
import { singable } from '../test/singable.ts';
import { tuneOf } from '../test/testing.ts';
import { placesFor } from '../version/index.ts';
import { cheapestWay } from './cheapest.ts';
import { companionLine, type LineContext } from './line.ts';

function contextOf(tune: Tune, id: InstrumentId, grade: GradeNumber, tempo = 90): LineContext {
  const instrument = INSTRUMENT[id];
  const { limits } = contractFor(instrument.hand, grade);
  return { tune, instrument, tuning: standardTuning(instrument), tempo, limits };
}
/** Its notes bar by bar; silence is a dash. */
const read = ({ bars }: Tune): string =>
  bars
    .map(({ events }) =>
      events
        .map((event) => (isNote(event) ? event.heads.map(({ pitch }) => pitchName(pitch)).join('+') : '-'))
        .join(' '),
    )
    .join(' | ');

/** Lines as a teacher writes them under given chords, each with its reason; written before any program was run on them. */
const TRUTH: readonly {
  readonly role: LineRole;
  readonly on: InstrumentId;
  readonly grade: GradeNumber;
  readonly tune: string;
  readonly key: string;
  readonly metre?: string;
  readonly line: string;
  readonly because: string;
}[] = [
  {
    role: 'drone',
    on: 'violin',
    grade: 1,
    key: 'D',
    tune: '"D"d2f2 a2f2|"G"g2b2 g2d2|"A7"e2g2 e2c2|"D"d8|]',
    line: 'D4 D4 D4 D4 | D4 D4 D4 D4 | A4 A4 A4 A4 | D4',
    because: 'two neighbouring strings: over G the open D is its fifth, over A the open A its root',
  },
  {
    role: 'drone',
    on: 'violin',
    grade: 2,
    key: 'D',
    tune: '"D"d2f2 a2f2|"G"g2b2 g2d2|"A7"e2g2 e2c2|"D"d8|]',
    line: 'D4 D4 D4 D4 | D4 D4 D4 D4 | A4 A4 A4 A4 | D4',
    because: 'all strings, but from the open G to the open A would jump one',
  },
  {
    role: 'drone',
    on: 'cello',
    grade: 1,
    key: 'G',
    metre: '6/8',
    tune: '"G"G3 B2d|"D7"c2A F2D|"G"G2B d2B|"G"G6|]',
    line: 'G2 G2 | D3 D3 | G2 G2 | G2',
    because: 'a note a beat where thirds of it are too short; the two roots lie on neighbouring strings',
  },
  {
    role: 'drone',
    on: 'viola',
    grade: 3,
    key: 'C',
    tune: '"C"c2e2 g4|"F"f3a c4|"G"B2d2 g4|"C"c8|]',
    line: 'C3 C3 C3 | C3 C3 C3 | G3 G3 G3 | C3',
    because: 'its own rhythm, the dotted note too: C is the fifth of F',
  },
  {
    role: 'bass',
    on: 'cello',
    grade: 2,
    key: 'D',
    tune: '"D"d2f2 a2f2|"G"g2b2 g2d2|"A7"e2g2 e2c2|"D"d8|]',
    line: 'D2 D2 | G2 D2 | A2 E2 | D2',
    because: 'root, then fifth, but not in octaves with the tune, which goes from D to A; the last comes with the tune',
  },
  {
    role: 'bass',
    on: 'bass',
    grade: 2,
    key: 'G',
    metre: '3/4',
    tune: '"G"d2B2G2|"C"e2c2G2|"D7"f2d2A2|"G"g6|]',
    line: 'G1 | C2 | D2 | G2',
    because: 'one to the bar in three; from the open D down to G would jump a string',
  },
  {
    role: 'off-beats',
    on: 'violin',
    grade: 1,
    key: 'D',
    tune: '"D"d2f2 a2f2|"A7"e2g2 e2c2|"D"d2f2 a2f2|"D"d8|]',
    line: '- F#4 - F#4 | - E4 - E4 | - F#4 - F#4 | F#4',
    because: 'the third, and the nearest note of the next chord; the third of home with the tune',
  },
  {
    role: 'off-beats',
    on: 'viola',
    grade: 1,
    key: 'G',
    metre: '3/4',
    tune: '"G"d2B2G2|"D7"c2A2F2|"G"d2B2d2|"G"G6|]',
    line: '- B3 B3 | - A3 A3 | - B3 B3 | B3',
    because: 'on the second and third beat; the third of home at the end',
  },
  {
    role: 'second',
    on: 'violin',
    grade: 3,
    key: 'D',
    tune: '"D"f2a2 f2d2|"G"g2b2 g2d2|"A7"c2e2 g2e2|"D"d8|]',
    line: 'D5 F#5 D5 B4 | B4 D5 B4 B4 | A4 C#5 E5 C#5 | F#4',
    because: 'thirds, and sixths where a third is no note of the chord; before the next bar rather a step than a leap',
  },
  {
    role: 'second',
    on: 'violin',
    grade: 3,
    key: 'F',
    metre: '3/4',
    tune: '"F"a2f2c2|"Bb"d2f2b2|"C7"g2e2c2|"F"f6|]',
    line: 'C5 A4 A4 | Bb4 D5 D5 | E5 C5 A4 | A4',
    because: 'sixths where thirds would leap, thirds elsewhere, and home has its third',
  },
];

describe('lines that go with a tune, as teachers write them', () => {
  it.each(TRUTH)('$role, $on, grade $grade: $because', ({ role, on, grade, tune, key, metre, line }) => {
    const own = tuneOf(tune, { key, metre: metre ?? '4/4', tempo: '1/4=90' });
    const made = companionLine(role, contextOf(own, on, grade));
    expect(read(made.tune)).toBe(line);
    expect(made.breaches).toEqual([]);
  });
});

describe('laws of lines', () => {
  const anyLine = fc.tuple(
    singable,
    fc.constantFrom(...INSTRUMENTS),
    fc.constantFrom(1, 2, 3, 4, 5, 6 as const),
    fc.constantFrom(...LINE_ROLES),
  );
  it('fill the bars of the tune, within what can be stopped, and rest with it', () => {
    fc.assert(
      fc.property(anyLine, ([tune, id, grade, role]) => {
        const context = contextOf(tune, id, grade as GradeNumber);
        const { tune: line, notes } = companionLine(role, context);
        expect(barStarts(line.bars)).toEqual(barStarts(tune.bars));
        for (const bar of line.bars) {
          const sum = bar.events.reduce((at, event) => (event.at === at ? at + event.duration : NaN), 0);
          expect(sum).toBe(bar.length);
        }
        const places = placesFor(context.instrument, context.tuning, context.limits);
        for (const { pitches } of notes) for (const pitch of pitches) expect(places.has(midi(pitch))).toBe(true);
        const ids = line.bars.flatMap(({ events }) => events.map((event) => event.id));
        expect(new Set(ids).size).toBe(ids.length);
      }),
      { numRuns: 60, endOnFailure: true },
    );
  });
  it('have no note of another chord on a strong beat, and the bass no clash with the tune there', () => {
    fc.assert(
      fc.property(singable, fc.constantFrom(...INSTRUMENTS), (tune, id) => {
        const { notes } = companionLine('bass', contextOf(tune, id, 4));
        expect(notes.filter(({ tone }) => tone === 'passing' && harmonyOf(tune).length > 0)).toEqual([]);
      }),
      { numRuns: 40, endOnFailure: true },
    );
  });
  it('a note that a teacher chose is there, and all but those beside it stay', () => {
    const tune = tuneOf(TRUTH[0]!.tune, { key: 'D', tempo: '1/4=90' });
    const context = contextOf(tune, 'violin', 1);
    const [, second, ...rest] = companionLine('drone', context).notes;
    const other = second!.other[0]!;
    const made = companionLine('drone', context, { [second!.id]: other.name });
    expect(made.notes[1]!.pitches).toEqual(other.pitches);
    expect(made.missed).toEqual([]);
    expect(made.notes.slice(3).map(({ pitches }) => pitches)).toEqual(rest.slice(1).map(({ pitches }) => pitches));
  });
  it('a choice is the same degree in another key; one that cannot be met is told and waits', () => {
    const inKey = (steps: number) => contextOf(transposeTune(tuneOf(TRUTH[0]!.tune, { key: 'D' }), steps), 'violin', 4);
    const [, second] = companionLine('second', inKey(0)).notes;
    const { name, pitches } = second!.other.find((way) => way.pitches.length === 1)!;
    const moved = companionLine('second', inKey(2), { [second!.id]: name });
    expect(midi(moved.notes[1]!.pitches[0]!) - midi(pitches[0]!)).toBe(2);
    expect(moved.missed).toEqual([]);
    expect(companionLine('second', inKey(0), { [second!.id]: '90', gone: name }).missed).toEqual([second!.id, 'gone']);
  });
  it('sounds with the tune from its first full bar to its end', () => {
    const tune = tuneOf('A2|:d2f2 a2f2|e2g2 e2c2:|d6|]', { key: 'D', tempo: '1/4=90' });
    for (const role of LINE_ROLES) {
      const { tune: line } = companionLine(role, contextOf(tune, 'violin', 2));
      const [own, its] = [soundingNotes(line), soundingNotes(tune)];
      expect(own[0]!.onset).toBeGreaterThanOrEqual(tune.bars[0]!.length);
      expect(own.at(-1)!.onset + own.at(-1)!.duration).toBe(its.at(-1)!.onset + its.at(-1)!.duration);
    }
  });
});

describe('the cheapest way', () => {
  const prices = fc.array(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 4 }), {
    minLength: 1,
    maxLength: 5,
  });
  it('is as cheap as the best of all ways', () => {
    fc.assert(
      fc.property(prices, fc.integer({ min: 0, max: 1000 }), (all, seed) => {
        const join = (one: number, other: number, index: number) => (one * 7 + other * 13 + index * seed) % 11;
        const places = all.map((own, place) => own.map((price, number) => ({ stop: place * 10 + number, price })));
        const every = places.reduce<{ stops: number[]; cost: number }[]>(
          (ways, own, index) =>
            ways.flatMap(({ stops, cost }) =>
              own.map(({ stop, price }) => ({
                stops: [...stops, stop],
                cost: cost + price + (index > 0 ? join(stops.at(-1)!, stop, index) : 0),
              })),
            ),
          [{ stops: [], cost: 0 }],
        );
        expect(cheapestWay(places, join).cost).toBe(Math.min(...every.map(({ cost }) => cost)));
      }),
    );
  });
});
