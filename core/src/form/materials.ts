/** Bars beside bars: which hold the same, which only resemble each other. */
import { barLength, isNote, isPickup, type Bar } from '../music/index.ts';
import type { Layout } from './layout.ts';
import type { BarMaterial, Relation } from './model.ts';
import { leadsBackFrom, type Reading, type Sound } from './reading.ts';

/**
 * @param ids ids of the phrases, in the order of the layout
 * @param relations theirs: what is the same as an earlier phrase holds nothing new
 */
export function materialsOf(
  reading: Reading,
  layout: Layout,
  ids: readonly string[],
  relations: readonly Relation[],
): readonly BarMaterial[] {
  const { bars, starts, sounds, firstSound, numbers } = reading;
  const firstOf = new Map<string, number>();
  const resembling = new Resembling();
  const barsOf = new Map<string, number[]>();
  let phrase = 0;
  return bars.map((bar, index): BarMaterial => {
    const start = starts[index]!;
    while (phrase + 1 < layout.length && layout[phrase + 1]!.from <= start) phrase += 1;
    const { to } = layout[phrase]!;
    // The next phrase's pickup is no part of this bar, nor is what leads back to the beginning.
    const end = Math.min(to, leadsBackFrom(reading, index));
    const from = firstSound[index]!;
    const own = sounds.slice(from, firstSound[index + 1]).filter(({ onset }) => onset < end);
    const next = sounds[from + own.length];
    const ends = own.length > 0 && (next === undefined || next.onset >= end);
    const content = `${barLength(bar.metre)}|${own.length > 0 ? textOf(own, ends) : heldText(reading, index)}`;
    const counts = isCounted(bars, index) && start < to;
    const id = ids[phrase]!;
    const known = (counts ? sameBar(barsOf, relations[phrase]!, id) : undefined) ?? firstOf.get(content);
    if (known === undefined) firstOf.set(content, index);
    if (counts) barsOf.set(id, [...(barsOf.get(id) ?? []), known ?? index]);
    const like = known === undefined && counts && own.length > 0 ? resembling.find(index, own) : null;
    return { number: numbers[index]!, material: known ?? index, phrase: id, counts, like };
  });
}

/** Full enough to be learned as a bar. One through which a note is only held is a bar to learn too. */
function isCounted(bars: readonly Bar[], index: number): boolean {
  const bar = bars[index]!;
  const sings = bar.events.some((event) => isNote(event));
  return sings && !isPickup(bars, index) && 2 * bar.length > barLength(bar.metre);
}

/** In a phrase that is the same as an earlier one, the material of the bar that stands at the same place there. */
function sameBar(barsOf: ReadonlyMap<string, readonly number[]>, { kind, of }: Relation, phrase: string) {
  return kind === 'same' && of !== null ? barsOf.get(of)?.[barsOf.get(phrase)?.length ?? 0] : undefined;
}

/** What a bar holds in which no note begins. */
function heldText({ sounds, firstSound, starts }: Reading, bar: number): string {
  const before = sounds[firstSound[bar]! - 1];
  const held = before && before.onset + before.duration > starts[bar]!;
  return held ? `held ${before.pitches.join('+')}` : '';
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

/** Bars that move like an earlier one: the same an octave away, on other steps, or in its rhythm alone. */
class Resembling {
  readonly #exact = new Map<string, { bar: number; top: number }[]>();
  readonly #steps = new Map<string, { bar: number; step: number }>();
  readonly #rhythms = new Map<string, number>();

  find(bar: number, own: readonly Sound[]): BarMaterial['like'] {
    const [first] = own;
    const exact = own.map(({ place, top }) => `${place}:${top - first!.top}`).join(' ');
    const steps = own.map(({ place, step }) => `${place}:${step - first!.step}`).join(' ');
    // The last note only makes room for what comes after.
    const rhythm = own.map(({ place, duration }, at) => `${place}:${at === own.length - 1 ? '' : duration}`).join(' ');
    const alike = this.#exact.get(exact) ?? [];
    const octave = alike.find(({ top }) => top !== first!.top && (top - first!.top) % 12 === 0);
    const moved = own.length > 1 ? this.#steps.get(steps) : undefined;
    const even = own.every(({ duration, place }) => duration === first!.duration && place % duration === 0);
    // Even notes on their beats are no rhythm to know again.
    const told = even || own.length < 3 ? undefined : this.#rhythms.get(rhythm);
    if (alike.length < MOST_ALIKE) this.#exact.set(exact, [...alike, { bar, top: first!.top }]);
    if (!this.#steps.has(steps)) this.#steps.set(steps, { bar, step: first!.step });
    if (!this.#rhythms.has(rhythm)) this.#rhythms.set(rhythm, bar);
    if (octave) return { bar: octave.bar, how: 'octave' };
    if (moved && moved.step !== first!.step) return { bar: moved.bar, how: 'transposed' };
    return told === undefined ? null : { bar: told, how: 'same-rhythm' };
  }
}
/** What resembles everything tells nothing. */
const MOST_ALIKE = 40;
