/**
 * What crosses from the worker to the desk after a change: only what changed. Facts that are the same stay
 * behind; of the fingering the notes that read differently go over.
 */
import type { Facts } from '@nokta/core/arrange';
import type { FingeredNote, Fingering } from '@nokta/core/hand';
import type { Tune } from '@nokta/core/music';

/** Facts that the desk shows. Prices of other ways are asked for when a note is looked at. */
const SHOWN = [
  'instrument',
  'tuning',
  'tension',
  'changes',
  'graded',
  'rounds',
  'breaches',
  'form',
  'tempo',
  'bowing',
  'counts',
] as const;
type Shown = (typeof SHOWN)[number];
export type DeskFacts = Pick<Facts, Shown | 'tune' | 'staff' | 'fingering'>;

/** Notes without what is asked for one by one. */
export type ShownNote = FingeredNote;

export interface FactsPatch {
  readonly facts: Partial<Pick<DeskFacts, Shown>>;
  /** The tune of the arrangement; `source` where it is the very tune that came over. Left out where it is as before. */
  readonly tune?: Tune | 'source';
  /** What the staff shows; `tune` where it is the tune itself. Left out where it is as before. */
  readonly staff?: Tune | 'tune';
  readonly fingering?: Omit<Fingering, 'notes' | 'instrument' | 'tuning'> & {
    /** Notes that changed, and their places among the `count` notes that there are. */
    readonly changed: readonly (readonly [number, ShownNote])[];
    readonly count: number;
  };
}

/** What was sent before, to know what need not be sent again. */
export interface Sent {
  readonly facts: DeskFacts;
  /** Each note as text. */
  readonly notes: readonly string[];
}

const bare = (note: FingeredNote): ShownNote => ({ ...note, alternatives: [], why: null });

/** @returns the patch that leads from what was sent before to these facts, and what is sent now */
export function patchTo(facts: DeskFacts, source: Tune, before: Sent | null): { patch: FactsPatch; sent: Sent } {
  const changed = SHOWN.filter((name) => facts[name] !== before?.facts[name]);
  const known = before?.facts.fingering === facts.fingering;
  const notes = known ? before!.notes : facts.fingering.notes.map((note) => JSON.stringify(bare(note)));
  const { notes: fingered, instrument: _, tuning: __, ...rest } = facts.fingering;
  const patch: FactsPatch = {
    facts: Object.fromEntries(changed.map((name) => [name, facts[name]])),
    ...(facts.tune !== before?.facts.tune && { tune: facts.tune === source ? ('source' as const) : facts.tune }),
    ...((facts.staff !== before?.facts.staff || facts.tune !== before.facts.tune) && {
      staff: facts.staff === facts.tune ? ('tune' as const) : facts.staff,
    }),
    ...(!known && {
      fingering: {
        ...rest,
        count: notes.length,
        changed: fingered.flatMap((note, at) => (notes[at] === before?.notes[at] ? [] : [[at, bare(note)] as const])),
      },
    }),
  };
  return { patch, sent: { facts, notes } };
}

/** @param source the tune that was worked on @param before facts that the patch builds on */
export function applyPatch(
  { facts, tune, staff, fingering }: FactsPatch,
  source: Tune,
  before: DeskFacts | null,
): DeskFacts {
  const all = { ...before, ...facts } as DeskFacts;
  const own = tune === undefined ? all.tune : tune === 'source' ? source : tune;
  const next = { ...all, tune: own, staff: staff === undefined ? all.staff : staff === 'tune' ? own : staff };
  if (!fingering) return next;
  const { changed, count, ...rest } = fingering;
  const notes = (before?.fingering.notes ?? []).slice(0, count);
  for (const [at, note] of changed) notes[at] = note;
  return { ...next, fingering: { ...rest, instrument: next.instrument, tuning: next.tuning, notes } };
}
