<script setup lang="ts">
/** What to learn in which order: as it comes, most of the tune first, or as the teacher drags it. */
import { computed } from 'vue';
import { mdiDragVertical } from '@mdi/js';
import { phrasesOf } from '@nokta/core/form';
import MoveButtons from '../../theme/parts/MoveButtons.vue';
import { useReorder } from '../../theme/parts/reorder.ts';
import { useDesk } from '../rooms/store.ts';
import { usePartActions } from './actions.ts';

const desk = useDesk();
const actions = usePartActions();

const form = computed(() => desk.arrangement!.form);
const phraseOf = (id: string) => phrasesOf(form.value).find((phrase) => phrase.id === id)!;
const steps = computed(() => {
  let bars = 0;
  return form.value.learn.steps.map((step) => {
    bars += step.covers;
    return { ...step, phrase: phraseOf(step.phrase), sounding: bars };
  });
});
const ORDERS = [
  { id: 'inOrder', label: 'As it comes' },
  { id: 'mostTuneFirst', label: 'Most tune first' },
] as const;
const sameOrder = (ids: readonly string[]) => ids.join() === steps.value.map(({ phrase }) => phrase.id).join();

/** As it comes needs no order of its own; phrases that bring nothing new stand at the end. */
function take(id: (typeof ORDERS)[number]['id']): void {
  const { learn } = form.value;
  const order = id === 'inOrder' ? [] : [...new Set([...learn.mostTuneFirst, ...learn.inOrder])];
  void actions.order(order.map(phraseOf));
}

function move(from: number, to: number): void {
  const order = steps.value.map(({ phrase }) => phrase);
  const [phrase] = order.splice(from, 1);
  if (!phrase || to < 0 || to > order.length) return;
  order.splice(to, 0, phrase);
  desk.spoken = `${phrase.label} comes ${to + 1}.`;
  void actions.order(order);
}
const { classOf, rowOf } = useReorder(move);
</script>

<template>
  <div class="learn">
    <p class="big">Learn {{ form.learn.newBars }} bars, play {{ form.learn.totalBars }}.</p>
    <div class="orders" role="group" aria-label="Order">
      <v-btn
        v-for="{ id, label } in ORDERS"
        :key="id"
        size="small"
        :variant="sameOrder(form.learn[id]) ? 'tonal' : 'outlined'"
        :aria-pressed="sameOrder(form.learn[id])"
        @click="take(id)"
        >{{ label }}</v-btn
      >
      <span v-if="form.learn.own" class="own">your order</span>
    </div>
    <ol>
      <li
        v-for="({ phrase, newBars, covers, sounding }, index) in steps"
        :key="phrase.from"
        draggable="true"
        :class="classOf(index)"
        v-on="rowOf(index)"
        @mouseenter="desk.hinted = new Set(phrase.notes)"
        @mouseleave="desk.hinted = new Set()"
      >
        <v-icon class="grip" :icon="mdiDragVertical" size="18" aria-hidden="true" />
        <button type="button" class="what" @click="desk.select(phrase.notes[0]!)">
          <strong>{{ phrase.label }}</strong>
          <span>{{ newBars === 0 ? 'nothing new' : newBars === 1 ? '1 new bar' : `${newBars} new bars` }}</span>
          <span class="bar" aria-hidden="true"
            ><i :style="{ width: `${(100 * (sounding - covers)) / form.learn.totalBars}%` }"></i
            ><i class="fresh" :style="{ width: `${(100 * covers) / form.learn.totalBars}%` }"></i
          ></span>
          <span class="visually-hidden">then {{ sounding }} of {{ form.learn.totalBars }} bars sound</span>
        </button>
        <MoveButtons :name="phrase.label" :index="index" :count="steps.length" @move="move(index, $event)" />
      </li>
    </ol>
    <p class="hint">Drag, or Alt with ↑ ↓. The bar shows how much of the tune sounds by then.</p>
  </div>
</template>

<style scoped>
.learn {
  display: grid;
  gap: 8px;
}
.big {
  margin: 0;
  font: 600 1.1rem var(--display);
}
.orders {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
}
.own,
.hint {
  color: var(--soft);
  font-size: 0.87rem;
}
.hint {
  margin: 0;
}
ol {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--paper);
  cursor: grab;
}
li.over {
  border-top: 3px solid var(--accent);
}
li.dragged {
  opacity: 0.5;
}
.grip {
  color: var(--soft);
}
.what {
  display: grid;
  flex: 1;
  grid-template-columns: auto 1fr;
  gap: 0 8px;
  padding: 5px 4px 6px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.bar {
  display: flex;
  grid-column: 1 / -1;
  height: 5px;
  border-radius: 3px;
  background: color-mix(in srgb, var(--ink) 10%, transparent);
  overflow: hidden;
}
.bar i {
  background: var(--soft);
}
.bar .fresh {
  background: var(--accent);
}
</style>
