/**
 * Which clef a line of music is read in: the instrument's usual one, or, where much of the line would stand on ledger
 * lines, the one that its players expect up there: tenor and treble on the cello, treble on the viola.
 */
import { step, type Tune } from '../music/index.ts';
import type { Clef, Instrument } from './instrument.ts';

/** Steps, counted as `step` counts them, of the middle line: B4 under G2, C4 under C3, A3 under C4, D3 under F4. */
const middleLine = ({ sign, line }: Clef): number => REFERENCE[sign] + 2 * (3 - line);
const REFERENCE: Readonly<Record<Clef['sign'], number>> = { G: 4 * 7 + 4, C: 4 * 7, F: 3 * 7 + 3 };

/** Ledger lines that a note needs: the first is three lines from the middle, six steps. */
const ledgers = (at: number, clef: Clef): number => Math.max(0, Math.floor((Math.abs(at - middleLine(clef)) - 4) / 2));

/** So many ledger lines are read with ease; a line of which more than half the notes need more asks for the next clef. */
const EASY = 1;
const MOST = 0.5;

/**
 * @param line a phrase or another stretch, as it is to be written
 * @example clefFor(INSTRUMENT.violin, reel).sign // 'G'
 */
export function clefFor({ clef, highClefs, writtenOctave }: Instrument, { bars }: Pick<Tune, 'bars'>): Clef {
  if (highClefs.length === 0) return clef;
  const steps = bars.flatMap(({ events }) =>
    events.flatMap((event) =>
      event.kind === 'note' ? event.heads.map(({ pitch }) => step(pitch) + 7 * writtenOctave) : [],
    ),
  );
  const isTooHigh = (one: Clef) =>
    steps.filter((at) => at > middleLine(one) && ledgers(at, one) > EASY).length > MOST * steps.length;
  return [clef, ...highClefs].find((one) => !isTooHigh(one)) ?? highClefs.at(-1)!;
}
