/** Nothing on a sheet overlaps or runs off the paper: counted on crowded tunes, in every layout. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, bestOctave, decided, type Arrangement } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import type { InstrumentId } from '@nokta/core/instrument';
import { LANE_IDS, SHEET_PRESETS, USUAL_STYLE, USUAL_TAB, pageSize, type SheetStyle } from '@nokta/core/sheet';
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
  ['letters, turned', { ...EVERY_LANE, tab: { ...USUAL_TAB, signs: 'letters', turned: true } }],
  ['arrows over the staff', { ...SHEET_PRESETS.staff, tab: { ...USUAL_TAB, signs: 'arrows' } }],
  ['a fingerboard beside each phrase', { fingerboard: true, layout: 'phrases' }],
  ['big, with fingerboards', { fingerboard: true, layout: 'big' }],
  ['warm-ups, the weave, how to read', { pages: ['how', 'warmups', 'weave', 'blank'], lanes: LANE_IDS }],
  ['the same on Letter, across', { pages: ['how', 'warmups', 'weave'], paper: 'letter', landscape: true }],
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

/** Beginnings and ends of groups, and texts. */
const TOKENS = /<g\b([^>]*)>|<\/g>|<text\b([^>]*[^/])>([\s\S]*?)<\/text>/g;
const TRANSFORM = /transform="translate\(([\d.-]+) ([\d.-]+)\) scale\(([\d.]+)\)"/;
const attribute = (text: string, name: string) => new RegExp(`\\b${name}="([^"]*)"`).exec(text)?.[1];

interface Frame {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
  /** What the engraver drew is its own business. */
  readonly staff: boolean;
}

/** Every text on a page that we placed, in points. */
function textsOn(page: string): readonly Box[] {
  const frames: Frame[] = [{ x: 0, y: 0, scale: 1, staff: false }];
  return [...page.matchAll(TOKENS)].flatMap(([token, group, text, content]): Box[] => {
    const now = frames.at(-1)!;
    if (token === '</g>') frames.pop();
    if (group !== undefined && !group.endsWith('/')) {
      const [, x, y, scale] = TRANSFORM.exec(group) ?? [];
      frames.push({
        x: now.x + Number(x ?? 0) * now.scale,
        y: now.y + Number(y ?? 0) * now.scale,
        scale: now.scale * Number(scale ?? 1),
        staff: now.staff || /class=|font-family=/.test(group),
      });
    }
    if (text === undefined || now.staff) return [];
    const said = content!.replace(/<[^>]+>/g, '').replace(/&\w+;/g, '?');
    const size = Number(attribute(text, 'font-size'));
    // A line of words is narrower, letter for letter, than a name.
    const width = said.length * size * (said.length > PROSE ? 0.52 : LETTER);
    const anchor = attribute(text, 'text-anchor');
    const start = Number(attribute(text, 'x')) - (anchor === 'middle' ? width / 2 : anchor === 'end' ? width : 0);
    return [
      {
        text: said,
        left: now.x + start * now.scale,
        right: now.x + (start + width) * now.scale,
        y: now.y + Number(attribute(text, 'y')) * now.scale,
        size: size * now.scale,
      },
    ];
  });
}
const PROSE = 12;

function faultsIn(page: string, style: SheetStyle): readonly string[] {
  const { width, height } = pageSize(style);
  const boxes = textsOn(page);
  return boxes.flatMap((one, index) => [
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
  ]);
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
      expect(pages.flatMap(textsOn).length).toBeGreaterThan(20);
      expect(pages.flatMap((page) => faultsIn(page, style))).toEqual([]);
    }
  });
});
