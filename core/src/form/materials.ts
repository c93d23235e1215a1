/** Bars beside bars: which hold the same, which only resemble each other. */
import { barLength, isNote, isPickup, type Ticks } from '../music/index.ts';
import type { Layout } from './layout.ts';
import type { BarMaterial } from './model.ts';
import type { Reading, Sound } from './reading.ts';

/** Looks back no further among bars of one rhythm: what resembles everything tells nothing. */
const MOST_COMPARED = 60;

/** @param ids ids of the phrases, in the order of the layout */
export function materialsOf(reading: Reading, layout: Layout, ids: readonly string[]): readonly BarMaterial[] {
  const { bars, starts, sounds, firstSound, numbers } = reading;
  const firstOf = new Map<string, number>();
  const byRhythm = new Map<string, number[]>();
  let phrase = 0;
  const holding: (readonly Sound[])[] = [];
  return bars.map((bar, index): BarMaterial => {
    const start = starts[index]!;
    while (phrase + 1 < layout.length && layout[phrase + 1]!.from <= start) phrase += 1;
    const { to } = layout[phrase]!;
    // The next phrase's pickup is no part of this bar.
    const own = sounds.slice(firstSound[index], firstSound[index + 1]).filter(({ onset }) => onset < to);
    holding.push(own);
    const ends =
      own.length > 0 && sounds[firstSound[index]! + own.length]?.onset !== undefined && endsWith(own, sounds, to);
    const content = `${bar.length}|${textOf(own, ends || index === bars.length - 1)}`;
    const known = firstOf.get(content);
    // A bar through which a note is only held is a bar to learn too.
    const sings = bar.events.some((event) => isNote(event)) && start < to;
    const counts = sings && !isPickup(bars, index) && 2 * bar.length > barLength(bar.metre);
    const material = known ?? index;
    if (known === undefined) firstOf.set(content, index);
    const rhythm = `${bar.length}|${own.map(({ place }) => place).join(' ')}`;
    const earlier = byRhythm.get(rhythm) ?? [];
    const like = known === undefined && counts && own.length > 0 ? resemblance(own, earlier, holding) : null;
    if (known === undefined && counts && own.length > 0) byRhythm.set(rhythm, [...earlier, index]);
    return { number: numbers[index]!, material, phrase: ids[phrase]!, counts, like };
  });
}

/** The last of these is the last of its phrase: how long it is held says nothing. */
function endsWith(own: readonly Sound[], sounds: readonly Sound[], to: Ticks): boolean {
  const next = sounds[sounds.indexOf(own.at(-1)!) + 1];
  return next === undefined || next.onset >= to;
}

function textOf(sounds: readonly Sound[], ends: boolean): string {
  const last = sounds.length - 1;
  return sounds
    .map(
      ({ place, duration, pitches }, index) =>
        `${place}:${ends && index === last ? '' : duration}:${pitches.join('+')}`,
    )
    .join(' ');
}

function resemblance(
  own: readonly Sound[],
  earlier: readonly number[],
  holding: readonly (readonly Sound[])[],
): BarMaterial['like'] {
  let rhythm: BarMaterial['like'] = null;
  let moved: BarMaterial['like'] = null;
  for (const bar of earlier.slice(0, MOST_COMPARED)) {
    const other = holding[bar]!;
    const semitones = own[0]!.top - other[0]!.top;
    const steps = own[0]!.step - other[0]!.step;
    const exact = own.every((sound, index) => sound.top - other[index]!.top === semitones);
    if (exact && semitones !== 0 && semitones % 12 === 0) return { bar, how: 'octave' };
    const inScale = own.length > 1 && own.every((sound, index) => sound.step - other[index]!.step === steps);
    if (inScale && steps !== 0) moved ??= { bar, how: 'transposed' };
    // Even notes are no rhythm to know again.
    const told = new Set(own.map(({ duration }) => duration)).size > 1 && own.length > 2;
    if (told && own.every((sound, index) => index === own.length - 1 || sound.duration === other[index]!.duration)) {
      rhythm ??= { bar, how: 'same-rhythm' };
    }
  }
  return moved ?? rhythm;
}
