/** What the teacher keeps under a name beside the tunes: instruments, tunings, groups, tapes. */
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { Kept, KeptKind, KeptValue } from '@nokta/core/files';
import { api, messageOf } from '../api/client.ts';

export const useKept = defineStore('kept', () => {
  const all = shallowRef<readonly Kept[]>([]);
  /** What did not work, in words; empty where nothing went wrong. */
  const problem = ref('');

  const of = <Kind extends KeptKind>(kind: Kind): readonly Kept<Kind>[] =>
    all.value.filter((one): one is Kept<Kind> => one.kind === kind);

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

  return { all, problem, of, load, keep, drop };
});
