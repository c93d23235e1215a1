/**
 * Counting: what is said on each note by its place in the beat, in three systems of the schools. Pickups and rests are
 * counted, notes that a tie only holds are not said again. Section 5 of the domain.
 */
import {
  beatLength,
  isCompound,
  TICKS_PER_QUARTER,
  type Bar,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';

export const COUNTINGS = ['numbers', 'ta', 'takadimi'] as const;
/**
 * `numbers`: 1 e & a, and 1 la li where beats are in three. `ta`: by the note's length, ta for a quarter, ti for an
 * eighth. `takadimi`: by the place in the beat, whatever the note's length.
 */
export type Counting = (typeof COUNTINGS)[number];

export interface Count {
  /** "2", "&", "la". */
  readonly text: string;
  /** It is counted, and not played. */
  readonly rest: boolean;
}

/** By the id of the note or rest; notes that a tie only holds are not said again. */
export type Counts = ReadonlyMap<string, Count>;

/** Parts of a beat that have a syllable, as share of the beat in 24ths: quarters in simple metres, thirds elsewhere. */
const PARTS = 24;
type Syllables = ReadonlyMap<number, string>;
interface PlaceSystem {
  readonly simple: Syllables;
  readonly compound: Syllables;
  readonly triplet: Syllables;
}
const NUMBERS: PlaceSystem = {
  simple: new Map([
    [6, 'e'],
    [12, '&'],
    [18, 'a'],
  ]),
  compound: new Map([
    [4, 'ta'],
    [8, 'la'],
    [12, 'ta'],
    [16, 'li'],
    [20, 'ta'],
  ]),
  triplet: new Map([
    [8, 'la'],
    [16, 'li'],
  ]),
};
const TAKADIMI: PlaceSystem = {
  simple: new Map([
    [0, 'ta'],
    [6, 'ka'],
    [12, 'di'],
    [18, 'mi'],
  ]),
  compound: new Map([
    [0, 'ta'],
    [4, 'va'],
    [8, 'ki'],
    [12, 'di'],
    [16, 'da'],
    [20, 'ma'],
  ]),
  triplet: new Map([
    [0, 'ta'],
    [8, 'ki'],
    [16, 'da'],
  ]),
};
/** Finer than a sixteenth nobody says anything of its own. */
const FINER = '·';

/** Syllables of lengths, in sixteenths of a quarter's whole; longer ones hold the vowel for each further quarter. */
const TA_LENGTHS: ReadonlyMap<number, string> = new Map([
  [TICKS_PER_QUARTER * 1.5, 'tam'],
  [TICKS_PER_QUARTER * 0.75, 'tim'],
  [TICKS_PER_QUARTER / 2, 'ti'],
]);
const TRIPLET_TA = ['tri', 'o', 'la'];

/**
 * @example [...countsOf(tuneOf('d2 ef')).values()].map(({ text }) => text) // ['1', '2', '&']
 */
export function countsOf({ bars }: Pick<Tune, 'bars'>, counting: Counting = 'numbers'): Counts {
  const counts = new Map<string, Count>();
  let held = false;
  for (const bar of bars) {
    for (const event of bar.events) {
      const text = counting === 'ta' ? byLength(bar, event) : byPlace(bar, event, counting);
      if (event.kind === 'rest') counts.set(event.id, { text: `(${text})`, rest: true });
      else if (!held) counts.set(event.id, { text, rest: false });
      held = event.kind === 'note' && event.heads.every(({ tied }) => tied);
    }
  }
  return counts;
}

function byPlace(bar: Bar, event: TuneEvent, counting: 'numbers' | 'takadimi'): string {
  const beat = beatLength(bar.metre);
  const at: Ticks = bar.offset + event.at;
  const into = at % beat;
  const system = counting === 'numbers' ? NUMBERS : TAKADIMI;
  if (into === 0 && counting === 'numbers') return String(at / beat + 1);
  const names = isCompound(bar.metre) ? system.compound : event.tuplet?.actual === 3 ? system.triplet : system.simple;
  return names.get((into * PARTS) / beat) ?? FINER;
}

function byLength(bar: Bar, event: TuneEvent): string {
  const { duration, tuplet } = event;
  const at: Ticks = bar.offset + event.at;
  const eighth = TICKS_PER_QUARTER / 2;
  if (tuplet?.actual === 3) return TRIPLET_TA[Math.floor((at % (3 * duration)) / duration)] ?? FINER;
  const known = TA_LENGTHS.get(duration);
  if (known) return known;
  if (duration >= TICKS_PER_QUARTER)
    return ['ta', ...Array(Math.ceil(duration / TICKS_PER_QUARTER) - 1).fill('a')].join('-');
  // Sixteenths by turns: the first of an eighth, and the second.
  if (duration === eighth / 2) return at % eighth === 0 ? 'ti' : 'ka';
  return FINER;
}
