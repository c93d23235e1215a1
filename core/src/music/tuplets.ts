/** Where tuplets begin and end, for sources that only say "three in the time of two". */
import { valueLength, type Ticks } from './time.ts';
import type { TuneEvent } from './tune.ts';

/**
 * Marks first and last notes of tuplets. A group is full when its written lengths add up to as many
 * of its shortest value as the tuplet asks for; marks that are already there are kept.
 * @example markTupletEdges([]).length // 0
 */
export function markTupletEdges(events: readonly TuneEvent[]): readonly TuneEvent[] {
  const marked = [...events];
  let group: number[] = [];
  const close = () => {
    if (group.length > 0) {
      setEdge(marked, group[0]!, group.length > 1 ? 'start' : undefined);
      if (group.length > 1) setEdge(marked, group.at(-1)!, 'stop');
    }
    group = [];
  };
  events.forEach((event, index) => {
    const { tuplet } = event;
    const open = group.length > 0 ? events[group[0]!]!.tuplet! : null;
    if (!tuplet || (open && (open.actual !== tuplet.actual || open.normal !== tuplet.normal))) close();
    if (!tuplet) return;
    if (tuplet.edge === 'start') close();
    group.push(index);
    if (tuplet.edge === 'stop' || (!explicit(events, group) && isFull(group.map((at) => events[at]!)))) close();
  });
  close();
  return marked;
}

const explicit = (events: readonly TuneEvent[], group: readonly number[]) =>
  events[group[0]!]!.tuplet!.edge === 'start';

function isFull(group: readonly TuneEvent[]): boolean {
  const { actual } = group[0]!.tuplet!;
  const lengths = group.map((event): Ticks => valueLength(event.value));
  const unit = Math.min(...group.map(({ value }) => valueLength({ type: value.type, dots: 0 })));
  const sum = lengths.reduce((total, length) => total + length, 0);
  return sum >= actual * unit && Number.isInteger(sum / (actual * unit));
}

function setEdge(events: TuneEvent[], index: number, edge: 'start' | 'stop' | undefined): void {
  const event = events[index]!;
  const { actual, normal } = event.tuplet!;
  events[index] = { ...event, tuplet: { actual, normal, ...(edge && { edge }) } };
}
