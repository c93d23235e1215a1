/**
 * Parts and phrases as they stand: what the analysis finds, and over it what the teacher decided.
 * A held phrase stays exactly as it is; the analysis only speaks for what is not held.
 */
import { type Anchor, type Parting, type Ticks, type Tune } from '../music/index.ts';
import { findCuts, type Cut } from './boundaries.ts';
import { barAt, readForForm, soundFrom, type Reading } from './reading.ts';
import type { Span } from './model.ts';

export interface LaidPhrase extends Span {
  /** A part begins with it. */
  readonly part: boolean;
  /** What source or teacher call that part. */
  readonly partLabel: string | null;
  /** The label is the teacher's, and stands even if another part has it. */
  readonly partNamed: boolean;
  readonly held: boolean;
  readonly name: string | null;
}

/** Phrases in order, without gaps, from the start of the tune to its end. */
export type Layout = readonly LaidPhrase[];

interface Edge {
  at: Ticks;
  part: boolean;
  label: string | null;
  named: boolean;
}

/**
 * Where phrases lie in this tune. Versions of it, whose bars have the same lengths, may use the same.
 * @example layoutOf(reel).length // 2
 */
export function layoutOf(tune: Tune): Layout {
  return layOut(readForForm(tune));
}

export function layOut(reading: Reading): Layout {
  const { tune, starts } = reading;
  const end = starts.at(-1)!;
  const held = heldSpans(reading, tune.parting ?? null, end);
  const cuts = findCuts(reading);
  const edges = new Map<Ticks, Edge>();
  for (const cut of cuts)
    if (!held.some(({ from, to }) => cut.at > from && cut.at < to)) edges.set(cut.at, edgeOf(cut));
  for (const { from, to } of held) {
    for (const at of [from, to]) if (!edges.has(at) && at < end) edges.set(at, plainEdge(at));
  }
  markParts(reading, tune.parting ?? null, edges);
  const sorted = [...edges.values()].sort((a, b) => a.at - b.at);
  if (sorted[0]?.at !== 0) sorted.unshift(plainEdge(0));
  return sorted.map(({ at, part, label, named }, index): LaidPhrase => {
    const to = sorted[index + 1]?.at ?? end;
    const own = held.find((span) => span.from === at && span.to === to);
    return {
      from: at,
      to,
      part: part || index === 0,
      partLabel: label,
      partNamed: named,
      held: own !== undefined,
      name: own?.name ?? null,
    };
  });
}

const edgeOf = ({ at, part, label }: Cut): Edge => ({ at, part, label, named: false });
const plainEdge = (at: Ticks): Edge => ({ at, part: false, label: null, named: false });

function markParts(reading: Reading, parting: Parting | null, edges: Map<Ticks, Edge>): void {
  for (const { at, starts, label } of parting?.parts ?? []) {
    const place = placeOf(reading, at);
    if (place === null) continue;
    const edge = edges.get(place) ?? plainEdge(place);
    edges.set(place, {
      ...edge,
      part: starts,
      ...(label !== undefined && { label, named: true }),
    });
  }
}

interface HeldSpan extends Span {
  readonly name: string | null;
}

/** Held phrases that still have room; of two that overlap the one that was set later. */
function heldSpans(reading: Reading, parting: Parting | null, end: Ticks): readonly HeldSpan[] {
  const spans: HeldSpan[] = [];
  for (const { from, to, name } of [...(parting?.held ?? [])].reverse()) {
    const start = placeOf(reading, from);
    const stop = to === null ? end : placeOf(reading, to);
    if (start === null || stop === null || stop <= start) continue;
    if (spans.some((other) => start < other.to && stop > other.from)) continue;
    spans.push({ from: start, to: stop, name: name ?? null });
  }
  return spans;
}

/** Where an anchor stands now: at its note, else at the first note from its old place on. Null where its bar is gone. */
export function placeOf(reading: Reading, anchor: Anchor): Ticks | null {
  const sounds = soundByNote(reading);
  const sound = sounds.get(anchor.note);
  // The start of the tune is its start, rests and all.
  if (sound !== undefined) return sound === reading.sounds[0]?.onset ? 0 : sound;
  const bar = reading.bars.findIndex(({ id }) => id === anchor.bar);
  if (bar < 0) return null;
  const next = reading.sounds[soundFrom(reading, reading.starts[bar]! + anchor.at)];
  return next ? (next === reading.sounds[0] ? 0 : next.onset) : null;
}

const places = new WeakMap<Reading, ReadonlyMap<string, Ticks>>();
function soundByNote(reading: Reading): ReadonlyMap<string, Ticks> {
  const known = places.get(reading);
  if (known) return known;
  const made = new Map(reading.sounds.flatMap(({ ids, onset }) => ids.map((id) => [id, onset] as const)));
  places.set(reading, made);
  return made;
}

/** The anchor of the first sound from a moment on; null beyond the last. */
export function anchorAt(reading: Reading, at: Ticks): Anchor | null {
  const sound = reading.sounds[soundFrom(reading, at)];
  if (!sound) return null;
  const bar = barAt(reading, sound.onset);
  return { note: sound.note.id, bar: reading.bars[bar]!.id, at: sound.onset - reading.starts[bar]! };
}
