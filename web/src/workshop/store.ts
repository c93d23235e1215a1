/** Which instrument lies on the bench, in which tuning: kept in the browser, for all tools of the workshop. */
import { dequal } from 'dequal';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { useStorage } from '@vueuse/core';
import { FIRST_DECISIONS, decided, type Decisions } from '@nokta/core/arrange';
import {
  LIKE_USUAL,
  instrumentOf,
  keySlice,
  tuningOf,
  tuningText,
  tuningsFor,
  type InstrumentId,
  type InstrumentMake,
  type KeyDecisions,
} from '@nokta/core/instrument';
import { useKept } from '../kept/store.ts';
import { storedAs } from '../settings/look.ts';

export const useWorkshop = defineStore('workshop', () => {
  const kept = useKept();
  const first = FIRST_DECISIONS.key;
  const key = useStorage<KeyDecisions>(
    'nokta-workshop',
    first,
    undefined,
    storedAs((stored) => keySlice.schema.parse(stored), first),
  );
  const instrument = computed(() => instrumentOf(key.value));
  const tuning = computed(() => tuningOf(key.value));
  const decisions = computed<Decisions>(() => decided(FIRST_DECISIONS, { key: key.value }));

  const choices = computed(() => kept.instruments);
  const chosen = computed(() =>
    choices.value.findIndex(({ like, make }) => like === key.value.instrument && dequal(make, key.value.make)),
  );
  function choose(like: InstrumentId, make: InstrumentMake | null): void {
    key.value = { ...first, instrument: like, make };
  }
  /** The same instrument with strings of another length. */
  function measure(length: number): void {
    const { instrument: like, make } = key.value;
    const own = { ...(make ?? { ...LIKE_USUAL, name: `Measured ${like}` }), length };
    key.value = { ...key.value, make: own };
  }

  const tunings = computed(() => [...tuningsFor(instrument.value), ...kept.tuningsOf(key.value)]);
  const tuningItems = computed(() =>
    tunings.value.map(({ id, name, pitches }) => ({
      value: id,
      title: `${tuningText(pitches)} · ${name.toLowerCase()}`,
    })),
  );
  const tune = (id: string) => (key.value = { ...key.value, tuning: id });

  return { key, instrument, tuning, decisions, choices, chosen, choose, measure, tuningItems, tune };
});
