/** What the Hand pass asks of the worker: reasons for a note, and another fingering beside the one shown. */
import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import type { Decisions } from '@nokta/core/arrange';
import { PRESETS, PRESET_IDS, type FingeredNote, type Fingering, type PresetId } from '@nokta/core/hand';
import { arranger } from '../../workers/index.ts';
import type { Beside } from '../../workers/arrange.worker.ts';
import { useDesk } from '../store.ts';

export type OtherId = 'second' | 'undecided' | PresetId;

/** What can be laid beside the fingering that is shown. */
export const OTHERS: readonly { readonly value: OtherId; readonly title: string }[] = [
  { value: 'second', title: 'The second-best fingering' },
  { value: 'undecided', title: 'Without what you set' },
  ...PRESET_IDS.map((id) => ({ value: id, title: PRESETS[id].name })),
];

export const useHand = defineStore('hand', () => {
  const desk = useDesk();
  /** The selected note with reasons; null until they are there. */
  const explained = shallowRef<FingeredNote | null>(null);
  const beside = shallowRef<(Beside & { readonly id: OtherId }) | null>(null);
  const comparing = ref(false);
  let asked = 0;
  let laid = 0;

  /** Asks for the reasons of the selected note; an answer that comes too late is dropped. */
  async function explain(): Promise<void> {
    const turn = (asked += 1);
    const id = desk.selected?.id;
    const answer = id === undefined ? null : await arranger.explain(id);
    if (turn === asked) explained.value = answer;
  }

  async function lay(id: OtherId): Promise<void> {
    const turn = (laid += 1);
    const decisions = desk.record?.decisions;
    if (!decisions) return;
    comparing.value = true;
    const found = id === 'second' ? await second() : await arranger.beside(otherDecisions(id, decisions));
    if (turn !== laid) return;
    comparing.value = false;
    beside.value = found && { ...found, id };
  }

  async function second(): Promise<Beside | null> {
    const way = await arranger.secondBest();
    const fingering = desk.arrangement?.fingering;
    if (!way || !fingering) return null;
    return {
      fingering: withChanges(fingering, new Map(way.changed.map((note) => [note.id, note]))),
      comparison: { differing: way.changed.map(({ id }) => id), extra: way.extra, reasons: way.reasons },
    };
  }

  function putAway(): void {
    laid += 1;
    comparing.value = false;
    beside.value = null;
  }

  // What lies beside belongs to what is shown.
  watch(
    () => desk.arrangement,
    () => beside.value && void lay(beside.value.id),
  );

  return { explained, explain, beside, comparing, lay, putAway };
});

function otherDecisions(id: Exclude<OtherId, 'second'>, decisions: Decisions): Decisions {
  if (id === 'undecided') return { ...decisions, locks: {} };
  return { ...decisions, locks: {}, limits: schoolsOf(decisions), wishes: { preset: id }, partWishes: {} };
}

/** A preset is seen with its own limits; how the hand is taught stays. */
function schoolsOf({ limits: { bassSchool, celloSchool } }: Decisions): Decisions['limits'] {
  return { ...(bassSchool && { bassSchool }), ...(celloSchool && { celloSchool }) };
}

function withChanges(
  fingering: Fingering,
  changed: ReadonlyMap<string, Pick<FingeredNote, 'stops' | 'text'>>,
): Fingering {
  return { ...fingering, notes: fingering.notes.map((note) => ({ ...note, ...changed.get(note.id) })) };
}
