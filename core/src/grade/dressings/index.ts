/** The dressings, in the order in which they are thought of; each in a file of its own. */
import { arpeggio } from './arpeggio.ts';
import { cut } from './cut.ts';
import { doubleStop } from './doubleStop.ts';
import { drone } from './drone.ts';
import { STYLES, type StyleName, type Usual } from './dressing.ts';
import { filled } from './filled.ts';
import { hammerOn } from './hammerOn.ts';
import { roll } from './roll.ts';
import { shuffle } from './shuffle.ts';
import { slide } from './slide.ts';
import { triplet } from './triplet.ts';
import { varied } from './varied.ts';

export { shuffle, shuffled } from './shuffle.ts';
export type { Spot } from './dressing.ts';

/** Those of single notes. */
export const NOTE_DRESSINGS = [
  filled,
  varied,
  drone,
  doubleStop,
  slide,
  cut,
  triplet,
  arpeggio,
  hammerOn,
  roll,
] as const;

/** What can be added, by id. */
export const DRESSINGS = [...NOTE_DRESSINGS.map(({ id }) => id), shuffle.id] as const;
export type DressingId = (typeof NOTE_DRESSINGS)[number]['id'] | (typeof shuffle)['id'];

/** How usual something is in a tune's style, 0 to 1. */
export function usualIn(usual: Usual, style: string | null | undefined): number {
  const known = (Object.keys(STYLES) as StyleName[]).find((name) => STYLES[name].test(style ?? ''));
  return usual[known ?? 'other'];
}
