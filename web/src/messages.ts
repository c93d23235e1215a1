/** Short messages at the foot of the window, with at most one thing to do about them. */
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';

interface Message {
  readonly text: string;
  readonly timeout?: number;
  readonly action?: { readonly label: string; run(): void | Promise<void> };
}

export const useMessages = defineStore('messages', () => {
  const shown = ref(false);
  const current = shallowRef<Message | null>(null);

  function say(message: Message): void {
    current.value = message;
    shown.value = true;
  }

  function act(): void {
    shown.value = false;
    void current.value?.action?.run();
  }

  return { shown, current, say, act };
});
