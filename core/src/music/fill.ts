/** Whether bars add up, and how much they lack. */
import { TICKS_PER_WHOLE, barLength, type Ticks } from './time.ts';
import { isPickup, type Bar } from './tune.ts';

/**
 * A bar is right if it is full, leads in, or makes up for another that is short.
 * @example fillsBar(reel.bars, 0) // true
 */
export function fillsBar(bars: readonly Bar[], index: number): boolean {
  const bar = bars[index]!;
  return bar.length === barLength(bar.metre) || isPickup(bars, index) || completesBar(bars, index);
}

/**
 * "an eighth too long for 6/8".
 * @example misfitText(tuneOf('A2 B2 |').bars[0]) // 'a half too short for 4/4'
 */
export function misfitText(bar: Bar): string {
  const difference = bar.length - barLength(bar.metre);
  return `${amountText(Math.abs(difference))} too ${difference > 0 ? 'long' : 'short'} for ${bar.metre.beats}/${bar.metre.unit}`;
}

/**
 * A short bar is right where it makes up for another: before a repeat that a pickup opened, at the end
 * of a part, or on the other side of a repeat sign or double bar that splits a bar in two.
 */
function completesBar(bars: readonly Bar[], index: number): boolean {
  const bar = bars[index]!;
  const full = barLength(bar.metre);
  if (bar.length > full) return false;
  const next = bars[index + 1];
  const endsSection =
    !next ||
    bar.repeatEnd ||
    bar.endingStop ||
    bar.barline === 'double' ||
    bar.barline === 'final' ||
    next.repeatStart ||
    next.label !== undefined;
  const sharesWith = (other: Bar | undefined) => other !== undefined && bar.length + other.length === full;
  const before = bars[index - 1];
  if (next && sharesWith(next) && boundary(bar, next)) return true;
  if (before && sharesWith(before) && boundary(before, bar)) return true;
  return Boolean(endsSection) && (firstPickups(bars).get(full - bar.length) ?? Infinity) <= index + 1;
}

/** For each length the first bar that leads in with it. */
function firstPickups(bars: readonly Bar[]): ReadonlyMap<Ticks, number> {
  const known = pickups.get(bars);
  if (known) return known;
  const found = new Map<Ticks, number>();
  bars.forEach(({ length }, index) => {
    if (isPickup(bars, index) && !found.has(length)) found.set(length, index);
  });
  pickups.set(bars, found);
  return found;
}
/** Every bar of a tune is asked about: its pickups are looked for once. */
const pickups = new WeakMap<readonly Bar[], ReadonlyMap<Ticks, number>>();

/** Something of the form begins or ends between two bars. */
function boundary(before: Bar, after: Bar): boolean {
  const ends = before.repeatEnd !== undefined || before.endingStop === true || before.barline !== 'single';
  return ends || after.repeatStart === true || after.label !== undefined || after.endings !== undefined;
}

/**
 * "an eighth", "3 sixteenths": a length in the largest note value that counts it whole.
 * @example amountText(3360) // 'a quarter'
 */
export function amountText(length: Ticks): string {
  const names = ['whole note', 'half', 'quarter', 'eighth', 'sixteenth', '32nd', '64th'] as const;
  const power = names.findIndex((_, index) => length % (TICKS_PER_WHOLE / 2 ** index) === 0);
  if (power < 0) return 'a little';
  const count = length / (TICKS_PER_WHOLE / 2 ** power);
  if (count > 1) return `${count} ${names[power]}${power === 1 ? '' : 's'}`.replace('half', 'halves');
  return `${names[power] === 'eighth' ? 'an' : 'a'} ${names[power]}`;
}
