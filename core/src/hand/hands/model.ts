/** What makes one instrument's left hand another than the next one's: all of it data, so that no rule asks which it is. */
import type { HandId } from '../../instrument/index.ts';
import type { Semitones } from '../../music/index.ts';
import type { Frame } from '../vocabulary.ts';
import type { HandLimits } from '../handLimits.ts';
import type { Weights } from '../ruleNames.ts';

/** Two ways of teaching the same hand; which one, a limit says. */
export interface School {
  /** The limit that it is kept in. */
  readonly limit: 'bassSchool' | 'celloSchool';
  readonly label: string;
  /** Where nothing is said. */
  readonly usual: string | null;
  readonly choices: readonly {
    readonly id: string | null;
    readonly title: string;
    /** How much rules count in it, times what they count anyway. */
    readonly weights: Partial<Weights>;
  }[];
}

/** Thousandths of the price list's unit. */
export interface HandPrices {
  /** A fourth finger in first position. */
  readonly fourth: number;
  /** Each stopped note, by the first finger’s semitone: half position, first position, and on. */
  readonly position: readonly number[];
  /** Beginning anywhere but in first position. */
  readonly start: number;
  readonly crossing: number;
  readonly shift: number;
  /** Each semitone of the way. */
  readonly shiftEach: number;
  readonly harmonic: number;
  /** An open string where the line turns back to the string below. */
  readonly openTurn: number;
}

/** Parts of a price, 1 is all of it. */
export interface HandShares {
  /** Of a position, where the phrase as a whole lies in first position; hands without such a home pay it once. */
  readonly noNeed: number;
  /** Of a crossing from or to an open string: the bow moves, no finger with it. */
  readonly openCrossing: number;
  /** Of a shift of a third that leaves from the first finger or lands on it: that finger carries the hand. */
  readonly ledByFirst: number;
  /** Of a shift in which the first finger stays on the string. */
  readonly guided: number;
  /** Of a shift from the first finger to the second, or back, in the direction of the line. */
  readonly onTheWay: number;
  /** Of a shift between half and first position, where the hand hardly travels. */
  readonly toHalf: number;
}

export interface HandModel {
  readonly id: HandId;
  /** Fingers have a home that low and high ones leave, and a note's letter decides which finger it belongs to. */
  readonly lettersDecide: boolean;
  /** The fourth finger has to be learned, tires, and can be done without. */
  readonly weakFourth: boolean;
  /** From the first finger to the last in the closed hand. */
  readonly span: Semitones;
  /** The last semitones of first position are reached only by stretching. */
  readonly beyondFirst: Semitones;
  readonly school: School | null;
  /** All frames of the hand, first position first. The same list for the same school. */
  frames(limits: HandLimits): readonly Frame[];
  /** Sign behind a first finger that reaches back, where that is usual. */
  readonly reachesBack?: string;
  readonly prices: HandPrices;
  readonly shares: HandShares;
}
