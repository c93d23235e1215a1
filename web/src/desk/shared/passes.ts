/** What a pass is: a folder with one entry, which says all that the desk has to know of it. */
import type { Component } from 'vue';
import { shownLanes, type LaneId } from '@nokta/core/sheet';

/** The passes along the top of the desk, in the order of the work. Their entries are listed in `../passes.ts`. */
export const PASS_IDS = ['tune', 'parts', 'key', 'hand', 'bow', 'grades', 'sheet', 'teach'] as const;
export type PassId = (typeof PASS_IDS)[number];
export const DEFAULT_PASS: PassId = 'tune';

export const isPass = (value: unknown): value is PassId => PASS_IDS.some((id) => id === value);

/** What the desk's view lends to whatever its keys do. */
export interface DeskPlaces {
  pass(): PassId;
  goTo(pass: PassId): void;
  /** @param focus the note takes the focus @param more goes on choosing from where the selection was */
  select(noteId: string, focus?: boolean, more?: boolean): void;
  toggleHelp(): void;
  askVersion(): void;
  askName(): void;
}

/** A key of one pass: what it does goes before what the desk's key of that name does. */
export interface PassKey {
  readonly key: string;
  /** Name of the pass's command. */
  readonly command: string;
  /** For the help. */
  readonly does: string;
}

/** What a pass's keys do; what comes back is of no interest, but false: it does nothing here, and the desk's key counts. */
export type PassCommands = Readonly<Record<string, () => unknown>>;

export interface Pass {
  readonly id: PassId;
  readonly label: string;
  readonly hint: string;
  /** Reasons and choices, at the right. */
  readonly panel: Component;
  /** Stands above the strips. */
  readonly band?: Component;
  /** Stands in the place of the strips; leads back to a note with `note`. */
  readonly main?: Component;
  /** Lanes that it leaves out: more strips are wanted there. */
  readonly without?: readonly LaneId[];
  /** Lanes that it brings along, wished or not. */
  readonly with?: readonly LaneId[];
  readonly keys?: readonly PassKey[];
  /** Called once for a desk. `keep` is what L does here. */
  readonly commands?: (places: DeskPlaces) => PassCommands;
}

/** Checks an entry's parts against each other. */
export const pass = (entry: Pass): Pass => entry;

/** The lanes that strips show in a pass. @param wished lanes that the teacher asked for */
export function lanesIn({ without = [], with: own = [] }: Pick<Pass, 'without' | 'with'>, wished: readonly LaneId[]) {
  // Strips have a staff: what it shows itself stands in no lane.
  return shownLanes({ staff: true, lanes: [...new Set([...wished, ...own])] }).filter((id) => !without.includes(id));
}
