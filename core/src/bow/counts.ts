/**
 * Counting: what is said on each note by its place in the beat, with "e and a" between the beats of simple
 * metres and "la li" between those of compound ones and in triplets. Section 5 of the domain; one system so far.
 */
import { beatLength, isCompound, type Bar, type Ticks, type Tune, type TuneEvent } from '../music/index.ts';

export interface Count {
  /** "2", "&", "la". */
  readonly text: string;
  /** It is counted, and not played. */
  readonly rest: boolean;
}

/** By the id of the note or rest; notes that a tie only holds are not said again. */
export type Counts = ReadonlyMap<string, Count>;

/** Parts of a beat that have a syllable, as share of the beat in 24ths: quarters in simple metres, thirds elsewhere. */
const SIMPLE = new Map([
  [6, 'e'],
  [12, '&'],
  [18, 'a'],
]);
const COMPOUND = new Map([
  [4, 'ta'],
  [8, 'la'],
  [12, 'ta'],
  [16, 'li'],
  [20, 'ta'],
]);
const TRIPLET = new Map([
  [8, 'la'],
  [16, 'li'],
]);
/** Finer than a sixteenth nobody says anything of its own. */
const FINER = '·';
const PARTS = 24;

/** @example [...countsOf(tuneOf('d2 ef')).values()].map(({ text }) => text) // ['1', '2', '&'] */
export function countsOf({ bars }: Pick<Tune, 'bars'>): Counts {
  const counts = new Map<string, Count>();
  let held = false;
  for (const bar of bars) {
    for (const event of bar.events) {
      if (event.kind === 'rest') counts.set(event.id, { text: `(${syllable(bar, event)})`, rest: true });
      else if (!held) counts.set(event.id, { text: syllable(bar, event), rest: false });
      held = event.kind === 'note' && event.heads.every(({ tied }) => tied);
    }
  }
  return counts;
}

function syllable(bar: Bar, event: TuneEvent): string {
  const beat = beatLength(bar.metre);
  const at: Ticks = bar.offset + event.at;
  const into = at % beat;
  if (into === 0) return String(at / beat + 1);
  const names = isCompound(bar.metre) ? COMPOUND : event.tuplet?.actual === 3 ? TRIPLET : SIMPLE;
  return names.get((into * PARTS) / beat) ?? FINER;
}
