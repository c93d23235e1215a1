/** What the search for a version is given, and what it gives. */
import type { Form } from '../form/index.ts';
import type { Midi, Tune } from '../music/index.ts';
import type { Limits } from './contract.ts';
import type { Filling } from './fillings.ts';
import type { TuneWindow } from './windows.ts';

/** Where each pitch can be played under the contract: its strings. */
export type Places = ReadonlyMap<Midi, readonly number[]>;

/** What came back from the whole: prices for what breaks a rule. */
export interface Raised {
  /** By window: for each note that begins there. */
  readonly density: ReadonlyMap<string, number>;
  /** By window: for each note after its first. */
  readonly quick: ReadonlyMap<string, number>;
  /** By window: for each change of string. */
  readonly crossing: ReadonlyMap<string, number>;
  /** By pitch, and by window and pitch. */
  readonly pitch: ReadonlyMap<string, number>;
  /** Notes whose double stop becomes one note. */
  readonly single: ReadonlySet<string>;
  /** By window: where its notes begin, told by `cellOf`, or fewer of them; where beats of one kind are to be alike. */
  readonly cells: ReadonlyMap<string, string>;
}
export const NOTHING_RAISED: Raised = {
  density: new Map(),
  quick: new Map(),
  crossing: new Map(),
  pitch: new Map(),
  single: new Set(),
  cells: new Map(),
};

export interface Wishes {
  /** Windows that stay as in the tune. */
  readonly kept: ReadonlySet<string>;
  /** Notes that stay, where and as they are. */
  readonly locked: ReadonlySet<string>;
  /** By window: the filling that was chosen. */
  readonly chosen: ReadonlyMap<string, string>;
}
export const NO_WISHES: Wishes = { kept: new Set(), locked: new Set(), chosen: new Map() };

export interface Simplified {
  readonly tune: Tune;
  readonly cost: number;
  /** The same without what was raised. */
  readonly plain: number;
  readonly windows: readonly TuneWindow[];
  /** What each window is filled with. */
  readonly fillings: readonly Filling[];
  /** Strong beats that are silent where the tune begins a note. */
  readonly silences: number;
  /** By number of a window that is the same as an earlier one: that one. */
  readonly roots: ReadonlyMap<number, number>;
}

export interface SimplifyInput {
  readonly tune: Tune;
  readonly form: Form;
  readonly limits: Limits;
  readonly places: Places;
  readonly wishes?: Wishes;
  /** What the next richer version keeps, by note with its octave: nothing else is brought back. */
  readonly upper?: ReadonlyMap<string, number>;
}

/**
 * Where the notes of a filling begin in its window, as text.
 * @example cellOf({ from: 3360 }, { pieces: [{ from: 5040, sound: null, octave: 0 }] }) // ''
 */
export const cellOf = ({ from }: Pick<TuneWindow, 'from'>, { pieces }: Pick<Filling, 'pieces'>): string =>
  pieces.flatMap((piece) => (piece.sound ? [piece.from - from] : [])).join(' ');
