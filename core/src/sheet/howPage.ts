/** "How to read this": the tune's first phrase, large, and what each sign on it means, with the place where it stands. */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { stringNames } from '../instrument/index.ts';
import { barNumbers, beatLength } from '../music/index.ts';
import { printedLanes, type SheetStyle } from '../paper/index.ts';
import { noteName, stopText } from '../words/index.ts';
import { calledString } from './lanes/tab.ts';
import { signsOf, type DrawnNote, type SheetFacts } from './lanes/index.ts';
import { legendOf, type LegendSign } from './legend.ts';
import { lineBlock, type EngravedLineOfSheet } from './lineBlocks.ts';
import { pageHead } from './pageHead.ts';
import { LABEL, MARGIN, pageSize, type Block, type Contents, type Points } from './paperPage.ts';
import { phraseFactsOf } from './sheetFacts.ts';
import { legendSvg, textSvg } from './svg.ts';
import { wrappedTo } from './textWidth.ts';

const SIZE = 13;
const LEADING = 18;
const LARGEST: Points = 9;

/** @param told with what each sign means */
export function howContents(
  arrangement: Arrangement,
  staff: EngravedLineOfSheet | null,
  style: SheetStyle,
  told = true,
): Contents {
  const { width } = pageSize(style);
  const of = `${arrangement.tune.title}  ·  ${arrangement.instrument.name}`;
  const head = pageHead({ title: 'How to read this', facts: of }, width);
  const [phrase] = phrasesOf(arrangement.form);
  if (!phrase || !staff) return { head, blocks: [] };
  const line = { id: phrase.id, phrase, label: '', from: phrase.from, to: phrase.to };
  const space = Math.min(LARGEST, (width - 2 * MARGIN - LABEL) / staff.width);
  const facts = phraseFactsOf(arrangement, phrase, style);
  const signs = told ? signsOf(facts, printedLanes(style)) : [];
  const music = lineBlock(
    arrangement,
    line,
    staff,
    { ...style, fingerboard: false, barNumbers: 'none' },
    { space, x: MARGIN - LABEL, head: 0 },
  );
  return {
    head,
    blocks: [
      music,
      ...linesText(arrangement, facts, style).map((text) => paragraph(text, width)),
      ...legendOf(signs).map(({ sign, text }) => {
        const place = placeOfSign(arrangement, facts, sign, style);
        return paragraph(`${text}${place ? `: ${place}` : ''}.`, width, sign, style);
      }),
    ],
  };
}

function paragraph(text: string, width: Points, sign?: LegendSign, style?: SheetStyle): Block {
  const left = MARGIN + (sign ? 30 : 0);
  const lines = wrappedTo(
    text.replace(/^./, (letter) => letter.toUpperCase()),
    width - MARGIN - left,
    SIZE,
  );
  return {
    height: lines.length * LEADING - 7,
    draw: (y) =>
      [
        sign && style ? legendSvg(sign, MARGIN + 12, y + SIZE - 4, style.tab.signs) : '',
        ...lines.map((line, row) => textSvg(left, y + SIZE + row * LEADING, line, { size: SIZE })),
      ].join('\n'),
  };
}

const ORDINALS = ['open string', 'first finger', 'second finger', 'third finger', 'fourth finger'] as const;

/** What lines, numbers and bars are, said of this phrase. */
function linesText(arrangement: Arrangement, facts: SheetFacts, style: SheetStyle): readonly string[] {
  const { instrument, tune } = arrangement;
  const count = instrument.strings.length;
  const called = instrument.strings.map((_, index) => calledString(facts, index));
  const [top, bottom] = style.tab.turned ? [called[0]!, called[count - 1]!] : [called[count - 1]!, called[0]!];
  const first = facts.notes.find(({ stops, grace }) => stops.length > 0 && !grace);
  const bar = tune.bars.find(({ events }) => events.some(({ id }) => id === first?.id)) ?? tune.bars[0];
  const withTab = style.lanes.includes('tab');
  const fingers = [...new Set(facts.notes.flatMap(({ stops }) => stops.map(({ finger }) => finger)))].sort(
    (a, b) => a - b,
  );
  return [
    withTab
      ? `Each line is a string. ${top} is on top, ${style.tab.turned ? 'as your left hand sees it' : 'the highest'}; ${bottom} is at the bottom.`
      : 'A number over the staff is the finger.',
    `A number is a finger: ${fingers.map((finger) => `${finger} the ${ORDINALS[finger]}`).join(', ')}.`,
    first
      ? `Here you begin: ${first.stops.map((stop) => stopText(stop, stringNames(instrument), style.names)).join(' with ')}. It sounds ${first.pitches.map((pitch) => noteName(pitch, style.names.notes)).join(' and ')}.`
      : '',
    bar
      ? `Upright lines part the bars. ${bar.metre.beats}/${bar.metre.unit}: each bar has ${Math.round(fullBeats(bar))} beats.`
      : '',
  ].filter(Boolean);
}
const fullBeats = ({ metre }: { readonly metre: { readonly beats: number; readonly unit: number } }) =>
  (metre.beats * (4 / metre.unit) * 3360) / beatLength(metre);

/** The first note on which a sign stands, told by bar and name; empty where it belongs to two notes. */
function placeOfSign(arrangement: Arrangement, facts: SheetFacts, sign: LegendSign, style: SheetStyle): string {
  const numbers = barNumbers(arrangement.tune.bars);
  const found = facts.notes.find((note) => signsOf(onlyOf(facts, note), printedLanes(style)).includes(sign));
  if (!found) return '';
  const bar = numbers[found.barIndex]!;
  const name = found.pitches.map((pitch) => noteName(pitch, style.names.notes)).join('+');
  return `here first on ${name} in ${bar === 0 ? 'the pickup' : `bar ${bar}`}`;
}

/** As if the phrase had this note alone. */
function onlyOf(facts: SheetFacts, note: DrawnNote): SheetFacts {
  const own = new Set(note.ids);
  const { strokes, marked, accents, regions } = facts.bowing;
  const bowing = {
    ...facts.bowing,
    strokes: strokes.filter(({ notes }) => notes[0] === note.id),
    marked: new Set([...marked].filter((id) => own.has(id))),
    accents: new Set([...accents].filter((id) => own.has(id))),
    regions: Object.fromEntries(Object.entries(regions).filter(([id]) => own.has(id))),
  };
  return {
    ...facts,
    notes: [note],
    bowing,
    signs: bowing,
    written: facts.written.filter(({ id }) => own.has(id)),
    phrases: [{ notes: [note.of] }],
  };
}
