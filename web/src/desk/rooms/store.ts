/** The desk: its rooms under one roof, as panels and passes know it. */
import { dequal } from 'dequal';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { phrasesOf, type PartingResult, type Phrase } from '@nokta/core/form';
import { neededAgain, type FingeredNote } from '@nokta/core/hand';
import type { InstrumentId, InstrumentMake } from '@nokta/core/instrument';
import type { Tune } from '@nokta/core/music';
import { partingText } from '@nokta/core/words';
import { useOutbox } from '../../outbox/outbox.ts';
import type { Delivery } from '../../outbox/queue.ts';
import { useLook } from '../../settings/look.ts';
import { createArranging, setFor } from './arranging.ts';
import { createConflict } from './conflict.ts';
import { createHearing } from './hearing.ts';
import { createSelection } from './selection.ts';
import { createSession } from './session.ts';
import { createUndo } from './undo.ts';
import { useShownStrips } from './shown.ts';
import { stripSource } from './strips.ts';

export type SaveState = Delivery;

/** Bars of an echo are none of the tune's: what is parted here would be parted elsewhere there. */
const ECHOES_PARTED =
  'This arrangement plays echoes, which are no bars of the tune. Part the tune in an arrangement without them.';

export const useDesk = defineStore('desk', () => {
  const look = useLook();
  const outbox = useOutbox();
  const session = createSession();
  const { tune, record, records, round, working, compute, decide, editTune, spoken } = session;
  const { facts: arrangement } = working;
  const { underway, ...undo } = createUndo(session);
  const saveState = computed<SaveState>(() => {
    const delivery = tune.value ? outbox.delivery(tune.value.id) : 'saved';
    return delivery === 'saved' && underway.value > 0 ? 'saving' : delivery;
  });
  const problem = computed(() => session.problem.value ?? (saveState.value === 'waiting' ? outbox.problem : null));
  /** Why the last thing asked for could not be done; shown until something else is. */
  const refused = ref<string | null>(null);

  const phrases = computed<readonly Phrase[]>(() => (arrangement.value ? phrasesOf(arrangement.value.form) : []));
  const notes = computed<readonly FingeredNote[]>(() => arrangement.value?.fingering.notes ?? []);
  const { settle, clear, ...selection } = createSelection(notes, phrases, refused);
  session.onClose(() => {
    clear();
    refused.value = null;
  });
  const hearing = createHearing(arrangement, working.ask);

  const shownStrips = useShownStrips(() =>
    arrangement.value && working.stripsShown.value
      ? stripSource(arrangement.value, hearing.travel.value ?? (hearing.travelWanted.value ? 'coming' : null), {
          names: look.names,
          tab: look.tab,
        })
      : null,
  );

  const arranging = createArranging({
    tune,
    records,
    currentId: session.currentId,
    record,
    problem: session.problem,
    settled: outbox.settled,
    async shown() {
      round.value = 1;
      working.clearStaves();
      await compute();
      settle();
    },
  });

  /** Sends again what could not be saved; with nothing unsaved, opens the tune anew. */
  function retry(): void {
    session.problem.value = null;
    if (working.trouble.value) void working.restart();
    if (saveState.value !== 'saved') outbox.retry();
    else if (tune.value) void session.open(tune.value.id, session.currentId.value);
  }

  /** @param make how it differs from the usual one of its kind */
  function setInstrument(instrument: InstrumentId, make: InstrumentMake | null = null): Promise<void> {
    const now = record.value?.decisions;
    const same = dequal([now?.key.instrument, now?.key.make], [instrument, make]);
    if (!now || !tune.value || same) return Promise.resolve();
    return decide(setFor(instrument, tune.value, now, make), `set for ${make?.name.toLowerCase() ?? instrument}`);
  }

  /** Where the note's finger is needed again at the same place, soon after; null if it is not. */
  function againAt(note: FingeredNote): string | null {
    return neededAgain(notes.value, notes.value.indexOf(note))?.id ?? null;
  }

  /** Something about parts and phrases; says why where it cannot be done. @returns whether it was done */
  async function part(change: (tune: Tune) => PartingResult, label: string): Promise<boolean> {
    const now = tune.value;
    if (!now) return false;
    const echoes = Object.values(record.value?.decisions.key.phrases ?? {}).some(({ echo }) => echo !== 0);
    const result = echoes ? null : change(now.tune);
    if (!result?.ok) {
      refused.value = result ? partingText(result.why) : ECHOES_PARTED;
      spoken.value = refused.value;
      return false;
    }
    refused.value = null;
    editTune(result.tune, label);
    await compute();
    return true;
  }

  return {
    tune,
    record,
    records,
    round,
    spoken,
    open: session.open,
    close: session.close,
    decide,
    editTune,
    setFields: session.setFields,
    showRound: session.showRound,
    compute,
    refresh: working.refresh,
    isCurrent: working.isCurrent,
    showStrips: working.showStrips,
    making: working.making,
    staves: working.staves,
    ask: working.ask,
    askLong: working.askLong,
    trouble: working.trouble,
    restart: working.restart,
    arrangement,
    phrases,
    notes,
    strips: shownStrips.strips,
    /** Who can tell which phrases are in sight: those are brought up to date first. */
    sightFrom: (inSight: () => ReadonlySet<string>) => (shownStrips.inSight = inSight),
    ...selection,
    ...hearing,
    ...undo,
    ...arranging,
    ...createConflict(session),
    refused,
    saveState,
    problem,
    retry,
    setInstrument,
    againAt,
    part,
  };
});
