/** What the teacher keeps under a name beside the tunes: instruments, tunings, groups, tapes. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { Kept, KeptKind, KeptValue } from '@nokta/core/files';
import {
  INSTRUMENT,
  INSTRUMENTS,
  MAKES,
  askedTuning,
  instrumentOf,
  type InstrumentMake,
  type KeyDecisions,
  type Tuning,
} from '@nokta/core/instrument';
import { api, messageOf } from '../api/client.ts';

/** A tuning under a name of the teacher's. */
export interface KeptTuning extends Tuning {
  /** Id of the entry. */
  readonly kept: string;
}

export const useKept = defineStore('kept', () => {
  const all = shallowRef<readonly Kept[]>([]);
  /** What did not work, in words; empty where nothing went wrong. */
  const problem = ref('');

  const of = <Kind extends KeptKind>(kind: Kind): readonly Kept<Kind>[] =>
    all.value.filter((one): one is Kept<Kind> => one.kind === kind);

  /** Every instrument that can be chosen: the usual ones first, then other makes, then the teacher's own. */
  const instruments = computed(() => [
    ...INSTRUMENTS.map((like) => ({ like, make: null as InstrumentMake | null, name: INSTRUMENT[like].name })),
    ...INSTRUMENTS.flatMap((like) => MAKES[like].map((make) => ({ like, make, name: make.name }))),
    ...of('instrument').map(({ value: { like, make }, name }) => ({ like, make, name })),
  ]);

  /** The teacher's tunings that an instrument can take. */
  function tuningsOf(key: Pick<KeyDecisions, 'instrument' | 'make'>): readonly KeptTuning[] {
    return of('tuning').flatMap(({ id, name, value }) => {
      if (value.instrument !== key.instrument) return [];
      const tuning = askedTuning(instrumentOf(key), value.pitches.join(','));
      return 'error' in tuning ? [] : [{ ...tuning, name, kept: id }];
    });
  }

  async function doing(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work();
      all.value = await api.kept();
      problem.value = '';
      return true;
    } catch (error) {
      problem.value = messageOf(error);
      return false;
    }
  }

  const load = () => doing(() => Promise.resolve());

  /** Under its name: what had this name before is kept anew. @returns whether it is kept */
  function keep<Kind extends KeptKind>(kind: Kind, name: string, value: KeptValue<Kind>): Promise<boolean> {
    const known = of(kind).find((one) => one.name === name.trim());
    const one = { kind, name, value };
    return doing(() => (known ? api.keep({ ...one, id: known.id }) : api.addKept(one)));
  }

  const drop = (id: string) => doing(() => api.dropKept(id));

  return { all, problem, of, instruments, tuningsOf, load, keep, drop };
});
