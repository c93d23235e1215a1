/** Nothing on a sheet overlaps or runs off the paper: counted on crowded tunes, in every layout. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, bestOctave, decided, type Arrangement } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import type { InstrumentId } from '@nokta/core/instrument';
import { LANE_IDS, SHEET_PRESETS, USUAL_STYLE, pageSize, type SheetStyle } from '@nokta/core/sheet';
import { engraveSheet } from './sheet.ts';

const TUNES = new URL('../../server/src/demo/tunes/', import.meta.url);
/** Triplets and flats; words under every note; chords by the half bar; a long tune with graces. */
const CROWDED = ['foghorn-keeper', 'keep-the-lantern-low', 'kettle-on-the-stove', 'four-barrels'];
const EVERY_LANE: Partial<SheetStyle> = {
  staff: false,
  lanes: LANE_IDS.filter((id) => id !== 'hair' && id !== 'fingers'),
};
const LAYOUTS: readonly (readonly [string, Partial<SheetStyle>])[] = [
  ...Object.entries(SHEET_PRESETS),
  ['every lane', EVERY_LANE],
  ['landscape', { landscape: true, layout: 'width' }],
];
/** A letter's width beside its size: wider than the sheet's font is on the average. */
const LETTER = 0.6;
const EDGE = 24;

interface Box {
  readonly text: string;
  readonly left: number;
  readonly right: number;
  readonly y: number;
  readonly size: number;
}

const GROUP =
  /<g transform="translate\(([\d.-]+) ([\d.-]+)\) scale\(([\d.]+)\)">((?:(?!<g transform)[\s\S])*?)<\/g>(?=\n|$|<\/svg>)/g;
const TEXT =
  /<text x="([\d.-]+)" y="([\d.-]+)"[^>]*font-size="([\d.]+)"[^>]*text-anchor="(\w+)"[^>]*>([\s\S]*?)<\/text>/g;

/** The texts of each lane on a page, in points. */
function lanesOn(page: string): readonly (readonly Box[])[] {
  return [...page.matchAll(GROUP)].map(([, x, y, scale, inner]) =>
    [...inner!.matchAll(TEXT)].map(([, at, row, size, anchor, content]): Box => {
      const text = content!.replace(/<[^>]+>/g, '').replace(/&\w+;/g, '?');
      const width = text.length * Number(size) * LETTER;
      const start = Number(at) - (anchor === 'middle' ? width / 2 : anchor === 'end' ? width : 0);
      const on = (own: number, origin: string | undefined) => Number(origin) + own * Number(scale);
      return {
        text,
        left: on(start, x),
        right: on(start + width, x),
        y: on(Number(row), y),
        size: Number(size) * Number(scale),
      };
    }),
  );
}

function faultsIn(page: string, style: SheetStyle): readonly string[] {
  const { width, height } = pageSize(style);
  return lanesOn(page).flatMap((boxes) =>
    boxes.flatMap((one, index) => [
      ...(one.left < EDGE || one.right > width - EDGE || one.y > height - EDGE ? [`${one.text} is off the paper`] : []),
      ...boxes
        .slice(index + 1)
        .filter(
          (other) =>
            Math.abs(one.y - other.y) < 0.7 * Math.min(one.size, other.size) &&
            one.left < other.right &&
            other.left < one.right,
        )
        .map((other) => `${one.text} lies on ${other.text}`),
    ]),
  );
}

function setFor(name: string, instrument: InstrumentId): Arrangement {
  const read = readAbc(readFileSync(new URL(`${name}.abc`, TUNES), 'utf8'));
  if (!read.ok) throw new Error(name);
  const decisions = decided(FIRST_DECISIONS, { key: { instrument } });
  return arrange(read.value.tune, decided(decisions, { key: { transpose: bestOctave(read.value.tune, decisions) } }));
}

describe.each(['violin', 'cello'] as const)('on the %s', (instrument) => {
  const arrangements = CROWDED.map((name) => setFor(name, instrument));
  it.each(LAYOUTS)('nothing overlaps or is cut: %s', async (_, wished) => {
    const style: SheetStyle = { ...USUAL_STYLE, ...wished };
    for (const arrangement of arrangements) {
      const pages = await engraveSheet(arrangement, style);
      expect(pages.flatMap(lanesOn).flat().length).toBeGreaterThan(20);
      expect(pages.flatMap((page) => faultsIn(page, style))).toEqual([]);
    }
  });
});
