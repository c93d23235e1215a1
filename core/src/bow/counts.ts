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

/** Parts of a beat, or of a tuplet, that have a syllable, as shares of it in 24ths. */
const PARTS = 24;
type Syllables = ReadonlyMap<number, string>;
const evenly = (...syllables: readonly string[]): Syllables =>
  new Map(syllables.map((syllable, index) => [((index + 1) * PARTS) / (syllables.length + 1), syllable]));

interface PlaceSystem {
  /** On the beat; null is its number. */
  readonly beat: string | null;
  readonly simple: Syllables;
  readonly compound: Syllables;
  /** By how many notes there are in a tuplet, after its first. */
  readonly tuplets: Readonly<Record<number, Syllables>>;
}
const SIXTHS = evenly('ta', 'la', 'ta', 'li', 'ta');
const NUMBERS: PlaceSystem = {
  beat: null,
  simple: evenly('e', '&', 'a'),
  compound: SIXTHS,
  tuplets: { 2: evenly('&'), 3: evenly('la', 'li'), 4: evenly('e', '&', 'a'), 6: SIXTHS },
};
const TAKADIMI: PlaceSystem = {
  beat: 'ta',
  simple: evenly('ka', 'di', 'mi'),
  compound: evenly('va', 'ki', 'di', 'da', 'ma'),
  tuplets: {
    2: evenly('di'),
    3: evenly('ki', 'da'),
    4: evenly('ka', 'di', 'mi'),
    6: evenly('va', 'ki', 'di', 'da', 'ma'),
  },
};
/** Finer than a sixteenth nobody says anything of its own. */
const FINER = '·';

/** Syllables of lengths as they are written; longer ones hold the vowel for each further quarter. */
const TA_LENGTHS: ReadonlyMap<number, string> = new Map([
  [TICKS_PER_QUARTER * 1.5, 'tam'],
  [TICKS_PER_QUARTER * 0.75, 'tim'],
  [TICKS_PER_QUARTER / 2, 'ti'],
]);
/** Six are two times three. */
const TRIPLET_TA = ['tri', 'o', 'la'];

/** A tuplet from its first note on. */
interface Group {
  /** From the nominal bar line. */
  readonly from: Ticks;
  readonly length: Ticks;
  readonly actual: number;
}

/**
 * @example [...countsOf(tuneOf('d2 ef')).values()].map(({ text }) => text) // ['1', '2', '&']
 */
export function countsOf({ bars }: Pick<Tune, 'bars'>, counting: Counting = 'numbers'): Counts {
  const counts = new Map<string, Count>();
  let held = false;
  for (const bar of bars) {
    let group: Group | null = null;
    for (const event of bar.events) {
      group = groupOf(bar, event, group);
      const text: string = counting === 'ta' ? byLength(bar, event, group) : byPlace(bar, event, group, counting);
      if (event.kind === 'rest') counts.set(event.id, { text: `(${text})`, rest: true });
      else if (!held) counts.set(event.id, { text, rest: false });
      held = event.kind === 'note' && event.heads.every(({ tied }) => tied);
    }
  }
  return counts;
}

/** The tuplet that an event is in: the one that goes on, or the one that it begins. */
function groupOf(bar: Bar, event: TuneEvent, before: Group | null): Group | null {
  const { tuplet } = event;
  if (!tuplet) return null;
  const from = bar.offset + event.at;
  if (before && before.actual === tuplet.actual && from < before.from + before.length && tuplet.edge !== 'start')
    return before;
  const rest = bar.events.slice(bar.events.indexOf(event));
  const last = rest.findIndex((one) => one.tuplet?.edge === 'stop');
  const own = rest.slice(0, last < 0 ? tuplet.actual : last + 1);
  return { from, length: own.reduce((sum, { duration }) => sum + duration, 0), actual: tuplet.actual };
}

/** How far into a tuplet an event is, in 24ths. */
const intoGroup = (bar: Bar, { at }: TuneEvent, { from, length }: Group): number =>
  Math.round(((bar.offset + at - from) * PARTS * 1000) / length) / 1000;

function byPlace(bar: Bar, event: TuneEvent, group: Group | null, counting: 'numbers' | 'takadimi'): string {
  const beat = beatLength(bar.metre);
  const at: Ticks = bar.offset + event.at;
  const system = counting === 'numbers' ? NUMBERS : TAKADIMI;
  const into = group ? intoGroup(bar, event, group) : 0;
  if (group && into > 0) return system.tuplets[group.actual]?.get(into) ?? FINER;
  if (at % beat === 0) return system.beat ?? String(at / beat + 1);
  const names = isCompound(bar.metre) ? system.compound : system.simple;
  return names.get(((at % beat) * PARTS) / beat) ?? FINER;
}

function byLength(bar: Bar, event: TuneEvent, group: Group | null): string {
  const { duration, tuplet } = event;
  const at: Ticks = bar.offset + event.at;
  const eighth = TICKS_PER_QUARTER / 2;
  if (group && group.actual % 3 === 0) {
    const index = (intoGroup(bar, event, group) * group.actual) / PARTS;
    return (Number.isInteger(index) ? TRIPLET_TA[index % 3] : undefined) ?? FINER;
  }
  const written = tuplet ? (duration * tuplet.actual) / tuplet.normal : duration;
  const known = TA_LENGTHS.get(written);
  if (known) return known;
  if (written >= TICKS_PER_QUARTER)
    return ['ta', ...Array(Math.ceil(written / TICKS_PER_QUARTER) - 1).fill('a')].join('-');
  // Sixteenths by turns: the first of an eighth, and the second.
  if (written === eighth / 2) return at % eighth === 0 ? 'ti' : 'ka';
  return FINER;
}
