/** The tunes of the library. */
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { TuneSummary } from '@nokta/api';
import { api, messageOf } from '../api/client.ts';
import { useMessages } from '../messages.ts';

export const useLibrary = defineStore('library', () => {
  const messages = useMessages();
  const tunes = shallowRef<readonly TuneSummary[] | null>(null);
  const problem = ref<string | null>(null);

  async function load(): Promise<void> {
    try {
      tunes.value = await api.tunes();
      problem.value = null;
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  async function rename(tune: TuneSummary, title: string): Promise<boolean> {
    try {
      await api.rename(tune.id, title, tune.version);
      return true;
    } catch (error) {
      messages.say({ text: messageOf(error) });
      return false;
    } finally {
      await load();
    }
  }

  async function remove(tune: TuneSummary): Promise<void> {
    try {
      await api.remove(tune.id);
      messages.say({
        text: `“${tune.title}” was deleted.`,
        timeout: 15_000,
        action: { label: 'Undo', run: () => restore(tune) },
      });
    } catch (error) {
      messages.say({ text: messageOf(error) });
    }
    await load();
  }

  async function restore(tune: TuneSummary): Promise<void> {
    try {
      await api.restore(tune.id);
    } catch (error) {
      messages.say({ text: messageOf(error) });
    }
    await load();
  }

  return { tunes, problem, load, rename, remove };
});
