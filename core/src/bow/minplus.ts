/**
 * Shortest paths by products of matrices in the (min, +) algebra, over a few states. A tree of products makes the way over
 * many steps a few multiplications, so that a change of some of them costs little to weigh.
 */

/** States of a step: each matrix has as many rows and columns. */
export const N = 4;

/** Prices from each state before to each after, with the counts of what was paid for. */
export interface Matrix {
  readonly cost: Float64Array;
  readonly counts: Float64Array;
}

export const keepCheaper = (cost: number, counts: number, matrix: Matrix, at: number) => {
  if (cost < matrix.cost[at]!) {
    matrix.cost[at] = cost;
    matrix.counts[at] = counts;
  }
};

export const emptyMatrix = (): Matrix => ({
  cost: new Float64Array(N * N).fill(Infinity),
  counts: new Float64Array(N * N),
});

function product(a: Matrix, b: Matrix): Matrix {
  const found = emptyMatrix();
  for (let from = 0; from < N; from += 1) {
    for (let over = 0; over < N; over += 1) {
      const first = a.cost[from * N + over]!;
      if (first === Infinity) continue;
      for (let to = 0; to < N; to += 1) {
        const cost = first + b.cost[over * N + to]!;
        if (cost < Infinity) {
          keepCheaper(cost, a.counts[from * N + over]! + b.counts[over * N + to]!, found, from * N + to);
        }
      }
    }
  }
  return found;
}

/** Prices to be in each state. */
export interface Row {
  readonly cost: Float64Array;
  readonly counts: Float64Array;
}

export const times = (row: Row, step: Matrix): Row => timesTold(row, step).row;

export function timesTold(row: Row, step: Matrix): { readonly row: Row; readonly origin: Int8Array } {
  const cost = new Float64Array(N).fill(Infinity);
  const counts = new Float64Array(N);
  const origin = new Int8Array(N).fill(0);
  for (let from = 0; from < N; from += 1) {
    for (let to = 0; to < N; to += 1) {
      const price = row.cost[from]! + step.cost[from * N + to]!;
      if (price < cost[to]!) {
        cost[to] = price;
        counts[to] = row.counts[from]! + step.counts[from * N + to]!;
        origin[to] = from;
      }
    }
  }
  return { row: { cost, counts }, origin };
}

export function cheapest({ cost, counts }: Row): {
  readonly at: number;
  readonly cost: number;
  readonly counts: number;
} {
  let at = 0;
  for (let index = 1; index < N; index += 1) if (cost[index]! < cost[at]!) at = index;
  return { at, cost: cost[at]!, counts: counts[at]! };
}

/** Products over runs of 1, 2, 4, … steps. */
export function treeOf(steps: readonly Matrix[]): readonly (readonly Matrix[])[] {
  const levels: (readonly Matrix[])[] = [steps];
  for (let below = steps; below.length > 1;) {
    const level = Array.from({ length: Math.floor(below.length / 2) }, (_, index) =>
      product(below[2 * index]!, below[2 * index + 1]!),
    );
    levels.push(level);
    below = level;
  }
  return levels;
}

/** Over the steps from one to before another. @param tree products as `treeOf` makes them */
export function timesRun(row: Row, tree: readonly (readonly Matrix[])[], from: number, to: number): Row {
  let found = row;
  let at = from;
  while (at < to) {
    let level = 0;
    while (at % 2 ** (level + 1) === 0 && at + 2 ** (level + 1) <= to && tree[level + 1]) level += 1;
    found = times(found, tree[level]![at / 2 ** level]!);
    at += 2 ** level;
  }
  return found;
}
