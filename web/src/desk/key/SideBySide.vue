<script setup lang="ts">
/**
 * Ways to set the tune, side by side, the best first: strings that sound home note or fifth are thick, beads are notes
 * that ring, the line is the effort. One is looked at; arrows go from one to the next, as in any row of choices.
 */
import { computed, nextTick, ref } from 'vue';
import type { KeyChoice } from '@nokta/core/compare';

interface Card {
  readonly id: string;
  readonly title: string;
  readonly foot: string;
  readonly choice: KeyChoice;
  /** Names of the strings as they are tuned there, the lowest first. */
  readonly strings: readonly string[];
  /** How the tune is set now. */
  readonly now: boolean;
  readonly says: string;
}
const props = defineProps<{
  label: string;
  cards: readonly Card[];
  looked: string | null;
}>();
const emit = defineEmits<{ look: [id: string] }>();

const most = computed(() =>
  Math.max(1, ...props.cards.flatMap(({ choice: { fits, effort } }) => (fits ? [effort] : []))),
);
/** The highest string on top. */
const lineOf = (string: number, { strings }: Card) =>
  5 + ((strings.length - 1 - string) * 24) / Math.max(3, strings.length - 1);
/** The card that is looked at, or holds; -1 where the tune is set as none of them. */
const at = computed(() => props.cards.findIndex(({ id, now }) => (props.looked === null ? now : id === props.looked)));
const list = ref<HTMLElement | null>(null);
function step(by: number): void {
  const to = (Math.max(0, at.value) + by + props.cards.length) % props.cards.length;
  emit('look', props.cards[to]!.id);
  void nextTick(() => list.value?.querySelectorAll<HTMLElement>('.card')[to]?.focus());
}
</script>

<template>
  <div
    ref="list"
    class="cards"
    role="radiogroup"
    :aria-label="label"
    @keydown.right.prevent.stop="step(1)"
    @keydown.down.prevent.stop="step(1)"
    @keydown.left.prevent.stop="step(-1)"
    @keydown.up.prevent.stop="step(-1)"
  >
    <button
      v-for="(card, index) in cards"
      :key="card.id"
      type="button"
      class="card"
      role="radio"
      :class="{ off: !card.choice.fits, now: card.now }"
      :aria-checked="index === at"
      :tabindex="index === Math.max(0, at) ? 0 : -1"
      :aria-label="card.says"
      @click="emit('look', card.id)"
    >
      <strong>{{ card.title }}</strong>
      <svg viewBox="0 0 100 42" aria-hidden="true">
        <g v-for="(name, string) in card.strings" :key="string">
          <line
            x1="12"
            x2="98"
            :y1="lineOf(string, card)"
            :y2="lineOf(string, card)"
            :class="{ rings: card.choice.drones.includes(string) }"
          />
          <text x="0" :y="lineOf(string, card) + 2.5">{{ name }}</text>
        </g>
        <line class="effort" x1="12" x2="98" y1="40" y2="40" />
        <line
          v-if="card.choice.fits"
          class="effort own"
          x1="12"
          :x2="12 + 86 * Math.min(1, card.choice.effort / most)"
          y1="40"
          y2="40"
        />
        <circle
          v-for="bead in Math.round(10 * card.choice.ringing)"
          :key="bead"
          :cx="12 + bead * 8.2"
          cy="35.5"
          r="1.7"
        />
      </svg>
      <small>{{ card.foot }}</small>
    </button>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 6px;
}
.card {
  display: grid;
  align-content: start;
  overflow: hidden;
  padding: 4px 8px;
  border: 1px solid var(--edge);
  border-radius: 7px;
  background: none;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.card strong {
  font: 600 1rem var(--display);
  white-space: nowrap;
}
.card small {
  overflow: hidden;
  color: var(--soft);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.card.now {
  border-color: var(--ink);
}
.card[aria-checked='true'] {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 1.5px var(--accent);
}
.card.off svg {
  opacity: 0.35;
}
svg {
  display: block;
  width: 100%;
}
svg text {
  fill: var(--soft);
  font: 600 7px var(--text);
}
line {
  stroke: var(--soft);
  stroke-width: 0.6px;
}
line.rings {
  stroke: var(--ink);
  stroke-width: 2.6px;
}
.effort {
  stroke: var(--edge);
  stroke-width: 2px;
}
.effort.own {
  stroke: var(--accent);
}
circle {
  fill: var(--ink);
}
@media (width < 700px) {
  .cards {
    grid-template-columns: repeat(auto-fill, minmax(92px, 1fr));
  }
}
</style>
