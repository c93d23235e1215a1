/**
 * The fingering chart of a tune: the fingerboard as its player sees it, across the page, with each note that is played,
 * its finger and its name; fingers that touch are joined, and the key's other notes are small. Section 3 of the domain,
 * "position of semitone n".
 */
import type { Arrangement } from '../arrange/index.ts';
import { touch, type Stop } from '../hand/index.ts';
import { stopDistance, tuningText } from '../instrument/index.ts';
import {
  LETTERS,
  keyName,
  midi,
  sameKey,
  signatureAlter,
  type Key,
  type Pitch,
  type PitchClass,
  chroma,
} from '../music/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { noteName } from '../words/index.ts';
import { tapesOf } from './fingerboard.ts';
import { calledString, stringLine } from './lanes/tab.ts';
import { legendOf, type LegendSign } from './legend.ts';
import { legendLines } from './legendBlock.ts';
import { pageHead } from './pageHead.ts';
import { FOOTER, GAP, MARGIN, SOFT, pageSize, scaleOf, type Contents, type Points } from './paperPage.ts';
import { fingerSign } from './signs.ts';
import { INK, lineSvg, shapeSvg, textSvg } from './svg.ts';
import { textWidth } from './textWidth.ts';

/** At least so far up the strings it goes; the key's other notes are shown in first position. */
const SHOWN = 7;
const BEYOND = 0.9;
/** Above the nut: names of the strings, and open ones. */
const TOP: Points = 50;
/** Beside the outer strings: tapes go on so far, and a note's name needs room. */
const EDGE: Points = 34;
/** A finger is a circle of this size, smaller where places lie closer than that. */
const FINGER = { most: 15, least: 6, ofStep: 0.46 } as const;
/** The number in it, for a circle of the size of one. */
const SIGN_SHARE = 0.082;
const NAME: Points = 10.5;
const OTHER: Points = 3.4;

/** A place that the tune uses. */
interface ChartPlace {
  readonly stop: Stop;
  readonly times: number;
  /** Fingers that play it elsewhere in the tune, the more usual one first. */
  readonly also: readonly Stop[];
}

/**
 * Each place of the fingerboard that the tune uses, with the finger that plays it most.
 * @example placesUsed(arrangement).map(({ stop }) => stop.finger) // [2, 3, 4, 0, 1, 2, 3]
 */
export function placesUsed({ fingering: { notes } }: Pick<Arrangement, 'fingering'>): readonly ChartPlace[] {
  const found = new Map<string, Map<string, { stop: Stop; times: number }>>();
  for (const { stops } of notes)
    stops.forEach((stop) => {
      const at = `${stop.string} ${stop.semitones}`;
      const here = found.get(at) ?? new Map<string, { stop: Stop; times: number }>();
      found.set(at, here);
      const own = here.get(`${stop.finger} ${stop.sign}`);
      here.set(`${stop.finger} ${stop.sign}`, { stop, times: (own?.times ?? 0) + 1 });
    });
  return [...found.values()]
    .map((here): ChartPlace => {
      const [most, ...also] = [...here.values()].sort((a, b) => b.times - a.times || a.stop.finger - b.stop.finger);
      const times = [...here.values()].reduce((sum, own) => sum + own.times, 0);
      return { stop: most!.stop, times, also: also.map(({ stop }) => stop) };
    })
    .sort((a, b) => a.stop.string - b.stop.string || a.stop.semitones - b.stop.semitones);
}

interface OtherPlace {
  readonly string: number;
  readonly semitones: number;
  readonly note: PitchClass;
}

/** The notes of a key in first position that the tune leaves out. */
function othersOf(key: Key, sounds: readonly Pitch[], used: readonly ChartPlace[]): readonly OtherPlace[] {
  const taken = new Set(used.map(({ stop }) => `${stop.string} ${stop.semitones}`));
  const notes = LETTERS.map((letter): PitchClass => ({ letter, alter: signatureAlter(key, letter) }));
  return sounds.flatMap((sound, string) =>
    Array.from({ length: SHOWN + 1 }, (_, semitones) => semitones).flatMap((semitones): OtherPlace[] => {
      const note = notes.find((one) => chroma(one) === (midi(sound) + semitones) % 12);
      return note && !taken.has(`${string} ${semitones}`) ? [{ string, semitones, note }] : [];
    }),
  );
}

export function chartContents(arrangement: Arrangement, style: SheetStyle): Contents {
  const { tune, instrument, tuning } = arrangement;
  const { width, height } = pageSize(style);
  const used = placesUsed(arrangement);
  const key = tune.bars[0]?.key;
  const facts = [
    instrument.name,
    key ? keyName(key) : '',
    `strings ${tuningText(tuning.pitches)}`,
    'as you see it when you play',
  ];
  const head = pageHead(
    { title: `Where the fingers go: ${tune.title}`, facts: facts.filter(Boolean).join('  ·  ') },
    width,
    Math.min(1.2, scaleOf(style)),
  );
  const oneKey = key && tune.bars.every((bar) => sameKey(bar.key, key));
  const others = oneKey ? othersOf(key, tuning.pitches, used) : [];
  const legend = legendLines(
    legendOf(signsIn(used, others.length > 0)),
    width - 2 * MARGIN,
    style.tab.signs,
    Math.min(1.4, scaleOf(style)),
  );
  const room = height - 2 * MARGIN - head.height - legend.height - GAP - FOOTER;
  return {
    head,
    blocks: [
      { height: room, draw: (y) => boardSvg(arrangement, style, { used, others }, { y, width, height: room }) },
      legend,
    ],
  };
}

function signsIn(used: readonly ChartPlace[], others: boolean): readonly LegendSign[] {
  const stops = used.flatMap(({ stop, also }) => [stop, ...also]);
  const has = (sign: Stop['sign']) => stops.some((stop) => stop.sign === sign && stop.finger > 0);
  return [
    ...(stops.some(({ finger }) => finger === 0) ? ['open' as const] : []),
    ...(has('low') ? ['low' as const] : []),
    ...(has('high') ? ['high' as const] : []),
    ...(stops.some(({ sign, finger }) => sign === 'extended' && finger > 1) ? ['extended' as const] : []),
    ...(stops.some(({ sign, finger }) => sign === 'extended' && finger === 1) ? ['back' as const] : []),
    ...(has('harmonic') ? ['harmonic' as const] : []),
    ...(pairsIn(used).length > 0 ? ['touch' as const] : []),
    ...(others ? ['other' as const] : []),
  ];
}

/** Places whose fingers touch, the lower one first. */
const pairsIn = (used: readonly ChartPlace[]): readonly (readonly [ChartPlace, ChartPlace])[] =>
  used.flatMap((a) =>
    used
      .filter((b) => b.stop.string === a.stop.string && a.stop.finger > 0 && touch(a.stop, b.stop))
      .map((b) => [a, b] as const),
  );

interface Where {
  readonly y: Points;
  readonly width: Points;
  readonly height: Points;
}

function boardSvg(
  { instrument, tuning }: Arrangement,
  style: SheetStyle,
  { used, others }: { readonly used: readonly ChartPlace[]; readonly others: readonly OtherPlace[] },
  { y: top, width, height }: Where,
): string {
  const { tab, names } = style;
  const last = Math.max(SHOWN, ...used.map(({ stop }) => stop.semitones)) + BEYOND;
  const length = height - TOP;
  const nut = top + TOP;
  const share = (semitones: number) => stopDistance(1, semitones) / stopDistance(1, last);
  const y = (semitones: number): Points => nut + length * share(semitones);
  const count = instrument.strings.length;
  const nameOf = ({ stop, also }: ChartPlace): string => {
    const name = noteName(stop.pitch, names.notes);
    const more = [...new Set(also.map(({ finger }) => finger))].filter((finger) => finger !== stop.finger);
    return more.length > 0 ? `${name}, also ${more.join(', ')}` : name;
  };
  // Names stand to the right of their place, on the last string too.
  const beside = used
    .filter(({ stop }) => stop.string === count - 1)
    .map((place) => textWidth(nameOf(place), NAME, 'bold'));
  const [left, right] = [
    MARGIN + EDGE,
    width - MARGIN - EDGE / 2 - Math.max(2 * NAME, FINGER.most + 4 + Math.max(0, ...beside)),
  ];
  const x = (string: number): Points => left + ((right - left) * string) / Math.max(1, count - 1);
  // The two places that lie closest decide how large a finger can be.
  const steps = used.flatMap((a) =>
    used
      .filter((b) => b.stop.string === a.stop.string && b.stop.semitones > a.stop.semitones)
      .map((b) => y(b.stop.semitones) - y(a.stop.semitones)),
  );
  const radius = Math.max(FINGER.least, Math.min(FINGER.most, FINGER.ofStep * Math.min(...steps, Infinity)));
  const called = { instrument, sounds: tuning.pitches, tab, names };
  const circle = (cx: Points, cy: Points, r: Points, fill: string, stroke: Points) =>
    `<circle cx="${cx.toFixed(1)}" cy="${cy.toFixed(1)}" r="${r.toFixed(1)}" fill="${fill}" stroke="${INK}" stroke-width="${stroke}"/>`;
  const placeSvg = (place: ChartPlace): string => {
    const { stop } = place;
    const [cx, open] = [x(stop.string), stop.finger === 0];
    const cy = open ? nut - 14 : y(stop.semitones);
    const r = open ? 8 : radius;
    const sign = fingerSign(stop, 0, 0, { signs: tab.signs }).map(shapeSvg).join('');
    return [
      circle(cx, cy, r, '#ffffff', open ? 1.4 : 1.1),
      open
        ? ''
        : `<g transform="translate(${cx.toFixed(1)} ${cy.toFixed(1)}) scale(${(radius * SIGN_SHARE).toFixed(3)})">${sign}</g>`,
      nameSvg(cx + r + 4, cy, nameOf(place), true),
    ].join('');
  };
  return [
    `<g data-chart="board">`,
    ...tapesOf(style, instrument)
      .filter(({ semitones }) => semitones < last)
      .map(({ semitones, colour }) =>
        lineSvg([left - EDGE / 2, y(semitones)], [right + EDGE / 2, y(semitones)], { colour, width: 6 }),
      ),
    lineSvg([left - EDGE / 2, nut], [right + EDGE / 2, nut], { width: 5 }),
    ...instrument.strings.map(({ name }, index) =>
      lineSvg([x(index), nut], [x(index), y(last)], {
        ...(tab.strings[name] && { colour: tab.strings[name] }),
        width: stringLine(index).width * 1.3,
      }),
    ),
    ...instrument.strings.map((_, index) =>
      textSvg(x(index), top + 14, calledString(called, index), { size: 14, anchor: 'middle', weight: 'bold' }),
    ),
    // Fingers that touch are one piece.
    ...pairsIn(used).map(([a, b]) =>
      lineSvg([x(a.stop.string), y(a.stop.semitones)], [x(b.stop.string), y(b.stop.semitones)], {
        width: radius * 0.9,
      }),
    ),
    ...others
      .filter(({ semitones }) => semitones > 0)
      .map(
        ({ string, semitones, note }) =>
          circle(x(string), y(semitones), OTHER, '#ffffff', 0.8) +
          nameSvg(x(string) + OTHER + 4, y(semitones), noteName(note, names.notes), false),
      ),
    ...used.map(placeSvg),
    '</g>',
  ].join('\n');
}

/** A note's name, on white: a tape may run behind it. */
function nameSvg(x: Points, y: Points, text: string, used: boolean): string {
  const wide = textWidth(text, NAME, used ? 'bold' : 'text');
  return (
    `<rect x="${(x - 1.5).toFixed(1)}" y="${(y - NAME * 0.5).toFixed(1)}" width="${(wide + 3).toFixed(1)}" height="${NAME}" rx="2" fill="#ffffff"/>` +
    textSvg(x, y + NAME * 0.35, text, { size: NAME, ...(used ? { weight: 'bold' as const } : { colour: SOFT }) })
  );
}
