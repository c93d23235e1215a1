/** A walk through one measure: where the file's cursor stands, and what was found there for the chosen voice. */
import { LONGEST_NOTE, TICKS_PER_QUARTER, type Dynamic, type NoteValue, type Ticks } from '../../music/index.ts';
import type { Ratio } from './note.ts';
import type { XmlElement } from './tree.ts';

/** A note or rest of the chosen voice with all its heads, still in the file's terms. */
export interface RawEvent {
  readonly at: Ticks;
  readonly length: Ticks;
  readonly value: NoteValue | null;
  readonly ratio: Ratio | null;
  /** The note, and the further heads of a chord as they come. */
  readonly elements: XmlElement[];
  readonly graces: readonly XmlElement[];
}

/** Something that belongs to the next note at or after a time. */
interface Attached<T> {
  readonly at: Ticks;
  readonly value: T;
  /** Where it stands in the file. */
  readonly source: number;
}

/** Two places nearer than this are the same: roundings of foreign divisions. */
export const SAME_PLACE: Ticks = TICKS_PER_QUARTER / 64;

export class MeasureWalk {
  time = 0;
  /** Furthest place that any voice reaches. */
  end = 0;
  readonly events: RawEvent[] = [];
  readonly chords: Attached<string>[] = [];
  readonly words: Attached<string>[] = [];
  readonly dynamics: Attached<Dynamic>[] = [];

  move(by: number): void {
    this.time = Math.min(LONGEST_NOTE, Math.max(0, this.time + by));
    this.end = Math.max(this.end, this.time);
  }

  add(event: Omit<RawEvent, 'at'>): void {
    this.events.push({ ...event, at: Math.round(this.time) });
  }

  addHead(note: XmlElement): void {
    this.events.at(-1)?.elements.push(note);
  }

  /** Takes out everything of a list that stands before a time. */
  takeAll<T>(list: Attached<T>[], before: Ticks): readonly Attached<T>[] {
    if (list.length === 0) return [];
    const due = list.filter(({ at }) => at < before - SAME_PLACE);
    if (due.length > 0) list.splice(0, list.length, ...list.filter(({ at }) => at >= before - SAME_PLACE));
    return due;
  }
}
