/** Where the parts of a strip stand: lanes above the staff, the staff, lanes below, another fingering under them. */
import type { LaneId } from '@nokta/core/paper';
import { lanesOf, type DrawnNote, type Lane } from '@nokta/core/sheet';
import type { EngravedLine } from '@nokta/engrave';
import type { StripView } from '../rooms/strips.ts';
import { laneMarkup } from './laneMarkup.ts';

/** Pixels to a staff space at the strip's natural size; lanes are drawn for it. */
export const SPACE = 7;
/** Room between the strip and another fingering below it. */
const OTHER_GAP = 2;

/** A lane as SVG text. */
interface DrawnLane extends Pick<Lane, 'id' | 'height'> {
  readonly markup: string;
}
const drawn = ({ id, height, shapes }: Lane): DrawnLane => ({ id, height, markup: laneMarkup(shapes) });

export interface StripLayout {
  /** In pixels at the strip's natural size, as everything here. */
  readonly width: number;
  readonly height: number;
  readonly lanes: readonly (DrawnLane & { readonly top: number })[];
  readonly staffTop: number;
  readonly staffHeight: number;
  readonly other: DrawnLane | undefined;
  readonly otherTop: number;
}

/** @param others notes of another fingering, laid below this one */
export function stripLayout(
  staff: EngravedLine,
  view: StripView,
  laneIds: readonly LaneId[],
  others: readonly DrawnNote[] | null,
): StripLayout {
  const width = staff.width * SPACE;
  const input = {
    ...view,
    x: (id: string) => (staff.heads[id] ? staff.heads[id].x * SPACE : undefined),
    width,
    barlines: staff.barlines.map((x) => x * SPACE),
  };
  let height = 0;
  const stack = (own: number): number => {
    const top = height;
    height += own;
    return top;
  };
  const placed = (side: Lane['side']) =>
    lanes.filter((lane) => lane.side === side).map((lane) => ({ ...drawn(lane), top: stack(lane.height) }));
  const lanes = lanesOf(input, laneIds);
  const above = placed('above');
  const staffHeight = staff.height * SPACE;
  const staffTop = stack(staffHeight);
  const below = placed('below');
  const [other] = others ? lanesOf({ ...input, notes: others }, ['tab']) : [];
  height += OTHER_GAP;
  const otherTop = other ? stack(other.height + 2 * OTHER_GAP) : height;
  return {
    width,
    height,
    lanes: [...above, ...below],
    staffTop,
    staffHeight,
    other: other && drawn(other),
    otherTop,
  };
}
