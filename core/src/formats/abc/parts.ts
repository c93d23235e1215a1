/** `P:` in the header: the order in which labelled parts are played, written out with repeat signs where it can be. */
import type { Bar, Slur } from '../../music/index.ts';

interface Part {
  readonly label: string;
  readonly bars: readonly Bar[];
}

/** Longer orders are no tune's. */
const MOST_PARTS = 200;

/**
 * `AABB`, `A2B2`, `(AB)3C`.
 *
 * @returns null where the text is no order of parts
 */
export function readOrder(text: string): readonly string[] | null {
  let at = 0;
  const plain = text.replace(/[\s.]/g, '');
  const read = (closing: boolean): string[] | null => {
    const found: string[] = [];
    while (at < plain.length) {
      const sign = plain[at]!;
      at += 1;
      let unit: string[] | null;
      if (sign === ')') return closing ? found : null;
      if (sign === '(') unit = read(true);
      else unit = /[A-Za-z]/.test(sign) ? [sign] : null;
      if (!unit) return null;
      const times = /^\d+/.exec(plain.slice(at))?.[0] ?? '';
      at += times.length;
      for (let time = 0; time < Number(times || 1) && found.length <= MOST_PARTS; time += 1) found.push(...unit);
    }
    return closing ? null : found;
  };
  const order = read(false);
  return order && order.length > 0 && order.length <= MOST_PARTS ? order : null;
}

/**
 * The bars in the order that the header asks for. A part that comes several times in a row is repeated;
 * one that comes back later is written again, under new ids.
 *
 * @returns null where the order names a part that is not there, or asks for what is written anyway
 */
export function inOrder(
  bars: readonly Bar[],
  slurs: readonly Slur[],
  order: readonly string[],
): { readonly bars: readonly Bar[]; readonly slurs: readonly Slur[] } | null {
  const parts = partsOf(bars);
  const runs = runsOf(order);
  if (parts.length === 0 || runs.some(({ label }) => !parts.some((part) => part.label === label))) return null;
  const asWritten =
    runs.length === parts.length &&
    runs.every(({ label, times }, index) => times === 1 && label === parts[index]!.label);
  if (asWritten) return null;
  const made: Bar[] = bars.slice(0, bars.indexOf(parts[0]!.bars[0]!));
  const lines: Slur[] = [];
  const used = new Set<string>();
  for (const { label, times } of runs) {
    const part = parts.find((one) => one.label === label)!;
    const repeats = part.bars.some((bar) => bar.repeatEnd !== undefined || bar.repeatStart === true);
    // Repeat signs of its own count within the part; then several times are several copies.
    for (let copy = 0; copy < (repeats ? times : 1); copy += 1) {
      const suffix = used.has(label) ? `x${made.length}` : '';
      used.add(label);
      const ids = new Set(part.bars.flatMap(({ events }) => events.map(({ id }) => id)));
      made.push(...copied(part.bars, suffix, repeats ? 1 : times));
      lines.push(
        ...slurs
          .filter(({ from, to }) => ids.has(from) && ids.has(to))
          .map(({ from, to }) => ({ from: from + suffix, to: to + suffix })),
      );
    }
  }
  return { bars: made, slurs: lines };
}

function partsOf(bars: readonly Bar[]): readonly Part[] {
  const starts = bars.flatMap(({ label }, index) => (label === undefined ? [] : [{ label, index }]));
  return starts.map(({ label, index }, number) => ({
    label: label.trim().charAt(0),
    bars: bars.slice(index, starts[number + 1]?.index ?? bars.length),
  }));
}

function runsOf(order: readonly string[]): readonly { readonly label: string; readonly times: number }[] {
  const runs: { label: string; times: number }[] = [];
  for (const label of order) {
    const last = runs.at(-1);
    if (last?.label === label) last.times += 1;
    else runs.push({ label, times: 1 });
  }
  return runs;
}

function copied(bars: readonly Bar[], suffix: string, times: number): readonly Bar[] {
  return bars.map((bar, index) => ({
    ...bar,
    id: bar.id + suffix,
    events: bar.events.map((event) => {
      const id = event.id + suffix;
      if (event.kind === 'rest' || !event.graces) return { ...event, id };
      return { ...event, id, graces: event.graces.map((grace, at) => ({ ...grace, id: `${id}g${at + 1}` })) };
    }),
    ...(times > 1 && index === 0 && { repeatStart: true }),
    ...(times > 1 && index === bars.length - 1 && { repeatEnd: times, barline: 'single' as const }),
  }));
}
