/** What is left to learn: the fewest bars that make the whole tune, and orders to learn them in. */
import { playedOrder, type Tune } from '../music/index.ts';
import type { BarMaterial, LearningPlan, Phrase, PlanItem } from './model.ts';

export function planOf(tune: Tune, phrases: readonly Phrase[], bars: readonly BarMaterial[]): LearningPlan {
  const played = tune.bars.map(() => 0);
  for (const { index } of playedOrder(tune.bars)) played[index]! += 1;
  const byPhrase = new Map(phrases.map(({ id }) => [id, new Set<number>()]));
  for (const { phrase, counts, material } of bars) if (counts) byPhrase.get(phrase)?.add(material);
  const materials = [...byPhrase.values()];
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
  const holding = new Map<number, number[]>();
  materials.forEach((own, phrase) =>
    own.forEach((material) => holding.set(material, [...(holding.get(material) ?? []), phrase])),
  );
  const fresh = materials.map((own) => new Set(own));
  // Only phrases that hold something that has just been learned are weighed again.
  const gainOf = (own: ReadonlySet<number>) => (own.size === 0 ? 0 : sum(own) / own.size);
  const gains = fresh.map(gainOf);
  const order: string[] = [];
  for (;;) {
    let best = -1;
    gains.forEach((gain, index) => gain > (gains[best] ?? 0) && (best = index));
    if (best < 0) return order;
    order.push(phrases[best]!.id);
    const touched = new Set<number>();
    for (const material of fresh[best]!) {
      for (const phrase of holding.get(material)!) {
        fresh[phrase]!.delete(material);
        touched.add(phrase);
      }
    }
    for (const phrase of touched) gains[phrase] = gainOf(fresh[phrase]!);
  }
}
