/** What is left to learn: the fewest bars that make the whole tune, and orders to learn them in. */
import { playedOrder, type Tune } from '../music/index.ts';
import type { BarMaterial, LearningPlan, Phrase, PlanItem } from './model.ts';

export function planOf(tune: Tune, phrases: readonly Phrase[], bars: readonly BarMaterial[]): LearningPlan {
  const played = tune.bars.map(() => 0);
  for (const { index } of playedOrder(tune.bars)) played[index]! += 1;
  const materials = phrases.map(
    ({ id }) => new Set(bars.filter(({ phrase, counts }) => phrase === id && counts).map(({ material }) => material)),
  );
  const soundsFor = new Map<number, number>();
  bars.forEach(({ material, counts }, index) => {
    if (counts) soundsFor.set(material, (soundsFor.get(material) ?? 0) + played[index]!);
  });
  const sum = (list: Iterable<number>) =>
    [...list].reduce((total, material) => total + (soundsFor.get(material) ?? 0), 0);
  const totalBars = sum(soundsFor.keys());
  const newBars = soundsFor.size;
  const inOrder = phrases.filter(({ relation }) => relation.kind !== 'same').map(({ id }) => id);
  const indexOf = new Map(phrases.map(({ id }, index) => [id, index]));
  const own = ownOrder(tune, phrases, inOrder);
  const stepsOf = (ids: readonly string[]): readonly PlanItem[] => {
    const known = new Set<number>();
    return ids.map((id) => {
      const fresh = [...materials[indexOf.get(id)!]!].filter((material) => !known.has(material));
      for (const material of fresh) known.add(material);
      return { phrase: id, newBars: fresh.length, covers: sum(fresh) };
    });
  };
  return {
    newBars,
    totalBars,
    share: totalBars > 0 ? Math.round((1000 * newBars) / totalBars) / 1000 : 0,
    inOrder,
    mostTuneFirst: mostTuneFirst(phrases, materials, sum),
    own,
    steps: stepsOf(own ?? inOrder),
  };
}

/** The teacher's order, with whatever it does not know of behind it. */
function ownOrder(tune: Tune, phrases: readonly Phrase[], inOrder: readonly string[]): readonly string[] | null {
  const order = tune.parting?.order ?? [];
  if (order.length === 0) return null;
  const placed = order.flatMap((note) => phrases.find(({ notes }) => notes.includes(note))?.id ?? []);
  return [...new Set([...placed, ...inOrder])].filter((id) => inOrder.includes(id));
}

/** Greedy cover: at each step the phrase that brings the most sounding bars for each bar to be learned. */
function mostTuneFirst(
  phrases: readonly Phrase[],
  materials: readonly ReadonlySet<number>[],
  sum: (list: Iterable<number>) => number,
): readonly string[] {
  const known = new Set<number>();
  const left = new Set(phrases.keys());
  const order: string[] = [];
  for (;;) {
    let best: { index: number; gain: number; fresh: readonly number[] } | null = null;
    for (const index of left) {
      const fresh = [...materials[index]!].filter((material) => !known.has(material));
      const gain = fresh.length === 0 ? 0 : sum(fresh) / fresh.length;
      if (gain > (best?.gain ?? 0)) best = { index, gain, fresh };
      // What brings nothing now never will.
      if (fresh.length === 0) left.delete(index);
    }
    if (!best) return order;
    order.push(phrases[best.index]!.id);
    left.delete(best.index);
    for (const material of best.fresh) known.add(material);
  }
}
