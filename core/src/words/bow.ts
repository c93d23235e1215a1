/** The bow in words. */
import { STICKS_OUT, type BowFlag, type BowSchool, type Stroke, type Travel, type Travelling } from '../bow/index.ts';
import type { BowMark } from '../music/index.ts';

/**
 * A warning about a phrase's bow.
 * @example flagText({ kind: 'turns-from-before', note: 'n9', label: 'A2', starts: 'up', other: 'A1', otherStarts: 'down' }) // 'A2 starts up; A1, which is the same, started down.'
 */
export function flagText(flag: BowFlag): string {
  if (flag.kind === 'not-down') return 'This first beat comes up, and nothing near it turns the bow.';
  const { kind, label, starts, other, otherStarts } = flag;
  return kind === 'turns-on-repeat'
    ? `${label} starts ${starts} the first time and ${otherStarts} when it comes round again.`
    : `${label} starts ${starts}; ${other}, which is the same, started ${otherStarts}.`;
}

/**
 * The same, as short as it stands on a strip.
 * @example shortFlagText({ kind: 'turns-on-repeat' }) // 'other bow on the repeat'
 */
export function shortFlagText({ kind }: Pick<BowFlag, 'kind'>): string {
  if (kind === 'not-down') return 'first beat up';
  return kind === 'turns-on-repeat' ? 'other bow on the repeat' : 'other bow than before';
}

/** @example bowName('down') // 'down-bow' */
export const bowName = (direction: BowMark): string => (direction === 'down' ? 'down-bow' : 'up-bow');

/**
 * A school by its name, and what it means.
 * @example schoolText('as-it-comes').name // 'As it comes'
 */
export function schoolText(school: BowSchool): { readonly name: string; readonly means: string } {
  return school === 'as-it-comes'
    ? { name: 'As it comes', means: 'To and fro, whatever happens' }
    : { name: 'Down on the beat', means: 'Each bar begins down: by a slur, a stop or a lift before it' };
}

/** @example strokeText({ direction: 'down', notes: ['n1', 'n2'], retake: false, hook: false }) // 'Down-bow, two notes.' */
export function strokeText({
  direction,
  notes,
  retake,
  hook,
}: Pick<Stroke, 'direction' | 'notes' | 'retake' | 'hook'>): string {
  const name = direction === 'down' ? 'Down-bow' : 'Up-bow';
  const how = retake ? ', after a lift' : hook ? ', after a stop' : '';
  return `${name}${how}, ${countOf(notes.length, 'note')}.`;
}

const WORDS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const countOf = (count: number, thing: string) => `${WORDS[count] ?? count} ${thing}${count === 1 ? '' : 's'}`;

const millimetres = (length: number) => `${Math.round(length)} mm`;

/**
 * Where a stroke lies on the hair, and how it differs from a natural one.
 * @example travelText({ start: 100, end: 260, length: 160, natural: 160, strain: 1 }) // 'From 100 mm to 260 mm, its natural length.'
 */
export function travelText({
  start,
  end,
  natural,
  strain,
}: Pick<Travel, 'start' | 'end' | 'length' | 'natural' | 'strain'>): string {
  const places = `From ${millimetres(start)} to ${millimetres(end)}`;
  if (strain > STICKS_OUT) return `${places}: faster than is natural (${millimetres(natural)}); it will stick out.`;
  if (strain < 1 / STICKS_OUT) return `${places}: slower than is natural (${millimetres(natural)}); save bow.`;
  return `${places}, ${Math.abs(strain - 1) < 0.1 ? 'its natural length' : `naturally ${millimetres(natural)}`}.`;
}

/**
 * What becomes of the bow over the tune.
 * @example hairText({ hair: 650, strokes: [], regions: new Map(), flags: [] }) // 'The bow stays on its 650 mm of hair by itself.'
 */
export function hairText({ hair, flags }: Travelling): string {
  const out = flags.filter(({ kind }) => kind === 'out-of-bow').length;
  const strained = flags.filter(({ kind }) => kind === 'sticks-out').length;
  const first = `The bow ${out === 0 ? 'stays on' : 'runs off'} its ${hair} mm of hair ${out === 0 ? 'by itself' : 'if nothing is done'}.`;
  return strained === 0
    ? first
    : `${first} In the plan ${countOf(strained, 'stroke')} stick${strained === 1 ? 's' : ''} out.`;
}
