/** The passes along the top of the desk, in the order of the work; only those that exist. */
import { shownLanes, type LaneId } from '@nokta/core/sheet';

interface Pass {
  readonly id: string;
  readonly label: string;
  readonly hint: string;
  /** Lanes that it leaves out: more strips are wanted there. */
  readonly without?: readonly LaneId[];
  /** Lanes that it brings along, wished or not. */
  readonly with?: readonly LaneId[];
}

export const PASSES = [
  { id: 'tune', label: 'Tune', hint: 'What it is, and how it sounds' },
  { id: 'parts', label: 'Parts', hint: 'Parts and phrases', without: ['bow', 'hand'] },
  { id: 'key', label: 'Key', hint: 'Instrument, key and tuning' },
  { id: 'hand', label: 'Hand', hint: 'Strings and fingers' },
  { id: 'bow', label: 'Bow', hint: 'Strokes and the hair', with: ['bow', 'hair'], without: ['hand'] },
  { id: 'grades', label: 'Grades', hint: 'Versions, easier and richer' },
  { id: 'sheet', label: 'Sheet', hint: 'Print and files' },
  { id: 'teach', label: 'Teach', hint: 'What to say at the stand' },
] as const satisfies readonly Pass[];

export type PassId = (typeof PASSES)[number]['id'];
export const DEFAULT_PASS: PassId = 'tune';

export const isPass = (value: unknown): value is PassId => PASSES.some(({ id }) => id === value);

/** The lanes that strips show in a pass. @param wished lanes that the teacher asked for */
export function lanesIn(pass: PassId, wished: readonly LaneId[]): readonly LaneId[] {
  const { without = [], with: own = [] }: Pass = PASSES.find(({ id }) => id === pass)!;
  // Strips have a staff: what it shows itself stands in no lane.
  return shownLanes({ staff: true, lanes: [...new Set([...wished, ...own])] }).filter((id) => !without.includes(id));
}
