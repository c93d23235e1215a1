/**
 * A small fingerboard, seen from the front, the nut on top: just the notes of a phrase, at the places where the string
 * is stopped, over the tapes. Section 3 of the domain, "position of semitone n".
 */
import type { HandId, Instrument } from '../instrument/index.ts';
import { stopDistance } from '../instrument/index.ts';
import { TAPE_COLOURS, type SheetStyle, type Tape } from '../paper/index.ts';
import { calledString, stringLine } from './lanes/tab.ts';
import type { DrawnNote, PhraseFacts } from './lanes/index.ts';
import type { Points } from './paperPage.ts';
import { fingerSign } from './signs.ts';
import { INK, lineSvg, shapeSvg, textSvg } from './svg.ts';

/** Width that it takes beside a phrase, with the room before it. */
export const BOARD_WIDTH: Points = 78;
const STRINGS_WIDTH = 44;
const LEFT = 18;
const TOP = 17;
/** A learner's instrument has tapes where the fingers of first position lie at home. */
const USUAL_TAPES: Readonly<Record<HandId, readonly number[]>> = {
  violin: [2, 4, 5, 7],
  viola: [2, 4, 5, 7],
  cello: [2, 4, 5, 7],
  bass: [2, 4],
};
/** At least so far up the strings it goes. */
const SHOWN = 7;
/** Height of a place's number beside its neighbours a semitone away. */
const SIZE = 0.62;

/** @example tapesOf({ tapes: null }, INSTRUMENT.bass).map(({ semitones }) => semitones) // [2, 4] */
export const tapesOf = ({ tapes }: Pick<SheetStyle, 'tapes'>, { hand }: Pick<Instrument, 'hand'>): readonly Tape[] =>
  tapes ??
  USUAL_TAPES[hand].map((semitones, index) => ({ semitones, colour: TAPE_COLOURS[index % TAPE_COLOURS.length]! }));

interface Place {
  readonly string: number;
  readonly semitones: number;
  readonly stop: DrawnNote['stops'][number];
}

/** Each place that a phrase uses, once. */
function placesOf(notes: readonly DrawnNote[]): readonly Place[] {
  const found = new Map<string, Place>();
  for (const { stops } of notes)
    for (const stop of stops)
      if (!found.has(`${stop.string} ${stop.semitones}`))
        found.set(`${stop.string} ${stop.semitones}`, { string: stop.string, semitones: stop.semitones, stop });
  return [...found.values()];
}

/**
 * @param facts of the phrase
 * @param height that there is for it
 * @returns SVG, its left upper corner at (0, 0)
 */
export function fingerboardSvg(
  facts: Pick<PhraseFacts, 'instrument' | 'notes' | 'sounds' | 'tab' | 'names'>,
  style: Pick<SheetStyle, 'tapes' | 'tab'>,
  height: Points,
): string {
  const { instrument, notes, tab } = facts;
  const places = placesOf(notes);
  const tapes = tapesOf(style, instrument);
  const last = Math.max(SHOWN, ...places.map(({ semitones }) => semitones)) + 0.8;
  const length = height - TOP - 4;
  const y = (semitones: number) =>
    TOP + (length * stopDistance(instrument.length, semitones)) / stopDistance(instrument.length, last);
  const count = instrument.strings.length;
  const x = (string: number) => LEFT + (STRINGS_WIDTH * string) / (count - 1);
  return [
    lineSvg([LEFT - 5, TOP], [LEFT + STRINGS_WIDTH + 5, TOP], { width: 2.4 }),
    ...tapes
      .filter(({ semitones }) => semitones < last)
      .map(({ semitones, colour }) =>
        lineSvg([LEFT - 5, y(semitones)], [LEFT + STRINGS_WIDTH + 5, y(semitones)], { colour, width: 3 }),
      ),
    ...instrument.strings.map(({ name }, index) =>
      lineSvg([x(index), TOP], [x(index), y(last)], {
        ...(tab.strings[name] && { colour: tab.strings[name] }),
        width: stringLine(index).width * 0.7,
      }),
    ),
    ...instrument.strings.map((_, index) =>
      textSvg(x(index), 6, calledString(facts, index), {
        size: count > 4 ? 5.5 : 6.5,
        anchor: 'middle',
        weight: 'bold',
      }),
    ),
    ...places.map(({ string, semitones, stop }) => {
      const at = semitones === 0 ? TOP - 5.2 : y(semitones);
      if (semitones === 0)
        return `<circle cx="${x(string).toFixed(1)}" cy="${at.toFixed(1)}" r="2.6" fill="#ffffff" stroke="${INK}" stroke-width="0.9"/>`;
      const sign = fingerSign(stop, 0, 0, { signs: tab.signs }).map(shapeSvg).join('');
      return `<circle cx="${x(string).toFixed(1)}" cy="${at.toFixed(1)}" r="6" fill="#ffffff" stroke="${INK}" stroke-width="0.7"/><g transform="translate(${x(string).toFixed(1)} ${at.toFixed(1)}) scale(${SIZE})">${sign}</g>`;
    }),
  ].join('');
}
