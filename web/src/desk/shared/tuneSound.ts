/** What sounds and how fast: tempo, drone and count-in belong to a tune; what else sounds along, to the teacher. */
import { computed, type WritableComputedRef } from 'vue';
import { useStorage } from '@vueuse/core';
import { FIRST_SOUND, type SoundSettings } from '../../sound/settings.ts';

type TuneSettings = Pick<SoundSettings, 'countIn' | 'drone' | 'droneNote'> & { readonly percent: number };

/** So many tunes are remembered; those that were set longest ago are let go. */
const MOST = 300;
const OWN = ['countIn', 'drone', 'droneNote'] as const;
const FIRST: TuneSettings = {
  countIn: FIRST_SOUND.countIn,
  drone: FIRST_SOUND.drone,
  droneNote: FIRST_SOUND.droneNote,
  percent: 100,
};

export interface TuneSound {
  readonly settings: WritableComputedRef<SoundSettings>;
  /** Share of the tune's tempo. */
  readonly percent: WritableComputedRef<number>;
}

/** @param tuneId whose settings these are; null while no tune is open */
export function useTuneSound(tuneId: () => string | null): TuneSound {
  const along = useStorage<SoundSettings>('nokta-sound', FIRST_SOUND, undefined, { mergeDefaults: true });
  const byTune = useStorage<Record<string, Partial<TuneSettings>>>('nokta-sound-of-tunes', {});
  const own = computed<TuneSettings>(() => ({ ...FIRST, ...byTune.value[tuneId() ?? ''] }));

  function keep(change: Partial<TuneSettings>): void {
    const id = tuneId();
    if (id === null) return;
    const { [id]: before, ...others } = byTune.value;
    const kept = Object.entries(others).slice(1 - MOST);
    byTune.value = { ...Object.fromEntries(kept), [id]: { ...before, ...change } };
  }

  return {
    settings: computed({
      get: () => {
        const { percent: _, ...tune } = own.value;
        return { ...along.value, ...tune };
      },
      set(next) {
        const changed = OWN.filter((name) => next[name] !== own.value[name]);
        if (changed.length > 0) keep(Object.fromEntries(changed.map((name) => [name, next[name]])));
        along.value = { ...next, countIn: FIRST.countIn, drone: FIRST.drone, droneNote: FIRST.droneNote };
      },
    }),
    percent: computed({ get: () => own.value.percent, set: (percent) => keep({ percent }) }),
  };
}
