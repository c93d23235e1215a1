/** What the Hand pass asks of the worker: reasons for a note, and another fingering beside the one shown. */
import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import { decided, type Decisions } from '@nokta/core/arrange';
import { PRESETS, PRESET_IDS, type FingeredNote, type HandLimits, type PresetId } from '@nokta/core/hand';
import type { DeskFacts } from '../../workers/facts.ts';
import { STALE, type Stale } from '../../workers/protocol.ts';
import type { Beside } from '../../workers/questions.ts';
import { useDesk } from '../rooms/store.ts';

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
  /** The facts that its reasons were asked about. */
  let explainedOf: DeskFacts | null = null;
  const beside = shallowRef<(Beside & { readonly id: OtherId }) | null>(null);
  const comparing = ref(false);
  let laid = 0;

  /** Asks for the reasons of the selected note. */
  async function explain(): Promise<void> {
    const [id, of] = [desk.selected?.id, desk.arrangement];
    const answer = id === undefined ? null : await desk.ask('explain', id);
    if (answer === STALE || id !== desk.selected?.id) return;
    explained.value = answer;
    explainedOf = of;
  }

  /** A note with its reasons: at once, where they are there already and true. */
  async function reasonsFor(id: string): Promise<FingeredNote | null | Stale> {
    const known = explained.value?.id === id && explainedOf === desk.arrangement && desk.isCurrent();
    return known ? explained.value : desk.ask('explain', id);
  }

  async function lay(id: OtherId): Promise<void> {
    const turn = (laid += 1);
    const decisions = desk.record?.decisions;
    if (!decisions) return;
    comparing.value = true;
    const found = await (id === 'second' ? desk.ask('secondBest') : desk.ask('beside', otherDecisions(id, decisions)));
    if (turn !== laid || found === STALE) return;
    comparing.value = false;
    beside.value = found && { ...found, id };
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

  return { explained, explain, reasonsFor, beside, comparing, lay, putAway };
});

function otherDecisions(id: Exclude<OtherId, 'second'>, decisions: Decisions): Decisions {
  if (id === 'undecided') return decided(decisions, { hand: { locks: {} } });
  const limits = schoolsOf(decisions);
  return decided(decisions, { hand: { locks: {}, limits, learner: null, wishes: { preset: id }, partWishes: {} } });
}

/** A preset is seen with its own limits; how the hand is taught stays. */
function schoolsOf({ hand: { limits, learner } }: Decisions): HandLimits {
  const { bassSchool, celloSchool } = { ...learner?.limits, ...limits };
  return { ...(bassSchool && { bassSchool }), ...(celloSchool && { celloSchool }) };
}
