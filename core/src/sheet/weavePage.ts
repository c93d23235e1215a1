/**
 * The weave: the tune as a map, a row for each phrase and a field for each bar. Bars that have to be learned are dark;
 * those that come again say of which bar.
 */
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf, relationInTune, type BarMaterial, type Phrase, type PlanItem } from '../form/index.ts';
import type { SheetStyle } from '../paper/index.ts';
import { relationText } from '../words/index.ts';
import { pageHead } from './pageHead.ts';
import { LABEL, MARGIN, SOFT, pageSize, type Block, type Contents, type Points } from './paperPage.ts';
import { INK, textSvg } from './svg.ts';

/** A bar's field is as wide as the longest phrase leaves room for. */
const FIELD = { most: 92, least: 40, height: 40, gap: 7 } as const;
/** Left of the fields stands the phrase's name, above them what it is like. */
const LEFT: Points = MARGIN + 2 * LABEL;
const NOTE: Points = 12;
const ROW: Points = 16;
const SHADE = '#d8d0c4';

type NumberedBar = BarMaterial & { readonly index: number };

export function weaveContents({ form, tune }: Arrangement, style: SheetStyle): Contents {
  const { width } = pageSize(style);
  const { newBars, totalBars, steps } = form.learn;
  const phrases = phrasesOf(form);
  const labels = new Map(phrases.map(({ id, label }) => [id, label]));
  const bars = form.bars.map((bar, index): NumberedBar => ({ ...bar, index }));
  const rows = phrases.map((phrase) => ({ phrase, own: bars.filter((bar) => bar.phrase === phrase.id) }));
  const room = width - MARGIN - LEFT;
  const most = Math.max(1, ...rows.map(({ own }) => own.length));
  const fieldWidth = Math.max(FIELD.least, Math.min(FIELD.most, room / most - FIELD.gap));
  const title = newBars < totalBars ? `Learn ${newBars} bars, play ${totalBars}` : `All ${totalBars} bars are new`;
  const key = 'Dark: new.  Shaded: new, but like a bar you know.  Dashed: you know it already.';
  return {
    head: pageHead({ title: `${tune.title}: the weave`, facts: title, more: key }, width),
    blocks: [
      ...rows.map(({ phrase, own }) =>
        phraseRow(phrase, relationText(relationInTune(tune, phrase), labels.get(phrase.relation.of ?? '') ?? ''), {
          own,
          all: bars,
          width: fieldWidth,
          across: Math.max(1, Math.floor(room / (fieldWidth + FIELD.gap))),
        }),
      ),
      stepsBlock(steps, labels, totalBars, width),
    ],
  };
}

interface Fields {
  readonly own: readonly NumberedBar[];
  readonly all: readonly BarMaterial[];
  readonly width: Points;
  /** So many in a row. */
  readonly across: number;
}

function phraseRow({ label }: Phrase, said: string, { own, all, width, across }: Fields): Block {
  const lines = Math.max(1, Math.ceil(own.length / across));
  const top = said ? NOTE : 0;
  return {
    height: top + lines * (FIELD.height + FIELD.gap) - FIELD.gap,
    draw: (y) =>
      [
        textSvg(MARGIN, y + top + FIELD.height / 2 + 4, label, { size: 13, weight: 'bold', colour: '#9a4a1c' }),
        said ? textSvg(LEFT, y + 7, said, { size: 8.5, colour: SOFT }) : '',
        ...own.map((bar, at) => {
          const x = LEFT + (at % across) * (width + FIELD.gap);
          return field(bar, all, x, y + top + Math.floor(at / across) * (FIELD.height + FIELD.gap), width);
        }),
      ].join('\n'),
  };
}

/** What a bar is like that is new and not quite. */
function likeText({ how }: NonNullable<BarMaterial['like']>, known: number): string {
  switch (how) {
    case 'octave':
      return `${known}, an octave off`;
    case 'transposed':
      return `${known}, moved`;
    case 'same-rhythm':
      return `rhythm of ${known}`;
  }
}

/** A bar: dark with its number where it is new, shaded where it is like another, else light with the bar that it repeats. */
function field(
  { number, material, index, like, counts }: NumberedBar,
  all: readonly BarMaterial[],
  x: Points,
  y: Points,
  width: Points,
): string {
  const box = (fill: string, more = '') =>
    `<rect x="${x.toFixed(1)}" y="${y.toFixed(1)}" width="${width.toFixed(1)}" height="${FIELD.height}" rx="7" fill="${fill}" stroke="${INK}" stroke-width="0.8"${more}/>`;
  const middle = x + width / 2;
  const called = (colour: string, row: number) =>
    textSvg(middle, y + row, number === 0 ? 'pickup' : String(number), {
      size: number === 0 ? 9 : 14,
      weight: 'bold',
      anchor: 'middle',
      colour,
    });
  const under = (text: string) => textSvg(middle, y + 32, text, { size: 7.5, anchor: 'middle' });
  if (material !== index)
    return box('#ffffff', ' stroke-dasharray="3 2"') + called(INK, 19) + under(`as ${all[material]!.number}`);
  if (!counts) return box('#ffffff', ' stroke-dasharray="3 2"') + called(SOFT, 24);
  const known = like ? all[like.bar] : undefined;
  if (like && known) return box(SHADE) + called(INK, 19) + under(likeText(like, known.number));
  return box(INK) + called('#ffffff', 25);
}

/** In which order, and how much of the tune each step gives. */
function stepsBlock(
  steps: readonly PlanItem[],
  labels: ReadonlyMap<string, string>,
  totalBars: number,
  width: Points,
): Block {
  const told = steps.filter(({ newBars, covers }) => newBars > 0 || covers > 0);
  let sounds = 0;
  const lines = told.map(({ phrase, newBars, covers }, index) => {
    sounds += covers;
    const fresh = newBars === 0 ? 'nothing new' : newBars === 1 ? '1 new bar' : `${newBars} new bars`;
    return `${index + 1}.  ${labels.get(phrase) ?? ''}: ${fresh}; then you play ${Math.min(sounds, totalBars)} of ${totalBars}.`;
  });
  return {
    height: 20 + lines.length * ROW,
    draw: (y) =>
      [
        `<line x1="${MARGIN}" y1="${y}" x2="${width - MARGIN}" y2="${y}" stroke="${SOFT}" stroke-width="0.5"/>`,
        ...lines.map((line, row) => textSvg(MARGIN, y + 20 + row * ROW, line, { size: 11.5 })),
      ].join('\n'),
  };
}
