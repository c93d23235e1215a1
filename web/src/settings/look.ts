/** How notes, fingers and strings are called and drawn everywhere: on screen, on paper, in speech. Kept in the browser. */
import { defineStore } from 'pinia';
import { useStorage } from '@vueuse/core';
import { USUAL_NAMES, USUAL_TAB, type Names, type TabStyle } from '@nokta/core/paper';

export const useLook = defineStore('look', () => ({
  names: useStorage<Names>('nokta-names', USUAL_NAMES, undefined, { mergeDefaults: true }),
  tab: useStorage<TabStyle>('nokta-tab', USUAL_TAB, undefined, { mergeDefaults: true }),
}));
