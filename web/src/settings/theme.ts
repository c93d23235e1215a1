/** Light or dark: the system's habit until the user chooses. */
import { usePreferredDark, useStorage } from '@vueuse/core';
import { computed, watchEffect } from 'vue';
import { useTheme } from 'vuetify';

export function useAppTheme() {
  const theme = useTheme();
  const system = usePreferredDark();
  const chosen = useStorage<'light' | 'dark' | ''>('nokta-theme', '');
  const name = computed(() => chosen.value || (system.value ? 'dark' : 'light'));
  watchEffect(() => void theme.change(name.value));
  return { name, toggle: () => (chosen.value = name.value === 'dark' ? 'light' : 'dark') };
}
