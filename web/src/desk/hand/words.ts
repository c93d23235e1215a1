/** Prices and decisions in a teacher's words. */
import type { Lock, Stop } from '@nokta/core/hand';
import type { Instrument } from '@nokta/core/instrument';
import { symbol } from '@nokta/core/words';

/** Below this two ways cost the same. */
const SAME = 0.005;

export function extraText(extra: number): string {
  if (Math.abs(extra) < SAME) return 'costs the same';
  return extra > 0 ? `costs ${extra.toFixed(2)} more` : `would save ${Math.abs(extra).toFixed(2)}`;
}

export const signs = (stops: readonly Stop[], instrument: Instrument): string =>
  stops.map((stop) => symbol(stop, instrument)).join(' ');

export interface DecidedItem {
  /** What is taken out of the decision again. */
  readonly key: 'stops' | 'position' | 'shift' | 'holdUntil' | 'like';
  readonly text: string;
}

/** What is set for a note, each thing by itself. */
export function decidedItems(lock: Lock, names: readonly string[]): readonly DecidedItem[] {
  const items: DecidedItem[] = [];
  const [stop] = lock.stops;
  if (lock.stops.length > 1) items.push({ key: 'stops', text: 'these fingers' });
  else if (stop) {
    const finger = stop.finger === undefined ? '' : stop.finger === 0 ? 'open' : `finger ${stop.finger}`;
    const string = stop.string === undefined ? '' : `${names[stop.string]} string`;
    items.push({ key: 'stops', text: [finger, string].filter(Boolean).join(', ') });
  }
  if (lock.position) {
    const [lowest, highest] = lock.position;
    items.push({
      key: 'position',
      text: lowest === highest ? `position ${lowest}` : `positions ${lowest} to ${highest}`,
    });
  }
  if (lock.shift) items.push({ key: 'shift', text: 'shift here' });
  if (lock.holdUntil) items.push({ key: 'holdUntil', text: 'stays down' });
  if (lock.like) items.push({ key: 'like', text: 'phrase as another' });
  return items;
}
