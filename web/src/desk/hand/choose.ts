/** Which other way a key means: rules on plain lists, without a desk. */
import type { Alternative } from '@nokta/core/hand';

export type OtherWay = Pick<Alternative, 'stops' | 'base'>;

const top = ({ stops }: Pick<OtherWay, 'stops'>) => stops.at(-1);
export const fingerOf = (way: Pick<OtherWay, 'stops'>) => top(way)?.finger;
export const stringOf = (way: Pick<OtherWay, 'stops'>) => top(way)?.string;

/** The cheapest way with this finger; alternatives stand cheapest first. */
export const withFinger = <Way extends OtherWay>(ways: readonly Way[], finger: number): Way | undefined =>
  ways.find((way) => fingerOf(way) === finger);

/** The cheapest way on another string. */
export const onOtherString = <Way extends OtherWay>(ways: readonly Way[], now: OtherWay): Way | undefined =>
  ways.find((way) => stringOf(way) !== stringOf(now));

/** Of the ways beyond where the note lies now, the nearest; of those the cheapest. */
export function nearestBeyond<Way extends OtherWay>(
  ways: readonly Way[],
  now: OtherWay,
  by: 1 | -1,
  placeOf: (way: OtherWay) => number,
): Way | undefined {
  const from = placeOf(now);
  const beyond = ways.filter((way) => Math.sign(placeOf(way) - from) === by);
  const nearest = Math.min(...beyond.map((way) => Math.abs(placeOf(way) - from)));
  return beyond.find((way) => Math.abs(placeOf(way) - from) === nearest);
}
