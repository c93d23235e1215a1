/** What each lane draws, shape by shape, on a row of notes ten apart. */
import { describe, expect, it } from 'vitest';
import { arrange } from '../arrange/index.ts';
import { deciding, type Flat } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import {
  LANE_IDS,
  SIZES,
  hairLine,
  lanesOf,
  sheetFacts,
  signsOf,
  type Lane,
  type LaneId,
  type Shape,
  USUAL_TAB,
  type TabStyle,
} from './index.ts';

function draw(
  music: string,
  change: Flat = {},
  header: Header = { key: 'G', tempo: '1/4=100' },
  tab: Partial<TabStyle> = {},
) {
  const arrangement = arrange(tuneOf(music, header), deciding(change));
  const ids = arrangement.tune.bars.flatMap((bar) => bar.events.map(({ id }) => id));
  const x = (id: string) => {
    const { of = id, grace = false } = arrangement.fingering.notes.find((note) => note.id === id) ?? {};
    const at = ids.indexOf(of);
    return at < 0 ? undefined : 50 + 20 * at - (grace ? 8 : 0);
  };
  const facts = { ...sheetFacts(arrangement), tab: { ...USUAL_TAB, ...tab } };
  const hair = hairLine(arrangement.bowing, arrangement.travel(), new Set(ids));
  const lanes = lanesOf({ ...facts, hair, x, width: 400, barlines: [200] }, LANE_IDS);
  const lane = (id: LaneId): Lane => lanes.find((other) => other.id === id)!;
  const shapes = (id: LaneId, role: string): readonly Shape[] => lane(id).shapes.filter((shape) => shape.role === role);
  return {
    lane,
    shapes,
    arrangement,
    x,
    legend: signsOf(facts),
  };
}

const texts = (shapes: readonly Shape[]) => shapes.flatMap((shape) => (shape.kind === 'text' ? [shape.text] : []));

describe('the tab lane', () => {
  it.each([
    ['violin', ['G', 'D', 'A', 'E'], 0],
    ['viola', ['C', 'G', 'D', 'A'], -7],
    ['cello', ['C', 'G', 'D', 'A'], -12],
    ['bass', ['E', 'A', 'D', 'G'], -24],
  ] as const)('names the strings of the %s, the highest on top', (instrument, names, transpose) => {
    const named = draw('G4 A4 |', { instrument, transpose }).shapes('tab', 'string-name');
    expect(texts(named)).toEqual(names);
    const heights = named.map((shape) => (shape.kind === 'text' ? shape.y : 0));
    expect([...heights].sort((a, b) => b - a)).toEqual(heights);
  });

  it('gives each string a line of its own kind', () => {
    const lines = draw('G8 |').shapes('tab', 'string');
    const kinds = lines.map((shape) => (shape.kind === 'line' ? `${shape.width} ${shape.dash ?? ''}` : ''));
    expect(new Set(kinds).size).toBe(4);
  });

  it('calls retuned strings by their places, with what they sound, or by their sounds', () => {
    const called = (tab: Partial<TabStyle>) =>
      texts(draw('A8 |', { tuning: 'low-pair-up' }, undefined, tab).shapes('tab', 'string-name'));
    expect(called({})).toEqual(['G=A', 'D=E', 'A', 'E']);
    expect(called({ stringNames: 'sound' })).toEqual(['A', 'E', 'A', 'E']);
  });

  it('can be turned, the lowest string on top', () => {
    const rows = (turned: boolean) =>
      draw('G4 B4 |', {}, undefined, { turned })
        .shapes('tab', 'finger')
        .flatMap((shape) => (shape.kind === 'text' ? [shape.y] : []));
    expect(rows(false)[0]).toBeGreaterThan(rows(false)[1]!);
    expect(rows(true)[0]).toBeLessThan(rows(true)[1]!);
  });

  it.each([
    ['dots', 1, [], 0],
    ['letters', 0, ['L'], 0],
    ['arrows', 0, [], 1],
    ['plain', 0, [], 0],
  ] as const)('writes a low finger in %s', (signs, dots, letters, paths) => {
    const { shapes, legend } = draw('c8 |', {}, { key: 'G' }, { signs });
    const own = shapes('tab', 'finger-dot');
    expect(own.filter(({ kind }) => kind === 'dot')).toHaveLength(dots);
    expect(own.filter(({ kind }) => kind === 'path')).toHaveLength(paths);
    expect(texts(shapes('tab', 'finger-letter'))).toEqual(letters);
    expect(legend.includes('low')).toBe(signs !== 'plain');
  });

  it('draws strings in the teacher’s colours, and keeps their widths and dashes for black and white', () => {
    const lines = draw('G8 |', {}, undefined, { strings: { E: '#a04a00' } }).shapes('tab', 'string');
    expect(lines.flatMap((shape) => (shape.kind === 'line' ? [shape.colour] : []))).toEqual([
      undefined,
      undefined,
      undefined,
      '#a04a00',
    ]);
    expect(new Set(lines.map((shape) => (shape.kind === 'line' ? `${shape.width} ${shape.dash}` : ''))).size).toBe(4);
  });

  it('stacks a double stop on its two strings', () => {
    const fingers = draw('[GB]8 |')
      .shapes('tab', 'finger')
      .filter(({ kind }) => kind === 'text');
    expect(texts(fingers)).toEqual(['3', '1']);
    const [g, b] = fingers.map((shape) => (shape.kind === 'text' ? [shape.x, shape.y] : [0, 0]));
    expect(g![0]).toBe(b![0]);
    expect(g![1]! - b![1]!).toBe(SIZES.row);
  });

  it('sets grace notes smaller, and a sign of its own where the hand cannot reach, which no learner takes for a finger', () => {
    expect(texts(draw('{A}B8 |').shapes('tab', 'finger-grace'))).toEqual(['0']);
    expect(draw("g''8 |").shapes('tab', 'unreached')).toHaveLength(1);
    expect(texts(draw("g''8 |").shapes('tab', 'finger'))).toEqual([]);
  });

  it('underlines what the teacher decided', () => {
    const locks = { n1: { instrument: 'violin' as const, stops: [{ string: 2, finger: 0 as const, midi: 69 }] } };
    const drawn = draw('AGAB G4 |', { locks });
    expect(drawn.shapes('tab', 'finger-locked')).toHaveLength(1);
    expect(drawn.legend).toContain('locked');
  });
});

describe('signs on fingers', () => {
  it('stand below for low, above for high', () => {
    const y = (music: string, header: Header) => {
      const drawn = draw(music, {}, { tempo: '1/4=60', ...header });
      const [dot] = drawn.shapes('tab', 'finger-dot');
      const finger = drawn.shapes('tab', 'finger').find(({ kind }) => kind === 'text')!;
      return dot?.kind === 'dot' && finger.kind === 'text' ? Math.sign(dot.y - finger.y) : null;
    };
    expect(y('c8 |', { key: 'C' })).toBe(1);
    expect(y('^G8 |', { key: 'A' })).toBe(-1);
    expect(y('B8 |', { key: 'G' })).toBeNull();
  });

  it('are a plus for reaching up and a minus for reaching back', () => {
    const up = draw('^C8 |', { instrument: 'cello', transpose: -12 }, { key: 'D' });
    expect(up.legend).toContain('extended');
    const back = draw('G2 _E2 G2 _E2 |', { instrument: 'cello', transpose: -12 }, { key: 'C', tempo: '1/4=160' });
    expect(back.legend).toContain('back');
  });
});

const EVERY: Flat = { bow: { everyMark: true } };

describe('the bow lane', () => {
  it('has a sign only where a player needs one: at the start, after a rest, lifted, stopped, set by hand', () => {
    const signs = (music: string, bow: Flat['bow'] = {}) =>
      draw(music, { bow })
        .shapes('bow', 'bow')
        .map((shape) => ('note' in shape ? shape.note : ''));
    expect(signs('G2 A2 B2 c2 |')).toEqual(['n1']);
    expect(signs('G2 z2 B2 c2 |')).toEqual(['n1', 'n3']);
    expect(signs('G2 A2 uB2 c2 |')).toEqual(['n1', 'n3']);
    expect(signs('G2 A2 B2 c2 |', { turns: { n4: 'down' } })).toEqual(['n1', 'n4']);
  });

  it('tells beside it that the stroke goes the other way when it comes round', () => {
    const drawn = draw('|: G4 A2 B2 :|');
    expect(texts(drawn.shapes('bow', 'bow-time'))).toEqual(['2×']);
    expect(drawn.shapes('bow', 'bow-later')).toHaveLength(1);
    expect(draw('|: G4 A4 :|').shapes('bow', 'bow-later')).toEqual([]);
  });

  it('draws the accents of a pattern, and the part of the bow that is meant', () => {
    const shuffled = draw('GABc defg |', { bow: { pattern: 'long-short-shuffle', regions: { n1: 'upper half' } } });
    expect(shuffled.shapes('bow', 'bow')).toHaveLength(3);
    const [part] = shuffled.shapes('bow', 'region-part');
    expect(part).toMatchObject({ d: 'M26 10 h10' });
    expect(shuffled.legend).toEqual(expect.arrayContaining(['accent', 'region']));
  });

  it('opens the arch downwards for down and the wedge upwards for up', () => {
    const [down, up] = draw('G4 A4 |', EVERY).shapes('bow', 'bow');
    expect(down).toMatchObject({ kind: 'path', note: 'n1', d: expect.stringContaining('v-9 h9 v9') as string });
    expect(up).toMatchObject({ kind: 'path', note: 'n2', d: expect.stringContaining('l4 10 l4 -10') as string });
  });

  it('brackets the notes of one stroke from the first to the last', () => {
    const drawn = draw('(G2 A2 B2) c2 |', EVERY);
    const [stroke] = drawn.shapes('bow', 'stroke');
    expect(stroke).toMatchObject({
      d: expect.stringMatching(new RegExp(`^M${drawn.x('n1')} .*H${drawn.x('n3')} `)) as string,
    });
    expect(drawn.shapes('bow', 'bow')).toHaveLength(2);
  });

  it('marks where the bow is lifted, and where it stops and goes on', () => {
    const lifted = draw('G4 z2 vA2 | z4 vB4 |');
    expect(lifted.shapes('bow', 'retake')).toHaveLength(2);
    expect(lifted.legend).toContain('retake');
    const hooked = draw('G4 vA4 | vB8 |');
    expect(hooked.shapes('bow', 'hook')).toHaveLength(2);
    expect(hooked.legend).toContain('hook');
    expect(hooked.legend).not.toContain('retake');
  });
});

describe('the hand lane', () => {
  it('shows one ribbon while the hand stays and a new one where it moves', () => {
    const stays = draw('G4 A4 | B8 |').shapes('hand', 'position');
    expect(texts(stays)).toEqual(['I']);
    const moves = draw('B,,2 C,4 B,,2 |', { instrument: 'bass' }, { key: 'C', unit: '1/8' });
    const labels = [...texts(moves.shapes('hand', 'position')), ...texts(moves.shapes('hand', 'shift'))];
    expect(labels.length).toBeGreaterThan(0);
    expect(labels.every((label) => ['half', 'I', 'II'].includes(label))).toBe(true);
  });

  it('draws a held finger from where it is set to where it is needed again', () => {
    const drawn = draw('E2 A2 E2 A2 |');
    const [hold] = drawn.shapes('hand', 'hold');
    expect(hold).toMatchObject({
      d: expect.stringMatching(new RegExp(`^M${drawn.x('n1')} .*H${drawn.x('n3')} `)) as string,
    });
    expect(drawn.lane('hand').height).toBeGreaterThan(draw('G4 A4 |').lane('hand').height);
  });
});

it('prints only the signs that a sheet has', () => {
  expect(draw('G2 A2 B2 d2 |').legend).toEqual(['down', 'open', 'position']);
  expect(draw('(Gc) A2 B4 |').legend).toContain('low');
});

it('draws what joins two fingers, and names it in the legend only where it is drawn', () => {
  const block = draw('E2 B2 E2 B2 |');
  expect(block.shapes('tab', 'block')).toHaveLength(3);
  expect(block.legend).toContain('block');
  const chord = draw('[EB]4 G4 |');
  expect(chord.shapes('tab', 'block')).toHaveLength(1);
  expect(chord.legend).toContain('block');
  expect(chord.arrangement.fingering.totals.blocks).toBe(1);
  const hop = draw('F2 c2 F4 |', { limits: { maxPosition: 'I' } }, { key: 'G', tempo: '1/4=40' });
  expect(hop.shapes('tab', 'hop').length).toBeGreaterThan(0);
  expect(hop.legend).toContain('hop');
  const slide = draw('A2 !slide!B2 c4 |');
  expect(slide.shapes('tab', 'glide')).toHaveLength(1);
  expect(slide.legend).toEqual(expect.arrayContaining(['slide']));
  expect(slide.legend).not.toContain('hop');
});

it('marks a shift by an arrow and puts labels that would touch on two rows', () => {
  const shifted = draw('A,^A,B,C ^CD^DE |', { instrument: 'cello' }, { key: 'C', tempo: '1/4=100' });
  expect(shifted.shapes('hand', 'shift-arrow')).toHaveLength(1);
  expect(texts(shifted.shapes('hand', 'shift'))).toEqual(['II up']);
  expect(shifted.legend).toContain('shift');
});

describe('the hair lane', () => {
  it('draws each stroke from where it begins on the hair to where it ends, rising for down-bows', () => {
    const drawn = draw('G2 A2 B2 c2 |');
    const lines = (role: string) =>
      drawn
        .shapes('hair', role)
        .flatMap((shape) =>
          shape.kind === 'path'
            ? [...shape.d.matchAll(/M([\d.]+) ([\d.]+)L([\d.]+) ([\d.]+)/g)].map(([, ...ends]) => ends.map(Number))
            : [],
        );
    const [downs, ups] = [lines('hair-down'), lines('hair-up')];
    expect([downs.length, ups.length, lines('hair-dot').length]).toEqual([2, 2, 4]);
    for (const [, begin, , end] of downs) expect(end).toBeLessThan(begin!);
    for (const [, begin, , end] of ups) expect(end).toBeGreaterThan(begin!);
    expect(drawn.shapes('hair', 'frog')).toHaveLength(2);
    expect(drawn.shapes('hair', 'drift')).toHaveLength(1);
  });

  it('draws a stroke heavy that sticks out', () => {
    // Twelve seconds on one bow: four metres of it, on 650 mm.
    expect(draw('(G8 | A8) |', {}, { tempo: '1/4=40' }).shapes('hair', 'hair-strained')).toHaveLength(1);
  });
});

it('counts by other systems', () => {
  const counted = (counting: 'ta' | 'takadimi') =>
    texts(draw('G2 AB c/B/A/G/ A2 |', { bow: { counting } }).shapes('counts', 'count'));
  expect(counted('takadimi')).toEqual(['ta', 'ta', 'di', 'ta', 'ka', 'di', 'mi', 'ta']);
  expect(counted('ta')).toEqual(['ta', 'ti', 'ti', 'ti', 'ka', 'ti', 'ka', 'ta']);
});

it('counts each note and rest above the staff', () => {
  const counted = draw('G2 AB z2 c2 |');
  expect(texts(counted.shapes('counts', 'count'))).toEqual(['1', '2', '&', '4']);
  expect(texts(counted.shapes('counts', 'count-rest'))).toEqual(['(3)']);
});
