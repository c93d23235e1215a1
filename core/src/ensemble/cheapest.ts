/** The cheapest way through options that follow each other, each with a price, and a price for each two that meet. */

export interface Option<Stop> {
  readonly stop: Stop;
  readonly price: number;
}

export interface Way<Stop> {
  readonly chosen: readonly Stop[];
  readonly cost: number;
}

/**
 * Dynamic programming over the options of each place; of equals the first.
 * @param join the price of an option after another; the index is the later one's
 * @example cheapestWay([[{ stop: 'a', price: 1 }, { stop: 'b', price: 0 }]], () => 0).chosen // ['b']
 */
export function cheapestWay<Stop>(
  places: readonly (readonly Option<Stop>[])[],
  join: (before: Stop, after: Stop, index: number) => number,
): Way<Stop> {
  if (places.length === 0) return { chosen: [], cost: 0 };
  let costs = places[0]!.map(({ price }) => price);
  const backs: number[][] = [];
  for (let index = 1; index < places.length; index += 1) {
    const before = places[index - 1]!;
    const back: number[] = [];
    costs = places[index]!.map(({ stop, price }) => {
      let least = Infinity;
      let from = 0;
      before.forEach((option, number) => {
        const cost = costs[number]! + join(option.stop, stop, index);
        if (cost < least - 1e-9) [least, from] = [cost, number];
      });
      back.push(from);
      return least + price;
    });
    backs.push(back);
  }
  let at = 0;
  costs.forEach((cost, number) => {
    if (cost < costs[at]! - 1e-9) at = number;
  });
  const cost = costs[at]!;
  const chosen: Stop[] = [];
  for (let index = places.length - 1; index >= 0; index -= 1) {
    chosen.unshift(places[index]![at]!.stop);
    at = backs[index - 1]?.[at] ?? 0;
  }
  return { chosen, cost };
}
