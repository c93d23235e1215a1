<script setup lang="ts">
/** Where the left hand has most to do at the working tempo, why, and what would help. */
import { computed, ref, watch } from 'vue';
import type { HardPlace } from '@nokta/core/hand';
import { placesOf } from '@nokta/core/arrange';
import { causeTexts, helpText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import HintLine from '../shared/HintLine.vue';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';
import { extraText } from './words.ts';
import { usePlaces } from '../shared/places.ts';

const desk = useDesk();
const actions = useHandActions();
const places = ref<readonly HardPlace[] | null>(null);
watch(
  () => desk.arrangement,
  async () => {
    const found = await desk.ask('hardPlaces');
    if (found !== STALE) places.value = found;
  },
  { immediate: true },
);
const where = computed(() => placesOf(desk.arrangement!.tune));
const barOf = (id: string) => where.value.get(id)?.bar ?? 1;
const placeOf = usePlaces();
</script>

<template>
  <section>
    <p v-if="places === null" class="soft">Looking…</p>
    <p v-else-if="places.length === 0">Nothing is hard for the left hand at this tempo.</p>
    <ul v-else class="plain">
      <li v-for="place in places" :key="place.notes[0]" class="place">
        <HintLine :notes="place.notes">
          <strong>{{ placeOf(barOf(place.notes[0]!), place.notes[0]!) }}</strong>
          <span class="soft">{{ causeTexts(place).join(', ') }}</span>
        </HintLine>
        <ul v-if="place.helps.length > 0" class="helps" aria-label="What would help">
          <li v-for="help in place.helps" :key="help.kind">
            {{ helpText(help) }}
            <v-btn
              v-if="'way' in help"
              size="small"
              variant="outlined"
              :title="extraText(help.way.extra)"
              @click="actions.take(help.way, helpText(help))"
              >Try it</v-btn
            >
          </li>
        </ul>
      </li>
    </ul>
  </section>
</template>

<style scoped src="./cards.css" />
<style scoped>
.place {
  padding: 6px 0;
  border-bottom: 1px solid var(--edge);
}
.place span {
  display: block;
}
.helps {
  margin: 4px 0 0;
  padding-left: 18px;
}
</style>
