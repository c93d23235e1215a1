/** The signs that a sheet really uses, each with its meaning. */
import type { Bowing } from '../bow/index.ts';
import type { Phrase } from '../form/index.ts';
import { isAcross, type Fingering } from '../hand/index.ts';

export type LegendSign =
  | 'down'
  | 'up'
  | 'slur'
  | 'retake'
  | 'open'
  | 'low'
  | 'high'
  | 'extended'
  | 'back'
  | 'harmonic'
  | 'position'
  | 'shift'
  | 'block'
  | 'hop'
  | 'slide'
  | 'hold'
  | 'locked';

export interface LegendEntry {
  readonly sign: LegendSign;
  readonly text: string;
}

const TEXT: Readonly<Record<LegendSign, string>> = {
  down: 'down bow',
  up: 'up bow',
  slur: 'on one bow',
  retake: 'lift and start again',
  open: 'open string',
  low: 'low finger',
  high: 'high finger',
  extended: 'finger reaches up',
  back: 'first finger reaches back',
  harmonic: 'only touch: the octave',
  position: 'where the hand is',
  shift: 'the hand moves',
  block: 'one finger, two strings',
  hop: 'the finger jumps',
  slide: 'slide into it',
  hold: 'finger stays down',
  locked: 'set by your teacher',
};

/**
 * In a fixed order, only what is used.
 * @param phrases what stands on a line of its own: signs between two notes are drawn only within one
 */
export function legendOf(
  fingering: Fingering,
  bowing: Bowing,
  phrases: readonly Pick<Phrase, 'notes'>[],
): readonly LegendEntry[] {
  const lines = phrases.map(({ notes }) => {
    const own = new Set(notes);
    return fingering.notes.filter(({ id }) => own.has(id.replace(/g\d+$/, '')));
  });
  const stops = fingering.notes.flatMap((note) => note.stops);
  const used: Readonly<Record<LegendSign, boolean>> = {
    down: bowing.strokes.some(({ direction }) => direction === 'down'),
    up: bowing.strokes.some(({ direction }) => direction === 'up'),
    slur: bowing.strokes.some(({ notes }) => notes.length > 1),
    retake: bowing.strokes.some(({ retake }) => retake),
    open: stops.some(({ finger }) => finger === 0),
    low: stops.some(({ sign }) => sign === 'low'),
    high: stops.some(({ sign }) => sign === 'high'),
    extended: stops.some(({ sign, finger }) => sign === 'extended' && finger !== 1),
    back: stops.some(({ sign, finger }) => sign === 'extended' && finger === 1),
    harmonic: stops.some(({ sign }) => sign === 'harmonic'),
    position: stops.length > 0,
    shift: fingering.notes.some(({ shift }) => shift !== null),
    block: lines.some((line) => line.some((note, index) => isAcross(note, line[index - 1]))),
    hop: lines.some((line) => line.slice(1).some(({ hop }) => hop)),
    slide: fingering.notes.some(({ glide }) => glide !== null),
    hold: lines.some((line) => line.some(({ hold }) => hold !== null && line.some(({ id }) => id === hold))),
    locked: fingering.notes.some(({ locked }) => locked),
  };
  return (Object.keys(used) as LegendSign[]).filter((sign) => used[sign]).map((sign) => ({ sign, text: TEXT[sign] }));
}
