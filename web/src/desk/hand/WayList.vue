<script setup lang="ts">
/** Other ways with a stretch of notes: what each costs and why; pointing at one shows where it differs. */
import { computed } from 'vue';
import { placesOf } from '@nokta/core/arrange';
import type { Way } from '@nokta/core/hand';
import { printedName } from '@nokta/core/music';
import { reasonTexts } from '@nokta/core/words';
import OtherWay from '../../theme/parts/OtherWay.vue';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';
import { extraText, signs } from './words.ts';

const props = defineProps<{ ways: readonly Way[]; label: string; none: string }>();
const desk = useDesk();
const places = computed(() => placesOf(desk.arrangement!.tune));
const actions = useHandActions();

/** Places of the notes in the tune's order, the first few by what they change to. */
const MOST_SAID = 4;
function said({ changed }: Way): string {
  const { instrument } = desk.arrangement!;
  const texts = changed.slice(0, MOST_SAID).map(({ id, stops }) => {
    const note = desk.notes.find((other) => other.id === id);
    const name = note?.pitches.map(printedName).join(' ') ?? '';
    return `${name} ${signs(stops, instrument)}`;
  });
  const more = changed.length - texts.length;
  const bar = places.value.get(changed[0]?.id ?? '')?.bar;
  const list = more > 0 ? `${texts.join(', ')} and ${more} more` : texts.join(', ');
  return bar === undefined ? list : `bar ${bar}: ${list}`;
}
const point = (way: Way | null) => (desk.hinted = new Set(way?.changed.map(({ id }) => id) ?? []));
function take(way: Way): void {
  point(null);
  desk.spoken = `Now ${said(way)}`;
  void actions.take(way, props.label);
}
</script>

<template>
  <p v-if="ways.length === 0" class="none">{{ none }}</p>
  <ul v-else class="ways">
    <li v-for="(way, index) in ways" :key="index">
      <OtherWay
        :title="said(way)"
        :price="extraText(way.extra)"
        :reasons="reasonTexts(way.differences)"
        @click="take(way)"
        @mouseenter="point(way)"
        @mouseleave="point(null)"
        @focus="point(way)"
        @blur="point(null)"
      />
    </li>
  </ul>
</template>

<style scoped>
.ways {
  margin: 0;
  padding: 0;
  list-style: none;
}
.none {
  margin: 4px 0;
  color: var(--soft);
}
</style>
