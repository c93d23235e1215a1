/** Nothing on a sheet overlaps or runs off the paper: counted on crowded tunes, in every layout. */
import { readFileSync, readdirSync } from 'node:fs';
import { openSync, type Font } from 'fontkit';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, bestOctave, decided, type Arrangement } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import type { InstrumentId } from '@nokta/core/instrument';
import { LANE_IDS, SHEET_PRESETS, USUAL_STYLE, USUAL_TAB, pageSize, type SheetStyle } from '@nokta/core/sheet';
import { FONTS } from './fonts.ts';
import { engraveSheet } from './sheet.ts';
import { HOSTILE_COUNT, hostileTune } from './test/hostileTunes.ts';

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
  ['large', { size: 'large' }],
  ['largest, every lane', { ...EVERY_LANE, size: 'largest' }],
  ['for a lesson', { lesson: true, writingLines: 2, folded: true }],
  ['landscape', { landscape: true, layout: 'width' }],
  ['letters, turned', { ...EVERY_LANE, tab: { ...USUAL_TAB, signs: 'letters', turned: true } }],
  ['arrows over the staff', { ...SHEET_PRESETS.staff, tab: { ...USUAL_TAB, signs: 'arrows' } }],
  ['a fingerboard beside each phrase', { fingerboard: true, layout: 'phrases' }],
  ['big, with fingerboards', { fingerboard: true, layout: 'big' }],
  ['warm-ups, the weave, how to read', { pages: ['how', 'warmups', 'weave', 'blank'], lanes: LANE_IDS }],
  ['chart, words and chords', { pages: ['plan', 'chart', 'words', 'chords'] }],
  [
    'chart, words and chords, largest, across',
    { pages: ['plan', 'chart', 'words', 'chords'], size: 'largest', landscape: true },
  ],
  ['the same on Letter, across', { pages: ['how', 'warmups', 'weave'], paper: 'letter', landscape: true }],
];
const EDGE = 24;

/** Widths come from the font files themselves, not from the table that sheets are laid out by. */
const faces = new Map<string, Font>();
function faceOf(family: string, weight: string): Font {
  const style = weight === 'bold' ? 'bold' : 'normal';
  const file = FONTS[family as keyof typeof FONTS][style];
  const known = faces.get(file) ?? (openSync(file) as Font);
  faces.set(file, known);
  return known;
}
const widths = new Map<string, number>();
/** Of each letter by itself, as sheets are set: with nothing drawn together. */
const widthOf = (text: string, size: number, family: string, weight: string): number => {
  let sum = 0;
  for (const letter of text) {
    const key = `${family} ${weight} ${letter}`;
    let width = widths.get(key);
    if (width === undefined) {
      const face = faceOf(family, weight);
      width = face.glyphForCodePoint(letter.codePointAt(0)!).advanceWidth / face.unitsPerEm;
      widths.set(key, width);
    }
    sum += width;
  }
  return sum * size;
};

interface Box {
  readonly text: string;
  readonly left: number;
  readonly right: number;
  readonly y: number;
  readonly size: number;
}

/** Beginnings and ends of groups, dots of repeats, and texts. */
const TOKENS = /<g\b([^>]*)>|<\/g>|<circle\b([^>]*r="1\.6"[^>]*)\/>|<text\b([^>]*[^/])>([\s\S]*?)<\/text>/g;
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
  return [...page.matchAll(TOKENS)].flatMap(([token, group, dot, text, content]): Box[] => {
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
    if (now.staff) return [];
    if (dot !== undefined) {
      const [x, y] = [attribute(dot, 'cx'), attribute(dot, 'cy')].map(Number) as [number, number];
      const at = now.x + x * now.scale;
      // As high as a finger beside it, which stands on a line above or below it.
      const box = { text: REPEAT, y: now.y + (y + DOT_LOW) * now.scale, size: DOT_HIGH * now.scale };
      return [{ ...box, left: at - 1.6 * now.scale, right: at + 1.6 * now.scale }];
    }
    if (text === undefined) return [];
    const size = Number(attribute(text, 'font-size'));
    const [family, weight] = [attribute(text, 'font-family')!, attribute(text, 'font-weight') ?? 'normal'];
    const y = now.y + Number(attribute(text, 'y')) * now.scale;
    const runs = runsOf(content!, family);
    const widths = runs.map((run) => widthOf(run.text, size, run.family, weight));
    const width = widths.reduce((sum, one) => sum + one, 0);
    const anchor = attribute(text, 'text-anchor');
    let at = Number(attribute(text, 'x')) - (anchor === 'middle' ? width / 2 : anchor === 'end' ? width : 0);
    const start = runs[0]?.x ?? at;
    runs.forEach((run, index) => (at = (run.x ?? at) + widths[index]!));
    const said = runs.map((run) => run.text).join('');
    if (said.trim() === '') return [];
    return [{ text: said, left: now.x + start * now.scale, right: now.x + at * now.scale, y, size: size * now.scale }];
  });
}

const REPEAT = 'a dot of a repeat';
/** Foot and size of a letter in its place. */
const DOT_LOW = 4;
const DOT_HIGH = 12;

interface Run {
  readonly text: string;
  readonly family: string;
  /** Where it is put, if it is. */
  readonly x: number | undefined;
}
const SIGNS: Readonly<Record<string, string>> = { lt: '<', gt: '>', quot: '"', amp: '&' };

/** Pieces of a text in one font each. */
const runsOf = (content: string, family: string): readonly Run[] =>
  [...content.matchAll(/<tspan([^>]*)>([^<]*)<\/tspan>|([^<]+)/g)].map(([, attributes, inner, outer]) => {
    const x = attributes && attribute(attributes, 'x');
    return {
      text: (inner ?? outer ?? '').replace(/&(\w+);/g, (_, name: string) => SIGNS[name] ?? '?'),
      family: (attributes && attribute(attributes, 'font-family')) || family,
      x: x ? Number(x) : undefined,
    };
  });

/** What rounding may do. */
const TOUCH = 0.05;

function faultsIn(page: string, style: SheetStyle): readonly string[] {
  const { width, height } = pageSize(style);
  const boxes = textsOn(page);
  return boxes.flatMap((one, index) => [
    ...(one.left < EDGE || one.right > width - EDGE || one.y > height - EDGE ? [`${one.text} is off the paper`] : []),
    ...boxes
      .slice(index + 1)
      .filter(
        (other) =>
          (one.text !== REPEAT || other.text !== REPEAT) &&
          Math.abs(one.y - other.y) < 0.7 * Math.min(one.size, other.size) &&
          one.left < other.right - TOUCH &&
          other.left < one.right - TOUCH,
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

/** How far to the right the tab's lines go. */
const rightmost = (page: string): number =>
  Math.max(
    ...[
      ...page.matchAll(
        /<g transform="translate\(([\d.-]+) [\d.-]+\) scale\(([\d.]+)\)"><line x1="20" y1="[\d.]+" x2="([\d.]+)"/g,
      ),
    ].map(([, x, scale, width]) => Number(x) + Number(scale) * Number(width)),
  );

it.each(CROWDED)('across the paper its width is filled: %s', async (name) => {
  const style: SheetStyle = { ...USUAL_STYLE, landscape: true };
  const [page] = await engraveSheet(setFor(name, 'violin'), style);
  const { width } = pageSize(style);
  expect(rightmost(page!)).toBeGreaterThan(0.72 * width);
  expect(rightmost(page!)).toBeLessThan(width - EDGE);
});

describe.each(['violin', 'cello'] as const)('big print on the %s', (instrument) => {
  it.each(readdirSync(TUNES).map((file) => file.replace(/\.abc$/, '')))(
    'has four pages at the most: %s',
    async (name) => {
      const pages = await engraveSheet(setFor(name, instrument), { ...USUAL_STYLE, ...SHEET_PRESETS.big });
      expect(pages.length).toBeLessThanOrEqual(4);
    },
  );
});

const INSTRUMENTS = ['violin', 'viola', 'cello', 'bass'] as const;
/** Layouts of each hostile tune: the next ones in turn, so that each meets many tunes, on both papers. */
const EACH = 2;

describe('tunes that are hard to lay out', () => {
  it.each(Array.from({ length: HOSTILE_COUNT }, (_, index) => index))(
    'number %i: nothing overlaps or is cut',
    async (index) => {
      const read = readAbc(hostileTune(index));
      if (!read.ok) throw new Error(read.problems[0]?.message);
      const instrument = INSTRUMENTS[index % INSTRUMENTS.length]!;
      const decisions = decided(FIRST_DECISIONS, { key: { instrument } });
      const transpose = bestOctave(read.value.tune, decisions);
      const arrangement = arrange(read.value.tune, decided(decisions, { key: { transpose } }));
      for (let more = 0; more < EACH; more += 1) {
        const [name, wished] = LAYOUTS[(index + more * 7) % LAYOUTS.length]!;
        const paper = (Math.floor(index / LAYOUTS.length) + more) % 2 === 0 ? 'a4' : 'letter';
        const style: SheetStyle = { ...USUAL_STYLE, ...wished, paper };
        const pages = await engraveSheet(arrangement, style);
        expect(
          pages.flatMap((page) => faultsIn(page, style)),
          name,
        ).toEqual([]);
      }
    },
  );
});
