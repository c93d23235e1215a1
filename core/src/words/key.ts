/** Keys in words: what speaks for one, what it asks. */
import type { KeyChoice, MemberPlace, NoPairEcho } from '../compare/index.ts';
import { fifths, type NoEcho, type Pitch } from '../music/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { pitchText } from './naming.ts';

const times = (count: number) => (count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);

/** @example signatureText({ key: keyOf({ letter: 'D', alter: 0 }, 'major'), accidentals: 2 }) // '2 sharps' */
export function signatureText({ key, accidentals }: Pick<KeyChoice, 'key' | 'accidentals'>): string {
  if (accidentals === 0) return 'no sharps or flats';
  return `${accidentals} ${fifths(key) < 0 ? 'flat' : 'sharp'}${accidentals === 1 ? '' : 's'}`;
}

/**
 * Which octave a key lies in, beside where the tune was brought in.
 * @example octaveText(-1) // 'an octave down'
 */
export function octaveText(octave: number): string {
  if (octave === 0) return 'as it is';
  const size = Math.abs(octave);
  return `${size === 1 ? 'an octave' : `${size} octaves`} ${octave > 0 ? 'up' : 'down'}`;
}

/**
 * What a teacher says of a key, the weightiest first.
 * @example keyReasons(finished(keyChoices(reel, FIRST_DECISIONS))[0])[0] // 'home note and fifth are open strings'
 */
export function keyReasons(choice: KeyChoice, called: Names = USUAL_NAMES): readonly string[] {
  const { openHome, openFifth, ringing, positions, highest, fourth, low1, high3, extensions, shifts, patternChanges } =
    choice;
  return [
    fallenText(choice, called),
    openHome && openFifth
      ? 'home note and fifth are open strings'
      : openHome
        ? 'the home note is an open string'
        : openFifth
          ? 'the fifth is an open string'
          : '',
    positions === 0 ? 'all in first position' : positionsText(positions, highest, shifts),
    `${Math.round(100 * ringing)} % of the notes ring`,
    fourth > 0 && `fourth finger ${times(fourth)}`,
    low1 > 0 && `first finger low ${times(low1)}`,
    high3 > 0 && `third finger high ${times(high3)}`,
    patternChanges > 0 && `a finger changes its place ${times(patternChanges)}`,
    extensions > 0 && `${extensions} ${extensions === 1 ? 'extension' : 'extensions'}`,
    signatureText(choice),
  ].filter((reason): reason is string => typeof reason === 'string' && reason !== '');
}

/**
 * The patterns of the fingers: which of them touch, and on which strings.
 * @param names of the strings, the lowest first
 * @example fingerPatternsText([{ string: 1, touching: [[2, 3]] }, { string: 2, touching: [[2, 3]] }], ['G', 'D', 'A', 'E']) // '2 and 3 touch on D and A'
 */
export function fingerPatternsText(touching: KeyChoice['touching'], names: readonly string[]): string {
  const strings = new Map<string, string[]>();
  for (const { string, touching: pairs } of touching)
    for (const pair of new Set(pairs.map((one) => one.join(' and '))))
      strings.set(pair, [...(strings.get(pair) ?? []), names[string] ?? '']);
  return [...strings].map(([pair, on]) => `${pair} touch on ${on.join(' and ')}`).join('; ');
}

/**
 * What a choice asks of the hand that another one, which the learner knows, does not; empty where nothing is new.
 * @example newInKey({ low1: 3, high3: 0, fourth: 0, extensions: 0, positions: 0, highest: 'I' }, { low1: 0, high3: 2, fourth: 0, extensions: 0, positions: 0, highest: 'I' }) // ['low first finger']
 */
export function newInKey(choice: Demands, known: Demands): readonly string[] {
  const asks = (name: 'low1' | 'high3' | 'fourth' | 'extensions') => choice[name] > 0 && known[name] === 0;
  return [
    asks('low1') && 'low first finger',
    asks('high3') && 'high third finger',
    asks('fourth') && 'fourth finger',
    asks('extensions') && 'extensions',
    choice.positions > 0 && choice.highest !== 'I' && known.highest !== choice.highest && `position ${choice.highest}`,
    choice.positions > 0 && choice.highest === 'I' && known.positions === 0 && 'half position',
  ].filter((text): text is string => typeof text === 'string');
}
type Demands = Pick<KeyChoice, 'low1' | 'high3' | 'fourth' | 'extensions' | 'positions' | 'highest'>;

/**
 * What a choice asks beside another one; empty where they cannot be compared.
 * @param called what the other one is
 * @example effortBeside({ fits: true, effort: 80 }, { fits: true, effort: 100 }) // '20 % easier than now'
 */
export function effortBeside(
  own: Pick<KeyChoice, 'fits' | 'effort'>,
  now: Pick<KeyChoice, 'fits' | 'effort'>,
  called = 'now',
): string {
  if (own === now || !own.fits || !now.fits || now.effort === 0) return '';
  const share = Math.round(100 * (own.effort / now.effort - 1));
  if (share === 0) return `as easy as ${called}`;
  if (share >= 100) return `${(own.effort / now.effort).toFixed(1)} times the effort of ${called}`;
  return share < 0 ? `${-share} % easier than ${called}` : `${share} % more effort than ${called}`;
}

function positionsText(positions: number, highest: string, shifts: number): string {
  const notes = `${positions} ${positions === 1 ? 'note' : 'notes'}`;
  if (highest === 'I') return `${notes} in half position`;
  return `${notes} beyond first position, up to ${highest}, ${shifts} ${shifts === 1 ? 'shift' : 'shifts'}`;
}

function fallenText({ fits, outOfRange }: KeyChoice, { notes }: Names): string {
  const [first] = outOfRange;
  if (fits) return '';
  if (!first) return 'a double stop cannot be played';
  const where = `${pitchText(first.pitch, notes)} in ${first.bar === 0 ? 'the pickup' : `bar ${first.bar}`}`;
  if (outOfRange.length === 1) return `one note falls off: ${where}`;
  return `${outOfRange.length} notes fall off, the first ${where}`;
}

/**
 * Why a phrase does not echo on the other pair of strings.
 * @example noEchoText({ why: 'no-pairs' }) // 'no two pairs of strings lie an octave apart'
 */
export function noEchoText(echo: NoPairEcho, { notes }: Names = USUAL_NAMES): string {
  if (echo.why === 'no-pairs') return 'no two pairs of strings lie an octave apart';
  if (echo.why === 'double-stop') return 'a double stop needs strings of both pairs';
  const named = (pitches: readonly Pitch[]) => {
    const ends = [pitches[0], pitches.at(-1)].flatMap((pitch) => (pitch ? [pitchText(pitch, notes)] : []));
    return pitches.length > 1 ? ends.join(' to ') : (ends[0] ?? '');
  };
  return `needs both pairs: ${named(echo.low)} lies below the upper one, ${named(echo.high)} above the lower one`;
}

const NO_ECHO: Readonly<Record<NoEcho, string>> = {
  uneven: 'an echo would leave a bar that does not add up',
  'repeat-inside': 'it runs over a repeat or into an ending',
  'held-over': 'a note is held over its edge',
};

/**
 * Why a phrase cannot be played once more at once.
 * @example noJoinText('held-over') // 'a note is held over its edge'
 */
export const noJoinText = (why: NoEcho): string => NO_ECHO[why];

/**
 * How much of the tune each member of a group keeps in a key, in their order.
 * @example keepsText([{ keeps: 1 }, { keeps: 0.78 }]) // 'keeps 100, 78 %'
 */
export function keepsText(places: readonly Pick<MemberPlace, 'keeps'>[]): string {
  if (places.every(({ keeps }) => keeps === 1)) return 'all as it is';
  // What is not all of it is never told as all of it.
  const percent = places.map(({ keeps }) => (keeps < 1 ? Math.min(99, Math.round(100 * keeps)) : 100));
  return `keeps ${percent.join(', ')} %`;
}

/**
 * What a member of a group plays in a key.
 * @example memberText({ choice: { fits: true }, beyond: 0, simpler: false }, 2) // 'the tune as it is'
 */
export function memberText(
  {
    choice: { fits },
    beyond,
    simpler,
  }: { readonly choice: Pick<KeyChoice, 'fits'> } & Omit<MemberPlace, 'choice' | 'keeps'>,
  grade: number | null,
): string {
  if (!simpler) return 'the tune as it is';
  const why = fits ? `${beyond} ${beyond === 1 ? 'place is' : 'places are'} beyond it` : 'notes fall off';
  return grade === null ? why : `a version for grade ${grade}: ${why}`;
}
