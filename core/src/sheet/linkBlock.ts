/** The address of a page to practise with, and its square for a telephone's camera. */
import { encode } from 'uqr';
import { LABEL, MARGIN, SOFT, pageSize, type Block, type Points } from './paperPage.ts';
import type { SheetStyle } from '../paper/index.ts';
import { INK, textSvg } from './svg.ts';
import { wrappedTo } from './textWidth.ts';

/** Cameras want a point and a half for each module, and more where the print is rough. */
const MODULE: Points = 1.9;
const LEAST: Points = 62;
const SIZE: Points = 9.5;
/** Free around the square, in modules, as its norm asks for. */
const QUIET = 4;

/**
 * The square of an address, its left upper corner at (0, 0), free space around it.
 * @returns the side in points, and SVG
 */
export function squareOf(link: string): { readonly side: Points; readonly svg: string } {
  const { data, size } = encode(link, { ecc: 'M', border: QUIET });
  const module = Math.max(MODULE, LEAST / size);
  // Rows as one path each: hundreds of modules by themselves are slow to print.
  const rows = data.flatMap((row, y) => runsOf(row).map(([from, length]) => `M${from} ${y}h${length}v1h${-length}z`));
  return {
    side: module * size,
    svg: `<g data-square="link" transform="scale(${module.toFixed(3)})"><rect width="${size}" height="${size}" fill="#ffffff"/><path d="${rows.join('')}" fill="${INK}"/></g>`,
  };
}

/** Dark modules that stand side by side: where they begin, and how many. */
function runsOf(row: readonly boolean[]): readonly (readonly [number, number])[] {
  const runs: [number, number][] = [];
  row.forEach((dark, x) => {
    const last = runs.at(-1);
    if (dark && last && last[0] + last[1] === x) last[1] += 1;
    else if (dark) runs.push([x, 1]);
  });
  return runs;
}

export function linkBlock(link: string, style: SheetStyle): Block {
  const { width } = pageSize(style);
  const { side, svg } = squareOf(link);
  const x = MARGIN + LABEL + side + 4;
  const lines = wrappedTo(link, width - MARGIN - x, SIZE);
  return {
    height: side,
    draw: (y) => {
      const middle = y + side / 2 - (lines.length * SIZE * 1.3) / 2;
      return [
        `<g transform="translate(${MARGIN + LABEL - 8} ${y.toFixed(2)})">${svg}</g>`,
        textSvg(x, middle, 'Listen and practise at home', { size: SIZE * 1.1, weight: 'bold' }),
        ...lines.map((line, row) => textSvg(x, middle + (row + 1) * SIZE * 1.4, line, { size: SIZE, colour: SOFT })),
      ].join('\n');
    },
  };
}
