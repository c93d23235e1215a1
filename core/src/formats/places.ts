/** Places in a text as people count them. */
import type { Place } from '../music/index.ts';

/** Turns character places into lines and columns. */
export function placeFinder(source: string): (at: number) => Place {
  const starts = [0];
  for (let at = source.indexOf('\n'); at >= 0; at = source.indexOf('\n', at + 1)) starts.push(at + 1);
  return (at) => {
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle]! <= at) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: at - starts[low]! + 1 };
  };
}
