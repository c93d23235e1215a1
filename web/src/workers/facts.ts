/**
 * What crosses from the worker to the desk after a change: only what changed. Facts that are the same stay
 * behind; of the fingering the notes that read differently go over.
 */
import { dequal } from 'dequal';
import type { Facts } from '@nokta/core/arrange';
import { startsOf, type Bowing, type Stroke } from '@nokta/core/bow';
import type { FingeredNote, Fingering } from '@nokta/core/hand';
import type { Tune } from '@nokta/core/music';

/** Facts that the desk shows. Prices of other ways are asked for when a note is looked at. */
const SHOWN = [
  'instrument',
  'tuning',
  'tension',
  'changes',
  'graded',
  'line',
  'rounds',
  'breaches',
  'form',
  'tempo',
  'counts',
] as const;
type Shown = (typeof SHOWN)[number];
export type DeskFacts = Pick<Facts, Shown | 'tune' | 'staff' | 'fingering' | 'bowing'>;

/** Notes without what is asked for one by one. */
export type ShownNote = FingeredNote;

export interface FactsPatch {
  readonly facts: Partial<Pick<DeskFacts, Shown>>;
  /** The tune of the arrangement; `source` where it is the very tune that came over. Left out where it is as before. */
  readonly tune?: Tune | 'source';
  /** What the staff shows; `tune` where it is the tune itself. Left out where it is as before. */
  readonly staff?: Tune | 'tune';
  readonly bowing?: Omit<Bowing, 'strokes' | 'starts'> & {
    /** All strokes; or, where each holds the notes that it held, only which way they go. */
    readonly strokes: readonly Stroke[] | Uint8Array;
  };
  readonly fingering?: Omit<Fingering, 'notes' | 'instrument' | 'tuning'> & {
    /** Notes that changed, and their places among the `count` notes that there are. */
    readonly changed: readonly (readonly [number, ShownNote])[];
    readonly count: number;
  };
}

/** What was sent before, to know what need not be sent again. */
export interface Sent {
  readonly facts: DeskFacts;
}

const NOT_SHOWN: ReadonlySet<string> = new Set(['alternatives', 'why'] satisfies (keyof FingeredNote)[]);
/** Whether two notes read the same. */
function readSame(note: FingeredNote, other: FingeredNote | undefined): boolean {
  if (note === other) return true;
  if (!other) return false;
  const names = Object.keys(note) as (keyof FingeredNote)[];
  return names.every((name) => NOT_SHOWN.has(name) || dequal(note[name], other[name]));
}

const bare = (note: FingeredNote): ShownNote => ({ ...note, alternatives: [], why: null });

/** Which way a stroke goes and how it follows the one before, in one small number. */
const UP = 1;
const RETAKE = 2;
const HOOK = 4;
const wayOf = ({ direction, retake, hook }: Stroke): number =>
  (direction === 'up' ? UP : 0) + (retake ? RETAKE : 0) + (hook ? HOOK : 0);

/** Strokes of one tune: where and how long they are says which notes they hold. */
const holdsSame = (stroke: Stroke, other: Stroke | undefined): boolean =>
  stroke.onset === other?.onset && stroke.duration === other.duration;

function strokesTo(strokes: readonly Stroke[], before: readonly Stroke[] | null): readonly Stroke[] | Uint8Array {
  const same = before?.length === strokes.length && strokes.every((stroke, at) => holdsSame(stroke, before[at]));
  return same ? Uint8Array.from(strokes, wayOf) : strokes;
}

function strokesFrom(sent: readonly Stroke[] | Uint8Array, before: readonly Stroke[]): readonly Stroke[] {
  if (!(sent instanceof Uint8Array)) return sent;
  return before.map((stroke, at) => {
    const way = sent[at]!;
    if (way === wayOf(stroke)) return stroke;
    return {
      ...stroke,
      direction: way & UP ? 'up' : 'down',
      retake: (way & RETAKE) > 0,
      hook: (way & HOOK) > 0,
    };
  });
}

/** @returns the patch that leads from what was sent before to these facts, and what is sent now */
export function patchTo(facts: DeskFacts, source: Tune, before: Sent | null): { patch: FactsPatch; sent: Sent } {
  const changed = SHOWN.filter((name) => facts[name] !== before?.facts[name]);
  const known = before?.facts.fingering === facts.fingering;
  const { notes, instrument: _, tuning: __, ...rest } = facts.fingering;
  const { strokes, starts: ___, ...bows } = facts.bowing;
  const bowed = before && before.facts.tune === facts.tune ? before.facts.bowing.strokes : null;
  const patch: FactsPatch = {
    facts: Object.fromEntries(changed.map((name) => [name, facts[name]])),
    ...(facts.tune !== before?.facts.tune && { tune: facts.tune === source ? ('source' as const) : facts.tune }),
    ...((facts.staff !== before?.facts.staff || facts.tune !== before.facts.tune) && {
      staff: facts.staff === facts.tune ? ('tune' as const) : facts.staff,
    }),
    ...(facts.bowing !== before?.facts.bowing && { bowing: { ...bows, strokes: strokesTo(strokes, bowed) } }),
    ...(!known && {
      fingering: {
        ...rest,
        count: notes.length,
        changed: notes.flatMap((note, at) =>
          readSame(note, before?.facts.fingering.notes[at]) ? [] : [[at, bare(note)] as const],
        ),
      },
    }),
  };
  return { patch, sent: { facts } };
}

/** @param source the tune that was worked on @param before facts that the patch builds on */
export function applyPatch(
  { facts, tune, staff, bowing, fingering }: FactsPatch,
  source: Tune,
  before: DeskFacts | null,
): DeskFacts {
  const all = { ...before, ...facts } as DeskFacts;
  const own = tune === undefined ? all.tune : tune === 'source' ? source : tune;
  const next = {
    ...all,
    tune: own,
    staff: staff === undefined ? all.staff : staff === 'tune' ? own : staff,
    bowing: bowing ? bowingFrom(bowing, before) : all.bowing,
  };
  if (!fingering) return next;
  const { changed, count, ...rest } = fingering;
  const notes = (before?.fingering.notes ?? []).slice(0, count);
  for (const [at, note] of changed) notes[at] = note;
  return { ...next, fingering: { ...rest, instrument: next.instrument, tuning: next.tuning, notes } };
}

function bowingFrom({ strokes: sent, ...rest }: NonNullable<FactsPatch['bowing']>, before: DeskFacts | null): Bowing {
  const strokes = strokesFrom(sent, before?.bowing.strokes ?? []);
  return { ...rest, strokes, starts: startsOf(strokes) };
}
